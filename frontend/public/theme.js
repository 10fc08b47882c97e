// Before the first paint, so that a dark garage is not lit up white.
try {
  const stored = localStorage.getItem("uphill-spark.theme");
  const night = stored ? stored === "night" : matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.dataset.theme = night ? "night" : "day";
} catch {
  document.documentElement.dataset.theme = "day";
}
