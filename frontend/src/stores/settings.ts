// Everything that this browser remembers, in one place.
import { useStorage } from "@vueuse/core";
import { defineStore } from "pinia";
import { watch } from "vue";

export const useSettings = defineStore("settings", () => {
  const prefersNight = document.documentElement.dataset.theme === "night";
  const theme = useStorage<"day" | "night">("uphill-spark.theme", prefersNight ? "night" : "day");
  /** Who signs changes made in this browser. */
  const who = useStorage("uphill-spark.who", "");
  watch(theme, (t) => (document.documentElement.dataset.theme = t), { immediate: true });
  return { theme, who, toggleTheme: () => (theme.value = theme.value === "night" ? "day" : "night") };
});
