import { type MeasuredGroup, MUCH, runSince } from "@corbix/core/run";
import { describe, expect, it } from "vitest";

const group = (label: string, rows: number, fees: string, bytes = 1_000) => ({
  key: label.toLowerCase(),
  label,
  rows,
  totals: { fees },
  bytes,
});

describe("a run beside the one before", () => {
  it("tells which groups are new and gone", () => {
    const { newCount, gone, groups } = runSince(
      [group("Dock", 3, "10"), group("Mole", 1, "2")],
      [group("Dock", 3, "10"), group("Quay", 4, "5")],
    );
    expect([newCount, gone]).toEqual([1, [{ label: "Quay", rows: 4 }]]);
    expect([...groups.keys()]).toEqual(["dock"]);
    expect(runSince([], [])).toMatchObject({ newCount: 0, gone: [], movedCount: 0, resizedCount: 0 });
  });

  it("measures what moved most among rows and totals, by the larger of both", () => {
    const moved = (now: MeasuredGroup, before: MeasuredGroup) => runSince([now], [before]).groups.get("dock")?.moved;
    expect(moved(group("Dock", 4, "10"), group("Dock", 3, "10"))).toBe(0.25);
    expect(moved(group("Dock", 3, "10.50"), group("Dock", 3, "21.00"))).toBe(MUCH);
    expect(moved(group("Dock", 3, "-5"), group("Dock", 3, "5"))).toBe(1);
    expect(moved(group("Dock", 0, "0"), group("Dock", 0, "0.00"))).toBe(0);
    expect(moved(group("Dock", 3, "7"), group("Dock", 3, "0"))).toBe(1);
    // Totals that one of them does not have say nothing.
    const other = { ...group("Dock", 3, ""), totals: { hours: "9" } };
    expect(moved(group("Dock", 3, "7"), other)).toBe(0);
  });

  it("names the figure that moved most, rows before totals where they moved alike", () => {
    const figure = (now: MeasuredGroup, before: MeasuredGroup) => runSince([now], [before]).groups.get("dock")?.figure;
    expect(figure(group("Dock", 4, "10"), group("Dock", 3, "9"))).toBeNull();
    expect(figure(group("Dock", 4, "10"), group("Dock", 3, "2"))).toBe("fees");
    expect(figure(group("Dock", 2, "2"), group("Dock", 1, "1"))).toBeNull();
  });

  it("counts what moved much and whose files have twice or half the size", () => {
    const { movedCount, resizedCount } = runSince(
      [group("A", 3, "10", 2_000), group("B", 3, "10", 1_999), group("C", 9, "10", 400)],
      [group("A", 3, "10", 1_000), group("B", 2, "9", 1_000), group("C", 3, "10", 1_000)],
    );
    expect([movedCount, resizedCount]).toEqual([1, 2]);
  });
});
