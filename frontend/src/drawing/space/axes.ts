import * as THREE from "three";

export const RAD = Math.PI / 180;
/** The scene's own colours come from the theme, so that dusk is dusk here too. */
export const colour = (name: string) =>
  new THREE.Color(getComputedStyle(document.documentElement).getPropertyValue(name).trim() || "#888");
/** East, north, up of the job as the viewer's x, y, z: y is up, north goes away. */
export const place = (east: number, north: number, up: number) => new THREE.Vector3(east, up, -north);

/** Where the sun stands, as a direction from the job. */
export function toward(altitude: number, azimuth: number): THREE.Vector3 {
  const level = Math.cos(altitude * RAD);
  return place(level * Math.sin(azimuth * RAD), level * Math.cos(azimuth * RAD), Math.sin(altitude * RAD));
}
