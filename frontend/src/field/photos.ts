import { outbox } from "./outbox";

/** The longer side of a photo that is kept: a tape can be read on it, and it goes through a thin network. */
const LONGEST_PX = 1600;
const QUALITY = 0.8;

async function smaller(file: Blob): Promise<Blob> {
  const picture = await createImageBitmap(file, { imageOrientation: "from-image" });
  const share = Math.min(1, LONGEST_PX / Math.max(picture.width, picture.height));
  const sheet = document.createElement("canvas");
  [sheet.width, sheet.height] = [Math.round(picture.width * share), Math.round(picture.height * share)];
  sheet.getContext("2d")?.drawImage(picture, 0, 0, sheet.width, sheet.height);
  return new Promise((done, failed) =>
    sheet.toBlob((blob) => (blob ? done(blob) : failed(new Error("no picture"))), "image/jpeg", QUALITY),
  );
}

/** Keep a picture on this device under the SHA-256 of what is kept; what the camera wrote into it is left out. */
export async function keepPhoto(job: string, file: Blob): Promise<string> {
  const content = await smaller(file);
  const digest = await crypto.subtle.digest("SHA-256", await content.arrayBuffer());
  const hash = [...new Uint8Array(digest)].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  await outbox.keepPhoto(job, hash, content);
  return hash;
}
