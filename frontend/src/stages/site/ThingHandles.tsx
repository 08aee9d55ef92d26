import type { Drawing, Mark, StageSheet } from "../../api/client";
import { PointHandles } from "../../drawing/PointHandles";
import type { Point, Scale } from "../../drawing/scale";
import { inMetres, snapTo } from "./snap";

/** More points than this came from a file and are mended there. */
import { PLACED } from "./placed";

const MOST_HANDLES = 60;

interface Props {
  path: string;
  stage: StageSheet;
  drawing: Drawing;
  scale: Scale;
  type: (path: string, text: string) => void;
}

function isRound({ kind, layer, points }: Mark): boolean {
  const [first, last] = [points[0], points[points.length - 1]];
  if (kind === "line") return points.length > 2 && first?.[0] === last?.[0] && first?.[1] === last?.[1];
  return kind === "rings" && !layer.endsWith("-wide");
}

/** Handles on the points of the thing that is open: moved here, corrected by number in its fields. */
export function ThingHandles({ path, stage, drawing, scale, type }: Props) {
  const own = stage.places.filter((place) => place.of === path);
  if (own.length === 0 || own.length > MOST_HANDLES) return null;
  const points = own.map<Point>((place) => [place.east_m, place.north_m]);
  const others = stage.places.filter((place) => place.of !== path);
  const move = (moved: Point[]) => {
    if (!PLACED.some((list) => path.startsWith(list))) return type(`${path}.points`, inMetres(moved));
    const [at] = moved;
    if (!at) return;
    type(`${path}.east_m`, `${at[0].toFixed(4)} m`);
    type(`${path}.north_m`, `${at[1].toFixed(4)} m`);
  };
  return (
    <PointHandles
      group="thing"
      points={points}
      scale={scale}
      name={(index) => own[index]?.name ?? ""}
      snap={(at) => snapTo(at, others, scale)}
      move={move}
      bendable={own.length > 1}
      closed={drawing.marks.some((mark) => mark.of === path && isRound(mark))}
    />
  );
}
