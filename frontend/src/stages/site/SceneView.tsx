import { Canvas, useThree } from "@react-three/fiber";
import { useEffect, useMemo, useRef, useState } from "react";
import * as THREE from "three";
import { OrbitControls } from "three/addons/controls/OrbitControls.js";
import { api, type JobView, type Scene, type SunDay, type Units } from "../../api/client";

const RAD = Math.PI / 180;
/** The scene's own colours come from the theme, so that dusk is dusk here too. */
const colour = (name: string) => new THREE.Color(getComputedStyle(document.documentElement).getPropertyValue(name).trim() || "#888");
const LINES: Record<string, string> = {
  "kind-buried-water": "--line-water",
  "kind-buried-gas-or-fuel": "--line-gas",
  "kind-buried-power": "--line-power",
  "kind-buried-telecom": "--line-telecom",
  "kind-drain": "--line-drain",
  "kind-irrigation": "--line-drain",
  "kind-septic-field": "--line-drain",
  "kind-septic-tank": "--line-drain",
  "kind-geothermal-loop": "--line-drain",
  "kind-water": "--frost",
  "kind-boundary": "--ink",
  contour: "--soil-ink",
  pipe: "--pipe",
};

const BURIED = ["kind-buried", "kind-drain", "kind-septic", "kind-geothermal", "kind-irrigation", "pipe"];

/** East, north, up of the job as the viewer's x, y, z: y is up, north goes away. */
const place = (east: number, north: number, up: number) => new THREE.Vector3(east, up, -north);

/** Where the sun stands, as a direction from the job. */
function toward(altitude: number, azimuth: number): THREE.Vector3 {
  const level = Math.cos(altitude * RAD);
  return place(level * Math.sin(azimuth * RAD), level * Math.cos(azimuth * RAD), Math.sin(altitude * RAD));
}

function Ground({ scene }: { scene: Scene }) {
  const geometry = useMemo(() => {
    const flat = scene.ground.positions;
    const positions = new Float32Array(flat.length);
    for (let i = 0; i < flat.length; i += 3) {
      positions[i] = flat[i] ?? 0;
      positions[i + 1] = flat[i + 2] ?? 0;
      positions[i + 2] = -(flat[i + 1] ?? 0);
    }
    // Triangles come either way round; the ground is seen from both sides.
    const made = new THREE.BufferGeometry();
    made.setAttribute("position", new THREE.BufferAttribute(positions, 3));
    made.setIndex(scene.ground.triangles);
    made.computeVertexNormals();
    const normals = made.getAttribute("normal");
    for (let i = 0; i < normals.count; i++) if (normals.getY(i) < 0) normals.setXYZ(i, -normals.getX(i), -normals.getY(i), -normals.getZ(i));
    return made;
  }, [scene]);
  return (
    <mesh geometry={geometry} receiveShadow>
      <meshLambertMaterial color={colour("--soil")} side={THREE.DoubleSide} />
    </mesh>
  );
}

/** All modules in one draw: each a thin box at its place, tilted and turned alike. */
function Modules({ scene }: { scene: Scene }) {
  const ref = useRef<THREE.InstancedMesh>(null);
  const count = scene.modules.length / 4;
  useEffect(() => {
    const mesh = ref.current;
    if (!mesh) return;
    // Along the row, up the slope of the glass, and out of its face, in the viewer's axes.
    const facing = scene.facing_deg * RAD;
    const tilt = scene.tilt_deg * RAD;
    const level = place(-Math.cos(facing), Math.sin(facing), 0).multiplyScalar(Math.sin(facing - Math.PI / 2) >= 0 ? 1 : -1);
    const up = place(-Math.sin(facing) * Math.cos(tilt), -Math.cos(facing) * Math.cos(tilt), Math.sin(tilt));
    const matrix = new THREE.Matrix4();
    for (let i = 0; i < count; i++) {
      const [x = 0, y = 0, z = 0, rise = 0] = scene.modules.slice(i * 4, i * 4 + 4);
      const along = level.clone().setY(rise).normalize();
      const face = new THREE.Vector3().crossVectors(along, up).normalize();
      matrix.makeBasis(along, up, face).setPosition(place(x, y, z));
      mesh.setMatrixAt(i, matrix);
    }
    mesh.instanceMatrix.needsUpdate = true;
    mesh.computeBoundingSphere();
  }, [scene, count]);
  return (
    <instancedMesh ref={ref} args={[undefined, undefined, count]} castShadow receiveShadow>
      <boxGeometry args={[scene.module_along_m * 0.985, scene.module_up_m * 0.985, 0.04]} />
      <meshLambertMaterial color={colour("--glass-fill")} />
    </instancedMesh>
  );
}

function Posts({ scene }: { scene: Scene }) {
  const ref = useRef<THREE.InstancedMesh>(null);
  const count = scene.posts.length / 4;
  useEffect(() => {
    const mesh = ref.current;
    if (!mesh) return;
    const matrix = new THREE.Matrix4();
    for (let i = 0; i < count; i++) {
      const [x = 0, y = 0, foot = 0, top = 0] = scene.posts.slice(i * 4, i * 4 + 4);
      matrix.makeScale(1, top - foot, 1).setPosition(place(x, y, (foot + top) / 2));
      mesh.setMatrixAt(i, matrix);
    }
    mesh.instanceMatrix.needsUpdate = true;
    mesh.computeBoundingSphere();
  }, [scene, count]);
  return (
    <instancedMesh ref={ref} args={[undefined, undefined, count]} castShadow>
      <boxGeometry args={[0.12, 1, 0.12]} />
      <meshLambertMaterial color={colour("--steel")} />
    </instancedMesh>
  );
}

function Lines({ scene }: { scene: Scene }) {
  const lines = useMemo(
    () =>
      scene.lines.map((line) => {
        const points: THREE.Vector3[] = [];
        for (let i = 0; i < line.points.length; i += 3) points.push(place(line.points[i] ?? 0, line.points[i + 1] ?? 0, line.points[i + 2] ?? 0));
        // What is buried is drawn through the ground, which is the point of it.
        const buried = BURIED.some((start) => line.layer.startsWith(start));
        const made = new THREE.Line(new THREE.BufferGeometry().setFromPoints(points), new THREE.LineBasicMaterial({ color: colour(LINES[line.layer] ?? "--ink"), depthTest: !buried, depthWrite: false, transparent: true }));
        made.renderOrder = buried ? 2 : 1;
        return made;
      }),
    [scene],
  );
  return lines.map((line, index) => <primitive key={index} object={line} />);
}

function Solids({ scene }: { scene: Scene }) {
  const solids = useMemo(
    () =>
      scene.solids.map((solid) => {
        const shape = new THREE.Shape();
        for (let i = 0; i < solid.outline.length; i += 2) {
          const [x = 0, y = 0] = solid.outline.slice(i, i + 2);
          if (i === 0) shape.moveTo(x, y);
          else shape.lineTo(x, y);
        }
        const geometry = new THREE.ExtrudeGeometry(shape, { depth: solid.top_m - solid.bottom_m, bevelEnabled: false });
        geometry.rotateX(-Math.PI / 2).translate(0, solid.bottom_m, 0);
        return geometry;
      }),
    [scene],
  );
  return (
    <>
      {solids.map((geometry, index) => (
        <mesh key={index} geometry={geometry} castShadow receiveShadow>
          <meshLambertMaterial color={colour("--wall")} />
        </mesh>
      ))}
      {scene.trees.map((tree) => {
        const [x, y, z] = tree.at;
        const trunk = tree.height_m * 0.25;
        return (
          <group key={tree.name} position={place(x, y, z)}>
            <mesh position={[0, trunk / 2, 0]} castShadow>
              <cylinderGeometry args={[0.25, 0.35, trunk, 8]} />
              <meshLambertMaterial color={colour("--soil-ink")} />
            </mesh>
            <mesh position={[0, (trunk + tree.height_m) / 2, 0]} scale={[tree.crown_m / 2, (tree.height_m - trunk) / 2, tree.crown_m / 2]} castShadow>
              <icosahedronGeometry args={[1, 2]} />
              <meshLambertMaterial color={colour("--grass")} />
            </mesh>
          </group>
        );
      })}
    </>
  );
}

function Sun({ scene, altitude, azimuth }: { scene: Scene; altitude: number; azimuth: number }) {
  const light = useRef<THREE.DirectionalLight>(null);
  const middle = useMemo(() => place(scene.middle[0], scene.middle[1], scene.middle[2]), [scene]);
  const reach = Math.max(30, scene.reach_m * 0.75);
  const { invalidate } = useThree();
  useEffect(() => {
    const sun = light.current;
    if (!sun) return;
    sun.position.copy(middle).addScaledVector(toward(altitude, azimuth), reach * 2);
    sun.target.position.copy(middle);
    sun.target.updateMatrixWorld();
    const camera = sun.shadow.camera;
    Object.assign(camera, { left: -reach, right: reach, top: reach, bottom: -reach, near: 1, far: reach * 4 });
    camera.updateProjectionMatrix();
    invalidate();
  }, [altitude, azimuth, middle, reach, invalidate]);
  const up = altitude > 0;
  return (
    <>
      <ambientLight intensity={up ? 1.1 : 0.5} />
      <directionalLight ref={light} castShadow intensity={up ? 2.4 : 0} shadow-mapSize={[2048, 2048]} shadow-bias={-0.0006} shadow-normalBias={0.05} />
    </>
  );
}

function Controls({ scene, count }: { scene: Scene; count: (frames: number) => void }) {
  const { camera, gl, invalidate, scene: root } = useThree();
  useEffect(() => {
    const controls = new OrbitControls(camera, gl.domElement);
    controls.target.copy(place(scene.middle[0], scene.middle[1], scene.middle[2]));
    controls.maxPolarAngle = Math.PI * 0.495;
    controls.listenToKeyEvents(gl.domElement);
    controls.addEventListener("change", () => invalidate());
    controls.update();
    return () => controls.dispose();
  }, [camera, gl, scene, invalidate]);
  useEffect(() => {
    // For measuring: how many frames a second the view can be drawn anew.
    const measure = () => {
      const start = performance.now();
      let frames = 0;
      while (performance.now() - start < 3000) {
        gl.render(root, camera);
        gl.getContext().finish();
        frames += 1;
      }
      count((frames * 1000) / (performance.now() - start));
    };
    gl.domElement.addEventListener("furrow:measure", measure);
    return () => gl.domElement.removeEventListener("furrow:measure", measure);
  });
  return null;
}

interface Props {
  id: string;
  /** Changes whenever the job does. */
  version: JobView;
  units: Units;
  close: () => void;
}

const clock = (hours: number) => `${String(Math.floor(hours)).padStart(2, "0")}:${String(Math.round((hours % 1) * 60)).padStart(2, "0")}`;

/** The job in space, with the sun moved by date and hour and the shadows it throws. */
export default function SceneView({ id, version, close }: Props) {
  const [scene, setScene] = useState<Scene | null>(null);
  const [day, setDay] = useState("2026-12-21");
  const [sun, setSun] = useState<SunDay | null>(null);
  const [hour, setHour] = useState(11);
  const [rate, setRate] = useState<number | null>(null);
  const [wrong, setWrong] = useState("");
  useEffect(() => {
    api.scene(id).then(setScene, (error: unknown) => setWrong(String(error)));
  }, [id, version]);
  useEffect(() => {
    if (/^\d{4}-\d\d-\d\d$/.test(day)) api.sun(id, day).then(setSun, (error: unknown) => setWrong(String(error)));
  }, [id, day]);
  const index = sun ? sun.clock_h.reduce((best, at, k) => (Math.abs(at - hour) < Math.abs((sun.clock_h[best] ?? 0) - hour) ? k : best), 0) : 0;
  const altitude = sun?.altitude_deg[index] ?? 30;
  const azimuth = sun?.azimuth_deg[index] ?? 180;
  if (!scene) return <p className="p-4">{wrong || "Laying out the job…"}</p>;
  const [x, y, z] = scene.middle;
  const away = Math.min(scene.reach_m * 0.5, 90) + 6;
  const facing = scene.facing_deg * RAD;
  const eye = place(x + away * Math.sin(facing - 0.55), y + away * Math.cos(facing - 0.55), z + away * 0.75);
  return (
    <figure className="flex h-full min-h-0 flex-col" aria-label="The job in space">
      <div className="min-h-[300px] flex-1 border border-base-300" data-scene={scene.modules.length / 4} data-rate={rate ?? undefined}>
        <Canvas shadows frameloop="demand" dpr={1} camera={{ position: eye.toArray(), fov: 40, near: 0.5, far: 4000 }} tabIndex={0} aria-label="Drag to turn, wheel to come nearer, arrow keys to move">
          <color attach="background" args={[colour("--paper")]} />
          <Ground scene={scene} />
          <Modules scene={scene} />
          <Posts scene={scene} />
          <Lines scene={scene} />
          <Solids scene={scene} />
          <Sun scene={scene} altitude={altitude} azimuth={azimuth} />
          <Controls scene={scene} count={setRate} />
        </Canvas>
      </div>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 pt-1 text-[13px]">
        <label className="flex items-center gap-1">
          Day
          <input type="date" className="input input-sm figure w-36" value={day} onChange={(event) => setDay(event.target.value)} />
        </label>
        <label className="flex min-w-40 flex-1 items-center gap-2">
          Hour
          <input type="range" className="w-full" min={4} max={21} step={1 / 12} value={hour} aria-valuetext={clock(hour)} onChange={(event) => setHour(Number(event.target.value))} />
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
