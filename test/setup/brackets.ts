/** A language that nobody speaks: the English words in brackets. What stands outside of them was not translated. */
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";

export const BRACKETED = "en-XA";
export const [OPEN, CLOSE] = ["⟦", "⟧"];

const ENGLISH = fileURLToPath(new URL("../../core/dist/words/index.js", import.meta.url));

/** A folder with the words of the service in brackets, as a translator would put one there. */
export function bracketedWords(): string {
  const folder = mkdtempSync(join(tmpdir(), "corbix-words-"));
  writeFileSync(
    join(folder, `${BRACKETED}.mjs`),
    `import { english } from ${JSON.stringify(ENGLISH)};
const bracketed = ([name, say]) => [name, (facts) => \`${OPEN}\${say(facts)}${CLOSE}\`];
export const words = Object.fromEntries(
  Object.entries(english).map(([room, words]) => [room, Object.fromEntries(Object.entries(words).map(bracketed))]),
);
`,
  );
  return folder;
}
