/** The check sheet of a run: what was planned against what was made. */
import { type MadeParcel, proveRun } from "@corbix/core/run";
import fc from "fast-check";
import { describe, expect, it } from "vitest";

type PlanFacts = Parameters<typeof proveRun>[0];

const file = (more: Partial<MadeParcel["files"][number]> = {}): MadeParcel["files"][number] => ({
  path: "2026-10/Dock.xlsx",
  size: 1_200,
  plannedRowsDigest: "a1",
  rowsDigest: "a1",
  ...more,
});

const parcel = (more: Partial<MadeParcel> = {}): MadeParcel => ({
  key: "dock",
  label: "Dock",
  files: [file()],
  plannedFiles: 1,
  people: 2,
  messages: 1,
  ...more,
});

const plan = (more: Partial<PlanFacts> = {}): PlanFacts => ({
  rows: { master: 12, inGroups: 9, leftOut: [{ reason: "without Site", count: 3, rowNumbers: [4, 5, 6] }] },
  totals: [],
  findings: [],
  ...more,
});

describe("the proof", () => {
  it("says in sentences where all rows, totals, files and messages went", () => {
    const proof = proveRun(
      plan({
        totals: [
          { name: "fees", master: "1200.5", parcels: "1000", leftOut: "200.5", agrees: true },
          { name: "largest", master: "90", parcels: undefined, leftOut: "0", agrees: true },
        ],
        furtherRows: [
          {
            name: "costs",
            data: "costs",
            master: 5,
            inGroups: 4,
            leftOut: [{ reason: "belong to no group", count: 1, rowNumbers: [2] }],
          },
        ],
        sealedNames: ["Dock", "Quay"],
      }),
      [parcel({ mailBytes: 2_400_000 }), parcel({ key: "quay", label: "Quay", people: 1, mailBytes: 90_000 })],
    );
    expect(proof.sentences).toEqual([
      "12 rows = 9 in 2 groups + 3 left out (3 without Site).",
      "costs: 5 rows = 4 in groups + 1 left out (1 belong to no group).",
      "fees: 1,200.50 in the master = 1,000 in the parcels + 200.50 in rows of no group.",
      "largest is 90 over all rows kept.",
      "2 of 2 files made, none empty.",
      "2 messages to 3 people, 2.5 MB together, the largest 2.4 MB.",
      "Sealed: every file and message was searched for the names of 2 groups; none stands in another's.",
    ]);
    expect(proof.mayBeReleased).toBe(true);
  });

  it.each<[string, Partial<MadeParcel>, string, string]>([
    ["a file that is missing", { files: [] }, "file-missing", "0 of 1 files made."],
    ["an empty file", { files: [file({ size: 0 })] }, "file-empty", "1 of 1 files made, 1 of them empty."],
    [
      "a file made of other rows",
      { files: [file({ rowsDigest: "b2" })] },
      "wrong-rows",
      "1 of 1 files made, none empty.",
    ],
  ])("keeps a run with %s from being released, and its sentence says no other", (_, made, code, sentence) => {
    const proof = proveRun(plan(), [parcel(made)]);
    expect(proof.findings.map((one) => [one.code, one.severity, one.where])).toEqual([[code, "stop", "group Dock"]]);
    expect(proof.mayBeReleased).toBe(false);
    expect(proof.sentences).toContain(sentence);
  });

  it("names the parcels worth opening, each once with all its reasons", () => {
    const of = (number: number, rows: number, isNew = false) =>
      parcel({ label: `G${number}`, key: `g${number}`, number, rows, isNew });
    const { sample } = proveRun(plan(), [of(1, 5), of(2, 9, true), of(3, 1), of(4, 40)]);
    expect(sample).toEqual([
      { number: 1, label: "G1", why: "first" },
      { number: 2, label: "G2", why: "new" },
      { number: 3, label: "G3", why: "fewest rows (1)" },
      { number: 4, label: "G4", why: "last, most rows (40)" },
    ]);
    expect(proveRun(plan(), []).sample).toEqual([]);
  });

  it("says in its sentences what does not come out, what was made by stacking, and what leaked", () => {
    const { sentences, mayBeReleased } = proveRun(
      plan({
        rows: { master: 1_200, made: 1_000, inGroups: 2_200, leftOut: [] },
        totals: [{ name: "fees", master: "10", parcels: "9.5", leftOut: "0", agrees: false }],
        furtherRows: [{ name: "costs", data: "costs", master: 1, inGroups: 1, leftOut: [] }],
        sealedNames: ["Dock"],
        findings: [{ code: "other-group-inside", severity: "stop", where: "Dock", what: "x", advice: "y" }],
      }),
      [
        parcel({ files: [file({ size: 3_400_000 })], mailBytes: 12 }),
        parcel({ key: "q", people: 0, messages: 0, mailBytes: 0 }),
      ],
    );
    expect(sentences).toEqual([
      "1,200 rows + 1,000 made by stacking = 2,200 in 2 groups + 0 left out.",
      "costs: 1 row = 1 in groups + 0 left out.",
      "fees: 10 in the master ≠ 9.50 in the parcels.",
      "2 of 2 files made, none empty.",
      "1 message to 2 people, 1 kB together, the largest 1 kB.",
      "Sealed: every file and message was searched for the names of 1 group; 1 stand in another's.",
    ]);
    expect(mayBeReleased).toBe(false);
  });

  it("shows no new groups where all are new, three of them at most, and parcels of old records not at all", () => {
    const of = (number: number, isNew: boolean) => parcel({ label: `G${number}`, key: `g${number}`, number, isNew });
    expect(proveRun(plan(), [of(1, true), of(2, true), of(3, true)]).sample?.map((one) => one.why)).toEqual([
      "first, fewest rows (0)",
      "last, most rows (0)",
    ]);
    const many = proveRun(plan(), [of(1, false), ...[2, 3, 4, 5, 6].map((number) => of(number, true)), of(7, false)]);
    expect(many.sample?.filter((one) => one.why === "new").map((one) => one.number)).toEqual([2, 3, 4]);
    expect(proveRun(plan(), [parcel(), parcel({ key: "old" })]).sample).toEqual([]);
  });

  it("counts what was made, whatever was", () => {
    const files = fc.array(fc.record({ size: fc.nat(4), isOwn: fc.boolean() }), { maxLength: 4 });
    const parcels = fc.array(fc.record({ files, planned: fc.nat(4), people: fc.nat(3), messages: fc.nat(2) }));
    fc.assert(
      fc.property(parcels, (list) => {
        const made = list.map((one, at) =>
          parcel({
            key: `${at}`,
            plannedFiles: one.planned,
            people: one.people,
            messages: one.messages,
            files: one.files.map(({ size, isOwn }) => file({ size, rowsDigest: isOwn ? "a1" : "b2" })),
          }),
        );
        const proof = proveRun(plan(), made);
        const all = list.flatMap((one) => one.files);
        expect(proof.files).toEqual({
          planned: list.reduce((sum, one) => sum + one.planned, 0),
          made: all.length,
          empty: all.filter((one) => one.size === 0).length,
          bytes: all.reduce((sum, one) => sum + one.size, 0),
        });
        expect(proof.people).toBe(list.reduce((sum, one) => sum + (one.messages > 0 ? one.people : 0), 0));
        const isWhole = list.every((one) => one.files.length === one.planned);
        expect(proof.mayBeReleased).toBe(isWhole && all.every((one) => one.size > 0 && one.isOwn));
      }),
    );
  });
});
