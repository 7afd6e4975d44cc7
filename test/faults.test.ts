import { describe, expect, it } from "vitest";
import { FAULTS, runFaults } from "./faults/faults.mjs";

describe("kills, freezes, full disks and other faults while messages go out", () => {
  it("lose nothing, send nothing twice, and nothing to the wrong people", async () => {
    const lines: string[] = [];
    const counts = await runFaults({
      kills: 16,
      groups: 60,
      seed: Date.now() % 1_000_000,
      periods: ["2026-08", "2026-09", "2026-10"],
      faults: FAULTS.filter((fault) =>
        ["defer", "full", "break-within", "break-after", "lose", "bounce"].includes(fault.does),
      ),
      say: (line: string) => lines.push(line),
    });
    expect(counts.flatMap((count) => count.wrong)).toEqual([]);
    expect(counts.map((count) => count.doubles + count.strays).reduce((sum, one) => sum + one, 0)).toBe(0);
    expect(counts.reduce((sum, count) => sum + count.kills, 0)).toBe(16);
    const of = (fault: string) => counts.find((count) => count.name.endsWith(fault))?.states ?? {};
    expect(of("break-after").unsure).toBeGreaterThan(0);
    expect(of("bounce").returned).toBeGreaterThan(0);
    process.stdout.write(`${lines.at(-1)}\n`);
  }, 900_000);
});
