/** `npm run pages`: writes the pages of docs/ that are made from the code. */
import { writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { functionsPage } from "../core/dist/formula/index.js";

writeFileSync(fileURLToPath(new URL("../docs/formulas.md", import.meta.url)), functionsPage());
