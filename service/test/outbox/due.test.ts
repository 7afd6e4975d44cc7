/** Who is left to get a message. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { dueOf, type Had, hadOf } from "../../dist/outbox/waiting.js";

const NEVER: Had = { byOthers: new Set(), byPart: new Set(), isComplete: false, hasRows: false, by: undefined };
const address = fc.constantFrom("ann@dock.example", "Ben@dock.example", "cy@quay.example", "di@quay.example");
const list = fc.uniqueArray(address, { maxLength: 3 }).map((all) => all.map((one) => ({ address: one })));
const message = (to: string[], cc: string[] = [], results: object = {}) => ({
  envelope: { to: to.map((one) => ({ address: one })), cc: cc.map((one) => ({ address: one })), bcc: [] },
  results: results as never,
});

describe("who is left to get a message", () => {
  it("is everybody of it the first time, each once", () => {
    expect(
      dueOf(message(["ann@a.example", "Ann@A.example"], ["ann@a.example", "ben@a.example"]), NEVER, false),
    ).toEqual({
      addresses: ["Ann@A.example", "ben@a.example"],
      people: ["Ann@A.example"],
      isRepeat: false,
    });
  });

  it("is nobody whom an earlier try reached or was refused for, but who is to be tried later", () => {
    const results = {
      "Ann@a.example": { state: "taken", response: "" },
      "ben@a.example": { state: "refused", response: "" },
      "cy@a.example": { state: "later", response: "" },
    };
    expect(
      dueOf(message(["ann@a.example", "ben@a.example", "cy@a.example"], [], results), NEVER, false).addresses,
    ).toEqual(["cy@a.example"]);
  });

  it("never is somebody who has had it, unless a person said again, and then that is marked", () => {
    fc.assert(
      fc.property(
        list,
        list,
        list,
        fc.subarray(["ann@dock.example", "ben@dock.example", "cy@quay.example"]),
        (to, cc, bcc, had) => {
          const one = { envelope: { to, cc, bcc }, results: {} };
          const known = { ...NEVER, byPart: new Set(had) };
          const due = dueOf(one, known, false);
          expect(due.addresses.some((other) => had.includes(other.toLowerCase()))).toBe(false);
          expect(due.isRepeat).toBe(false);
          const again = dueOf(one, known, true);
          const all = [...to, ...cc, ...bcc].map((other) => other.address.toLowerCase());
          expect(new Set(again.addresses.map((other) => other.toLowerCase()))).toEqual(new Set(all));
          expect(again.isRepeat).toBe(all.some((other) => had.includes(other)));
        },
      ),
    );
  });

  it("is nobody where the part went to all of it, or rows that go out once are in it", () => {
    const one = message(["ann@a.example"], ["ben@a.example"]);
    for (const had of [
      { ...NEVER, isComplete: true },
      { ...NEVER, hasRows: true },
    ])
      expect(dueOf(one, had, false)).toEqual({ addresses: [], people: [], isRepeat: false });
    expect(dueOf(one, { ...NEVER, hasRows: true }, true).isRepeat).toBe(true);
  });

  it("are copies only where there is news for them", () => {
    const others = { ...NEVER, byOthers: new Set(["ann@a.example"]) };
    // All people were reached by another part, such as in another language.
    expect(dueOf(message(["ann@a.example"], ["ben@a.example"]), others, false).addresses).toEqual([]);
    // The part itself went to some: copies that it did not reach are still owed it.
    const part = { ...others, byPart: new Set(["cy@a.example"]) };
    expect(dueOf(message(["ann@a.example"], ["ben@a.example", "cy@a.example"]), part, false).addresses).toEqual([
      "ben@a.example",
    ]);
    // A message with copies alone goes to them.
    expect(dueOf(message([], ["ben@a.example"]), others, false).addresses).toEqual(["ben@a.example"]);
  });
});

describe("what the ledger knows", () => {
  const row = { by_others: null, by_part: null, complete: null, has_rows: false, last_run: null, last_at: null };

  it("is nothing where nothing was delivered", () => {
    expect(hadOf(row, "Europe/Zurich")).toEqual(NEVER);
  });

  it("names the run and the day in the office's zone", () => {
    const had = hadOf(
      { ...row, by_others: ["ann@a.example"], complete: true, last_run: "7", last_at: "2026-11-01T23:30:00Z" } as never,
      "Europe/Zurich",
    );
    expect(had).toMatchObject({ isComplete: true, by: { run: "7", day: "2026-11-02" } });
    expect([...had.byOthers]).toEqual(["ann@a.example"]);
  });
});
