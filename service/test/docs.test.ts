import { existsSync, readFileSync } from "node:fs";
import { ERRORS } from "@corbix/core/common";
import { MESSAGE_MACHINE, RUN_MACHINE } from "@corbix/core/delivery";
import { reportSchema } from "@corbix/core/report";
import { describe, expect, it } from "vitest";
import { LEASE_MS, SILENCE_MS } from "../dist/process/lease/lease.js";
import { environmentName, readSettings, settingsSchema } from "../dist/process/settings.js";

const docs = (name: string): string => readFileSync(new URL(`../../docs/${name}`, import.meta.url), "utf8");

describe("the papers and the program say the same", () => {
  it("about settings", () => {
    const rows = [...docs("operating.md").matchAll(/^\| `(\w+)` \| `(CORBIX_\w+)` \|\s*(.*?)\s*\| (.*) \|$/gm)];
    expect(rows.map((row) => row[1])).toEqual(Object.keys(settingsSchema.shape));
    for (const [, key, environment, shown] of rows) {
      expect(environment).toBe(environmentName(key));
      const fixed = /^`(.*)`$/.exec(shown)?.[1];
      if (fixed !== undefined && key !== "data")
        expect(String(readSettings({}, "/nowhere")[key as keyof ReturnType<typeof readSettings>])).toBe(fixed);
    }
  });

  it("about errors", () => {
    const rows = [...docs("operating.md").matchAll(/^\| `([A-Z_]+)` \| (\d+) \| (\d+) \|$/gm)];
    expect(Object.fromEntries(rows.map(([, code, status, exit]) => [code, [Number(status), Number(exit)]]))).toEqual(
      Object.fromEntries(Object.entries(ERRORS).map(([code, { status, exit }]) => [code, [status, exit]])),
    );
  });

  it("about the definition", () => {
    const rows = [...docs("definition.md").matchAll(/^\| `(\w+)` \|/gm)].map((row) => row[1]);
    expect(rows).toEqual(Object.keys(reportSchema.unwrap().in.shape));
  });

  it("about the life of messages and runs", () => {
    const paper = docs("delivery.md");
    const who = { person: "a person", service: "the service", server: "the mail server" };
    for (const machine of [MESSAGE_MACHINE, RUN_MACHINE]) {
      expect(machine.moves.length).toBeGreaterThan(10);
      for (const move of machine.moves)
        expect(paper).toContain(
          `| ${move.event} | ${move.from.join(", ")} | ${move.to} | ${move.guards.join(", ")} | ${who[move.by]} | ${move.means} |`,
        );
      for (const [guard, words] of Object.entries(machine.guards)) expect(paper).toContain(`- **${guard}**: ${words}`);
    }
    const rows = [...paper.matchAll(/^\| ([a-z-]+) \|(?: [^|]* \|){5}$/gm)].map((row) => row[1]);
    const moves = ["move", "move", ...MESSAGE_MACHINE.moves, ...RUN_MACHINE.moves].map((move) =>
      typeof move === "string" ? move : move.event,
    );
    expect(rows.sort()).toEqual(moves.sort());
  });

  it("about what guards against what: each test that is named is there", () => {
    const page = readFileSync("docs/security.md", "utf8");
    const named = [...page.matchAll(/`((?:[a-z-]+\/)*test\/[\w./-]+)`/g)].map(([, path]) => path ?? "");
    expect(named.length).toBeGreaterThan(30);
    expect(named.filter((path) => !existsSync(path))).toEqual([]);
  });

  it("about limits and times", () => {
    const paper = docs("operating.md");
    for (const words of [
      "1,048,576 signs, 20,000 entries",
      "10,000 signs, 100 levels, 1,000 joined operators",
      `for ${spelled(SILENCE_MS / 1000)} seconds`,
      `older than ${spelled(LEASE_MS / 1000)} seconds`,
    ])
      expect(paper).toContain(words);
  });
});

function spelled(number: number): string {
  return ["zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"][number];
}
