import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import tailwind from "@tailwindcss/vite";
import vue from "@vitejs/plugin-vue";
import { defineConfig, type Plugin } from "vite";

/** Text files of the page beside themselves, packed: the server sends those to a browser that takes them. */
function packed(): Plugin {
  const text = /\.(js|css|html|svg|json)$/;
  let folder = "dist";
  return {
    name: "packed",
    apply: "build",
    configResolved: (config) => void (folder = config.build.outDir),
    closeBundle() {
      for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
        if (!entry.isFile() || !text.test(entry.name)) continue;
        const file = join(entry.parentPath, entry.name);
        const data = readFileSync(file);
        writeFileSync(`${file}.br`, brotliCompressSync(data, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }));
        writeFileSync(`${file}.gz`, gzipSync(data, { level: 9 }));
      }
    },
  };
}

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
/** Few files for a first view: what every station uses in one, the libraries in another; what is opened seldom apart. */
const SELDOM =
  /node_modules\/(@headlessui\/vue\/dist\/(components\/(combobox|dialog|focus-trap|portal)|hooks\/(document-overflow|use-inert|use-root-containers)|internal\/stack-context)|@tanstack)/;
/** What lays a circuit out, wanted where one is drawn. */
const LAYS = /node_modules\/@dagrejs/;
/** What draws arcs, wanted by three drawings. */
const ARCS = /d3-shape\/src\/arc\.js/;
/** Pictures that one screen alone shows. */
const OF_ONE =
  /icons\/Icon(AlertTriangle|CameraPlus|Tags|ArrowLeft|ArrowsLeftRight|Book2|CalendarDown|CalendarPlus|Car|ChevronUp|DeviceMobile|ChevronLeft|ChevronRight|FileDownload|FileZip|Flag|PlayerRecord|PlayerStop|SteeringWheel|ZoomIn|ZoomOut|ZoomReset|History|ListDetails|Pencil|Send)\./;
/** What draws a million points, wanted on one bench. */
const STRIP = /node_modules\/uplot/;
const groups = [
  { name: "strip", test: STRIP, priority: 4 },
  { name: "circuits", test: LAYS, priority: 4 },
  {
    name: (id: string) =>
      /node_modules/.test(id) && !SELDOM.test(id) && !OF_ONE.test(id) && !ARCS.test(id) && !STRIP.test(id) ? "libraries" : null,
    priority: 3,
  },
  { name: "arcs", test: ARCS, priority: 2 },
  { name: "dialogs", test: SELDOM, priority: 2 },
  { name: "photographs", test: /parts\/(keepPhotos\.ts|(PhotoStrip|PhotoField|AddPhoto)\.vue)/, priority: 0.5 },
  {
    name: "shared",
    test: /src\/(stations\/fuel\/path\.ts|(api|figures|parts|shell|stores)\/(?!(seldom|useReader|keepPhotos)\.ts|(WorkedOut|SizeSlider)\.vue|\w*(Dialog|Drawer|View|Words|WordCard|WordPicture|QuestionList|PhotoStrip|PhotoField|AddPhoto|RippleBar|CylinderRows|OrderSmall)\.vue))/,
    priority: 1,
  },
];

export default defineConfig({
  plugins: [vue(), tailwind(), packed()],
  resolve: { alias: { "@": here("./src"), "~fonts": here("./.fonts") } },
  build: { target: "es2022", chunkSizeWarningLimit: 500, rolldownOptions: { output: { codeSplitting: { groups } } } },
  server: { proxy: { "/api": "http://127.0.0.1:8077" } },
});
