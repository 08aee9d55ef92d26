import type { Table } from "../api/client";

/** A list a crew works from. */
export function TableView({ table }: { table: Table }) {
  return (
    <figure className="scroll-cue h-full min-h-0 overflow-auto border border-base-300" tabIndex={0} aria-label={table.title}>
      <table className="w-full border-collapse text-[13.5px]" data-table={table.key}>
        <thead>
          <tr>
            {table.columns.map((column) => (
              <th key={column.title} scope="col" className={`bg-base-200 sticky top-0 z-10 px-1.5 py-1 font-semibold whitespace-nowrap ${column.number ? "text-right" : "text-left"}`}>
                {column.title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.rows.map((row, index) => (
            <tr key={index} className="border-base-300 border-b">
              {row.map((cell, at) => (
                <td key={at} className={`px-1.5 py-1 ${table.columns[at]?.number ? "figure text-right text-[14.5px] whitespace-nowrap" : ""}`}>
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
