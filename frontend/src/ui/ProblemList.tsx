import type { ProblemDetails } from "../api/client";

/** What is wrong with a file, field by field: what was said, what is allowed, what to do. */
export function ProblemList({ details, kept }: { details: ProblemDetails; kept: string }) {
  const problems = details.problems ?? [];
  return (
    <div role="alert" className="border-error border-l-4 pl-3">
      <p className="font-semibold">
        {details.title}. {kept}
      </p>
      {problems.length === 0 && <p>{details.detail}</p>}
      <ul>
        {problems.map((problem) => (
          <li key={problem.path} className="mt-1">
            {problem.label && problem.label !== problem.path ? (
              <>
                <span className="font-semibold">{problem.label}</span>{" "}
                <code className="text-secondary text-[12.5px]">{problem.path}</code>
              </>
            ) : (
              <code className="figure text-[15px]">{problem.path}</code>
            )}{" "}
            {problem.message}.{problem.allowed && ` Allowed: ${problem.allowed}.`}{" "}
            <span className="text-secondary">{problem.remedy}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
