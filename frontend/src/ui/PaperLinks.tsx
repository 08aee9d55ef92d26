const PAPERS = [
  ["letter", "Letter"],
  ["a4", "A4"],
] as const;

/** What is set as PDF, on either paper. */
export function PaperLinks({ words, address }: { words: string; address: (paper: "letter" | "a4") => string }) {
  return (
    <span className="flex flex-wrap items-center gap-x-3">
      {words}
      {PAPERS.map(([paper, called]) => (
        <a key={paper} className="link content-center pointer-coarse:min-h-11" href={address(paper)} download>
          {called}
        </a>
      ))}
    </span>
  );
}
