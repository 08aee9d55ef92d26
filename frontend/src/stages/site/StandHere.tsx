import { useState } from "react";
import { standingHere, type Fix } from "./here";

interface Props {
  /** Whether the place has still to be said. */
  asked: boolean;
  change: (edits: { path: string; text: string }[]) => Promise<void>;
}

/** The place by the device in the hand: where one stands is where the site's origin will be. */
export function StandHere({ asked, change }: Props) {
  const [words, setWords] = useState("");
  const take = ({ coords }: Fix) => {
    void change(standingHere(coords, Intl.DateTimeFormat().resolvedOptions().timeZone)).then(() =>
      setWords(
        `Taken, to within ${Math.ceil(coords.accuracy)} m. The clock is this device's. Its height is not: ` +
          "a phone tells it over a smooth earth, not over the sea.",
      ),
    );
  };
  const ask = () => {
    if (!("geolocation" in navigator)) {
      setWords("This browser does not tell where it is. Type it from the map.");
      return;
    }
    setWords("Asking the device…");
    navigator.geolocation.getCurrentPosition(take, () => setWords("The device does not tell. Type it from the map."), {
      enableHighAccuracy: true,
      timeout: 20_000,
      maximumAge: 0,
    });
  };
  if (!asked && !words) return null;
  return (
    <p className="px-2 py-1 print:hidden">
      {asked && (
        <button type="button" className="btn btn-sm w-full pointer-coarse:min-h-11" onClick={ask}>
          I stand on the site: take its place
        </button>
      )}
      {words && (
        <span role="status" className="text-secondary block pt-1 text-[13px] leading-snug">
          {words}
        </span>
      )}
    </p>
  );
}
