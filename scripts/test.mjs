/** `npm test`: installs what is missing, then lint, formats, types, builds and tests. */
import { existsSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { build } from "./lib/build.mjs";
import { checkNode, installDebian, installPackages } from "./lib/packages.mjs";
import { hasFaketime, postgresBinaries } from "./lib/postgres.mjs";
import { maybeOutput, run } from "./lib/run.mjs";
import { Advice, say } from "./lib/say.mjs";

const root = fileURLToPath(new URL("..", import.meta.url)).replace(/\/$/, "");
const cwd = root;

try {
  checkNode();
  await installPackages(root);
  await postgresBinaries();
  if (!existsSync("/usr/bin/chromium")) await installDebian(["chromium"], "Chromium, for the console's tests,");
  const readers = ["pdftotext", "qpdf"].filter(
    (program) => maybeOutput("sh", ["-c", `command -v ${program}`]) === undefined,
  );
  if (readers.length > 0) await installDebian(["poppler-utils", "qpdf"], "A PDF reader, for the tests of PDF files,");
  if (maybeOutput("/usr/bin/python3", ["-c", "import openpyxl, docx, dkim"]) === undefined)
    await installDebian(
      ["python3", "python3-openpyxl", "python3-docx", "python3-dkim"],
      "Other readers of workbooks, documents and signatures, for their tests,",
    );
  const servers = ["/usr/sbin/sshd", "/usr/bin/ssh-keygen", "/usr/sbin/apache2"];
  if (!servers.every((one) => existsSync(one)))
    await installDebian(
      ["openssh-server", "openssh-client", "apache2-bin"],
      "Servers of SFTP and WebDAV, for the tests of ways out,",
    );
  const operating = ["/usr/sbin/nginx", "/usr/bin/systemd-analyze"];
  if (!operating.every((one) => existsSync(one)))
    await installDebian(
      ["nginx-light", "systemd"],
      "A proxy and a reader of units, for the tests of putting into service,",
    );
  if (!hasFaketime())
    await installDebian(["libfaketime"], "A library to set a program's clock, for the tests of faults,");
  say("Lint and formats …");
  await run("npx", ["biome", "ci", "."], { cwd, what: "lint" });
  say("Types and builds …");
  await build(root);
  await run("npx", ["tsc", "-p", "tsconfig.test.json"], { cwd, what: "the type check of the tests" });
  await run("npm", ["run", "check", "-w", "console"], { cwd, what: "the console's type check" });
  say("Tests …");
  await run("npx", ["vitest", "run", ...process.argv.slice(2)], { cwd, loud: true, what: "the tests" });
} catch (error) {
  if (!(error instanceof Advice)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
