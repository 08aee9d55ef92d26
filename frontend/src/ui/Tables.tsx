import type { Table } from "../api/client";
import { TableView } from "./TableView";

/** Lists one under the other, each with its title. */
export function Tables({ tables }: { tables: Table[] }) {
  return tables.map((table) => (
    <section key={table.key} className="mb-4 shrink-0 last:mb-0">
      <h2 className="pb-1 font-semibold">{table.title}</h2>
      <div>
        <TableView table={table} />
      </div>
    </section>
  ));
}
