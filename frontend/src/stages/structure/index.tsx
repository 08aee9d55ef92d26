import { useState } from "react";
import { Sheet } from "../../drawing/Sheet";
import { AtTilts } from "../../ui/AtTilts";
import { Seen } from "../../ui/Seen";
import { Families } from "../Families";
import { StageLayout, type StageProps } from "../StageLayout";
import { Above } from "./Above";

const WAYS = [
  ["bent", "Bent"],
  ["above", "Supports from above"],
  ["families", "Families side by side"],
] as const;
const TILTS = ["tilts", "At each tilt"] as const;
type Way = (typeof WAYS)[number][0] | "tilts";

/** One bent at its worst and how a purlin bends, what each support carries, or the array on every family. */
export function StructureStage(props: StageProps) {
  const { view, job } = props;
  const [chosen, setSeen] = useState<Way>("bent");
  const { drawings, tilts } = view.stage;
  const seen = chosen === "tilts" && tilts < 2 ? "bent" : chosen;
  const bents = drawings.filter(({ key }) => key.startsWith("bent_"));
  const [moments, carried] = ["moments", "carried"].map((one) => drawings.find(({ key }) => key === one));
  return (
    <StageLayout {...props}>
      <Seen ways={tilts > 1 ? [...WAYS, TILTS] : WAYS} seen={seen} see={setSeen} />
      {seen === "tilts" && <AtTilts view={view} stage="structure" />}
      {seen === "families" && <Families view={view} job={job} of="structure" />}
      {seen === "above" && carried && <Above view={view} drawing={carried} />}
      {seen === "bent" && (
        <>
          <div className="flex flex-col gap-2 lg:min-h-0 lg:flex-[11] lg:flex-row">
            {bents.map((drawing) => (
              <div key={drawing.key} className="h-[300px] lg:h-auto lg:min-w-0 lg:flex-1">
                <Sheet drawing={drawing} units={view.units} />
              </div>
            ))}
          </div>
          <div className="h-[150px] lg:h-auto lg:min-h-0 lg:flex-[6]">
            {moments && <Sheet drawing={moments} units={view.units} />}
          </div>
        </>
      )}
    </StageLayout>
  );
}
