import { useState } from "react";
import { keptTheme, setTheme } from "./theme";

/** Daylight or dusk. */
export function ThemeButton() {
  const [theme, set] = useState(keptTheme);
  const next = theme === "daylight" ? "dusk" : "daylight";
  return (
    <button
      type="button"
      className="btn btn-ghost btn-sm max-sm:px-2"
      onClick={() => {
        setTheme(next);
        set(next);
      }}
    >
      {next === "dusk" ? "Dusk" : "Daylight"}
    </button>
  );
}
