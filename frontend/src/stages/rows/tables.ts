import type { NamedPlace, StageSheet } from "../../api/client";
import { newId } from "../../job/newId";

export interface Edit {
  path: string;
  text: string;
}

/** The list of what is told of single tables: its path begins every edit of one. */
export const listOf = (stage: StageSheet) => stage.lists.find((list) => list.path.endsWith(".rows.tables"));

/** What is told of one table: the path of it, and the edits that tell it. */
export interface Telling {
  path: string;
  edits: Edit[];
}

/** Tells something of one table; it is put on the list where nothing was told of it yet. */
export function tell(list: string, table: NamedPlace, said: Record<string, string>): Telling {
  if (!table.of) return added(list, { place: table.text, ...said });
  return { path: table.of, edits: Object.entries(said).map(([name, text]) => ({ path: `${table.of}.${name}`, text })) };
}

/** Puts one more on the list. */
export function added(list: string, said: Record<string, string>): Telling {
  const id = newId();
  const path = `${list}.${id}`;
  const fields = Object.entries(said).map(([name, text]) => ({ path: `${path}.${name}`, text }));
  return { path, edits: [{ path: `${list}.+${id}`, text: "" }, ...fields] };
}
