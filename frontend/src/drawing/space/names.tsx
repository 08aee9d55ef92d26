import { useEffect, useMemo } from "react";
import * as THREE from "three";
import type { Scene } from "../../api/client";
import { colour, place } from "./axes";

const TEXT_PX = 44;
/** Height of the words, metres at the job: read from where the eye first stands. */
const HIGH_M = 1.5;
const OVER_M = 1.2;

interface Name {
  text: string;
  at: THREE.Vector3;
}

/** The names of what stands and lies there, each over its thing. */
function namesOf(scene: Scene): Name[] {
  const solids = scene.solids.map((solid) => {
    const count = solid.outline.length / 2;
    const mean = (from: number) =>
      solid.outline.reduce((sum, value, k) => (k % 2 === from ? sum + value : sum), 0) / count;
    return { text: solid.name, at: place(mean(0), mean(1), solid.top_m + OVER_M) };
  });
  const trees = scene.trees.map(({ name, at: [x, y, z], height_m }) => ({
    text: name,
    at: place(x, y, z + height_m + OVER_M),
  }));
  const lines = scene.lines
    .filter((line) => line.layer !== "contour" && line.layer !== "kind-boundary")
    .map(({ name, points }) => {
      const middle = Math.floor(points.length / 6) * 3;
      return {
        text: name,
        at: place(points[middle] ?? 0, points[middle + 1] ?? 0, Math.max(points[middle + 2] ?? 0, 0) + OVER_M),
      };
    });
  return [...solids, ...trees, ...lines].filter((name) => name.text);
}

/** A word as a picture that turns with the eye. */
function sprite({ text, at }: Name): THREE.Sprite {
  const canvas = document.createElement("canvas");
  const ink = canvas.getContext("2d");
  const font = `600 ${TEXT_PX}px "Fira Sans Condensed", sans-serif`;
  if (ink) ink.font = font;
  canvas.width = Math.ceil((ink?.measureText(text).width ?? 100) + 16);
  canvas.height = TEXT_PX + 18;
  if (ink) {
    ink.font = font;
    ink.lineWidth = 8;
    ink.lineJoin = "round";
    ink.textBaseline = "middle";
    ink.strokeStyle = `#${colour("--paper").getHexString()}`;
    ink.fillStyle = `#${colour("--ink").getHexString()}`;
    ink.strokeText(text, 8, canvas.height / 2);
    ink.fillText(text, 8, canvas.height / 2);
  }
  const texture = new THREE.CanvasTexture(canvas);
  texture.colorSpace = THREE.SRGBColorSpace;
  const made = new THREE.Sprite(new THREE.SpriteMaterial({ map: texture, depthTest: false, transparent: true }));
  made.scale.set((HIGH_M * canvas.width) / canvas.height, HIGH_M, 1);
  made.position.copy(at);
  made.renderOrder = 5;
  return made;
}

export function Names({ scene }: { scene: Scene }) {
  const sprites = useMemo(() => namesOf(scene).map(sprite), [scene]);
  useEffect(
    () => () => {
      for (const { material } of sprites) {
        material.map?.dispose();
        material.dispose();
      }
    },
    [sprites],
  );
  return sprites.map((made, index) => <primitive key={index} object={made} />);
}
