import type { FieldView } from "../api/client";
import { State } from "../ui/State";
import { today } from "./day";

/** Today's work, or the next day on which there is any; and what does not hold. */
export function Today({ view }: { view: FieldView }) {
  const now = today();
  const days = [...new Set(view.days.map(({ day }) => day))].sort();
  const day = days.find((one) => one >= now) ?? "";
  const tasks = view.days.filter((one) => one.day === day);
  const loads = view.loads.filter((one) => one.day === day);
  const open = view.checks.filter(({ level }) => level !== "sound");
  return (
    <>
      <section aria-label="Work of the day" className="pt-2">
        <h2 className="text-[20px] font-semibold">
          {day === now ? "Today" : day ? `Nothing is planned today. Next: ${day}` : "No work is planned from today on"}
        </h2>
        <ul>
          {tasks.map((task) => (
            <li key={`${task.what} ${task.begins}`} className="border-b border-base-300 py-2">
              <p className="flex items-baseline gap-3">
                <span className="figure text-[18px]">
                  {task.begins} to {task.ends}
                </span>
                <span className="text-[18px] font-semibold">{task.what}</span>
                <span className="text-secondary ml-auto text-[14px]">{task.people} people</span>
              </p>
              {task.first && (
                <p className="border-warning mt-1 border-l-4 pl-2 text-[14px]">First see to {task.first}</p>
              )}
            </li>
          ))}
        </ul>
        {day &&
          loads.map(({ key, name, weight, parts }) => (
            <p key={key} className="border-b border-base-300 py-2 text-[15px]">
              <span className="font-semibold">{name}</span>:{" "}
              <span className="figure">{parts.filter(({ verdict }) => verdict === "there").length}</span> of{" "}
              {parts.length} parts there{weight && <span className="text-secondary">, {weight}</span>}
            </p>
          ))}
      </section>
      <section aria-label="What does not hold" className="pt-3">
        {open.map((check) => (
          <p key={check.key} className="px-1 py-1 text-[14px]">
            <State level={check.level} /> {check.title}: <span className="figure">{check.measured}</span>.{" "}
            <span className="text-secondary">{check.remedy}</span>
          </p>
        ))}
      </section>
    </>
  );
}
