/** The pace of an identity, over a ledger that is made up. */
import { describe, expect, it } from "vitest";
import { Pace } from "../../dist/outbox/pace.js";

/** A database that answers every question with these rows, or is away; what it was told is kept. */
function paceOver(rows: readonly object[], isAway = false) {
  const told: unknown[][] = [];
  const answer = async (_: string, values: unknown[] = []) => {
    told.push(values);
    if (isAway) throw new Error("the database is away");
    return rows;
  };
  const database = { select: answer, execute: answer, change: answer, one: async () => rows[0] };
  const context = { database, now: () => new Date("2026-11-02T08:00:00Z") } as never;
  return { pace: new Pace(context, "office", 0), told };
}

describe("the pace of an identity", () => {
  it("lets a message go when its place in the minute has come, and none before the next", async () => {
    const { pace } = paceOver([{ wait: 0, ms: 0, count: 0, seconds: 0 }]);
    const slow = { perMinute: 0.2 };
    expect(await pace.slots(slow, 0)).toBe(1);
    pace.used(slow, 1);
    expect(await pace.slots(slow, 0)).toBe(0);
  });

  it("writes down where a slow one stands, and a database that is away ends nothing", async () => {
    const { pace, told } = paceOver([], true);
    pace.used({ perMinute: 600 }, 1);
    expect(told).toHaveLength(0);
    pace.used({ perMinute: 1 }, 2);
    await new Promise((resolve) => setImmediate(resolve));
    expect(told).toHaveLength(1);
  });
});
