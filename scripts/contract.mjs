/** Makes the client's types from the contract's OpenAPI document; a test sees that they are what the contract says. */
import { execFileSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";

const root = fileURLToPath(new URL("..", import.meta.url));
const PATHS = `${root}api/src/client/paths.ts`;

export async function makeContract() {
  const { endpoints, openApiDocument } = await import("../api/dist/contract/index.js");
  const { default: openapiTS, astToString } = await import("openapi-typescript");
  const document = openApiDocument(endpoints);
  const types = astToString(
    await openapiTS(structuredClone(document), { defaultNonNullable: false, alphabetize: true }),
  );
  return `// Made by \`npm run contract\` from the contract; not to be changed by hand.\n${types}`;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const build = () => execFileSync("npx", ["tsc", "-b", "api"], { cwd: root, stdio: "inherit" });
  // Types of before may be what does not compile.
  writeFileSync(PATHS, "export type paths = {};\nexport type components = {};\n");
  build();
  writeFileSync(PATHS, await makeContract());
  build();
  console.log("api/src/client/paths.ts is what the contract says");
}
