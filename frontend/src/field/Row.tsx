import { State, type Level } from "../ui/State";

interface Props {
  of: string;
  name: string;
  /** What is small beside the name, and what is large at the end. */
  about: string;
  value: string;
  planned?: boolean;
  level: Level;
  words: string;
  waits: boolean;
  choose: (of: string) => void;
}

/** One thing that is measured, in its list: what it read, and what is said of it. */
export function Row({ of, name, about, value, planned, level, words, waits, choose }: Props) {
  return (
    <li className="border-b border-base-300">
      <button
        type="button"
        className="flex min-h-14 w-full flex-wrap items-baseline gap-x-3 px-2 py-2 text-left hover:bg-base-200"
        data-thing={of}
        onClick={() => choose(of)}
      >
        <span className="figure min-w-12 text-[20px] font-semibold">{name}</span>
        <span className="figure text-secondary text-[15px]">{about}</span>
        <span className="figure ml-auto text-[20px]">
          {value || "–"}
          {planned && <span className="text-secondary text-[13px]"> planned</span>}
        </span>
        <State level={level} />
        {words && <span className="text-secondary w-full text-[13px]">{words}</span>}
        {waits && <span className="state-look text-[13px]">not yet sent</span>}
      </button>
    </li>
  );
}
