// Photographs kept by the server one after the other: keys of those that are, and why the others are not.
import { ref } from "vue";
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

/** Photographs that a person chose in a field: their keys, whether they are still on their way, and why one was not kept. */
export function usePhotosKept() {
  const busy = ref(false);
  const trouble = ref("");
  async function chosen(event: Event, most: number): Promise<string[]> {
    const input = event.target as HTMLInputElement;
    const files = Array.from(input.files ?? []);
    input.value = "";
    busy.value = true;
    const found = await keepPhotos(files, most);
    busy.value = false;
    trouble.value = found.trouble;
    return found.keys;
  }
  return { busy, trouble, chosen };
}
