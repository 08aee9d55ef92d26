import { useState } from "react";
import { templateAddress } from "../../api/client";
import { Sheet } from "../../drawing/Sheet";
import { PaperLinks } from "../../ui/PaperLinks";
import { Seen } from "../../ui/Seen";
import { usePrinting } from "../../ui/usePrinting";
import { StageLayout, type StageProps } from "../StageLayout";
import { FindWay } from "./FindWay";

/** Across the trench beside the way from above, and the way unrolled below; the wall from both sides. */
export function TrenchStage(props: StageProps) {
  const drawn = Object.fromEntries(props.view.stage.drawings.map((one) => [one.key, one]));
  const [across, route] = props.view.stage.drawings;
  const { along, wall } = drawn;
  const [seen, setSeen] = useState<"trench" | "wall">("trench");
  const printing = usePrinting();
  const chosen = wall ? seen : "trench";
  return (
    <StageLayout
      {...props}
      after={(group) =>
        group === "Finding a way" && props.view.role !== "viewer" ? <FindWay view={props.view} job={props.job} /> : null
      }
    >
      {wall && (
        <Seen
          ways={[
            ["trench", "The trench"],
            ["wall", "Through the wall"],
          ]}
          seen={chosen}
          see={setSeen}
        />
      )}
      {wall && (chosen === "wall" || printing) && (
        <div className="h-[340px] lg:h-auto lg:min-h-0 lg:flex-1">
          <Sheet drawing={wall} units={props.view.units} />
        </div>
      )}
      {wall && chosen === "wall" && !printing && (
        <div className="shrink-0 text-[14px]">
          <PaperLinks
            words="To hold against the wall, at full size, PDF:"
            address={(paper) => templateAddress(props.view.id, props.view.array, paper, props.view.units)}
          />
        </div>
      )}
      {(chosen === "trench" || printing) && (
        <>
          <div className="flex min-h-0 flex-col gap-2 sm:flex-row lg:flex-[3]">
            <div className="h-[300px] min-h-0 flex-none sm:flex-1 lg:h-auto">
              {across && <Sheet drawing={across} units={props.view.units} />}
            </div>
            <div className="h-[300px] min-h-0 flex-none sm:flex-1 lg:h-auto">
              {route && <Sheet drawing={route} units={props.view.units} />}
            </div>
          </div>
          <div className="h-[200px] lg:h-auto lg:min-h-0 lg:flex-[2]">
            {along && <Sheet drawing={along} units={props.view.units} />}
          </div>
        </>
      )}
    </StageLayout>
  );
}
