import type { FieldRecord, KeptRecord } from "../api/client";
import { deviceName } from "./outbox";

type Kind = FieldRecord["kind"];

/** What is known of a thing that is measured: by what name, and where it is planned. */
export interface Thing {
  of: string;
  east_m: number;
  north_m: number;
}

/** A record as this device makes it, with an id of its own; ``more`` is what else was said of it. */
export function recordOf(
  kind: Kind,
  { of, east_m, north_m }: Thing,
  typed: string,
  more: Partial<Pick<FieldRecord, "note" | "settles" | "beside" | "photo">> = {},
): FieldRecord {
  return {
    id: crypto.randomUUID(),
    device: deviceName(),
    kind,
    of,
    typed,
    beside: more.beside ?? "",
    photo: more.photo ?? "",
    east_m,
    north_m,
    note: more.note?.trim() ?? "",
    settles: more.settles ?? [],
    device_time: new Date().toISOString(),
  };
}

const DEPTHS: Kind[] = ["depth", "refusal"];

/** What a new measurement decides between: where two differ, those of the same kind, and no others. */
export function settledBy(kind: Kind, { asked, records }: { asked: boolean; records: KeptRecord[] }): string[] {
  const same = DEPTHS.includes(kind) ? DEPTHS : [kind];
  return asked ? records.filter((record) => same.includes(record.kind)).map(({ id }) => id) : [];
}

/** Of a thing that stands nowhere in particular. */
export const nowhere = (of: string): Thing => ({ of, east_m: 0, north_m: 0 });
