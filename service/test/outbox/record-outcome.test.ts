/** What is written down when: nobody is told that all is done while the telling of a run is on its way. */
import { describe, expect, it } from "vitest";
import { Settling } from "../../dist/outbox/record-outcome.js";

describe("what became of messages", () => {
  it("is told before it counts as told, however short ago a run was touched", async () => {
    const told: string[] = [];
    let letGo: () => void = () => {};
    const held = new Promise<void>((resolve) => {
      letGo = resolve;
    });
    const settling = new Settling({ log: { warn: () => {} } } as never, async (runs) => {
      await held;
      told.push(...runs);
    });
    settling.touch("7");
    let isIdle = false;
    const idle = settling.idle().then(() => {
      isIdle = true;
    });
    await new Promise((resolve) => setImmediate(resolve));
    expect([isIdle, told]).toEqual([false, []]);
    letGo();
    await idle;
    expect(told).toEqual(["7"]);
  });

  it("that could not be told is told with the next", async () => {
    const told: string[][] = [];
    let fails = true;
    const settling = new Settling({ log: { warn: () => {} } } as never, async (runs) => {
      told.push([...runs]);
      if (fails) throw new Error("the database is away");
    });
    settling.touch("7");
    await settling.idle();
    fails = false;
    settling.touch("8");
    await settling.idle();
    expect(told.at(-1)?.sort()).toEqual(["7", "8"]);
    await settling.idle();
    expect(told.flat().filter((run) => run === "8")).toHaveLength(1);
  });
});
