import { useEffect, useState } from "react";
import { api, Problem, type Drawing, type NamedPlace, type Units } from "../../api/client";
import { written, type Point } from "./snap";

/** The ends of a section and its drawing, cut anew whenever the job changes. */
export function useSection(id: string, units: Units, version: unknown) {
  const [ends, setEnds] = useState<Point[]>([]);
  const [texts, setTexts] = useState(["", ""]);
  const [drawing, setDrawing] = useState<Drawing | null>(null);
  const [wrong, setWrong] = useState("");
  const [asked, setAsked] = useState<string[] | null>(null);
  useEffect(() => {
    if (!asked) return;
    let current = true;
    api.section(id, units, asked[0] ?? "", asked[1] ?? "").then(
      (found) => {
        if (!current) return;
        setDrawing(found);
        setWrong("");
      },
      (error: unknown) => current && setWrong(error instanceof Problem ? error.message : String(error)),
    );
    return () => {
      current = false;
    };
  }, [asked, id, units, version]);
  const point = (at: Point) => {
    const next = ends.length === 1 ? [...ends, at] : [at];
    setEnds(next);
    const said = [0, 1].map((end) => (next[end] ? written(next[end], units) : ""));
    setTexts(said);
    if (next.length === 2) setAsked(said);
  };
  const type = (index: number, text: string, places: NamedPlace[]) => {
    const named = places.find((place) => place.name === text);
    setTexts(texts.map((old, at) => (at === index ? (named?.text ?? text) : old)));
  };
  const ask = () => {
    setEnds([]);
    setAsked([...texts]);
  };
  return { ends, texts, drawing, wrong, point, type, ask };
}
