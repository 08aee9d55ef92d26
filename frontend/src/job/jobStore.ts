import {
  api,
  Problem,
  type Clash,
  type JobView,
  type Moved,
  type Place,
  type ProblemItem,
  type Stage,
  type Units,
} from "../api/client";
import { shared } from "./shared";
import { keepTyped, keptTyped, type Typed } from "./typed";

const PAUSE_MS = 30;
const SLOW_MS = 500;
const AGAIN_MS = 2000;
/** How often it is asked whether another tab or person changed the job. */
const LOOKS_EVERY_MS = 4000;
const NEWS_MS = 6000;

/** What is wrong with a field, and the text it was wrong for. */
export interface Failure extends ProblemItem {
  text: string;
}

export interface JobState {
  view: JobView | null;
  /** Text not yet taken by the server, by field. */
  typed: Typed;
  failures: Record<string, Failure>;
  /** Answers that the last edit moved. */
  moved: Record<string, Moved>;
  /** Counts edits, so that a mark can start again. */
  edits: number;
  slow: boolean;
  notice: string;
  /** What another tab or person did just now. */
  news: string;
}

/** What an answer is known by: its array, its stage and its key. */
export const keyOf = ({ array, stage, key }: { array: string; stage: string; key: string }) =>
  [array, stage, key].filter(Boolean).join(".");

const changedBetween = (clash: Clash) =>
  `was changed in another tab in between${clash.theirs ? `: it is now ${clash.theirs}` : ""}`;

const without = <T>(record: Record<string, T>, paths: Set<string>): Record<string, T> =>
  Object.fromEntries(Object.entries(record).filter(([path]) => !paths.has(path)));

/**
 * One job as the screen holds it. What is typed goes to the server at once and what follows comes
 * back; requests run one after another, so an answer never overtakes a later one.
 */
export class JobStore {
  private state: JobState;
  private readonly listeners = new Set<() => void>();
  private queue: Promise<void> = Promise.resolve();
  private sending: AbortController | null = null;
  private timer = 0;
  private at: Place = { stage: "rows", array: "" };
  private units: Units | null;
  /** The step that was on the screen when a field was typed into: a number in a list means a thing of that step. */
  private on: Record<string, number>;
  /** Fields of which both sides were told: typed into again, they are meant for what the job is by then. */
  private told = new Set<string>();

  constructor(
    private readonly id: string,
    private readonly account: string,
  ) {
    this.units = localStorage.getItem(`furrow.units.${id}`) as Units | null;
    const { typed, on, dropped } = keptTyped(account, id);
    this.on = on;
    const notice = dropped
      ? `${dropped} text${dropped > 1 ? "s" : ""} typed into a list before the program was brought up to date could not be kept: look at the lists again.`
      : "";
    this.state = { view: null, typed, failures: {}, moved: {}, edits: 0, slow: false, notice, news: "" };
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  snapshot = () => this.state;

  /** Show a stage; text left over from a closed tab is sent then. */
  open = async (stage: Stage) => {
    this.at = { ...this.at, stage };
    await this.reload();
    await this.send();
  };

  /** Show another array of the job. */
  openArray = async (array: string) => {
    // One that was asked for and has not come yet counts: what is shown may be about to go.
    if (array === (this.at.array || this.state.view?.array)) return;
    this.at = { ...this.at, array };
    await this.reload();
  };

  reload = () => this.ask((signal) => api.show(this.id, this.at, this.units, signal), false);

  /** Take what was typed into a field; it is sent after a short pause. */
  type = (path: string, text: string) => {
    // Who changes what the job is written in wants to see it so.
    if (path === "site.display_units") this.keepUnits(text as Units);
    const step = this.state.view?.draft.position;
    if (this.told.has(path)) this.on = without(this.on, this.told);
    else if (step !== undefined) this.on = { ...this.on, [path]: step };
    this.hold({ ...this.state.typed, [path]: text });
    window.clearTimeout(this.timer);
    this.timer = window.setTimeout(() => void this.send(), PAUSE_MS);
  };

  /**
   * Go to a step, restore, import: anything that answers with a view and ends what was being typed.
   * What is still on its way goes first, so that nothing typed is skipped.
   */
  run = (work: (units: Units) => Promise<JobView>) => {
    window.clearTimeout(this.timer);
    void this.send();
    return this.ask(async () => {
      this.hold({});
      this.set({ failures: {} });
      return work(this.units ?? "us");
    }, true);
  };

  /** When everything typed has reached the server, or been refused. */
  arrived = (): Promise<void> => {
    window.clearTimeout(this.timer);
    return this.send();
  };

  /** Edits that are not typed into a field: a thing added to a list, or taken out of it. */
  change = (edits: { path: string; text: string }[]) =>
    // Made on the step that has come by then: what was typed just before belongs to what is copied.
    this.run((units) => api.edit(this.id, this.at, units, this.state.view?.draft.position ?? null, edits)).then(() =>
      this.reloadAfterRefusal(),
    );

  /** Undo (-1) or redo (+1), from wherever the draft stands once everything typed has arrived. */
  step = (by: -1 | 1) =>
    this.run((units) => {
      const view = this.state.view;
      const steps = view?.draft.steps ?? [];
      const at = steps.findIndex(({ number }) => number === view?.draft.position);
      const wanted = steps[at + by] ?? steps[at];
      if (!wanted) return Promise.reject(new Error("There is no step to go to."));
      return api.step(this.id, this.at, units, wanted.number);
    });

  /** Stop waiting. The server may have taken it all the same: what it has is shown. */
  cancel = () => {
    this.sending?.abort();
    void this.reload();
  };

  /** Read this job in other units than it is written in, on this machine. */
  setUnits = (units: Units) => {
    this.keepUnits(units);
    this.set({ moved: {} });
    void this.reload();
  };

  dismiss = () => this.set({ notice: "" });

  /** Look now and then whether the job was changed elsewhere, and show what is; returns what ends it. */
  watch = () => {
    const timer = window.setInterval(() => {
      const busy = this.sending !== null || Object.keys(this.state.typed).length > 0;
      if (!busy && document.visibilityState === "visible") void this.lookAround();
    }, LOOKS_EVERY_MS);
    return () => window.clearInterval(timer);
  };

  private lookAround(): Promise<void> {
    return this.enqueue(async (signal) => {
      const before = this.state.view?.draft;
      const view = await api.show(this.id, this.at, this.units, signal).catch(() => null);
      // No answer now is no news: whoever types next is told.
      if (!view || !before || this.state.view?.draft !== before) return;
      const { position, head, head_author: author } = view.draft;
      // One's own save in this tab is no news to oneself.
      const saved = head !== before.head && author !== this.account ? `${author} saved revision ${head}.` : "";
      const moved = position !== before.position ? "The job was changed elsewhere: this is how it stands now." : "";
      if (!saved && !moved) return;
      const news = [saved, moved].filter(Boolean).join(" ");
      this.take(view, false, { news });
      window.setTimeout(() => this.state.news === news && this.set({ news: "" }), NEWS_MS);
    });
  }

  private keepUnits(units: Units) {
    this.units = units;
    localStorage.setItem(`furrow.units.${this.id}`, units);
  }

  private set(change: Partial<JobState>) {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }

  private hold(typed: Typed) {
    this.keep(typed);
    this.set({ typed });
  }

  private keep(typed: Typed) {
    this.on = Object.fromEntries(Object.entries(this.on).filter(([path]) => path in typed));
    keepTyped(this.account, this.id, { typed, on: this.on });
  }

  /** Take an answer in one change, so that the screen is drawn once for it. */
  private take(view: JobView, edited: boolean, also: Partial<JobState> = {}) {
    this.units ??= view.units;
    // A view of a stage that has been left is shown when that stage's own has come.
    // One of an array that is gone is shown on the first.
    const gone = this.at.array !== "" && !view.arrays.some(({ id }) => id === this.at.array);
    if (gone) this.at = { ...this.at, array: view.array };
    const fits =
      !this.state.view || (view.stage.stage === this.at.stage && (!this.at.array || view.array === this.at.array));
    const moved = edited ? Object.fromEntries(view.moved.map((item) => [keyOf(item), item])) : this.state.moved;
    const shown = fits ? { view: shared(this.state.view, view) } : {};
    this.set({ ...shown, ...also, moved, edits: this.state.edits + (edited ? 1 : 0), notice: "" });
    if (!fits) void this.reload();
  }

  private enqueue(work: (signal: AbortSignal) => Promise<void>): Promise<void> {
    this.queue = this.queue.then(async () => {
      const controller = (this.sending = new AbortController());
      const timer = window.setTimeout(() => this.set({ slow: true }), SLOW_MS);
      try {
        await work(controller.signal);
      } catch (error) {
        if (!controller.signal.aborted) this.set({ notice: error instanceof Error ? error.message : String(error) });
      } finally {
        window.clearTimeout(timer);
        this.sending = null;
        if (this.state.slow) this.set({ slow: false });
      }
    });
    return this.queue;
  }

  private ask(work: (signal: AbortSignal) => Promise<JobView>, edited: boolean): Promise<void> {
    return this.enqueue(async (signal) => this.take(await work(signal), edited));
  }

  private send(): Promise<void> {
    return this.enqueue(async (signal) => {
      const all = Object.entries(this.state.typed)
        .filter(([path, text]) => this.state.failures[path]?.text !== text)
        .map(([path, text]) => ({ path, text }));
      // Those typed on one step go together.
      const step = all[0] && this.on[all[0].path];
      const waiting = all.filter(({ path }) => this.on[path] === step);
      if (waiting.length === 0) return;
      if (waiting.length < all.length) void this.send();
      try {
        const view = await api.edit(
          this.id,
          this.at,
          this.units ?? "us",
          step ?? this.state.view?.draft.position ?? null,
          waiting,
          signal,
        );
        // What was typed meanwhile was typed on this very step: our own fields moved no number in a list.
        for (const path in this.on) if (this.on[path] === step) this.on[path] = view.draft.position;
        const taken = new Set(waiting.map(({ path }) => path));
        for (const path of taken) this.told.delete(path);
        const current = new Set(
          waiting.filter(({ path, text }) => this.state.typed[path] === text).map(({ path }) => path),
        );
        const typed = without(this.state.typed, current);
        this.keep(typed);
        this.take(view, true, { typed, failures: without(this.state.failures, taken) });
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        this.refused(error, waiting);
      }
    });
  }

  /** Mark the fields that are wrong and send the others again by themselves. */
  private refused(problem: Problem, waiting: { path: string; text: string }[]) {
    if (problem.details.status === 0 || problem.details.status === 503) {
      this.set({ notice: problem.message });
      window.setTimeout(() => void this.send(), AGAIN_MS);
      return;
    }
    const failures = { ...this.state.failures };
    const items = problem.details.problems ?? [];
    const clashes = problem.details.clashes ?? [];
    for (const { path, text } of waiting) {
      const item = items.find((found) => found.path === path || found.path.startsWith(`${path}.`));
      const clash = clashes.find((found) => path === found.path || path.startsWith(`${found.path}.`));
      // A field stays itself, in a thing of a list too: its id is nobody else's.
      if (clash) this.told.add(path);
      if (item) failures[path] = { ...item, text };
      else if (clash)
        failures[path] = {
          path,
          label: clash.label,
          message: changedBetween(clash),
          allowed: "",
          remedy: "Type it again if you still want it so.",
          text,
        };
      else if (items.length === 0 && clashes.length === 0)
        failures[path] = { path, label: "", message: problem.message, allowed: "", remedy: "", text };
    }
    this.set({ failures });
    const left = waiting.filter(({ path, text }) => failures[path]?.text !== text);
    if (left.length > 0 && left.length < waiting.length) void this.send();
    else if (left.length > 0) this.set({ notice: problem.message });
    if (clashes.length > 0) void this.reload();
  }

  /** A change that was refused was made on a screen that is no longer true: show what is, and keep the word of it. */
  private async reloadAfterRefusal() {
    const { notice } = this.state;
    if (!notice) return;
    await this.reload();
    this.set({ notice });
  }
}
