import type { Table } from "../api/client";

// So many columns stand side by side on a desk's screen only if they are set closer.
const [MANY_COLUMNS, MOST_COLUMNS] = [10, 12];

/** A list a crew works from. */
export function TableView({ table }: { table: Table }) {
  const close = table.columns.length >= MANY_COLUMNS;
  const closest = table.columns.length >= MOST_COLUMNS;
  const room = closest ? "px-[3px]" : close ? "px-1" : "px-1.5";
  const figures = closest ? "text-[12px]" : close ? "text-[13px]" : "text-[14.5px]";
  return (
    <figure
      className="scroll-cue h-full min-h-0 overflow-auto border border-base-300"
      tabIndex={0}
      aria-label={table.title}
    >
      <table className={`w-full border-collapse ${close ? "text-[12.5px]" : "text-[13.5px]"}`} data-table={table.key}>
        <thead>
          <tr>
            {table.columns.map((column) => (
              <th
                key={column.title}
                scope="col"
                className={`bg-base-200 sticky top-0 z-10 ${room} py-1 font-semibold whitespace-nowrap ${column.number ? "text-right" : "text-left"}`}
              >
                {column.title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.rows.map((row, index) => (
            <tr key={index} className="border-base-300 border-b">
              {row.map((cell, at) => (
                <td
                  key={at}
                  className={`${room} py-1 ${table.columns[at]?.number ? `figure text-right whitespace-nowrap ${figures}` : ""}`}
                >
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {table.note && <p className="text-secondary p-2">{table.note}</p>}
      {table.left_out > 0 && <p className="p-2">{table.left_out} more: the file has them all.</p>}
    </figure>
  );
}
