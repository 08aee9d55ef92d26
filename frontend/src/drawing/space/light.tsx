import { useThree } from "@react-three/fiber";
import { useEffect, useMemo, useRef } from "react";
import * as THREE from "three";
import { OrbitControls } from "three/addons/controls/OrbitControls.js";
import type { Scene } from "../../api/client";
import { place, toward } from "./axes";

export function Sun({ scene, altitude, azimuth }: { scene: Scene; altitude: number; azimuth: number }) {
  const light = useRef<THREE.DirectionalLight>(null);
  const middle = useMemo(() => place(scene.middle[0], scene.middle[1], scene.middle[2]), [scene]);
  const reach = Math.max(30, scene.reach_m * 0.75);
  const { gl, invalidate } = useThree();
  useEffect(() => {
    const sun = light.current;
    if (!sun) return;
    sun.position.copy(middle).addScaledVector(toward(altitude, azimuth), reach * 2);
    sun.target.position.copy(middle);
    sun.target.updateMatrixWorld();
    const camera = sun.shadow.camera;
    Object.assign(camera, { left: -reach, right: reach, top: reach, bottom: -reach, near: 1, far: reach * 4 });
    camera.updateProjectionMatrix();
    // Shadows are drawn anew when the sun or the job moves, not when the eye does.
    const shadows = gl.shadowMap;
    Object.assign(shadows, { autoUpdate: false, needsUpdate: true });
    invalidate();
  }, [altitude, azimuth, middle, reach, gl, invalidate]);
  const up = altitude > 0;
  return (
    <>
      <ambientLight intensity={up ? 1.1 : 0.5} />
      <directionalLight
        ref={light}
        castShadow
        intensity={up ? 2.4 : 0}
        shadow-mapSize={[2048, 2048]}
        shadow-bias={-0.0006}
        shadow-normalBias={0.05}
      />
    </>
  );
}

export function Controls({ scene, count }: { scene: Scene; count: (frames: number) => void }) {
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
      const context = gl.getContext();
      const pixel = new Uint8Array(4);
      let frames = 0;
      while (performance.now() - start < 3000) {
        gl.render(root, camera);
        // Reading one pixel back waits for the frame; finish() only queues it.
        context.readPixels(0, 0, 1, 1, context.RGBA, context.UNSIGNED_BYTE, pixel);
        frames += 1;
      }
      count((frames * 1000) / (performance.now() - start));
    };
    gl.domElement.addEventListener("furrow:measure", measure);
    return () => gl.domElement.removeEventListener("furrow:measure", measure);
  });
  return null;
}
