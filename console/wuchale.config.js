import { readdirSync } from "node:fs";
import { adapter as svelte } from "@wuchale/svelte";
import { defineConfig } from "wuchale";
import { adapter as plain } from "wuchale/adapter-vanilla";

/** Attributes and properties that hold a name for programs, never a text. */
const NAMES = new Set(
  `aria-busy aria-hidden aria-live autocomplete class d draggable element fill href id kind name orientation role
  scope selectorPrimaryFocus size slot spellcheck src style target tooltipAlignment tooltipPosition transform type value
  viewBox direction`.split(/\s+/),
);

/** What is no text although it begins with a capital: keys, headers, forms of characters. */
const KEYS = /^(Enter|Escape|Arrow\w+|Tab|(Shift-|Mod-)+\w+|[A-Z][a-z]+-[A-Z][a-z]+|Z|UTC|NFD|FREQ=.*|[A-Z_,=;#\d]+)$/;

/** What is no text although it has blanks: styles, expressions and marks, patterns of documents, names of elements. */
const CODE = [
  /^\w+\(.*\)$/,
  /^[.(<[&*\\]|^#[\da-f]+$/,
  /^\d+px /,
  /^"[^"]*", [\w-]+/,
  /^\w+ (<>|=|&) /,
  /^\{\{.*\}\}$/,
  /^(date|datetime|number) (day|month|comma|point)\b/,
  /^(report|title|data|period|split): [{#]/,
  /^address article aside /,
];

/**
 * Whether a text of the source is one for readers. A single small word in code is taken for a name, unless it is
 * the argument of `word`.
 */
function isText({ msgStr, details: { scope, element, attribute, call } }) {
  const text = msgStr.join("\n");
  if (!/\p{L}/u.test(text.replaceAll(/\{\d+\}/g, ""))) return false;
  if (["code", "pre", "kbd", "style", "script"].includes(element)) return false;
  if (scope === "markup" || call === "word") return "message";
  if (attribute !== undefined && NAMES.has(attribute)) return false;
  if (CODE.some((pattern) => pattern.test(text)) || KEYS.test(text)) return false;
  if (scope === "attribute" && attribute !== undefined) return "message";
  return /\S\s+\S/.test(text) || /^[A-Z]/.test(text) ? "message" : false;
}

/** The language is chosen before anything is drawn, and stays: a module asks once for its texts. */
const runtime = (initReactive) => ({
  initReactive,
  useReactive: false,
  plain: { wrapInit: (code) => code, wrapUse: (code) => code },
  reactive: { wrapInit: (code) => code, wrapUse: (code) => code },
});

/** Texts of plain modules stand in constants too, which is why the runtime comes before all of their code. */
function modules(options) {
  const adapter = plain({ ...options, runtime: runtime(() => null) });
  const transform = (input) => {
    const { msgs, output } = adapter.transform(input);
    return { msgs, output: (header) => output(`${header}\nconst _w_runtime_ = ${input.expr.plain};`) };
  };
  return { ...adapter, transform };
}

/** A second language is one more file beside `en.po`. */
const further = readdirSync(new URL("src/words", import.meta.url))
  .filter((name) => name.endsWith(".po") && name !== "en.po")
  .map((name) => name.slice(0, -".po".length));

export default defineConfig({
  locales: ["en", ...further],
  localesDir: "src/words",
  adapters: {
    pages: svelte({
      loader: "custom",
      heuristic: isText,
      files: "src/**/*.svelte",
      runtime: runtime(({ funcName }) => (funcName == null ? false : null)),
    }),
    code: modules({
      loader: "custom",
      heuristic: isText,
      files: { include: "src/**/*.ts", ignore: ["**/*.d.ts", "src/main.ts"] },
    }),
  },
});
