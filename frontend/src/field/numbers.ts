/** A number as it is tapped: digits, one point, a sign before. */
export interface Number {
  text: string;
  negative: boolean;
}

export const NO_NUMBER: Number = { text: "", negative: false };
const MOST_DIGITS = 7;

/** A digit or the point more; what would be no number is not taken. */
export function tapNumber(number: Number, key: string): Number {
  const { text } = number;
  if (key === "." && (text.includes(".") || text === "")) return number;
  if (text.replace(".", "").length >= MOST_DIGITS) return number;
  return { ...number, text: (text === "0" && key !== "." ? "" : text) + key };
}

export const backNumber = (number: Number): Number => ({ ...number, text: number.text.slice(0, -1) });

/** As it is written for the server, with its unit; empty where nothing was tapped. */
export const writtenNumber = ({ text, negative }: Number, unit: string): string =>
  text === "" || text === "." ? "" : `${negative ? "-" : ""}${text.replace(/\.$/, "")} ${unit}`;

/** Its value in that unit; NaN where nothing was tapped. */
export const valueOf = ({ text, negative }: Number): number => (text === "" ? NaN : Number(text) * (negative ? -1 : 1));
