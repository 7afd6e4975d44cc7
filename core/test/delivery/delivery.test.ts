import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  fromStates,
  MESSAGE_MACHINE,
  type MessageEvent,
  type MessageGuard,
  type MessageState,
  nextState,
  occasionKey,
  onceOf,
  onceSentence,
  outlookOf,
  pairsOf,
  RUN_MACHINE,
  type RunEvent,
  type RunGuard,
  type RunState,
  rowKeyReader,
} from "../../src/delivery/index.js";

/** A run of three messages to one group each, as the tables let it live; a person's words, the sender's moves and crashes in any order. */
interface World {
  run: RunState;
  released: boolean;
  approvals: Set<string>;
  stops: boolean;
  incident: boolean;
  messages: { state: MessageState; taken: boolean; began: number; words: number; sentTwiceUnasked: boolean }[];
}

const runHolds = (world: World, wanted: number): Record<RunGuard, boolean> => ({
  owned: true,
  "all-made": true,
  // These runs have messages.
  "nothing-due": world.messages.length === 0,
  provable: !world.stops,
  approved: world.approvals.size >= wanted,
  "nothing-on-its-way": !world.messages.some((one) => one.state === "queued" || one.state === "sending"),
  released: world.released,
  "no-incident": !world.incident,
});

const messageHolds = (world: World, index: number): Record<MessageGuard, boolean> => {
  const message = world.messages[index];
  return {
    released: world.released && !world.incident,
    delivering: world.run === "delivering",
    owned: true,
    due: !message.taken || message.words > 0,
    delivered: message.taken,
    "none-taken": !message.taken,
    // These messages are mail.
    repeatable: false,
  };
};

const RUN_EVENTS: readonly RunEvent[] = [
  "planned",
  "planned-empty",
  "all-made",
  "proved",
  "end-empty",
  "wait",
  "go-on",
  "fail",
  "release",
  "finish",
  "stop",
  "break-off",
];
const MESSAGE_EVENTS: readonly MessageEvent[] = [
  "leave-out",
  "pass-over",
  "begin",
  "take",
  "refuse",
  "put-off",
  "lose",
  "repeat",
  "decide-arrived",
  "decide-again",
  "take-up",
  "return",
  "confirm",
];

function apply(world: World, step: Step, wanted: number): void {
  if (step.kind === "approve") {
    if (world.run === "held") world.approvals.add(step.by);
    return;
  }
  if (step.kind === "run") {
    const moved = nextState(RUN_MACHINE, world.run, step.event, runHolds(world, wanted));
    if (!("state" in moved)) return;
    world.run = moved.state;
    if (step.event === "release") {
      world.released = true;
      for (const [index, message] of world.messages.entries()) move(world, index, "release", message);
    }
    if (step.event === "stop" || step.event === "break-off") {
      if (step.event === "break-off") world.incident = true;
      for (const [index, message] of world.messages.entries()) move(world, index, "leave-out", message);
    }
    return;
  }
  const message = world.messages[step.index];
  // A word of a person on a message reopens its run first, or is refused whole.
  if (step.event === "decide-again" || step.event === "take-up") {
    if (!fromStates(MESSAGE_MACHINE, step.event).includes(message.state)) return;
    if (world.run !== "delivering") {
      const moved = nextState(RUN_MACHINE, world.run, "reopen", runHolds(world, wanted));
      if (!("state" in moved)) return;
      world.run = moved.state;
    }
    if (move(world, step.index, step.event, message)) message.words++;
    return;
  }
  move(world, step.index, step.event, message);
}

function move(world: World, index: number, event: MessageEvent, message: World["messages"][number]): boolean {
  const moved = nextState(MESSAGE_MACHINE, message.state, event, messageHolds(world, index));
  if (!("state" in moved)) return false;
  message.state = moved.state;
  if (event === "begin") {
    message.began++;
    if (message.taken && message.words === 0) message.sentTwiceUnasked = true;
  }
  if (event === "take" || event === "decide-arrived") message.taken = true;
  return true;
}

type Step =
  | { readonly kind: "approve"; readonly by: string }
  | { readonly kind: "run"; readonly event: RunEvent }
  | { readonly kind: "message"; readonly index: number; readonly event: MessageEvent };

const steps: fc.Arbitrary<Step> = fc.oneof(
  { weight: 2, arbitrary: fc.record({ kind: fc.constant("approve" as const), by: fc.constantFrom("ann", "ben") }) },
  { weight: 3, arbitrary: fc.record({ kind: fc.constant("run" as const), event: fc.constantFrom(...RUN_EVENTS) }) },
  { weight: 3, arbitrary: fc.constant({ kind: "run" as const, event: "release" as const }) },
  {
    weight: 4,
    arbitrary: fc.record({
      kind: fc.constant("message" as const),
      index: fc.nat(2),
      event: fc.constant("begin" as const),
    }),
  },
  {
    weight: 8,
    arbitrary: fc.record({
      kind: fc.constant("message" as const),
      index: fc.nat(2),
      event: fc.constantFrom(...MESSAGE_EVENTS),
    }),
  },
);

describe("the life of runs and messages", () => {
  it("holds its promises whatever happens in whatever order", () => {
    let begun = 0;
    fc.assert(
      fc.property(
        fc.array(steps, { minLength: 5, maxLength: 120 }),
        fc.constantFrom(false, false, false, true),
        fc.constantFrom(1, 2),
        (sequence, stops, wanted) => {
          const world: World = {
            run: "held",
            released: false,
            approvals: new Set(wanted === 1 ? ["ann"] : []),
            stops,
            incident: false,
            messages: [0, 1, 2].map(() => ({
              state: "held",
              taken: false,
              began: 0,
              words: 0,
              sentTwiceUnasked: false,
            })),
          };
          for (const step of sequence) {
            apply(world, step, wanted);
            const onTheWay = world.messages.filter((one) => one.state === "queued" || one.state === "sending");
            // Nothing goes without a release, and none is given over a finding that stops or with a person missing.
            if (!world.released) expect(world.messages.every((one) => one.began === 0)).toBe(true);
            if (world.released) expect(stops || world.approvals.size < wanted).toBe(false);
            // No end while something is on its way; what was on its lines when a run was stopped comes to its own end.
            if (world.run === "done") expect(onTheWay).toEqual([]);
            if (world.run === "stopped") expect(onTheWay.filter((one) => one.state === "queued")).toEqual([]);
            expect(world.messages.some((one) => one.sentTwiceUnasked)).toBe(false);
          }
          begun += world.messages.reduce((sum, one) => sum + one.began, 0);
        },
      ),
      { numRuns: 3_000 },
    );
    // The sequences do reach the sending.
    expect(begun).toBeGreaterThan(500);
  });

  it("has no state that nothing leads to, and names a reason for every guard", () => {
    for (const machine of [MESSAGE_MACHINE, RUN_MACHINE]) {
      const reached = new Set<string>(pairsOf(machine as typeof RUN_MACHINE).map(([, to]) => to));
      expect(machine.states.filter((state) => state !== machine.initial && !reached.has(state))).toEqual([]);
      for (const move of machine.moves) {
        expect(move.means.length).toBeGreaterThan(5);
        for (const guard of move.guards) expect(Object.keys(machine.guards)).toContain(guard);
      }
    }
  });

  it("says why something may not be", () => {
    const none: Record<MessageGuard, boolean> = {
      released: false,
      delivering: true,
      owned: true,
      due: true,
      delivered: false,
      "none-taken": true,
      repeatable: true,
    };
    expect(nextState(MESSAGE_MACHINE, "held", "release", none)).toEqual({ refused: "guard", guard: "released" });
    expect(nextState(MESSAGE_MACHINE, "sent", "begin", none)).toEqual({ refused: "state" });
    expect(nextState(MESSAGE_MACHINE, "held", "release", { ...none, released: true })).toEqual({ state: "queued" });
  });
});

describe("occasions", () => {
  const facts = { run: "7f3a", period: "2026-10", edition: 4, isPicked: false };

  it("are the period where there is one, the edition where there is none, and what the report says", () => {
    const month = { period: { column: "day", every: "month" as const }, once: undefined };
    expect(occasionKey(onceOf(month), facts)).toBe("2026-10");
    expect(occasionKey(onceOf({ period: undefined, once: undefined }), facts)).toBe("edition 4");
    expect(occasionKey(onceOf({ ...month, once: "edition" }), facts)).toBe("edition 4");
    expect(occasionKey(onceOf({ ...month, once: "hand" }), facts)).toBe("run 7f3a");
    expect(occasionKey(onceOf({ ...month, once: { per: ["visit_no"] } }), facts)).toBe("rows of run 7f3a");
    expect(occasionKey(onceOf(month), { ...facts, isPicked: true })).toBe("2026-10, rows of run 7f3a");
  });

  it("tell rows apart by cleaned values, and know no key where all are blank", () => {
    const table = {
      columns: [
        { name: "Visit no", type: "text" as const, values: [" V-1 ", "v-1", null] },
        { name: "Year", type: "number" as const, values: [2026, 2026, null] },
      ],
      rowCount: 3,
      rowNumbers: [2, 3, 4],
    };
    const read = rowKeyReader(table, ["visit_no", "year"]);
    expect(read(0)).toBe(read(1));
    expect(read(0)).toBeDefined();
    expect(read(2)).toBeUndefined();
  });

  it("are told before the release in sentences that add up", () => {
    const outlook = outlookOf(
      [
        { label: "A", what: "go", messages: 1 },
        { label: "B", what: "had", messages: 0, day: "2026-12-02" },
        { label: "C", what: "had", messages: 0, day: "2026-12-02" },
        { label: "D", what: "some", messages: 1 },
        { label: "E", what: "none", messages: 0 },
      ],
      { going: 3, messages: 4, none: 1 },
      (day) => day,
    );
    expect(outlook.sentences).toEqual([
      "2 of 9 groups have theirs already, on 2026-12-02; they are skipped.",
      "1 group gets it only where it did not arrive before: D.",
    ]);
    expect(outlook).toMatchObject({ groups: 9, messages: 6, going: 4, some: 1, had: 2, none: 2 });
  });
});

describe("what is said before a release", () => {
  const group = (label: string, what: "go" | "some" | "again" | "had" | "none", day?: string) => ({
    label,
    what,
    messages: what === "had" || what === "none" ? 0 : 1,
    ...(day ? { day } : {}),
  });
  const say = (...groups: ReturnType<typeof group>[]) =>
    outlookOf(groups, { going: 0, messages: 0, none: 0 }, (day) => day.slice(8)).sentences;

  it("names who has it already and since when, who gets the rest of it, and who gets it again", () => {
    expect(say(group("Dock", "go"), group("Quay", "none"))).toEqual([]);
    expect(say(group("Dock", "had", "2026-10-02"), group("Quay", "go"))).toEqual([
      "1 of 2 groups has its already, on 02; it is skipped.",
    ]);
    expect(say(...[1, 2, 3, 4, 3].map((day, at) => group(`G${at}`, "had", `2026-10-0${day}`)))).toEqual([
      "5 of 5 groups have theirs already, on 01, 02, 03 and other days; they are skipped.",
    ]);
    expect(say(group("Dock", "some"))).toEqual(["1 group gets it only where it did not arrive before: Dock."]);
    expect(say(...[1, 2, 3, 4, 5, 6, 7].map((at) => group(`G${at}`, "some")))).toEqual([
      "7 groups get it only where it did not arrive before: G1, G2, G3, G4, G5 and 2 more.",
    ]);
    expect(say(group("Dock", "again", "2026-10-02"))).toEqual(["1 group gets its again, marked as sent again, on 02."]);
    expect(say(group("Dock", "again"), group("Quay", "again"))).toEqual([
      "2 groups get theirs again, marked as sent again.",
    ]);
  });

  it("tells what may happen once", () => {
    const sentences = (["period", "edition", "hand"] as const).map((kind) => onceSentence({ kind, per: [] }));
    expect(sentences).toEqual([
      "Each group gets it once for a period.",
      "Each group gets it once for an edition of the data.",
      "It goes out whenever a person runs it: each run is a delivery of its own.",
    ]);
    expect(onceSentence({ kind: "row", per: ["unit", "day"] })).toBe(
      "Each row goes out once, told apart by unit and day.",
    );
  });
});
