// The tables in use: the kept one of a kind where there is one, else the quick one. Which of them is looked at.
import { computed, ref, type ComputedRef, type Ref } from "vue";
import type { Table } from "@/api/types";
import { useBuild } from "@/stores/build";

export interface UseTablesReturn {
  tables: ComputedRef<Table[]>;
  kept: ComputedRef<Set<string>>;
  key: Ref<string>;
  table: ComputedRef<Table>;
}
/** Of what a kept tune was made. */
export const MADE: Record<string, string> = {
  quick: "the quick tables",
  worked: "the worked engine",
  found: "what was found in the unit",
  read_in: "tables that were read in",
};
const looked = ref("ve"); // stays while the person goes from bench to bench

export function useTables(): UseTablesReturn {
  const store = useBuild();
  const own = computed(() => new Map((store.stages.in_use?.kept ?? []).map((t) => [t.key, t])));
  const tables = computed(() => (store.stages.tune?.tables ?? []).map((t) => own.value.get(t.key) ?? t));
  const table = computed(() => tables.value.find((t) => t.key === looked.value) ?? tables.value[0]!);
  return { tables, kept: computed(() => new Set(own.value.keys())), key: looked, table };
}
