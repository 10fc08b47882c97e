// The page's plain functions, gathered for the tests that run them in a browser.
export * as changes from "../src/stores/changes";
export * as format from "../src/figures/format";
export * as grade from "../src/stations/fuel/grade";
export * as path from "../src/stations/fuel/path";
export * as pointer from "../src/stores/pointer";
export * as queue from "../src/stores/queue";
