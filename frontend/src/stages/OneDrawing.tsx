import { useState, type ComponentType } from "react";
import type { JobView } from "../api/client";
import { Sheet } from "../drawing/Sheet";
import { Seen } from "../ui/Seen";
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
}

/** One drawing, and beside it a tool that answers what was read on site; begun anew in each array. */
export function DrawingOr({ drawn, asked, tool: Tool, ...props }: DrawingOrProps) {
  const [seen, setSeen] = useState<"drawn" | "asked">("drawn");
  const { view } = props;
  return (
    <StageLayout {...props}>
      <Seen
        ways={[
          ["drawn", drawn],
          ["asked", asked],
        ]}
        seen={seen}
        see={setSeen}
      />
      {seen === "asked" ? <Tool key={view.array} view={view} /> : <Drawn view={view} />}
    </StageLayout>
  );
}
