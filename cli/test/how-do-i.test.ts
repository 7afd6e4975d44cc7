/** The page of tasks: each command of it is run in its order, and answers what the page says. */
import { execFile } from "node:child_process";
import { cpSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../test/setup/service.js";

const root = fileURLToPath(new URL("../..", import.meta.url));
const folder = mkdtempSync(join(tmpdir(), "corbix-tasks-"));
let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"));
  cpSync(join(root, "demo/files"), folder, { recursive: true });
  cpSync(join(root, "demo/examples"), join(folder, "examples"), { recursive: true });
});
afterAll(async () => {
  await service?.close();
  rmSync(folder, { recursive: true, force: true });
});

interface Step {
  readonly command: string;
  readonly says: readonly string[];
}
interface Task {
  readonly title: string;
  readonly steps: readonly Step[];
}

const page = readFileSync(join(root, "docs/how-do-i.md"), "utf8");
const tasks: Task[] = page
  .split(/^## /m)
  .slice(1)
  .map((text) => {
    const [title = ""] = text.split("\n");
    const steps: Step[] = [];
    for (const [, block = ""] of text.matchAll(/```sh\n([\s\S]*?)```/g))
      for (const line of block.split("\n").filter(Boolean)) {
        const last = steps.at(-1);
        if (line.startsWith("# ") && last) steps[steps.length - 1] = { ...last, says: [...last.says, line.slice(2)] };
        else steps.push({ command: line, says: [] });
      }
    return { title, steps };
  });

/** Words of a command as a shell parts them. */
const wordsOf = (command: string): string[] =>
  [...command.matchAll(/"([^"]*)"|(\S+)/g)].map(([, quoted, plain]) => quoted ?? plain ?? "");

function corbix(args: readonly string[]): Promise<string> {
  const env = {
    ...process.env,
    CORBIX_DATA: service.data,
    CORBIX_DATABASE_URL: service.databaseUrl,
    CORBIX_URL: service.url,
    CORBIX_TOKEN: service.signIn.token,
    NO_COLOR: "1",
  };
  return new Promise((resolve) => {
    execFile(process.execPath, [join(root, "cli/bin/corbix.mjs"), ...args], { cwd: folder, env }, (error, out, wrong) =>
      resolve(`${out}${wrong}${error ? `\nended with ${error.code}` : ""}`),
    );
  });
}

describe("how do I …", () => {
  it("has twenty-five tasks, each with what to do in the console too", () => {
    expect(tasks).toHaveLength(25);
    for (const [at, { title, steps }] of tasks.entries()) {
      expect(title.startsWith(`${at + 1}. `)).toBe(true);
      expect(steps.length).toBeGreaterThan(0);
    }
    expect(page.match(/In the console: /g)).toHaveLength(25);
  });

  const known = { run: "", message: "" };
  for (const { title, steps } of tasks)
    it(title, async () => {
      for (const { command, says } of steps) {
        const [name, ...args] = wordsOf(command.replace(/\bRUN\b/, known.run).replace(/\bMESSAGE\b/, known.message));
        expect(name).toBe("corbix");
        const answer = await corbix(args);
        const end = says.find((one) => one.startsWith("ends with "))?.replace("ends", "ended");
        if (end === undefined) expect(answer, command).not.toContain("\nended with ");
        else expect(answer, command).toContain(`\n${end}`);
        for (const one of says.filter((line) => !line.startsWith("ends with "))) expect(answer, command).toContain(one);
        known.run = /corbix (?:release|fetch|show|watch) ([0-9a-f]{8})\b/.exec(answer)?.[1] ?? known.run;
        known.message = /^\s*(\d+)\s+\d{4}-\d{2}-\d{2}/m.exec(answer)?.[1] ?? known.message;
      }
    });
});
