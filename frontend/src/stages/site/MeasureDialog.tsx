import { useState } from "react";
import {
  api,
  Problem,
  type Found,
  type Measure,
  type NamedPlace,
  type ProblemDetails,
  type Units,
} from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { ProblemList } from "../../ui/ProblemList";

type Way = Measure["way"];

const WAYS: Record<Way, { name: string; about: string; start: string; end?: string; first?: string; second?: string }> =
  {
    tapes: {
      name: "Two tapes",
      about: "From two known places to the one that is sought. Two places fit: take the one that is right.",
      start: "First known place",
      end: "Second known place",
      first: "Tape from the first",
      second: "Tape from the second",
    },
    offset: {
      name: "Offset from a baseline",
      about: "Along the line from one known place to another, then square off it: right is positive.",
      start: "Baseline from",
      end: "Baseline to",
      first: "Along the line",
      second: "Off it, right positive",
    },
    bearing: {
      name: "Bearing and distance",
      about: "True bearing: compass plus declination.",
      start: "From",
      first: "True bearing",
      second: "Distance",
    },
    coordinates: { name: "Coordinates", about: "East and north of the site's origin.", start: "East, north" },
  };

interface Props {
  id: string;
  units: Units;
  places: NamedPlace[];
  take: (text: string) => void;
  close: () => void;
}

/** A place as a crew measures it; what fits is offered before it is taken. */
export function MeasureDialog({ id, units, places, take, close }: Props) {
  const [way, setWay] = useState<Way>("tapes");
  const [said, setSaid] = useState({ start: "", end: "", first: "", second: "" });
  const [found, setFound] = useState<Found[]>([]);
  const [taken, setTaken] = useState(0);
  const [wrong, setWrong] = useState<ProblemDetails | null>(null);
  const words = WAYS[way];
  const placeText = (text: string) => places.find((place) => place.name === text)?.text ?? text;
  const work = async () => {
    setWrong(null);
    setFound([]);
    try {
      setFound(
        await api.measure(id, {
          units,
          way,
          first: said.first,
          second: said.second,
          start: placeText(said.start),
          end: placeText(said.end),
        }),
      );
    } catch (error) {
      if (error instanceof Problem) setWrong(error.details);
    }
  };
  const field = (name: keyof typeof said, label: string | undefined, place: boolean) =>
    label && (
      <label className="flex flex-col">
        <span className="font-semibold">{label}</span>
        <input
          className="input figure w-full"
          data-measure={name}
          data-first={name === "start" ? true : undefined}
          list={place ? "measure-places" : undefined}
          placeholder={place ? "a named place, or east, north" : ""}
          value={said[name]}
          onChange={(event) => setSaid({ ...said, [name]: event.target.value })}
          autoComplete="off"
        />
      </label>
    );
  return (
    <Dialog title="Measure a place in" close={close}>
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void work();
        }}
      >
        <select
          className="select w-full"
          aria-label="How it was measured"
          value={way}
          onChange={(event) => {
            setWay(event.target.value as Way);
            setFound([]);
          }}
        >
          {Object.entries(WAYS).map(([key, { name }]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
        <p className="text-secondary text-[13px]">{words.about}</p>
        {field("start", words.start, true)}
        {field("end", words.end, true)}
        {field("first", words.first, false)}
        {field("second", words.second, false)}
        <datalist id="measure-places">
          {places.map((place) => (
            <option key={place.name} value={place.name} />
          ))}
        </datalist>
        <button type="submit" className="btn btn-primary">
          Work it out
        </button>
      </form>
      {wrong && <ProblemList details={wrong} kept="Nothing was added." />}
      <ul className="mt-2">
        {found.map((place) => (
          <li key={place.words} className="border-base-300 flex min-h-11 items-center gap-2 border-b">
            <span>
              <span className="figure block text-[18px] font-semibold">{place.text}</span>
              <span className="text-secondary text-[13px]">{place.words}</span>
            </span>
            <button
              type="button"
              className="btn btn-sm ml-auto"
              onClick={() => {
                take(place.text);
                setTaken(taken + 1);
                setFound([]);
                setSaid({ ...said, first: "", second: "" });
              }}
            >
              Take it
            </button>
          </li>
        ))}
      </ul>
      {taken > 0 && (
        <p role="status">{taken === 1 ? "One place added." : `${taken} places added.`} Measure the next, or close.</p>
      )}
    </Dialog>
  );
}
