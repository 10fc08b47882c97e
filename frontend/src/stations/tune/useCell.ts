// What the server says of the chosen cell: asked once for whoever shows a part of it.
import { useQuery } from "@pinia/colada";
import { refDebounced } from "@vueuse/core";
import { computed, type Ref } from "vue";
import { client, path, told } from "@/api/client";
import type { CellAnswer, Table } from "@/api/types";
import { useBuild } from "@/stores/build";
import type { Chosen } from "./useCells";

const PAUSE = 120; // ms that a cell is rested on before it is asked about

export function useCell(props: { table: Table; chosen: Chosen }): { data: Ref<CellAnswer | undefined> } {
  const store = useBuild();
  const at = refDebounced(
    computed(() => ({ table: props.table.key, row: props.chosen.toRow, column: props.chosen.toColumn, revision: store.revision })),
    PAUSE,
  );
  const { data } = useQuery({
    key: () => ["cell", store.id, at.value.table, at.value.row, at.value.column, at.value.revision],
    query: () =>
      told<CellAnswer>(client.GET("/api/builds/{build_id}/tune/cell", { params: { path: path(store.id), query: at.value as never } })),
    enabled: () => at.value.row < props.table.rows.length && at.value.column < props.table.x.length,
  });
  return { data };
}
