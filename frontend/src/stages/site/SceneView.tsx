import { Canvas } from "@react-three/fiber";
import { useQuery } from "@tanstack/react-query";
import { Fragment, useState } from "react";
import { queries, wordsOf } from "../../api/queries";
import { colour, place, RAD } from "../../drawing/space/axes";
import { Controls, Sun } from "../../drawing/space/light";
import { Names } from "../../drawing/space/names";
import { Ground, Lines, Modules, OF_A_MODULE, Posts, Solids } from "../../drawing/space/pieces";

interface Props {
  id: string;
  /** The step that the job stands on. */
  step: number;
  close: () => void;
}

const clock = (hours: number) =>
  `${String(Math.floor(hours)).padStart(2, "0")}:${String(Math.round((hours % 1) * 60)).padStart(2, "0")}`;

/** The job in space, with the sun moved by date and hour and the shadows it throws. */
export default function SceneView({ id, step, close }: Props) {
  const { data: scene, error } = useQuery(queries.scene(id, step));
  const [day, setDay] = useState("2026-12-21");
  const { data: sun } = useQuery({ ...queries.sun(id, step, day), enabled: /^\d{4}-\d\d-\d\d$/.test(day) });
  const [hour, setHour] = useState(11);
  const [rate, setRate] = useState<number | null>(null);
  const index = sun
    ? sun.clock_h.reduce(
        (best, at, k) => (Math.abs(at - hour) < Math.abs((sun.clock_h[best] ?? 0) - hour) ? k : best),
        0,
      )
    : 0;
  const altitude = sun?.altitude_deg[index] ?? 30;
  const azimuth = sun?.azimuth_deg[index] ?? 180;
  if (!scene) return <p className="p-4">{wordsOf(error) || "Laying out the job…"}</p>;
  const [x, y, z] = scene.middle;
  const away = Math.min(scene.reach_m * 0.5, 90) + 6;
  const facing = (scene.arrays[0]?.facing_deg ?? 180) * RAD;
  const eye = place(x + away * Math.sin(facing - 0.55), y + away * Math.cos(facing - 0.55), z + away * 0.42);
  return (
    <figure className="flex h-full min-h-0 flex-col" aria-label="The job in space">
      <div
        className="min-h-[300px] flex-1 border border-base-300"
        data-scene={scene.arrays.reduce((sum, array) => sum + array.modules.length / OF_A_MODULE, 0)}
        data-rate={rate ?? undefined}
      >
        <Canvas
          shadows
          frameloop="demand"
          dpr={1}
          camera={{ position: eye.toArray(), fov: 40, near: 0.5, far: 4000 }}
          tabIndex={0}
          role="application"
          aria-label="The job in space: drag to turn, wheel to come nearer, arrow keys to move"
          onCreated={({ gl }) =>
            document.activeElement === document.body &&
            gl.domElement.closest<HTMLElement>("[role=application]")?.focus()
          }
        >
          <color attach="background" args={[colour("--paper")]} />
          <Ground scene={scene} />
          {scene.arrays.map((array, index) => (
            <Fragment key={index}>
              <Modules array={array} />
              <Posts array={array} />
            </Fragment>
          ))}
          <Lines scene={scene} />
          <Solids scene={scene} />
          <Names scene={scene} />
          <Sun scene={scene} altitude={altitude} azimuth={azimuth} />
          <Controls scene={scene} count={setRate} />
        </Canvas>
      </div>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 pt-1 text-[13px]">
        <label className="flex items-center gap-1">
          Day
          <input
            type="date"
            className="input input-sm figure w-36"
            value={day}
            onChange={(event) => setDay(event.target.value)}
          />
        </label>
        <label className="flex min-w-40 flex-1 items-center gap-2">
          Hour
          <input
            type="range"
            className="w-full"
            min={4}
            max={21}
            step={1 / 12}
            value={hour}
            aria-valuetext={clock(hour)}
            onChange={(event) => setHour(Number(event.target.value))}
          />
          <span className="figure w-12 text-[16px]">{clock(hour)}</span>
        </label>
        <span className="figure w-44 text-[15px]" data-testid="sun-stands">
          {altitude > 0 ? `sun ${altitude.toFixed(1)}° up, at ${azimuth.toFixed(0)}°` : "the sun is down"}
        </span>
        <button type="button" className="layer-toggle on" onClick={close}>
          Back to the plan
        </button>
      </div>
    </figure>
  );
}
