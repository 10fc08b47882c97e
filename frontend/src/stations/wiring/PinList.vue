<script setup lang="ts">
// The control unit's pins: what each can be, and what hangs on it. Long lists scroll in their own frame.
import type { Stages } from "@/api/types";
import { choice } from "@/figures/format";

defineProps<{ pins: Stages["wiring"]["pins"] }>();
</script>

<template>
  <div class="mt-3">
    <p class="mb-1 text-[0.95rem] font-semibold">Pins: {{ pins.filter((p) => p.wires.length).length }} of {{ pins.length }} used</p>
    <div
      class="max-h-[60vh] overflow-y-auto border border-line bg-sheet px-2"
      tabindex="0"
      role="region"
      aria-label="Pins of the control unit"
    >
      <table class="w-full text-[0.88rem]">
        <tbody>
          <tr v-for="p in pins" :key="p.pin" class="border-b border-hair">
            <td class="num py-0.5 pr-2 font-semibold">{{ p.pin }}</td>
            <td class="pr-2">{{ choice(p.kind) }}</td>
            <td class="text-soft">{{ p.wires.map(choice).join(", ") || "free" }}<b v-if="p.borrowed">, borrowed</b></td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>
