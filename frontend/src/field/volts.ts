import type { FieldString, FieldView } from "../api/client";

/** What is said of a voltage at a warmth: looked up, never computed. */
export interface VoltSaid {
  sound: boolean;
  words: string;
}

/** Whether a string gives what its modules should while they are so warm; null where it cannot be told yet. */
export function voltsSaid(view: FieldView, string: FieldString, volts: number, warm: number): VoltSaid | null {
  if (Number.isNaN(volts)) return null;
  if (volts < 0) return { sound: false, words: "plus is on minus: a plug is reversed" };
  if (Number.isNaN(warm)) return null;
  const rungs = view.warmths[string.warmth] ?? [];
  // Between two whole degrees both must hold it.
  const near = [Math.floor(warm), Math.ceil(warm)].map((degree) => rungs.find((rung) => rung.warm === degree));
  if (near.some((rung) => rung === undefined)) return { sound: false, words: "no module is so cold or so warm" };
  const low = Math.max(...near.map((rung) => rung?.low_v ?? Infinity));
  const high = Math.min(...near.map((rung) => rung?.high_v ?? -Infinity));
  const between = `should be ${low.toFixed(1)} to ${high.toFixed(1)} V`;
  if (volts >= low && volts <= high) return { sound: true, words: `as its modules should; ${between}` };
  const one = (near[0]?.expected_v ?? NaN) / string.modules;
  const missing = string.modules - Math.round(volts / one);
  if (missing === 0) return { sound: false, words: `${between}: look for shade, or a hurt module` };
  const count = Math.abs(missing);
  return {
    sound: false,
    words: `${between}: as if ${count} module${count > 1 ? "s" : ""} ${missing > 0 ? "fewer" : "more"}`,
  };
}

/** Whether a string runs as its light lets it; null where nothing can be told yet. */
export function ampsSaid(view: FieldView, string: FieldString, amps: number, light: number): VoltSaid | null {
  if (Number.isNaN(amps) || Number.isNaN(light)) return null;
  if (light < view.least_light_w_m2)
    return { sound: false, words: `too little light to tell: wait for ${view.least_light_w_m2} W/m²` };
  const part = light / 1000;
  const low = string.low_a * part;
  const high = string.high_a * part;
  const between = `should be ${low.toFixed(2)} to ${high.toFixed(2)} A`;
  if (amps >= low && amps <= high) return { sound: true, words: `as its light lets it; ${between}` };
  if (amps < low)
    return { sound: false, words: `${between}: look for shade, dirt, an open plug; or the inverter holds back` };
  return { sound: false, words: `${between}: one wire in the clamp, and the sensor in the plane of the glass?` };
}
