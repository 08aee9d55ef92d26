import { useEffect, useState } from "react";
import { api, Problem, type NamedPlace, type Section, type Units } from "../../api/client";
import type { Point } from "../../drawing/scale";
import { written } from "./snap";

/** The ends of a section and its drawing, cut anew whenever the job changes. */
export function useSection(id: string, units: Units, version: unknown) {
  /** The first end, while the second is still to be pointed at. */
  const [begun, setBegun] = useState<Point | null>(null);
  const [texts, setTexts] = useState(["", ""]);
  const [found, setFound] = useState<Section | null>(null);
  const [wrong, setWrong] = useState("");
  const [asked, setAsked] = useState<string[] | null>(null);
  useEffect(() => {
    if (!asked) return;
    let current = true;
    api.section(id, units, asked[0] ?? "", asked[1] ?? "").then(
      (section) => {
        if (!current) return;
        setFound(section);
        setWrong("");
      },
      (error: unknown) => current && setWrong(error instanceof Problem ? error.message : String(error)),
    );
    return () => {
      current = false;
    };
  }, [asked, id, units, version]);
  const point = (at: Point) => {
    const next = begun ? [begun, at] : [at];
    setBegun(begun ? null : at);
    const said = [0, 1].map((end) => (next[end] ? written(next[end], units) : ""));
    setTexts(said);
    if (next.length === 2) setAsked(said);
  };
  const type = (index: number, text: string, places: NamedPlace[]) => {
    const named = places.find((place) => place.name === text);
    setTexts(texts.map((old, at) => (at === index ? (named?.text ?? text) : old)));
  };
  const ask = () => {
    setBegun(null);
    setAsked([...texts]);
  };
  const ends: Point[] = begun ? [begun] : (found?.ends ?? []);
  return { ends, texts, drawing: found?.drawing ?? null, wrong, point, type, ask };
}
