import { useState } from "react";
import { api, type JobView, type Paper } from "../../api/client";
import { MadeFile } from "../../job/MadeFile";

const PAPERS: [Paper, string][] = [
  ["letter", "Letter"],
  ["a4", "A4"],
];

/** The set of papers as PDF, on the paper that is in the printer. */
export function Papers({ view }: { view: JobView }) {
  const [paper, setPaper] = useState<Paper>(view.units === "us" ? "letter" : "a4");
  return (
    <section aria-label="Papers" className="p-3 print:hidden">
      <h2 className="font-semibold">Papers</h2>
      <p className="text-secondary text-[13px]">
        Drawings, numbers, the heaviest support line by line, lists, and what was built: of the newest revision that was
        issued.
      </p>
      <div className="my-2 grid grid-cols-2 gap-2" role="group" aria-label="Paper">
        {PAPERS.map(([of, words]) => (
          <button
            key={of}
            type="button"
            className={`btn btn-sm pointer-coarse:h-12! ${paper === of ? "btn-primary" : ""}`}
            aria-pressed={paper === of}
            onClick={() => setPaper(of)}
          >
            {words}
          </button>
        ))}
      </div>
      <MadeFile
        key={`${paper} ${view.units}`}
        id={view.id}
        ask={() => api.askWork(view.id, { kind: "papers", paper, units: view.units })}
        words="Make the papers"
        file="papers.pdf"
      />
    </section>
  );
}
