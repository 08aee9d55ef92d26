import { useEffect, useState } from "react";
import { api, Problem, type Work, workResult } from "../api/client";

const LOOKS_EVERY_MS = 400;
const isOpen = (work: Work | null) => work?.state === "waiting" || work?.state === "working";

/** All files in one archive: made in the background, with how far it is and a way to stop it. */
export function Archive({ id }: { id: string }) {
  const [work, setWork] = useState<Work | null>(null);
  const [wrong, setWrong] = useState("");
  const tell = (error: unknown) => setWrong(error instanceof Problem ? error.message : String(error));
  useEffect(() => {
    if (!work || !isOpen(work)) return;
    const timer = window.setTimeout(() => void api.work(id, work.id).then(setWork, tell), LOOKS_EVERY_MS);
    return () => window.clearTimeout(timer);
  }, [id, work]);
  const ask = () => {
    setWrong("");
    api.askWork(id, "package").then(setWork, tell);
  };
  const stop = () => {
    if (!work) return;
    api.stopWork(id, work.id).then(() => setWork({ ...work, state: "cancelled", words: "stopped" }), tell);
  };
  return (
    <div className="mb-4 flex min-h-11 flex-wrap items-center gap-3" data-testid="archive">
      {isOpen(work) && work ? (
        <>
          <div
            className="border-base-content/40 h-3 w-40 border"
            role="progressbar"
            aria-label="How far the archive is"
            aria-valuenow={Math.round(100 * work.share)}
            aria-valuemin={0}
            aria-valuemax={100}
          >
            <div className="bg-primary h-full" style={{ width: `${100 * work.share}%` }} />
          </div>
          <span role="status">{work.words}</span>
          <button type="button" className="btn btn-sm" onClick={stop}>
            Stop
          </button>
        </>
      ) : (
        <button type="button" className="btn btn-sm" onClick={ask}>
          All of them in one archive
        </button>
      )}
      {work?.state === "done" && (
        <a className="link" href={workResult(id, work.id)} download>
          archive.zip, {work.words}
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
