// Everything that this browser remembers, in one place.
import { useSessionStorage, useStorage } from "@vueuse/core";
import { defineStore } from "pinia";
import { watch } from "vue";

export const useSettings = defineStore("settings", () => {
  const prefersNight = document.documentElement.dataset.theme === "night";
  const theme = useStorage<"day" | "night">("uphill-spark.theme", prefersNight ? "night" : "day");
  /** Who signs changes made in this browser. */
  const who = useStorage("uphill-spark.who", "");
  /** Written beside every change until it is emptied: "bigger cam". Lasts as long as the tab. */
  const reason = useSessionStorage("uphill-spark.reason", "");
  watch(theme, (t) => (document.documentElement.dataset.theme = t), { immediate: true });
  return { theme, who, reason, toggleTheme: () => (theme.value = theme.value === "night" ? "day" : "night") };
});
