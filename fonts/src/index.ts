/** The open fonts that come with the packages, as sources for the font library. */
import { existsSync, readdirSync, readFileSync, statSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { CorbixError } from "@corbix/core/common";
import { FontLibrary, type FontSource, readFont } from "@corbix/core/fonts";
import { hyphenate } from "./hyphens.js";

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

let supplied: readonly FontSource[] | undefined;
const libraries = new Map<string, { readonly state: string; readonly library: FontLibrary }>();

/**
 * The library of all open fonts, with those of a folder before them; read anew when the folder changes.
 * Files that are no fonts are passed over: they are refused when they are put there.
 */
export function openFonts(folder?: string): FontLibrary {
  const files = folder === undefined ? [] : fontFiles(folder);
  const state = files.map(({ name, size, changed }) => `${name} ${size} ${changed}`).join("\n");
  const known = libraries.get(folder ?? "");
  if (known?.state === state) return known.library;
  const sources = [...files.flatMap(({ path, name }) => maybeFont(path, name)), ...suppliedFonts()];
  const library = new FontLibrary(sources, hyphenate);
  libraries.set(folder ?? "", { state, library });
  return library;
}

function suppliedFonts(): readonly FontSource[] {
  supplied ??= [
    ...FAMILIES.flatMap(([family, folder]) => readFamily(family, folder, SCRIPTS)),
    ...RESERVES.flatMap(([family, folder, scripts]) =>
      readFamily(family, folder, scripts).map((source) => ({ ...source, isReserve: true })),
    ),
  ];
  return supplied;
}

function fontFiles(folder: string): { path: string; name: string; size: number; changed: number }[] {
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .filter((name) => /\.(?:ttf|woff)$/i.test(name))
    .sort()
    .map((name) => {
      const path = join(folder, name);
      const { size, mtimeMs } = statSync(path);
      return { path, name, size, changed: mtimeMs };
    });
}

function maybeFont(path: string, name: string): FontSource[] {
  try {
    return [readFont(name, readFileSync(path))];
  } catch (error) {
    if (error instanceof CorbixError) return [];
    throw error;
  }
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
