<script setup lang="ts">
// A paper of the build that is open, to download.
import { IconDownload } from "@tabler/icons-vue";
import { api } from "@/api/client";
import { useBuild } from "@/stores/build";

defineProps<{ name: string }>();
const store = useBuild();
</script>

<template>
  <a :href="api.paper(store.id, name)" class="btn btn-small"><IconDownload :size="15" aria-hidden="true" /><slot /></a>
</template>
