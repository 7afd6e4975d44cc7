import {
  isStarred,
  type JournalBegin,
  type JournalEnd,
  journalLine,
  leftMessages,
  readJournal,
  starredLine,
} from "@corbix/core/delivery";
import fc from "fast-check";
import { describe, expect, it } from "vitest";

const begin = (more: Partial<JournalBegin> = {}): JournalBegin => ({
  kind: "begin",
  at: "2026-11-02T07:30:00.000Z",
  process: "p1",
  id: "7",
  run: "a1",
  message: "<m1@lifts.example>",
  attempt: 1,
  report: "site-statement",
  occasion: "2026-10",
  group: "alder court",
  label: "Alder Court",
  part: "",
  counts: true,
  to: ["ruth@alder.example"],
  ...more,
});
const end = (more: Partial<JournalEnd> = {}): JournalEnd => ({
  kind: "end",
  at: "2026-11-02T07:30:01.000Z",
  run: "a1",
  message: "<m1@lifts.example>",
  attempt: 1,
  outcome: "sent",
  stage: "answer",
  response: "250 taken",
  taken: ["ruth@alder.example"],
  ...more,
});
const entriesOf = (bytes: Uint8Array) => [...readJournal(bytes)].map(({ entry }) => entry);

describe("the journal of what left", () => {
  it("is read as it was written, and a line that was being written when its process ended is none", () => {
    const text = [begin(), end()].map(journalLine).join("");
    expect(entriesOf(Buffer.from(text))).toEqual([begin(), end()]);
    for (let length = 0; length < text.length; length++) {
      const found = entriesOf(Buffer.from(text.slice(0, length)));
      expect(found).toEqual([begin(), end()].slice(0, found.length));
    }
  });

  it("knows each line that was changed, wherever", () => {
    fc.assert(
      fc.property(fc.nat(), fc.integer({ min: 1, max: 255 }), (place, other) => {
        const bytes = Buffer.from(journalLine(begin()) + journalLine(end()));
        const at = place % bytes.length;
        bytes[at] = (bytes[at] ?? 0) ^ other;
        const found = entriesOf(bytes);
        // Either a line is known as damaged, or an end of a line is gone: what is told is what was written.
        for (const entry of found) if (entry) expect([begin(), end()]).toContainEqual(entry);
        expect(found.filter(Boolean).length).toBeLessThan(2);
      }),
    );
  });

  it("names somebody no more in lines that stay as long as they were", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", minLength: 1, maxLength: 20 }), (name) => {
        const entry = begin({ to: [name, "tom@harbour.example"] });
        const line = starredLine(entry, (text) => text === name);
        if (/^\*+$/.test(name)) return;
        expect(Buffer.byteLength(`${line}\n`)).toBe(Buffer.byteLength(journalLine(entry)));
        const [told] = entriesOf(Buffer.from(`${line}\n`));
        expect(told).toMatchObject({ kind: "begin", to: [expect.stringMatching(/^\*+$/), "tom@harbour.example"] });
        expect(isStarred((told as JournalBegin).to[0] ?? "")).toBe(true);
      }),
    );
    expect(starredLine(begin(), () => false)).toBeUndefined();
    expect(starredLine(end({ response: "250 for ruth" }), (text) => text.includes("ruth"))).not.toContain("ruth");
  });
});

describe("what became of a message, by its journal", () => {
  const of = (...entries: readonly (JournalBegin | JournalEnd)[]) => leftMessages(entries).get("a1 <m1@lifts.example>");

  it("is sent where a server took it, unsure where nobody heard the end, and nothing where it was refused", () => {
    expect(of(begin(), end())).toMatchObject({ became: "sent", reached: ["ruth@alder.example"], maybe: [] });
    expect(of(begin())).toMatchObject({ became: "unsure", reached: [], maybe: ["ruth@alder.example"] });
    expect(of(begin(), end({ outcome: "unsure", taken: [] }))).toMatchObject({ became: "unsure" });
    expect(of(begin(), end({ outcome: "refused", taken: [] }))).toMatchObject({ became: "none" });
    expect(of(begin(), end({ outcome: "later", taken: [] }))).toMatchObject({ became: "none" });
  });

  it("counts all its attempts: who was reached at last is no question any more", () => {
    const two = begin({ to: ["ruth@alder.example", "tom@harbour.example"] });
    expect(of(two, begin({ ...two, attempt: 2 }), end({ attempt: 2, taken: two.to }))).toMatchObject({
      became: "sent",
      maybe: [],
    });
    expect(of(two, end(), begin({ to: ["tom@harbour.example"], attempt: 2 }))).toMatchObject({
      became: "unsure",
      reached: ["ruth@alder.example"],
      maybe: ["tom@harbour.example"],
    });
    // An end belongs to the attempt that it names.
    expect(of(begin(), begin({ attempt: 2 }), end({ attempt: 2 }))).toMatchObject({ became: "sent" });
    expect(of(end(), begin())).toMatchObject({ became: "unsure" });
  });

  it("is told of each run and Message-ID by itself", () => {
    const all = leftMessages([begin(), begin({ run: "a2" }), end(), begin({ message: "<m2@lifts.example>" })]);
    expect([...all].map(([key, { became }]) => [key, became])).toEqual([
      ["a1 <m1@lifts.example>", "sent"],
      ["a2 <m1@lifts.example>", "unsure"],
      ["a1 <m2@lifts.example>", "unsure"],
    ]);
  });
});
