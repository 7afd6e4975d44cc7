import { sumUpFindings } from "@corbix/core/common";
import { fromStates, type Machine, MESSAGE_MACHINE, nextState, pairsOf, RUN_MACHINE } from "@corbix/core/delivery";
import fc from "fast-check";
import { describe, expect, it } from "vitest";

const MACHINES: readonly (readonly [string, Machine<string, string, string>])[] = [
  ["messages", MESSAGE_MACHINE as never],
  ["runs", RUN_MACHINE as never],
];

describe.each(MACHINES)("the life of %s", (name, machine) => {
  const events = [...new Set(machine.moves.map((move) => move.event))];
  const guards = Object.keys(machine.guards);
  const step = fc.tuple(
    fc.constantFrom(...events),
    fc.array(fc.constantFrom(...(guards.length > 0 ? guards : ["none"]))),
  );

  it("only ever goes where its table leads, and what is refused says by which guard", () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
        let state = machine.initial;
        for (const [event, held] of steps) {
          const holds = Object.fromEntries(guards.map((guard) => [guard, held.includes(guard)]));
          const moved = nextState(machine, state, event, holds);
          if ("state" in moved) {
            expect(pairsOf(machine)).toContainEqual([state, moved.state]);
            expect(fromStates(machine, event)).toContain(state);
            state = moved.state;
          } else if (moved.refused === "guard") expect(holds[moved.guard]).toBe(false);
          else expect(fromStates(machine, event)).not.toContain(state);
        }
        expect(machine.states).toContain(state);
      }),
      { numRuns: 300 },
    );
  });

  it("can reach every state from its first one", () => {
    const reached = new Set([machine.initial]);
    for (let size = 0; size !== reached.size; ) {
      size = reached.size;
      for (const [from, to] of pairsOf(machine)) if (reached.has(from)) reached.add(to);
    }
    expect([name, [...reached].sort()]).toEqual([name, [...machine.states].sort()]);
  });
});

describe("what was sent", () => {
  it("goes on only by a person's word or a report, never back among what waits by the service itself", () => {
    for (const move of MESSAGE_MACHINE.moves)
      if (move.from.includes("sent") && (move.to === "queued" || move.to === "sending")) expect(move.by).toBe("person");
    for (const move of MESSAGE_MACHINE.moves)
      if (move.from.includes("unsure") && move.to !== "unsure") expect(move.by).not.toBe("service");
  });
});

describe("findings summed up", () => {
  const finding = fc.record({
    code: fc.constantFrom("a", "b", "c"),
    severity: fc.constantFrom("stop", "warn", "note" as const),
    where: fc.string({ maxLength: 5 }),
    what: fc.string({ maxLength: 5 }),
    advice: fc.constant("Look."),
  });

  it("leave none out of the count, keep what stops first, and tell few of a kind one by one", () => {
    fc.assert(
      fc.property(fc.array(finding, { maxLength: 60 }), (findings) => {
        const summed = sumUpFindings(findings);
        expect(summed.reduce((sum, one) => sum + one.times, 0)).toBe(findings.length);
        const order = summed.map((one) => ["stop", "warn", "note"].indexOf(one.severity));
        expect(order).toEqual([...order].sort((a, b) => a - b));
        for (const severity of ["stop", "warn", "note"])
          for (const code of ["a", "b", "c"]) {
            const own = findings.filter((one) => one.code === code && one.severity === severity).length;
            const told = summed.filter((one) => one.code === code && one.severity === severity);
            expect(told.length).toBe(own <= 5 ? own : 1);
          }
      }),
    );
  });
});
