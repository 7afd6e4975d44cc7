/** `npm run sbom`: writes what Corbix is made of (CycloneDX) to a file, or prints it. */
import { writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { Advice, say } from "./lib/say.mjs";
import { bill } from "./lib/sbom.mjs";

const root = fileURLToPath(new URL("..", import.meta.url)).replace(/\/$/, "");
try {
  const [file] = process.argv.slice(2);
  const text = `${JSON.stringify(bill(root), null, 2)}\n`;
  if (file) writeFileSync(file, text);
  else say(text);
} catch (error) {
  if (!(error instanceof Advice)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
