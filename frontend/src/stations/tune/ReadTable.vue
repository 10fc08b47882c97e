<script setup lang="ts">
// One table as it was read.
import type { ReadTables } from "@/api/types";

defineProps<{ table: ReadTables["tables"][number] }>();
defineEmits<{ say: [choice: string] }>();
</script>

<template>
  <section class="mb-5" :aria-label="table.title">
    <h2 class="text-[1.05rem]">
      {{ table.title
      }}<span v-if="table.key" class="text-[0.9rem] font-normal text-soft">, {{ table.unit === "1" ? "times" : table.unit }}</span>
    </h2>
    <p v-if="table.stood && table.stood !== table.title" class="text-[0.85rem] text-soft">Over it stood: {{ table.stood }}</p>
    <div v-if="table.asks" class="mt-1 border-l-4 border-spark bg-wash px-3 py-2" role="group" :aria-label="table.asks">
      <p class="font-semibold">{{ table.asks }}</p>
      <button v-for="o in table.options" :key="o.key" type="button" class="btn btn-small mt-1 mr-2" @click="$emit('say', o.key)">
        {{ o.word }}: {{ o.means }}
      </button>
      <button v-if="table.options.length" type="button" class="btn btn-small mt-1" @click="$emit('say', 'skip')">leave it out</button>
    </div>
    <ul class="text-[0.86rem] text-soft">
      <li v-for="g in table.guesses" :key="g">Guessed: {{ g }}.</li>
    </ul>
    <ul class="text-[0.9rem]">
      <li v-for="d in table.doubts" :key="d">{{ d }}</li>
    </ul>
    <div class="mt-1 max-h-72 overflow-auto border border-hair" tabindex="0" :aria-label="`${table.title}, cells`">
      <table class="num w-full text-right text-[0.85rem]">
        <thead>
          <tr class="bg-wash">
            <th scope="col" class="px-2 py-1 text-left font-normal">{{ table.y_label ?? table.x_label }}</th>
            <th v-for="v in table.x" :key="v" scope="col" class="px-2 py-1 font-semibold">{{ v }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, i) in table.rows" :key="i" class="border-t border-hair">
            <th scope="row" class="px-2 py-1 text-left font-semibold">{{ table.y[i] ?? "" }}</th>
            <td v-for="(v, j) in row" :key="j" class="px-2 py-1">{{ v }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>
