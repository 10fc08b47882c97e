<script setup lang="ts">
// One question of a new build: typed, or chosen from a few; where it may be skipped, its usual answer is taken in pencil.
import type { components } from "@/api/schema";
import KitDrawing from "./KitDrawing.vue";
import type { Answer } from "./useAnswers";

const props = defineProps<{
  question: components["schemas"]["OpeningQuestion"];
  given?: Answer;
  problem?: string;
  counts: number[];
  drawn?: boolean;
}>();
const emit = defineEmits<{ give: [answer: Answer | undefined] }>();
const chosen = (value: Answer) => String(props.given ?? "") === String(value);
const typed = (event: Event) => emit("give", (event.target as HTMLInputElement).value);
</script>

<template>
  <fieldset v-if="question.options?.length || question.key === 'cylinders'">
    <legend class="font-semibold">
      {{ question.title }}
      <button
        v-if="question.may_skip && given !== undefined"
        type="button"
        class="link ml-2 text-[0.88rem] font-normal"
        @click="emit('give', undefined)"
      >
        take it back
      </button>
    </legend>
    <div
      v-if="question.options?.length"
      class="mt-1 grid gap-2 sm:grid-cols-2"
      :class="question.options.length === 3 ? 'lg:grid-cols-3' : 'lg:grid-cols-4'"
    >
      <label
        v-for="o in question.options"
        :key="o.value"
        class="flex min-h-11 cursor-pointer flex-col border p-2.5 has-checked:border-2 has-checked:border-ink has-focus-visible:outline-3 has-focus-visible:outline-[var(--ink)]"
        :class="chosen(o.value) ? 'bg-well' : 'border-line bg-sheet'"
      >
        <KitDrawing v-if="drawn" :kit="o.value" />
        <span class="flex gap-2.5"
          ><input
            type="radio"
            :name="question.key"
            :value="o.value"
            :checked="chosen(o.value)"
            class="mt-0.5 size-5 shrink-0"
            @change="emit('give', o.value)"
          /><span
            ><b class="block leading-tight">{{ o.word }}</b
            ><span v-if="o.note" class="text-[0.88rem] leading-tight text-soft">{{ o.note }}</span></span
          ></span
        >
      </label>
    </div>
    <div v-else class="mt-1 flex flex-wrap gap-2">
      <label v-for="n in counts" :key="n" class="btn cursor-pointer !px-4" :class="{ 'btn-main': chosen(n) }">
        <input type="radio" name="cylinders" :value="n" :checked="chosen(n)" class="size-5" @change="emit('give', n)" />{{ n }}
      </label>
    </div>
    <p v-if="problem" class="text-spark" role="alert">{{ problem }}</p>
  </fieldset>
  <div v-else class="max-w-md">
    <label :for="`a-${question.key}`" class="block font-semibold">{{ question.title }}</label>
    <input
      :id="`a-${question.key}`"
      :value="given ?? ''"
      :placeholder="question.example"
      :maxlength="question.key === 'name' ? 80 : 40"
      class="mt-1 h-12 w-full border border-line bg-sheet px-3 text-lg placeholder:text-soft"
      :class="{ num: question.key !== 'name' }"
      autocomplete="off"
      :aria-invalid="problem ? true : undefined"
      :aria-describedby="`a-${question.key}-told`"
      @input="typed"
    />
    <p
      :id="`a-${question.key}-told`"
      class="text-[0.9rem]"
      :class="problem ? 'text-spark' : 'text-soft'"
      :role="problem ? 'alert' : undefined"
    >
      {{ problem ?? question.help }}
    </p>
  </div>
</template>
