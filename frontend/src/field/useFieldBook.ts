import { useCallback, useEffect, useRef, useState } from "react";
import { api, isAway, Problem, type FieldRecord, type FieldView, type Units } from "../api/client";
import { outbox, type Waiting } from "./outbox";

const TRIES_EVERY_MS = 5000;
const TOGETHER = 100;
/** What the server says of what it cannot read. */
const UNREADABLE = 422;

export interface Book {
  view: FieldView | null;
  /** What is on this device alone. */
  waiting: Waiting[];
  /** Whether the server answered last. */
  reached: boolean;
  /** What it refused, in its words. */
  refused: string;
  add: (record: FieldRecord) => Promise<void>;
}

/** Records of one breath, each photo before what it is of: a record that is kept has its photo. */
async function send(job: string, part: Waiting[]): Promise<void> {
  for (const { record } of part) {
    const held = record.photo ? await outbox.photo(record.photo) : undefined;
    if (!held) continue;
    await api.keepPhoto(job, held.hash, held.content);
    await outbox.photoSent(held.hash);
  }
  await api.addRecords(
    job,
    part[0]?.units ?? "us",
    part.map(({ record }) => record),
  );
}

/** The field book of a job: from the server, or as it was seen last; what is measured is sent when it can be. */
export function useFieldBook(account: string, job: string, units: Units | null): Book {
  const [view, setView] = useState<FieldView | null>(null);
  const [waiting, setWaiting] = useState<Waiting[]>([]);
  const [reached, setReached] = useState(true);
  const [refused, setRefused] = useState("");
  const busy = useRef(false);
  // What waited when this screen looked last: another tab of the device may have sent it since.
  const held = useRef(new Set<string>());
  const behind = useRef(false);
  const keeping = useRef(new Set<string>());
  // What the server could not read: told, kept here, and in nobody's way.
  const stuck = useRef(new Set<string>());

  const look = useCallback(async () => {
    const all = await outbox.of(account, job);
    const waits = new Set(all.map(({ id }) => id));
    if ([...held.current].some((id) => !waits.has(id))) behind.current = true;
    held.current = waits;
    setWaiting(all);
    return all;
  }, [account, job]);

  const take = useCallback(
    (next: FieldView) => {
      setView(next);
      setReached(true);
      void outbox.keep(account, units, next);
    },
    [account, units],
  );

  /** Send what waits, in its order, a part at a time; what cannot be read is told and stays. */
  const flush = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    // After a refusal one by one, so that it is known which it was.
    let together = TOGETHER;
    try {
      for (;;) {
        const all = (await look()).filter(({ id }) => !stuck.current.has(id));
        const first = all[0];
        if (!first) {
          if (!behind.current) break;
          // What they come to is read when all of them are kept; what was added meanwhile is sent after.
          behind.current = false;
          take(await api.field(job, units));
          continue;
        }
        // Those that were tapped in the same units go together.
        const end = all.findIndex(({ units: of }) => of !== first.units);
        const part = all.slice(0, Math.min(end < 0 ? all.length : end, together));
        try {
          await send(job, part);
        } catch (error) {
          if (!(error instanceof Problem) || error.details.status !== UNREADABLE) throw error;
          together = 1;
          if (part.length > 1) continue;
          stuck.current.add(first.id);
          setRefused(error.message);
          continue;
        }
        await outbox.sent(part.map(({ id }) => id));
        if (stuck.current.size === 0) setRefused("");
        behind.current = true;
      }
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      // What was not read is read the next time.
      behind.current = true;
      if (isAway(error)) setReached(false);
      else setRefused(error.message);
    } finally {
      busy.current = false;
    }
  }, [look, job, units, take]);

  const load = useCallback(async () => {
    await look();
    try {
      take(await api.field(job, units));
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setReached(false);
      const kept = await outbox.kept(account, job, units);
      if (kept) setView(kept);
      else setRefused(error.message);
    }
  }, [account, job, units, look, take]);

  useEffect(() => {
    const first = window.setTimeout(() => void load().then(flush));
    const again = () => void flush();
    const timer = window.setInterval(again, TRIES_EVERY_MS);
    window.addEventListener("online", again);
    return () => {
      window.clearTimeout(first);
      window.clearInterval(timer);
      window.removeEventListener("online", again);
    };
  }, [load, flush]);

  const add = useCallback(
    async (record: FieldRecord) => {
      // A thumb that comes down twice before the first is kept says one thing.
      const said = [record.of, record.kind, record.typed].join("\n");
      if (keeping.current.has(said)) return;
      keeping.current.add(said);
      try {
        // On the device before anything else: a battery may go empty now.
        await outbox.add({ id: record.id, account, job, units: units ?? view?.units ?? "us", record, at: Date.now() });
        await look();
      } finally {
        keeping.current.delete(said);
      }
      void flush();
    },
    [account, job, units, view, look, flush],
  );

  return { view, waiting, reached, refused, add };
}
