import { Hatches } from "../drawing/Hatches";
import { useSize } from "../drawing/useSize";
import "../drawing/drawing.css";

const TALL = 190;
const APART = 230;

/** Ground with tables on their posts along the foot of the page; a picture, not a plan. */
export function GroundBand() {
  const [ref, { width }] = useSize<HTMLDivElement>();
  const ground = (x: number) => 118 - (x / Math.max(width, 1)) * 26;
  const posts = Array.from({ length: Math.ceil(width / APART) }, (_, number) => 120 + number * APART);
  return (
    <div ref={ref} className="shrink-0" style={{ height: TALL }} aria-hidden="true">
      {width > 0 && (
        <svg className="drawing bg-transparent!" viewBox={`0 0 ${width} ${TALL}`}>
          <Hatches />
          <path className="area layer-soil" d={`M0 ${ground(0)}L${width} ${ground(width)}V${TALL}H0Z`} />
          {posts.map((x) => (
            <g key={x} transform={`translate(${x} ${ground(x)})`}>
              <path className="area layer-post" d="M-3 -46h6v106h-6Z" />
              <path className="line layer-strut" d="M0 -12L-30 -33" />
              <path className="area layer-beam" d="M-52 -17L48 -71l3 6L-49 -11Z" />
              <path className="area layer-glass" d="M-62 -24L54 -87l3 5L-59 -19Z" />
            </g>
          ))}
          <path className="line layer-ground" d={`M0 ${ground(0)}L${width} ${ground(width)}`} />
        </svg>
      )}
    </div>
  );
}
