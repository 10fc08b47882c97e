// What plain.ts gathers as one module on standard output.
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { build } from "vite";

const here = dirname(fileURLToPath(import.meta.url));
const result = await build({
  configFile: false,
  logLevel: "silent",
  resolve: { alias: { "@": join(here, "..", "src") } },
  build: { write: false, minify: false, lib: { entry: join(here, "plain.ts"), formats: ["es"], fileName: "plain" } },
});
process.stdout.write([result].flat()[0].output[0].code);
