import type { Answer } from "../api/client";
import { Formula, Symbol } from "./Formula";

/** The working behind an answer: formula, what was put in, the result, the source, how sure it is. */
export function Working({ answer }: { answer: Answer }) {
  const { working } = answer;
  return (
    <div
      className="border-l-2 border-primary bg-base-200 px-3 py-2 text-[13px]"
      data-testid={`working-${answer.stage}-${answer.key}`}
    >
      <p>
        <Symbol name={working.symbol} />
        {working.formula ? (
          <>
            {" = "}
            <Formula text={working.formula} />
          </>
        ) : (
          <span className="text-secondary"> is looked up, solved or given</span>
        )}
      </p>
      {working.inputs.length > 0 && (
        <table className="mt-1 w-full">
          <tbody>
            {working.inputs.map((item) => (
              <tr key={item.symbol} className="align-baseline">
                <td className="pr-2 whitespace-nowrap">
                  <Symbol name={item.symbol} />
                </td>
                <td className="figure pr-2 text-right text-[15px] whitespace-nowrap">{item.value}</td>
                <td className="text-secondary w-full">{item.meaning}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="figure mt-1 text-[16px]">
        <Symbol name={working.symbol} /> = {working.value}
      </p>
      {working.note && <p className="mt-1">{working.note}</p>}
      <p className="text-secondary mt-1">
        {working.source}
        {working.source.startsWith(working.sureness) ? "" : ` (${working.sureness})`}
      </p>
    </div>
  );
}
