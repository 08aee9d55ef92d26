import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { NamedPlace, Units } from "../../api/client";
import { queries, wordsOf } from "../../api/queries";
import type { Point } from "../../drawing/scale";
import { written } from "./snap";

/** The ends of a section and its drawing, cut anew whenever the job changes. */
export function useSection(id: string, units: Units, step: number) {
  /** The first end, while the second is still to be pointed at. */
  const [begun, setBegun] = useState<Point | null>(null);
  const [texts, setTexts] = useState(["", ""]);
  const [asked, setAsked] = useState<[string, string] | null>(null);
  const { data: found, error } = useQuery({
    ...queries.section(id, step, units, asked ?? ["", ""]),
    enabled: asked !== null,
  });
  const point = (at: Point) => {
    setBegun(begun ? null : at);
    const said: [string, string] = [written(at, units), ""];
    if (begun) said.splice(0, 2, written(begun, units), written(at, units));
    setTexts(said);
    if (begun) setAsked(said);
  };
  const type = (index: number, text: string, places: NamedPlace[]) => {
    const named = places.find((place) => place.name === text);
    setTexts(texts.map((old, at) => (at === index ? (named?.text ?? text) : old)));
  };
  const ask = () => {
    setBegun(null);
    setAsked([texts[0] ?? "", texts[1] ?? ""]);
  };
  const ends: Point[] = begun ? [begun] : (found?.ends ?? []);
  return { ends, texts, drawing: found?.drawing ?? null, wrong: wordsOf(error), point, type, ask };
}
