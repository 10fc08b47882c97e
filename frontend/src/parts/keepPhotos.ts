// Photographs kept by the server one after the other: keys of those that are, and why the others are not.
import { api, ApiError } from "@/api/client";

/** Files kept; `most` bytes each. What was kept before one was refused stays kept. */
export async function keepPhotos(files: File[], most: number): Promise<{ keys: string[]; trouble: string }> {
  const keys: string[] = [];
  try {
    for (const file of files) {
      if (file.size > most)
        throw new Error(`${file.name} holds ${Math.round(file.size / 1e6)} MB; a photograph has at most ${Math.round(most / 1e6)} MB.`);
      const key = await api.keepPhoto(file);
      if (!keys.includes(key)) keys.push(key);
    }
  } catch (error) {
    if (!(error instanceof ApiError)) return { keys, trouble: (error as Error).message };
    const p = error.body.problems?.[0];
    const trouble = error.away
      ? "The server does not answer, so the photograph is not kept yet. Try again."
      : `${error.message} ${p ? `Wanted: ${p.wants}; this is ${p.given}.` : ""}`;
    return { keys, trouble };
  }
  return { keys, trouble: "" };
}
