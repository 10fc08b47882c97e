<script setup lang="ts">
// How the store is kept: when it was last written to a backup and read back, and whether disk is short. Nothing where nobody watches.
import { computed } from "vue";
import type { components } from "@/api/schema";

const props = defineProps<{ keeping: components["schemas"]["Keeping"] }>();
const words = new Intl.RelativeTimeFormat("en-GB", { numeric: "auto" });
const ago = computed(() => {
  const hours = Math.round((new Date(props.keeping.backup ?? 0).getTime() - Date.now()) / 3_600_000);
  return hours > -48 ? words.format(hours, "hour") : words.format(Math.round(hours / 24), "day");
});
</script>

<template>
  <footer v-if="keeping.watched" class="flex flex-col gap-2 pt-1 text-[0.9rem] text-soft">
    <p v-if="keeping.low_disk" class="border-2 border-spark bg-wash px-4 py-2 text-ink" role="alert">
      Disk is short where the store is: make room before it stops. Nothing is lost until then, and what is typed waits on the page.
    </p>
    <p v-if="keeping.backup_trouble" class="border-2 border-spark bg-wash px-4 py-2 text-ink" role="alert">
      The daily backup could not be made: {{ keeping.backup_trouble }}
    </p>
    <p v-if="keeping.backup">
      Backup made and read back <time :datetime="keeping.backup">{{ ago }}</time>, in the data folder on this machine. One on another disk
      is yours to make: <code>./spark backup FILE</code>.
    </p>
    <p v-else>No backup yet; one is made within a day of the first build, and <code>./spark backup FILE</code> makes one now.</p>
  </footer>
</template>
