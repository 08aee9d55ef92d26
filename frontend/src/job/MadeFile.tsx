import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, workResult, type Work } from "../api/client";
import { isOpen, queries, wordsOf } from "../api/queries";

interface Props {
  id: string;
  /** What is called for, and what it is kept as. */
  ask: () => Promise<Work>;
  words: string;
  file: string;
}

/** A file that is made in the background, with how far it is and a way to stop it. */
export function MadeFile({ id, ask: begin, words, file }: Props) {
  const [asked, setAsked] = useState("");
  const held = useQueryClient();
  const { queryKey } = queries.work(id, asked);
  const { data: work, error } = useQuery({ ...queries.work(id, asked), enabled: asked !== "" });
  const ask = useMutation({
    mutationFn: begin,
    onSuccess: (begun) => {
      held.setQueryData(queries.work(id, begun.id).queryKey, begun);
      setAsked(begun.id);
    },
  });
  const stop = useMutation({
    mutationFn: () => api.stopWork(id, asked),
    onSuccess: async () => {
      await held.cancelQueries({ queryKey });
      held.setQueryData(queryKey, (was) => was && { ...was, state: "cancelled" as const, words: "stopped" });
    },
  });
  const wrong = wordsOf(ask.error ?? stop.error ?? error);
  return (
    <div className="mb-4 flex min-h-11 flex-wrap items-center gap-3" data-testid={file}>
      {isOpen(work) && work ? (
        <>
          <div
            className="border-base-content/40 h-3 w-40 border"
            role="progressbar"
            aria-label={`How far ${file} is`}
            aria-valuenow={Math.round(100 * work.share)}
            aria-valuemin={0}
            aria-valuemax={100}
          >
            <div className="bg-primary h-full" style={{ width: `${100 * work.share}%` }} />
          </div>
          <span role="status">{work.words}</span>
          <button type="button" className="btn btn-sm pointer-coarse:h-12!" onClick={() => stop.mutate()}>
            Stop
          </button>
        </>
      ) : (
        <button type="button" className="btn btn-sm pointer-coarse:h-12!" onClick={() => ask.mutate()}>
          {words}
        </button>
      )}
      {work?.state === "done" && (
        <a className="link pointer-coarse:min-h-11 content-center" href={workResult(id, work.id)} download>
          {file}, {work.words}
        </a>
      )}
      {(work?.state === "failed" || work?.state === "cancelled") && <span role="status">Not made: {work.words}.</span>}
      {wrong && (
        <span role="alert" className="text-error">
          {wrong}
        </span>
      )}
    </div>
  );
}
