import { useEffect, useMemo, useRef } from "react";
import * as THREE from "three";
import type { Scene, SceneArray } from "../../api/client";
import { colour, place, RAD } from "./axes";

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

export function Ground({ scene }: { scene: Scene }) {
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
    for (let i = 0; i < normals.count; i++)
      if (normals.getY(i) < 0) normals.setXYZ(i, -normals.getX(i), -normals.getY(i), -normals.getZ(i));
    return made;
  }, [scene]);
  return (
    <mesh geometry={geometry} receiveShadow>
      <meshLambertMaterial color={colour("--space-ground")} side={THREE.DoubleSide} />
    </mesh>
  );
}

/** Numbers of one module in the scene: its place, the rise of its table and its turn. */
export const OF_A_MODULE = 5;

/** From so many modules on a module is its face alone: the edge of one is thinner than a pixel. */
const MANY = 2000;

/** All modules of an array in one draw: each a thin box at its place, tilted and turned alike. */
export function Modules({ array: scene }: { array: SceneArray }) {
  const ref = useRef<THREE.InstancedMesh>(null);
  const count = scene.modules.length / OF_A_MODULE;
  useEffect(() => {
    const mesh = ref.current;
    if (!mesh) return;
    // Along the row, up the slope of the glass, and out of its face, in the viewer's axes.
    const facing = scene.facing_deg * RAD;
    const tilt = scene.tilt_deg * RAD;
    const level = place(-Math.cos(facing), Math.sin(facing), 0).multiplyScalar(
      Math.sin(facing - Math.PI / 2) >= 0 ? 1 : -1,
    );
    const up = place(-Math.sin(facing) * Math.cos(tilt), -Math.cos(facing) * Math.cos(tilt), Math.sin(tilt));
    const matrix = new THREE.Matrix4();
    const turned = new THREE.Matrix4();
    for (let i = 0; i < count; i++) {
      const [x = 0, y = 0, z = 0, rise = 0, turn = 0] = scene.modules.slice(i * OF_A_MODULE, (i + 1) * OF_A_MODULE);
      const along = level.clone().setY(rise).normalize();
      const face = new THREE.Vector3().crossVectors(along, up).normalize();
      matrix.makeBasis(along, up, face);
      // Clockwise from above is backward about the axis that points up.
      if (turn) matrix.premultiply(turned.makeRotationY(-turn * RAD));
      matrix.setPosition(place(x, y, z));
      mesh.setMatrixAt(i, matrix);
    }
    mesh.instanceMatrix.needsUpdate = true;
    mesh.computeBoundingSphere();
  }, [scene, count]);
  return (
    <instancedMesh ref={ref} args={[undefined, undefined, count]} castShadow receiveShadow>
      {count > MANY ? (
        <planeGeometry args={[scene.module_along_m * 0.985, scene.module_up_m * 0.985]} />
      ) : (
        <boxGeometry args={[scene.module_along_m * 0.985, scene.module_up_m * 0.985, 0.04]} />
      )}
      <meshLambertMaterial color={colour("--glass-fill")} side={THREE.DoubleSide} />
    </instancedMesh>
  );
}

export function Posts({ array: scene }: { array: SceneArray }) {
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

export function Lines({ scene }: { scene: Scene }) {
  const lines = useMemo(
    () =>
      scene.lines.map((line) => {
        const points: THREE.Vector3[] = [];
        for (let i = 0; i < line.points.length; i += 3)
          points.push(place(line.points[i] ?? 0, line.points[i + 1] ?? 0, line.points[i + 2] ?? 0));
        // What is buried is drawn through the ground, which is the point of it.
        const buried = BURIED.some((start) => line.layer.startsWith(start));
        const made = new THREE.Line(
          new THREE.BufferGeometry().setFromPoints(points),
          new THREE.LineBasicMaterial({
            color: colour(LINES[line.layer] ?? "--ink"),
            depthTest: !buried,
            depthWrite: false,
            transparent: true,
          }),
        );
        made.renderOrder = buried ? 2 : 1;
        return made;
      }),
    [scene],
  );
  return lines.map((line, index) => <primitive key={index} object={line} />);
}

export function Solids({ scene }: { scene: Scene }) {
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
            <mesh
              position={[0, (trunk + tree.height_m) / 2, 0]}
              scale={[tree.crown_m / 2, (tree.height_m - trunk) / 2, tree.crown_m / 2]}
              castShadow
            >
              <icosahedronGeometry args={[1, 2]} />
              <meshLambertMaterial color={colour("--grass")} />
            </mesh>
          </group>
        );
      })}
    </>
  );
}
