import Dexie, { type EntityTable } from "dexie";
import type { FieldRecord, FieldView, Units } from "../api/client";

/** A record that waits to be sent: of whom, for which job, in which units it was tapped. */
export interface Waiting {
  id: string;
  account: string;
  job: string;
  units: Units;
  record: FieldRecord;
  /** In the order of work; what was measured first is sent first. */
  at: number;
}

interface Book {
  key: string;
  view: FieldView;
}

interface Photo {
  hash: string;
  job: string;
  content: Blob;
}

const store = new Dexie("furrow-field") as Dexie & {
  waiting: EntityTable<Waiting, "id">;
  books: EntityTable<Book, "key">;
  photos: EntityTable<Photo, "hash">;
};
store.version(1).stores({ waiting: "id, [account+job], at", books: "key" });
store.version(2).stores({ photos: "hash" });

const key = (account: string, job: string, units: Units | null) => `${account} ${job} ${units ?? ""}`;

/** What is kept on the device: it outlives a closed tab and an empty battery. */
export const outbox = {
  add: (waiting: Waiting) => store.waiting.put(waiting),
  of: (account: string, job: string) => store.waiting.where({ account, job }).sortBy("at"),
  sent: (ids: string[]) => store.waiting.bulkDelete(ids),
  keep: (account: string, units: Units | null, view: FieldView) =>
    store.books.put({ key: key(account, view.id, units), view }),
  keepPhoto: (job: string, hash: string, content: Blob) => store.photos.put({ hash, job, content }),
  photo: (hash: string) => store.photos.get(hash),
  photoSent: (hash: string) => store.photos.delete(hash),
  kept: async (account: string, job: string, units: Units | null) =>
    (await store.books.get(key(account, job, units)))?.view ?? null,
};

/** The name that this device signs its records with, made once. */
export function deviceName(): string {
  const held = localStorage.getItem("furrow.device");
  if (held) return held;
  const made = crypto.randomUUID();
  localStorage.setItem("furrow.device", made);
  return made;
}
