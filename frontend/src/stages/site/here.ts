/** What of a device's position is taken. */
export interface Fix {
  coords: { latitude: number; longitude: number; accuracy: number };
}

/** Six decimals of a degree are a hand's width: no device knows better. */
const side = (degrees: number, [plus, minus]: [string, string]) =>
  `${Math.abs(degrees).toFixed(6)} ${degrees < 0 ? minus : plus}`;

/** Where a device stands, as it is typed: with its letters, so that no sign is lost. */
export const standingHere = ({ latitude, longitude }: Fix["coords"], timeZone: string) => [
  { path: "site.latitude_deg", text: side(latitude, ["N", "S"]) },
  { path: "site.longitude_deg", text: side(longitude, ["E", "W"]) },
  { path: "site.time_zone", text: timeZone },
];
