/** Where words may be broken, by language: patterns of the packages, read when a language is first asked for. */
import { createRequire } from "node:module";

const require = createRequire(import.meta.url);

/** Languages with the patterns they are broken by; a tag is looked for whole, then by its first part. */
const PATTERNS: Readonly<Record<string, string>> = {
  en: "en-gb",
  "en-us": "en-us",
  de: "de-1996",
  fr: "fr",
  it: "it",
  es: "es",
  nl: "nl",
  pt: "pt",
  sv: "sv",
  da: "da",
  nb: "nb",
  fi: "fi",
  pl: "pl",
  cs: "cs",
  hu: "hu",
};

interface Patterns {
  readonly hyphenateSync: (
    text: string,
    options: { readonly hyphenChar: string; readonly minWordLength: number },
  ) => string;
}

const loaded = new Map<string, Patterns>();
const SHORTEST = 6;

/** The text with soft hyphens where its words may be broken; `undefined` for a language without patterns. */
export function hyphenate(text: string, language: string): string | undefined {
  const tag = language.toLowerCase();
  const name = PATTERNS[tag] ?? PATTERNS[tag.split("-")[0]];
  if (name === undefined) return undefined;
  let patterns = loaded.get(name);
  if (!patterns) {
    patterns = require(`hyphen/${name}/index.js`) as Patterns;
    loaded.set(name, patterns);
  }
  return patterns.hyphenateSync(text, { hyphenChar: "\u00ad", minWordLength: SHORTEST });
}
