import { Link } from "react-router";
import type { JobView, Units } from "../api/client";
import { ThemeButton } from "../ui/ThemeButton";

interface Props {
  view: JobView;
  undo: (() => void) | null;
  redo: (() => void) | null;
  setUnits: (units: Units) => void;
  open: (dialog: "save" | "history" | "files" | "keys") => void;
}

/** The job's name, where its draft stands, and what can be done with it. */
export function JobHeader({ view, undo, redo, setUnits, open }: Props) {
  const { draft } = view;
  const behind = draft.head !== draft.base;
  const where = `revision ${draft.base}${draft.changed ? ", changed" : ""}`;
  return (
    <header className="job-header flex flex-wrap items-center gap-x-2 px-3 py-1">
      <Link to="/" className="link-hover font-semibold whitespace-nowrap">
        Open Furrow
      </Link>
      <span aria-hidden="true" className="text-secondary">
        ∕
      </span>
      <h1 className="min-w-0 truncate font-semibold">{view.name}</h1>
      <span className="text-secondary text-[13px]" data-testid="where">
        {where}
        {view.role === "viewer" && ", for reading"}
      </span>
      {behind && (
        <span className="state-look text-[13px]">
          {draft.head_author} has saved revision {draft.head}
        </span>
      )}
      <div className="ml-auto flex flex-wrap items-center">
        <button type="button" className="btn btn-ghost btn-sm max-sm:px-2" disabled={!undo} onClick={undo ?? undefined}>
          Undo
        </button>
        <button type="button" className="btn btn-ghost btn-sm max-sm:px-2" disabled={!redo} onClick={redo ?? undefined}>
          Redo
        </button>
        <Link to={`/jobs/${view.id}/field`} className="btn btn-ghost btn-sm max-sm:px-2 pointer-coarse:h-11!">
          Field book
        </Link>
        <button type="button" className="btn btn-ghost btn-sm max-sm:px-2" onClick={() => open("history")}>
          History
        </button>
        <button type="button" className="btn btn-ghost btn-sm max-sm:px-2" onClick={() => open("files")}>
          Files
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm max-sm:px-2"
          aria-label={view.units === "us" ? "Units: ft-in" : "Units: m-mm"}
          onClick={() => setUnits(view.units === "us" ? "metric" : "us")}
        >
          {view.units === "us" ? "ft-in" : "m-mm"}
        </button>
        <ThemeButton />
        <button
          type="button"
          className="btn btn-ghost btn-sm max-sm:hidden"
          aria-label="? Keys"
          onClick={() => open("keys")}
        >
          ?
        </button>
        {view.role !== "viewer" && (
          <button
            type="button"
            className="btn btn-primary btn-sm max-sm:px-2"
            disabled={!draft.changed}
            onClick={() => open("save")}
          >
            Save…
          </button>
        )}
      </div>
    </header>
  );
}
