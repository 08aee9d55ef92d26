/** Text that is typed but not yet taken, by field. */
export type Typed = Record<string, string>;

/** The same as it is kept in the browser: with the step that was on the screen when it was typed. */
export interface Kept {
  typed: Typed;
  on: Record<string, number>;
  /** How many texts of an older version could not be brought along. */
  dropped?: number;
}

// What one person typed is not another's who signs in on the same machine.
const key = (account: string, job: string) => `furrow.typed.${account}.${job}`;

/** Up to version 2 things of lists were told apart by their place: such text may by now be another's. */
const OF_A_PLACE = /^[^.]+\.[^.]+\.\d+(\.|$)/;
/** Fields that left footings and frame for the structure in version 4. */
const TO_STRUCTURE: Record<string, readonly string[]> = {
  footings: ["post_section", "span_limit_m", "cantilever_ratio", "shifts", "post_top_m"],
  frame: ["purlin_section", "beam_section", "strut_reach_m", "strut_section", "strut_foot_m", "deflection_divisor"],
};
/** Stages that became each array's own in version 5; what there was is the array 1. */
const OF_AN_ARRAY = ["rows", "structure", "footings", "frame", "modules"];
/** What became each inverter's own in version 6; what there was is the inverter 1. */
const OF_AN_INVERTER = ["maximum_dc_v", "start_v", "inverter_ac_w", "inverter_inputs"];
/** Up to version 6 shifted posts were said by their running number: which post that is no browser knows. */
const SHIFTS = "structure.shifts";
const VERSION = 9;

/** A path as this version says it; undefined where text of an older one cannot be brought along. */
function pathNow(path: string, version: unknown): string | undefined {
  const was = typeof version === "number" ? version : 0;
  if (was < 3 && OF_A_PLACE.test(path)) return undefined;
  if (was < 7 && (path.endsWith(SHIFTS) || path === "footings.shifts")) return undefined;
  const [stage = "", name = ""] = path.split(".");
  if (was < 4 && TO_STRUCTURE[stage]?.includes(name)) return `arrays.1.structure.${name}`;
  if (was < 5 && path === "sun.turn_deg") return "arrays.1.rows.turn_deg";
  if (was < 6 && stage === "wiring" && OF_AN_INVERTER.includes(name)) return `wiring.inverters.1.${name}`;
  return was < 5 && OF_AN_ARRAY.includes(stage) ? `arrays.1.${path}` : path;
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** What was typed into a job by an account and never taken, so that a closed tab loses nothing. */
export function keptTyped(account: string, job: string): Kept {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(key(account, job)) ?? "{}");
    if (isRecord(kept) && isRecord(kept.typed) && isRecord(kept.on)) {
      const { version } = kept;
      const brought = <T>(held: Record<string, T>): Record<string, T> =>
        Object.fromEntries(
          Object.entries(held).flatMap(([path, value]) => {
            const now = pathNow(path, version);
            return now === undefined ? [] : [[now, value]];
          }),
        );
      const typed = brought(kept.typed as Typed);
      return {
        typed,
        on: brought(kept.on as Record<string, number>),
        dropped: Object.keys(kept.typed).length - Object.keys(typed).length,
      };
    }
  } catch {
    // What cannot be read is as good as nothing.
  }
  return { typed: {}, on: {}, dropped: 0 };
}

export function keepTyped(account: string, job: string, kept: Kept): void {
  try {
    if (Object.keys(kept.typed).length === 0) localStorage.removeItem(key(account, job));
    else localStorage.setItem(key(account, job), JSON.stringify({ ...kept, version: VERSION }));
  } catch {
    // Private windows may refuse storage; the draft on the server still has what was valid.
  }
}
