import { useState, type ComponentType } from "react";
import type { JobView, Stepped } from "../api/client";
import { Sheet } from "../drawing/Sheet";
import { AtTilts } from "../ui/AtTilts";
import { Seen } from "../ui/Seen";
import { Tables } from "../ui/Tables";
import { usePrinting } from "../ui/usePrinting";
import { StageLayout, type StageProps } from "./StageLayout";

/** The screen of a stage that is judged by one drawing. */
export function OneDrawing(props: StageProps) {
  return (
    <StageLayout {...props}>
      <Drawn view={props.view} />
    </StageLayout>
  );
}

function Drawn({ view }: { view: JobView }) {
  const [drawing] = view.stage.drawings;
  return (
    <div className="h-[340px] lg:h-auto lg:min-h-0 lg:flex-1">
      {drawing && <Sheet drawing={drawing} units={view.units} />}
    </div>
  );
}

interface DrawingOrProps extends StageProps {
  /** What the drawing is called, and what the tool is. */
  drawn: string;
  asked: string;
  tool: ComponentType<{ view: JobView }>;
  /** What the stage's lists are called, where it has any. */
  listed?: string;
  /** What is seen of it at each tilt, where there are several. */
  stepped?: Stepped;
}

/** One drawing, and beside it a tool that answers what was read on site; begun anew in each array. */
export function DrawingOr({ drawn, asked, listed, stepped, tool: Tool, ...props }: DrawingOrProps) {
  const [seen, setSeen] = useState<"drawn" | "asked" | "listed" | "tilts">("drawn");
  const { view } = props;
  const { tables } = view.stage;
  const lists = listed && tables.length > 0 ? ([["listed", listed]] as const) : [];
  const steps = stepped && view.stage.tilts > 1 ? ([["tilts", "At each tilt"]] as const) : [];
  const ways = [["drawn", drawn], ["asked", asked], ...lists, ...steps] as const;
  const chosen = ways.some(([key]) => key === seen) ? seen : "drawn";
  const printing = usePrinting();
  return (
    <StageLayout {...props}>
      <Seen ways={ways} seen={chosen} see={setSeen} />
      {chosen === "tilts" && stepped && <AtTilts view={view} stage={stepped} />}
      {chosen === "asked" && <Tool key={view.array} view={view} />}
      {(chosen === "drawn" || printing) && <Drawn view={view} />}
      {(chosen === "listed" || printing) && lists.length > 0 && (
        <div className="scroll-cue min-h-0 flex-1 overflow-y-auto pr-1">
          <Tables tables={tables} />
        </div>
      )}
    </StageLayout>
  );
}
