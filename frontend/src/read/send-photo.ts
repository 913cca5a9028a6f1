import { Problem } from "../api/client";
import type { Photo } from "../api/client";

/** A photo on its way to be measured; answers with what was found, or throws the server's words. */
export async function sendPhoto(file: File, signal?: AbortSignal, where = "/api/photos"): Promise<Photo> {
  const body = new FormData();
  body.append("photo", file);
  const response = await fetch(where, { method: "POST", body, ...(signal && { signal }) });
  if (!response.ok) throw new Problem(await response.json().catch(() => null), response.status);
  return (await response.json()) as Photo;
}
