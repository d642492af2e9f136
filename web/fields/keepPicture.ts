import { PATHS } from "../../api/paths";
import type { Attachment } from "../../core/design/bench";
import { request } from "../app/request";

/** Longest edge of a kept picture, px, and its JPEG quality: enough to read a scale on it. */
const EDGE = 1600;
const QUALITY = 0.82;

/** A picture that is not on the server yet. */
export interface Taken {
  name: string;
  type: Attachment["type"];
  /** base64 */
  content: string;
}

export const taken = (name: string, type: Attachment["type"], url: string): Taken => ({
  name: name.slice(0, 200),
  type,
  content: url.slice(url.indexOf(",") + 1),
});

/** A photograph made small enough to keep. */
export async function reduced(file: File): Promise<Taken> {
  const image = await createImageBitmap(file);
  const scale = Math.min(1, EDGE / Math.max(image.width, image.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(image.width * scale));
  canvas.height = Math.max(1, Math.round(image.height * scale));
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  return taken(file.name, "image/jpeg", canvas.toDataURL("image/jpeg", QUALITY));
}

/** A log as it is, to be kept beside a record. Numbers of a spreadsheet, a track, notes: whatever is text. */
export async function asText(file: File): Promise<Taken> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let text = "";
  for (let k = 0; k < bytes.length; k += 8192) text += String.fromCharCode(...bytes.subarray(k, k + 8192));
  return {
    name: file.name.slice(0, 200),
    type: /\.csv$/i.test(file.name) ? "text/csv" : "text/plain",
    content: btoa(text),
  };
}

/** Puts a picture on the server, where it is kept once by its content. */
export async function keepPicture({ name, type, content }: Taken): Promise<Attachment> {
  const { hash, size } = (await request("post", PATHS.addFile, { type, content })) as Pick<Attachment, "hash" | "size">;
  return { hash, name, type, size };
}

export const pictureSource = (hash: string) => `/api/files/${hash}`;
