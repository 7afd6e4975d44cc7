import { type AttachmentSource, findAttachments } from "@corbix/core/run";
import { describe, expect, it } from "vitest";

type Wanted = { readonly needed?: "run" | "group" | boolean; readonly pattern: string; readonly forAll?: boolean };

const FILES: Record<string, string> = {
  "Dock plan.pdf": "dock",
  "Quay plan.pdf": "quay",
  "Quay plan B.pdf": "quay, too",
  "Quay East plan.pdf": "east",
  "empty.pdf": "",
  "plans/Dock.pdf": "in a folder",
  "plans/.hidden.pdf": "no",
  "CAFÉ plan.pdf": "café",
};

const source: AttachmentSource = {
  fixed: async (name) => {
    if (name !== "terms.pdf") throw new Error("not in the library");
    return Buffer.from("terms");
  },
  list: async (folder) =>
    Object.keys(FILES).flatMap((path) => {
      const cut = path.lastIndexOf("/");
      return path.slice(0, Math.max(0, cut)) === folder ? [path.slice(cut + 1)] : [];
    }),
  read: async (path) => (path in FILES ? Buffer.from(FILES[path] as string) : undefined),
};

async function find(groups: Record<string, readonly (Wanted | string)[]>, names = Object.keys(groups)) {
  const parcels = Object.entries(groups).map(([label, enclosed], index) => ({
    number: index + 1,
    group: { key: label.toLowerCase(), label, rows: [0] },
    enclosed: enclosed.map((one) =>
      typeof one === "string"
        ? { kind: "fixed" as const, name: one }
        : { kind: "found" as const, needed: "run" as const, forAll: false, ...one },
    ),
  }));
  const found = await findAttachments(parcels as never, names, source, async (bytes) => ({
    text: Buffer.from(bytes).toString(),
  }));
  return {
    files: [...found.files.values()].map((own) => own.map((file) => `${file.name}=${file.text}`).join("; ")),
    leftOut: [...found.leftOut.keys()],
    findings: found.findings.map((one) => `${one.severity} ${one.code}`),
    what: found.findings.map((one) => one.what).join(" "),
  };
}

describe("files that go along", () => {
  it("are the library's for everybody, and in the folder each group's own by its name", async () => {
    const made = await find({
      Dock: ["terms.pdf", { pattern: "Dock plan.pdf" }],
      Mill: ["terms.pdf", { pattern: "plans/Dock.pdf", forAll: true }],
    });
    expect(made).toMatchObject({
      files: ["terms.pdf=terms; Dock plan.pdf=dock", "terms.pdf=terms; Dock.pdf=in a folder"],
      findings: [],
    });
  });

  it("are found whatever the capitals and the way accents are written", async () => {
    expect((await find({ Café: [{ pattern: "cafe\u0301 PLAN.pdf" }] })).files).toEqual(["CAFÉ plan.pdf=café"]);
  });

  it.each([
    ["is not there", { pattern: "Weir plan.pdf" }, "stop attachment-not-found"],
    ["is there twice", { pattern: "Quay plan*.pdf" }, "stop attachment-found-twice"],
    ["is empty", { pattern: "empty.pdf" }, "stop attachment-empty"],
    ["is hidden", { pattern: "plans/.hidden.pdf" }, "stop attachment-not-found"],
    ["lies outside", { pattern: "../Dock plan.pdf" }, "stop attachment-not-found"],
    ["lies at the root of the machine", { pattern: "/etc/passwd" }, "stop attachment-not-found"],
    ["has no name", { pattern: "Dock\0 plan.pdf" }, "stop attachment-not-found"],
  ])("a file that %s stops the run", async (_, wanted, finding) => {
    const made = await find({ Somebody: [wanted] });
    expect(made.files).toEqual([""]);
    expect(made.findings).toEqual([finding]);
  });

  it("are another's where their name holds another group's as words of its own, and only then", async () => {
    const wanted = { pattern: "Quay East*.pdf" };
    expect((await find({ "Quay East": [wanted] }, ["Quay East", "Quay", ""])).findings).toEqual([]);
    const other = await find({ Depot: [{ pattern: "*East plan.pdf" }] }, ["Depot", "Quay", "uay", "plan B"]);
    expect(other.findings).toEqual(["stop attachment-of-another"]);
    expect(other.what).toBe('"Quay East plan.pdf" names "Quay", and would go to "Depot".');
  });

  it("that is listed and cannot be read when it is fetched stops the run", async () => {
    const gone: AttachmentSource = { ...source, read: async () => undefined };
    const parcel = {
      number: 1,
      group: { key: "dock", label: "Dock", rows: [0] },
      enclosed: [{ kind: "found", name: "x", pattern: "Dock plan.pdf", needed: true, forAll: false }],
    };
    const found = await findAttachments([parcel] as never, ["Dock"], gone, async () => ({}));
    expect(found.findings.map((one) => [one.code, one.what])).toEqual([
      ["attachment-empty", '"Dock plan.pdf" cannot be read.'],
    ]);
  });

  it("leave out the group alone, or let its message go without, where the report says so", async () => {
    const group = await find({
      Dock: [{ pattern: "Dock plan.pdf" }],
      Weir: [{ pattern: "Weir*.pdf", needed: "group" }],
    });
    expect(group).toMatchObject({ leftOut: [2], findings: ["warn attachment-not-found"] });
    const without = await find({ Weir: [{ pattern: "Weir*.pdf", needed: false }] });
    expect(without).toMatchObject({ leftOut: [], findings: ["warn attachment-not-found"] });
    // A wrong file never goes, whatever the report says.
    const wrong = await find({ Weir: [{ pattern: "Quay plan*.pdf", needed: false }] });
    expect(wrong).toMatchObject({ files: [""], findings: ["stop attachment-found-twice"] });
  });

  it("that two groups want are nobody's, unless they are said to be everybody's", async () => {
    const both = await find({ North: [{ pattern: "plans/*.pdf" }], South: [{ pattern: "plans/*.pdf" }] });
    expect(both.files).toEqual(["", ""]);
    expect(new Set(both.findings)).toEqual(new Set(["stop attachment-for-several"]));
    const all = await find({
      North: [{ pattern: "plans/*.pdf", forAll: true }],
      South: [{ pattern: "plans/*.pdf", forAll: true }],
    });
    expect(all.findings).toEqual([]);
  });

  it("that bear another group's name are not taken for one's own", async () => {
    const made = await find({ Quay: [{ pattern: "Quay E*plan.pdf" }] }, ["Quay", "Quay East"]);
    expect(made.files).toEqual([""]);
    expect(made.findings).toEqual(["stop attachment-of-another"]);
  });
});
