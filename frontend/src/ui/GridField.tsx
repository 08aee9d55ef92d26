import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Grid } from "../api/client";
import { queries } from "../api/queries";

/** A map grid by its number, or found by words of its name among those that reach the site. */
export function GridField({ id, grid, change }: { id: string; grid: number; change: (grid: number) => void }) {
  const held = useQueryClient();
  const [text, setText] = useState(String(grid));
  const [named, setNamed] = useState<Grid[]>([]);
  const settle = async () => {
    const typed = text.trim();
    if (/^\d*$/.test(typed)) {
      setNamed([]);
      if (Number(typed) !== grid) change(Number(typed));
      return;
    }
    setNamed(await held.fetchQuery(queries.grids(id, typed)).catch(() => []));
  };
  const choose = (epsg: number) => {
    setText(String(epsg));
    setNamed([]);
    change(epsg);
  };
  return (
    <div className="flex flex-col text-[13px]">
      <label className="flex flex-col">
        Map grid: EPSG number or name, 0 for local
        <input
          className="input input-sm figure w-64"
          aria-label="Map grid"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onBlur={() => void settle()}
          onKeyDown={(event) => event.key === "Enter" && void settle()}
        />
      </label>
      {named.map((one) => (
        <button key={one.epsg} type="button" className="link text-left" onClick={() => choose(one.epsg)}>
          <span className="figure">{one.epsg}</span> {one.name}, {one.unit}
        </button>
      ))}
      {named.length === 0 && /[a-z]/i.test(text) && (
        <span className="text-secondary">Enter looks it up among grids that reach the site.</span>
      )}
    </div>
  );
}
