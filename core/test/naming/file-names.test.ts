import { safeFolder, safeName, uniqueName } from "@corbix/core/naming";
import { describe, expect, it } from "vitest";

describe("names of files", () => {
  it.each([
    ["Dock 1/2: north?", "Dock 1-2 north"],
    ["../../etc/passwd", "-..-etc-passwd"],
    ["CON", "_CON"],
    ["  ..hidden.. ", "hidden"],
    ["a\u202egpj.exe", "a gpj.exe"],
    ["", "unnamed"],
  ])("makes %j safe: %j", (given, safe) => {
    expect(safeName(given)).toBe(safe);
  });

  it("keeps folders inside, and long names short enough", () => {
    expect(safeFolder("../2026/./Oktober\\..\\x")).toBe("2026/Oktober/x");
    expect(Buffer.byteLength(safeName("ü".repeat(500)))).toBeLessThanOrEqual(180);
  });

  it("numbers names that are taken, also those that differ in capitals only", () => {
    const taken = new Set<string>();
    expect([
      uniqueName("Dock", ".pdf", taken),
      uniqueName("DOCK", ".pdf", taken),
      uniqueName("Dock", ".xlsx", taken),
    ]).toEqual(["Dock.pdf", "DOCK (2).pdf", "Dock.xlsx"]);
  });
});
