import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { Link, Navigate, useNavigate, useParams } from "react-router";
import type { Stage } from "../api/client";
import { ArraysDialog } from "../arrays/ArraysDialog";
import { ArrayStrip } from "../arrays/ArrayStrip";
import { called } from "../cut/called";
import { CutView } from "../cut/CutView";
import { SCREENS, STAGES } from "../stages";
import { focusOn, focusSoon } from "../ui/focus";
import { KeysDialog } from "../ui/KeysDialog";
import { PrintHead } from "../ui/PrintHead";
import { Stops } from "../ui/Stops";
import type { Go } from "../ui/ToSay";
import { useKeys } from "../ui/useKeys";
import { FilesDialog } from "./FilesDialog";
import { HistoryDialog } from "./HistoryDialog";
import { JobHeader } from "./JobHeader";
import { SaveDialog } from "./SaveDialog";
import { JobStore } from "./jobStore";

/** One job: the cut, the stage, the stops. */
export function JobScreen({ account }: { account: string }) {
  const { id = "", stage = "" } = useParams();
  if (!STAGES.includes(stage as Stage)) return <Navigate to={`/jobs/${id}/rows`} replace />;
  return <Screen key={`${account} ${id}`} account={account} id={id} stage={stage as Stage} />;
}

type DialogName = "save" | "history" | "files" | "keys" | "arrays";

const focusGiven = (path: string) => {
  // What was built is mended on site: the stage itself is where it leads.
  if (path === "") return focusOn("[aria-label=Answers]");
  const selector = `[data-given="${path}"]`;
  if (document.querySelector(selector)) return focusOn(selector);
  // A field of a thing that is folded away.
  const thing = [...document.querySelectorAll<HTMLElement>("[data-thing]")].find((one) =>
    path.startsWith(`${one.dataset.thing}.`),
  );
  thing?.closest("details")?.setAttribute("open", "");
  thing?.click();
  focusSoon(selector);
};

function Screen({ account, id, stage }: { account: string; id: string; stage: Stage }) {
  const navigate = useNavigate();
  const [job] = useState(() => new JobStore(id, account));
  const state = useSyncExternalStore(job.subscribe, job.snapshot);
  const [dialog, setDialog] = useState<DialogName | null>(null);
  const [openWorking, setOpenWorking] = useState<string | null>(null);
  const wanted = useRef<{ stage: string; array: string; path: string } | null>(null);
  const { view } = state;
  const shown = view?.stage.stage;

  useEffect(() => void job.open(stage), [job, stage]);
  useEffect(() => job.watch(), [job]);
  useEffect(() => {
    if (wanted.current && shown === wanted.current.stage && state.view?.array === wanted.current.array) {
      focusGiven(wanted.current.path);
      wanted.current = null;
    }
  }, [shown, state]);

  const go = useCallback((next: Stage) => void navigate(`/jobs/${id}/${next}`), [id, navigate]);
  const { moved } = state;
  const movedIn = useMemo(() => {
    const count: Record<string, number> = {};
    for (const { stage: at } of Object.values(moved)) count[at] = (count[at] ?? 0) + 1;
    return count;
  }, [moved]);
  const along = (by: number) => {
    const next = STAGES[STAGES.indexOf(stage) + by];
    if (next) go(next);
  };
  const arrays = view?.arrays ?? [];
  const several = arrays.length > 1;
  const alongArrays = (by: number) => {
    const next = arrays[arrays.findIndex(({ id: one }) => one === view?.array) + by];
    if (next) void job.openArray(next.id);
  };
  const names = useMemo(
    () => (view && view.arrays.length > 1 ? Object.fromEntries(view.arrays.map((one) => [one.id, one.name])) : {}),
    [view],
  );
  const steps = view?.draft.steps ?? [];
  const at = steps.findIndex((step) => step.number === view?.draft.position);
  const mayStep = at >= 0 && view?.role !== "viewer";
  const undo = mayStep && at > 0 ? () => void job.step(-1) : null;
  const redo = mayStep && at < steps.length - 1 ? () => void job.step(1) : null;
  const [folded, setFolded] = useState(() => localStorage.getItem("furrow.cut") === "folded");
  const fold = () => {
    localStorage.setItem("furrow.cut", folded ? "open" : "folded");
    setFolded(!folded);
  };
  const toggleWorking = () => {
    const focused = document.activeElement?.closest<HTMLElement>("[data-answer]")?.dataset.answer;
    const first = view?.stage.answers.find((answer) => answer.headline);
    const key = focused ?? (first && `${first.stage}.${first.key}`) ?? null;
    setOpenWorking(openWorking === key ? null : key);
  };
  useKeys({
    ArrowLeft: () => along(-1),
    ArrowRight: () => along(1),
    "[": () => alongArrays(-1),
    "]": () => alongArrays(1),
    w: toggleWorking,
    u: () => view && job.setUnits(view.units === "us" ? "metric" : "us"),
    z: () => undo?.(),
    Z: () => redo?.(),
    "ctrl+z": () => undo?.(),
    "ctrl+shift+z": () => redo?.(),
    "ctrl+s": () => view?.draft.changed && setDialog("save"),
    h: () => setDialog("history"),
    c: fold,
    p: () => window.print(),
    "?": () => setDialog("keys"),
  });

  if (!view || !shown) {
    return (
      <p className="p-6">
        {state.notice ? `This job cannot be opened. ${state.notice}` : "Opening the job…"}{" "}
        <Link to="/" className="link">
          All jobs
        </Link>
      </p>
    );
  }
  const Stage = SCREENS[shown as Stage];
  const goTo: Go = (next, given, array) => {
    const other = array !== "" && array !== view.array;
    wanted.current = { stage: next, array: array || view.array, path: given };
    if (array) void job.openArray(array);
    if (next !== shown) go(next);
    else if (!other) focusGiven(given);
  };
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <title>{`${view.name}: ${called(shown)} · Open Furrow`}</title>
      <a className="skip" href="#stage">
        Skip to the stage
      </a>
      <PrintHead
        name={several && shown !== "site" ? `${view.name}: ${names[view.array]}` : view.name}
        stage={shown}
        revision={view.draft.base}
        changed={view.draft.changed}
      />
      {state.slow && (
        <div className="fixed inset-x-0 top-0 z-50 h-8" role="status">
          <div className="bg-base-300 h-1 overflow-hidden">
            <div className="bg-primary busy-bar h-1 w-1/4" />
          </div>
          <p className="bg-base-100 mx-auto w-fit px-3 shadow">
            Working…{" "}
            <button type="button" className="link" onClick={job.cancel}>
              cancel
            </button>
          </p>
        </div>
      )}
      <JobHeader view={view} undo={undo} redo={redo} setUnits={job.setUnits} open={setDialog} />
      <CutView sheet={view.sheet} here={stage} go={go} movedIn={movedIn} folded={folded} fold={fold} />
      {state.notice && (
        <p role="alert" className="border-error mx-3 my-1 border-l-4 pl-3">
          {state.notice}{" "}
          <button type="button" className="link" onClick={job.dismiss}>
            dismiss
          </button>
        </p>
      )}
      {state.news && (
        <p role="status" className="border-primary mx-3 my-1 border-l-4 pl-3" data-testid="news">
          {state.news}
        </p>
      )}
      {several && shown !== "site" && (
        <ArrayStrip view={view} open={(array) => void job.openArray(array)} manage={() => setDialog("arrays")} />
      )}
      <main id="stage" tabIndex={-1} className="lg:min-h-0 lg:flex-1" aria-label={shown} data-shown={shown}>
        <Stage
          key={shown}
          view={view}
          job={job}
          state={state}
          openWorking={openWorking}
          setOpenWorking={setOpenWorking}
          goTo={goTo}
          manageArrays={() => setDialog("arrays")}
        />
      </main>
      <div className="sticky bottom-0 z-20 print:hidden">
        <Stops
          missing={view.sheet.missing}
          practice={view.sheet.practice}
          stops={view.sheet.stops}
          sound={view.sheet.sound}
          arrays={names}
          change={view.role === "viewer" ? null : (edits) => void job.change(edits)}
          go={goTo}
        />
      </div>
      {dialog === "save" && (
        <SaveDialog
          id={id}
          base={view.draft.base}
          sheet={view.sheet}
          arrays={names}
          arrived={job.arrived}
          close={() => setDialog(null)}
          saved={() => {
            setDialog(null);
            void job.reload();
          }}
        />
      )}
      {dialog === "history" && <HistoryDialog view={view} stage={stage} run={job.run} close={() => setDialog(null)} />}
      {dialog === "files" && <FilesDialog view={view} stage={stage} run={job.run} close={() => setDialog(null)} />}
      {dialog === "arrays" && <ArraysDialog view={view} job={job} close={() => setDialog(null)} />}
      {dialog === "keys" && <KeysDialog close={() => setDialog(null)} />}
    </div>
  );
}
