// What the program itself has, whatever the build: stations, words for severities, zones. Asked for once.
import { defineQuery, useQuery } from "@pinia/colada";
import { computed } from "vue";
import { api } from "@/api/client";
import type { Severity, StationKey } from "@/api/types";
import { within } from "./pointer";

export const useCatalogue = defineQuery(() => {
  const { data } = useQuery({ key: ["catalogue"], query: api.catalogue, staleTime: Infinity });
  const stations = computed(() => data.value?.stations ?? []);
  const title = (key: string) => stations.value.find((s) => s.key === key)?.title ?? key;
  /** A station's benches, the overview first. */
  const benches = (key: string) => stations.value.find((s) => s.key === key)?.benches ?? [];
  /** The title of a group of fields at a station. */
  const group = (station: string, key: string) => benches(station).find((b) => key in b.groups)?.groups[key] ?? "";
  const OVERVIEW = "overview";
  /** Station and bench at which a place in the build is entered: the one whose place holds it most closely. */
  const benchOf = (pointer: string): { station: StationKey; bench: string } => {
    let found: { station: StationKey; bench: string; held: number } | null = null;
    for (const s of stations.value)
      for (const b of s.benches)
        for (const place of b.places)
          if (within(pointer, place) && place.length > (found?.held ?? 0)) found = { station: s.key, bench: b.key, held: place.length };
    if (found) return found;
    const section = pointer.split("/")[1] ?? "";
    return { station: stations.value.find((s) => s.sections.includes(section))?.key ?? "engine", bench: OVERVIEW };
  };
  /** Where what an address names stands: a field, a figure, a wire, a group of fields. */
  const standsAt = (station: StationKey, hash: string): { station: StationKey; bench: string } | null => {
    const [kind, name] = [hash.slice(0, 2), hash.slice(2)];
    if (kind === "f/") return benchOf(`/${name}`);
    if (kind === "w-") return { station: "wiring", bench: "wires" };
    if (kind === "b-") return { station, bench: benches(station).find((b) => name in b.groups)?.key ?? OVERVIEW };
    return kind === "g-" ? { station, bench: OVERVIEW } : null;
  };
  const word = (severity: Severity) => data.value?.severities.find((s) => s.key === severity)?.word ?? "";
  /** Severities, worst first. */
  const severities = computed(() => (data.value?.severities ?? []).map((s) => s.key));
  /** Whether nothing is to be done about a finding. */
  const atRest = (severity: Severity) => data.value?.severities.find((s) => s.key === severity)?.at_rest ?? false;
  const zones = computed(() => data.value?.zones ?? {});
  /** The largest file of a photograph [bytes], and how many to an entry; until that is known, as it is. */
  const photographs = computed(() => data.value?.photographs ?? { bytes: Infinity, most: Infinity });
  return { stations, title, benches, group, benchOf, standsAt, word, severities, atRest, zones, photographs };
});
