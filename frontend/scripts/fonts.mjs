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
const SIGNS = "°²³µΩλ±×−–—…·•→←≤≥äöü’√";
// Figures of one width are asked for in the text face alone: of the others, glyphs that only a choice leads to are left out. Headings stand in one weight; text and figures in those from normal to bold.
const FONTS = [
  ["bricolage-grotesque", "Bricolage Grotesque Variable", 650, 650, false],
  ["atkinson-hyperlegible-next", "Atkinson Hyperlegible Next Variable", 400, 700, true],
  ["atkinson-hyperlegible-mono", "Atkinson Hyperlegible Mono Variable", 400, 700, false],
];
/** What the whole font is fetched for: Latin letters and punctuation that are not in the cut. */
const REST = [
  0xa1, 0xff, 0x131, 0x131, 0x152, 0x153, 0x2c6, 0x2c6, 0x2da, 0x2da, 0x2dc, 0x2dc, 0x2000, 0x206f, 0x20ac, 0x20ac, 0x2122, 0x2122,
];
const hex = (c) => `U+${c.codePointAt(0).toString(16).toUpperCase().padStart(4, "0")}`;
/** Ranges as CSS writes them, without the signs that the cut is asked for. */
function rest() {
  const found = [];
  for (let k = 0; k < REST.length; k += 2)
    for (let c = REST[k]; c <= REST[k + 1]; c++) {
      if (SIGNS.includes(String.fromCodePoint(c))) continue;
      const last = found.at(-1);
      if (last && last[1] === c - 1) last[1] = c;
      else found.push([c, c]);
    }
  return found
    .map(([a, b]) => (a === b ? hex(String.fromCodePoint(a)) : `${hex(String.fromCodePoint(a))}-${b.toString(16).toUpperCase()}`))
    .join(", ");
}
const face = (family, file, range, [low, high]) =>
  `@font-face {\n  font-family: "${family}";\n  font-style: normal;\n  font-display: swap;\n  font-weight: ${low === high ? low : `${low} ${high}`};\n  src: url("${file}") format("woff2-variations");\n  unicode-range: ${range};\n}\n`;

await mkdir(out, { recursive: true });
let css = "";
for (const [name, family, low, high, choices] of FONTS) {
  const whole = require.resolve(`@fontsource-variable/${name}/files/${name}-latin-wght-normal.woff2`);
  const letters = ASCII + SIGNS;
  const axis = low === high ? low : { min: low, max: high };
  await writeFile(
    join(out, `${name}.woff2`),
    await subset(await readFile(whole), letters, { targetFormat: "woff2", variationAxes: { wght: axis }, noLayoutClosure: !choices }),
  );
  const ext = require.resolve(`@fontsource-variable/${name}/files/${name}-latin-ext-wght-normal.woff2`);
  await writeFile(join(out, `${name}-whole.woff2`), await readFile(whole));
  await writeFile(join(out, `${name}-ext.woff2`), await readFile(ext));
  css += face(
    family,
    `./${name}-ext.woff2`,
    "U+0100-02BA, U+02BD-02C5, U+02C7-02CC, U+02CE-02D7, U+02DD-02FF, U+1E00-1E9F, U+1EF2-1EFF, U+20A0-20C0",
    [low, high],
  );
  css += face(family, `./${name}-whole.woff2`, rest(), [low, high]);
  css += face(family, `./${name}.woff2`, ["U+0020-007E", ...Array.from(SIGNS, hex)].join(", "), [low, high]);
}
await writeFile(join(out, "fonts.css"), css);
