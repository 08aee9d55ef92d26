import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { wordsOf } from "../api/queries";

interface Props<T> {
  of: UseQueryResult<T>;
  /** What is being worked out. */
  waiting: string;
  children: (data: T) => ReactNode;
}

/** What was asked for: why not, that it is being worked out, or it. */
export function Asked<T>({ of: { data, error, isPlaceholderData }, waiting, children }: Props<T>) {
  if (error)
    return (
      <p role="alert" className="state-stop text-[15px]">
        {wordsOf(error)}
      </p>
    );
  if (!data)
    return (
      <p className="text-secondary flex items-center gap-2 text-[15px]" role="status">
        <progress className="progress w-40" /> {waiting}
      </p>
    );
  return (
    <div className="flex flex-col gap-3" aria-busy={isPlaceholderData}>
      {children(data)}
    </div>
  );
}
