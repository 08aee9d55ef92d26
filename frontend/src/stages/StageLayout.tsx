import { useCallback, useState, type FocusEvent, type ReactNode } from "react";
import type { Given, JobView, Things } from "../api/client";
import { keyOf, type JobState, type JobStore } from "../job/jobStore";
import { AnswerLine } from "../ui/AnswerLine";
import { GivenField } from "../ui/GivenField";
import { Mends } from "../ui/Mends";
import { Mine, NotLooked, practiceIn } from "../ui/Practice";
import { State } from "../ui/State";
import { ThingList } from "../ui/ThingList";
import { ToSay, type Go } from "../ui/ToSay";

export interface StageProps {
  view: JobView;
  job: JobStore;
  state: JobState;
  openWorking: string | null;
  setOpenWorking: (key: string | null) => void;
  /** Go to a field, wherever it stands. */
  goTo: Go;
  /** Open the list of the job's arrays. */
  manageArrays: () => void;
}

/** What a stage adds to its lists of things. */
export interface ThingProps {
  thing?: {
    open: string | null;
    setOpen: (path: string | null) => void;
    tools: (list: string, path: string, values: Record<string, string>) => ReactNode;
  };
  /** What stands after a group of givens. */
  after?: (group: string) => ReactNode;
  /** What stands there where nothing is given. */
  given?: ReactNode;
}

type Group = [name: string, givens: Given[], lists: Things[]];

function byGroup(givens: Given[], lists: Things[]): Group[] {
  const groups = new Map<string, Group>();
  const of = (name: string) => {
    const group = groups.get(name) ?? ([name, [], []] as Group);
    groups.set(name, group);
    return group;
  };
  for (const given of givens) of(given.group)[1].push(given);
  const order = [...groups.keys()];
  let last = "";
  for (const list of lists) {
    // A group of nothing but a list stands after the list before it.
    if (!groups.has(list.group)) order.splice(order.indexOf(last) + 1, 0, list.group);
    of(list.group)[2].push(list);
    last = list.group;
  }
  return order.map(of);
}

/** More groups than this fold away, all but the first. */
const FOLDED = 4;

/** Givens, drawing, answers; on a phone the drawing and the numbers come first. */
export function StageLayout({
  view,
  job,
  state,
  openWorking,
  setOpenWorking,
  goTo,
  thing,
  after,
  given,
  children,
}: StageProps & ThingProps & { children: ReactNode }) {
  const { stage } = view;
  const readOnly = view.role === "viewer";
  const headlines = stage.answers.filter((answer) => answer.headline);
  const rest = stage.answers.filter((answer) => !answer.headline);
  const [soundOpen, setSoundOpen] = useState(false);
  const [help, setHelp] = useState<{ of: string; text: string } | null>(null);
  const helpFor = ({ target }: FocusEvent<HTMLElement>) => {
    const field = target.closest<HTMLElement>("[data-help]");
    setHelp(field ? { of: field.dataset.helpOf ?? "", text: field.dataset.help ?? "" } : null);
  };
  // The only thing of an only list is open at once, or of the only one that is in no group.
  const [alone, ...more] = stage.lists.length === 1 ? stage.lists : stage.lists.filter(({ group }) => !group);
  const only = alone && !more.length && alone.items.length === 1 ? alone.items[0]?.path : null;
  const [ownOpen, setOwnOpen] = useState<string | null>(only ?? null);
  const [openThing, setOpenThing] = thing ? [thing.open, thing.setOpen] : [ownOpen, setOwnOpen];
  // Held still, so that an answer that did not change is not drawn again.
  const toggle = useCallback(
    (key: string) => setOpenWorking(openWorking === key ? null : key),
    [openWorking, setOpenWorking],
  );
  const notSound = stage.checks.filter((check) => check.level !== "sound");
  const nothing = stage.checks.find(({ key }) => key === "unsaid");
  const arrays = view.arrays.length > 1 ? Object.fromEntries(view.arrays.map(({ id, name }) => [id, name])) : {};
  const groups = byGroup(stage.givens, stage.lists);
  const checks = (soundOpen ? stage.checks : notSound).filter((check) => check !== nothing);
  return (
    <div className="flex flex-col lg:grid lg:h-full lg:min-h-0 lg:grid-cols-[272px_minmax(0,1fr)_316px]">
      <section
        aria-label="Givens"
        className="givens order-3 flex flex-col border-base-300 lg:order-1 lg:min-h-0 lg:border-r"
        tabIndex={-1}
        onFocus={helpFor}
      >
        <div className="scroll-cue givens-list min-h-0 flex-1">
          {stage.caution && (
            <p className="border-warning m-2 border-l-4 pl-2 text-[13px] leading-snug">{stage.caution}</p>
          )}
          {groups.map(([group, givens, lists], number) => {
            const fields = (
              <>
                {givens.map((given) => (
                  <GivenField
                    key={given.path}
                    given={given}
                    typed={state.typed[given.path]}
                    failure={state.failures[given.path]}
                    readOnly={readOnly}
                    type={job.type}
                  />
                ))}
                {lists.map((list) => (
                  <ThingList
                    key={list.path}
                    list={list}
                    state={state}
                    job={job}
                    readOnly={readOnly}
                    open={openThing}
                    setOpen={setOpenThing}
                    tools={(path, values) => thing?.tools(list.path, path, values)}
                  />
                ))}
                {after?.(group)}
                {!readOnly && <Mine paths={practiceIn(givens, lists)} group={group} change={job.change} />}
              </>
            );
            return group && groups.length > FOLDED ? (
              <details key={group} className="border-base-300 border-b" open={number === 0} data-group={group}>
                <summary className="hover:bg-base-200 min-h-9 cursor-pointer px-2 py-2 font-semibold pointer-coarse:min-h-11">
                  {group}
                  <NotLooked count={practiceIn(givens, lists).length} />
                  {lists[0] && (
                    <span className="text-secondary figure ml-2 text-[14px] font-normal">{lists[0].items.length}</span>
                  )}
                </summary>
                {fields}
              </details>
            ) : (
              <fieldset key={group} className="mb-1" data-group={group}>
                {group && (
                  <legend className="text-secondary px-2 pt-2 text-[12.5px] font-semibold">
                    {group}
                    <NotLooked count={practiceIn(givens, lists).length} />
                  </legend>
                )}
                {fields}
              </fieldset>
            );
          })}
          {given}
          {stage.givens.length === 0 && !given && <p className="p-3">Nothing to say here: it follows from the rest.</p>}
        </div>
        <p
          className="bg-base-200 hidden h-[66px] overflow-y-auto border-t border-base-300 px-2 py-1 text-[12.5px] leading-snug lg:block print:hidden"
          aria-hidden="true"
          data-testid="help"
        >
          {help ? (
            <>
              <span className="font-semibold">{help.of}</span> Where from: {help.text}
            </>
          ) : (
            <span className="text-secondary">Where a number comes from is told here, for the field in hand.</span>
          )}
        </p>
      </section>
      <section
        aria-label="Drawing"
        className="order-1 flex min-h-[300px] flex-col gap-2 p-2 lg:order-2 lg:h-full lg:min-h-0"
      >
        {nothing ? (
          <p className="text-secondary m-auto max-w-md p-6 text-center text-[15px]">
            Nothing is drawn or counted here yet: {nothing.measured.replace("not said yet: ", "")}{" "}
            {nothing.measured.includes(",") ? "have" : "has"} still to be said.
          </p>
        ) : (
          children
        )}
      </section>
      <section aria-label="Answers" className="scroll-cue order-2 border-base-300 lg:order-3 lg:border-l" tabIndex={-1}>
        <ToSay missing={view.sheet.missing} arrays={arrays} go={goTo} />
        <ul>
          {[...headlines, ...rest].map((answer) => {
            const key = `${answer.stage}.${answer.key}`;
            const moved = state.moved[keyOf(answer)];
            return (
              <AnswerLine
                key={key}
                answer={answer}
                moved={moved}
                edits={moved ? state.edits : 0}
                open={openWorking === key}
                toggle={toggle}
              />
            );
          })}
        </ul>
        <ul className="mt-1">
          {checks.map((check) => (
            <li key={`${check.array} ${check.key}`} className="px-2 py-1 text-[13px] leading-snug">
              <State level={check.level} /> {check.title}:{" "}
              <span className="figure text-[15px]">
                {check.measured}, {check.relation} {check.limit}
              </span>
              {check.level !== "sound" && <span className="text-secondary block pl-4">{check.remedy}</span>}
              <span className="block pl-4">
                <Mends check={check} change={readOnly ? null : (edits) => void job.change(edits)} />
              </span>
            </li>
          ))}
        </ul>
        {!nothing && (
          <button
            type="button"
            className="link text-secondary min-h-9 px-2 text-[13px]"
            aria-expanded={soundOpen}
            onClick={() => setSoundOpen(!soundOpen)}
          >
            {soundOpen
              ? "Hide what is sound"
              : `${stage.checks.length - notSound.length} of ${stage.checks.length} rules sound: show`}
          </button>
        )}
      </section>
    </div>
  );
}
