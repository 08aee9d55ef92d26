import { useState } from "react";
import { keepPhoto } from "./photos";

/** A photo of what was measured: made smaller here, kept here, and sent when there is a network. */
export function Photo({ job, photo, setPhoto }: { job: string; photo: string; setPhoto: (hash: string) => void }) {
  const [wrong, setWrong] = useState("");
  const take = async (file: File | undefined) => {
    if (!file) return;
    try {
      setPhoto(await keepPhoto(job, file));
      setWrong("");
    } catch {
      setWrong("This is no picture that can be read here.");
    }
  };
  return (
    <label className="btn mt-2 h-12! w-full">
      {photo ? "A photo goes with it: take another" : "Take a photo"}
      <input
        type="file"
        accept="image/*"
        capture="environment"
        className="sr-only"
        onChange={(event) => void take(event.target.files?.[0])}
      />
      {wrong && (
        <span role="alert" className="text-error">
          {wrong}
        </span>
      )}
    </label>
  );
}
