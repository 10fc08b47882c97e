// The letters that every screen uses, cut out of each font: a first view fetches those alone. What else a name may hold comes from the whole font when
// it is met. Written anew by every build into .fonts/.
import { mkdir, readFile, writeFile } from "node:fs/promises";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import subset from "subset-font";

const require = createRequire(import.meta.url);
const out = join(dirname(fileURLToPath(import.meta.url)), "..", ".fonts");
const ASCII = Array.from({ length: 95 }, (_, i) => String.fromCharCode(32 + i)).join("");
const SIGNS = "°²³µΩλ±×−–—…·•→←≤≥½¼äöüß’“”√";
const FONTS = [
  ["bricolage-grotesque", "Bricolage Grotesque Variable", 200, 800],
  ["atkinson-hyperlegible-next", "Atkinson Hyperlegible Next Variable", 200, 800],
  ["atkinson-hyperlegible-mono", "Atkinson Hyperlegible Mono Variable", 200, 800],
];
const hex = (c) => `U+${c.codePointAt(0).toString(16).toUpperCase().padStart(4, "0")}`;
const face = (family, file, range, [low, high]) =>
  `@font-face {\n  font-family: "${family}";\n  font-style: normal;\n  font-display: swap;\n  font-weight: ${low} ${high};\n  src: url("${file}") format("woff2-variations");\n  unicode-range: ${range};\n}\n`;

await mkdir(out, { recursive: true });
let css = "";
for (const [name, family, low, high] of FONTS) {
  const whole = require.resolve(`@fontsource-variable/${name}/files/${name}-latin-wght-normal.woff2`);
  const letters = ASCII + SIGNS;
  await writeFile(join(out, `${name}.woff2`), await subset(await readFile(whole), letters, { targetFormat: "woff2" }));
  const ext = require.resolve(`@fontsource-variable/${name}/files/${name}-latin-ext-wght-normal.woff2`);
  await writeFile(join(out, `${name}-whole.woff2`), await readFile(whole));
  await writeFile(join(out, `${name}-ext.woff2`), await readFile(ext));
  css += face(
    family,
    `./${name}-ext.woff2`,
    "U+0100-02BA, U+02BD-02C5, U+02C7-02CC, U+02CE-02D7, U+02DD-02FF, U+1E00-1E9F, U+1EF2-1EFF, U+20A0-20C0",
    [low, high],
  );
  css += face(family, `./${name}-whole.woff2`, "U+00A1-00FF, U+0131, U+0152-0153, U+02C6, U+02DA, U+02DC, U+2000-206F, U+20AC, U+2122", [
    low,
    high,
  ]);
  css += face(family, `./${name}.woff2`, ["U+0020-007E", ...Array.from(SIGNS, hex)].join(", "), [low, high]);
}
await writeFile(join(out, "fonts.css"), css);
