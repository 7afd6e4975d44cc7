/** The open fonts that come with the packages, as sources for the font library. */
import { readdirSync, readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { FontLibrary, type FontSource } from "@corbix/core/fonts";

const FAMILIES: readonly (readonly [string, string])[] = [
  ["Carlito", "carlito"],
  ["Caladea", "caladea"],
  ["Arimo", "arimo"],
  ["Tinos", "tinos"],
  ["Cousine", "cousine"],
];
/** Families that lend signs and scripts which the others lack. */
const RESERVES: readonly (readonly [family: string, folder: string, scripts: readonly string[]])[] = [
  ["Noto Sans Arabic", "noto-sans-arabic", ["arabic"]],
  ["Noto Sans Symbols 2", "noto-sans-symbols-2", ["symbols"]],
  ["Noto Sans Symbols", "noto-sans-symbols", ["symbols"]],
];
/** Characters are looked for in this order of files. */
const SCRIPTS = ["latin", "latin-ext", "greek", "cyrillic", "vietnamese", "greek-ext", "cyrillic-ext", "hebrew"];

let library: FontLibrary | undefined;

/** The library of all open fonts; read once per process. */
export function openFonts(): FontLibrary {
  library ??= new FontLibrary([
    ...FAMILIES.flatMap(([family, folder]) => readFamily(family, folder, SCRIPTS)),
    ...RESERVES.flatMap(([family, folder, scripts]) =>
      readFamily(family, folder, scripts).map((source) => ({ ...source, isReserve: true })),
    ),
  ]);
  return library;
}

function readFamily(family: string, name: string, scripts: readonly string[]): FontSource[] {
  const folder = join(dirname(createRequire(import.meta.url).resolve(`@fontsource/${name}/package.json`)), "files");
  const files = readdirSync(folder);
  const sources: FontSource[] = [];
  for (const [weight, bold] of [
    [400, false],
    [700, true],
  ] as const) {
    for (const [style, italic] of [
      ["normal", false],
      ["italic", true],
    ] as const) {
      const found = scripts
        .map((script) => `${name}-${script}-${weight}-${style}.woff`)
        .filter((file) => files.includes(file));
      if (found.length > 0)
        sources.push({
          family,
          bold,
          italic,
          files: found.map((file) => ({ name: file, bytes: readFileSync(join(folder, file)) })),
        });
    }
  }
  return sources;
}
