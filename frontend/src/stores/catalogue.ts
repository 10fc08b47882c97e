// What the program itself has, whatever the build: stations, words for severities, zones. Asked for once.
import { defineQuery, useQuery } from "@pinia/colada";
import { computed } from "vue";
import { api } from "@/api/client";
import type { Severity, StationKey } from "@/api/types";

export const useCatalogue = defineQuery(() => {
  const { data } = useQuery({ key: ["catalogue"], query: api.catalogue, staleTime: Infinity });
  const stations = computed(() => data.value?.stations ?? []);
  const title = (key: string) => stations.value.find((s) => s.key === key)?.title ?? key;
  /** Titles of a station's benches, by their keys. */
  const benches = (key: string): Record<string, string> => stations.value.find((s) => s.key === key)?.benches ?? {};
  /** The station at which a place in the build is entered. */
  const stationOf = (pointer: string): StationKey => {
    const section = pointer.split("/")[1] ?? "";
    return stations.value.find((s) => s.sections.includes(section))?.key ?? "engine";
  };
  const word = (severity: Severity) => data.value?.severities.find((s) => s.key === severity)?.word ?? "";
  /** Severities, worst first. */
  const severities = computed(() => (data.value?.severities ?? []).map((s) => s.key));
  /** Whether nothing is to be done about a finding. */
  const atRest = (severity: Severity) => data.value?.severities.find((s) => s.key === severity)?.at_rest ?? false;
  const zones = computed(() => data.value?.zones ?? {});
  /** The largest file of a photograph [bytes], and how many to an entry; until that is known, as it is. */
  const photographs = computed(() => data.value?.photographs ?? { bytes: Infinity, most: Infinity });
  return { stations, title, benches, stationOf, word, severities, atRest, zones, photographs };
});
