/** Who receives for a group, by which rule, and why nobody does: every rule for itself. */
import { matchRecipients, readRecipients } from "@corbix/core/recipients";
import { splitTable } from "@corbix/core/split";
import { loadTable } from "@corbix/core/table";
import { describe, expect, it } from "vitest";

const DAY = 46_328; // 2026-11-02
const table = (csv: string) => loadTable(Buffer.from(csv), "t.csv").table;
const people = (csv: string) => readRecipients(table(csv), "list").recipients;
const visits = table(
  "Site,Fee,Mail,Contact\nDock,1,ann@dock.example,Ann\nDock,2,ann@dock.example,Ann\nQuay,3,,\nMill,4,m@mill.example,\n",
);
const { groups } = splitTable(visits, ["Site"]);
const match = (csv: string, rules: Parameters<typeof matchRecipients>[2] = {}, some = groups) => {
  const found = matchRecipients(some, people(csv), rules);
  return {
    who: Object.fromEntries([...found.byGroup].map(([key, own]) => [key, own.map((one) => one.name)])),
    why: Object.fromEntries([...found.byGroup].map(([key, own]) => [key, own.map((one) => one.why)])),
    nobody: Object.fromEntries(found.nobody),
    findings: found.findings.map((one) => `${one.severity} ${one.code}`),
    said: found.findings.map((one) => one.what),
    advice: found.findings.map((one) => one.advice ?? ""),
  };
};
const [dock] = groups.filter((group) => group.key === "dock");

describe("the people of the list", () => {
  it("receive for their group, whatever its spelling, and those for all for every group, in the list's order", () => {
    const { who, why, nobody } = match(
      "Group,Name,Addresses\n*,All,all@x.example\n dock,Ann,ann@x.example\nQUAY,Ben,ben@x.example\n*,Last,last@x.example\n",
    );
    expect(who).toEqual({ dock: ["All", "Ann", "Last"], mill: ["All", "Last"], quay: ["All", "Ben", "Last"] });
    expect(why.dock).toEqual([
      "row 2 of the list stands for all groups",
      'row 3 of the list stands for "dock"',
      "row 5 of the list stands for all groups",
    ]);
    expect(nobody).toEqual({});
  });

  it.each([
    ["From", "2026-11-02", true, ""],
    ["From", "2026-11-03", false, "is active from 2026-11-03 on"],
    ["Until", "2026-11-02", true, ""],
    ["Until", "2026-11-01", false, "was active until 2026-11-01"],
    ["Never send", "no", true, ""],
    ["Never send", "yes", false, "is never to be sent to"],
  ])("count by the day and by who is never sent to: %s %s", (column, value, isIn, why) => {
    const found = match(`Group,Name,Addresses,${column}\nDock,Ann,ann@x.example,${value}\n`, { date: DAY }, [dock]);
    expect(found.who).toEqual(isIn ? { dock: ["Ann"] } : {});
    expect(found.nobody).toEqual(isIn ? {} : { dock: `row 2 ("Ann") ${why}` });
    // Without a day all that have one count.
    if (column !== "Never send")
      expect(match(`Group,Name,Addresses,${column}\nDock,Ann,ann@x.example,${value}\n`, {}, [dock]).who).toEqual({
        dock: ["Ann"],
      });
  });

  it("are those of the dataset, and of the fields that a report asks for; others are no news", () => {
    const list =
      "Group,Name,Addresses,Dataset,Duty\nDock,Ann,ann@x.example,visits,Manager\nDock,Ben,ben@x.example,costs,manager\nDock,Cid,cid@x.example,,deputy\nDock,Dee,dee@x.example,,\nGone,Eve,eve@x.example,costs,\n";
    expect(match(list, { dataset: "Visits" }, [dock]).who).toEqual({ dock: ["Ann", "Cid", "Dee"] });
    expect(match(list, {}, [dock]).who).toEqual({ dock: ["Ann", "Ben", "Cid", "Dee"] });
    expect(match(list, { narrow: { duty: "MANAGER" } }, [dock]).who).toEqual({ dock: ["Ann", "Ben"] });
    expect(match(list, { narrow: { Duty: ["manager", "deputy"] }, dataset: "visits" }, [dock]).who).toEqual({
      dock: ["Ann", "Cid"],
    });
    const none = match(list, { narrow: { duty: "chief" } }, [dock]);
    expect(none.nobody.dock).toBe(
      'row 2 ("Ann") has "Manager" as duty, and row 3 ("Ben") has "manager" as duty, and row 4 ("Cid") has "deputy" as duty, and row 5 ("Dee") has no duty',
    );
    expect(match(list, { narrow: { other: "x" } }, [dock]).nobody.dock).toContain('row 2 ("Ann") has no other');
    // Eve is for another dataset: that her group has no rows here says nothing.
    expect(match(list, { dataset: "visits" }, [dock]).findings).toEqual([]);
    expect(match(list, {}, [dock]).said).toEqual(['"Eve" receives for "Gone", which has no rows this time.']);
  });

  it("whose rows are none are named where the report has had their group, or it is nearly one that nobody receives for", () => {
    const list =
      "Group,Name,Addresses\nGone,Eve,eve@x.example\nDock,Ann,ann@x.example\nMil,Fay,fay@x.example\nMooorl,Gus,gus@x.example\n";
    const [mill] = groups.filter((group) => group.key === "mill");
    const plain = match(list, {}, [dock, mill]);
    expect(plain.said.filter((what) => what.includes("no rows"))).toHaveLength(3);
    const known = match(list, { known: new Set(["dock"]) }, [dock, mill]);
    expect(known.said).toEqual([
      expect.stringContaining('Nobody receives for "Mill" (1 row)'),
      '"Fay" receives for "Mil", which has no rows this time.',
    ]);
    expect(known.advice[1]).toContain('Nobody receives for "mill": if it is the same, correct the list');
    expect(match(list, { known: new Set(["gone"]) }, [dock]).advice).toEqual([
      "Nothing is sent. If there should be rows, look at the spelling.",
    ]);
    expect(
      match(list, { known: new Set(["dock"]), present: new Set(["gone", "mil", "mooorl"]) }, [dock]).findings,
    ).toEqual([]);
  });

  it("who get copies only are no receivers, and an address that stands twice is told with both names", () => {
    const copies = match("Group,Name,Addresses,Role\nDock,Ann,ann@x.example,copy\n", {}, [dock]);
    expect(copies.nobody).toEqual({ dock: "there are only people who get copies" });
    const twice = match(
      "Group,Name,Addresses\nDock,Ann,ann@x.example\nDock,Office,ANN@x.example; b@x.example\nDock,Ben,b@x.example\n",
      {},
      [dock],
    );
    expect(twice.who.dock).toEqual(["Ann", "Office", "Ben"]);
    expect(twice.said).toEqual([
      'ANN@x.example stands twice for "Dock" (Ann and Office). It gets one message.',
      'b@x.example stands twice for "Dock" (Office and Ben). It gets one message.',
    ]);
    const same = match("Group,Name,Addresses\nDock,Ann,ann@x.example\nDock,Ann,ann@x.example\n", {}, [dock]);
    expect(same.said[0]).toContain("(Ann)");
  });
});

describe("others than the list's", () => {
  const list = "Group,Name,Addresses\nDock,Ann,ann@list.example\nQuay,Ben,ben@list.example\n";

  it("are whom the report names for a group, and for that group only", () => {
    const instead = [
      { group: "DOCK ", to: "Zoe Quill <zoe@x.example>; y@x.example", name: "Zoe", copies: "chief@x.example" },
    ];
    const found = matchRecipients(groups, people(list), { instead });
    expect(found.byGroup.get("dock")).toMatchObject([
      {
        name: "Zoe",
        to: [{ address: "zoe@x.example" }, { address: "y@x.example" }],
        copies: [{ address: "chief@x.example" }],
        why: 'the report names them for "Dock"',
      },
    ]);
    expect(found.byGroup.get("quay")?.map((one) => one.name)).toEqual(["Ben"]);
    const bad = match(list, { instead: [{ group: "Dock", to: "nobody" }] }, [dock]);
    expect(bad.nobody).toEqual({ dock: "the report names no address that can be used for it" });
    const gone = match(list, { instead: [{ group: "Doc", to: "z@x.example" }] });
    expect(gone.findings[0]).toBe("warn instead-without-rows");
    expect(gone.said[0]).toBe('Somebody receives in place of the list for "Doc", which has no rows this time.');
    expect(gone.advice[0]).toContain("Dock");
    expect(
      match(list, { instead: [{ group: "Doc", to: "z@x.example" }], present: new Set(["doc"]) }).findings,
    ).not.toContain("warn instead-without-rows");
  });

  it("are the addresses of its rows, with their names; several different ones are told", () => {
    const column = { column: "mail", name: "CONTACT", besides: false };
    const found = match(list, { column, table: visits });
    expect([found.who, found.nobody]).toEqual([{ dock: ["Ann"], mill: ["m@mill.example"], quay: ["Ben"] }, {}]);
    expect(found.why.dock).toEqual(["the column mail of its rows holds the address"]);
    expect(match(list, { column: { ...column, besides: true }, table: visits }).who.dock).toEqual(["Ann", "Ann"]);
    expect(match("Group,Name,Addresses\n", { column, table: visits }).nobody).toEqual({
      quay: "the column mail holds no address for it and no row of the list names it",
    });
    const mixed = table(
      "Site,Mail,Contact\nDock,a@x.example,Ann\nDock,B@x.example,Ben\nDock,b@X.example,Ben\nQuay,c@x.example; d@x.example,\n",
    );
    const several = match("Group,Name,Addresses\n", { column, table: mixed }, [...splitTable(mixed, ["Site"]).groups]);
    expect(several.said).toEqual([
      expect.stringMatching(
        /^The rows of "Dock" name 2 addresses: a@x.example, B@x.example.*\(Ann, Ben\)\. All of them get its rows\.$/,
      ),
    ]);
    expect(
      match("Group,Name,Addresses\n", { column: { column: "gone", besides: false }, table: visits }, [dock]).nobody
        .dock,
    ).toContain("the column gone holds no address");
  });
});

describe("people that are found otherwise", () => {
  const list = "Group,Name,Addresses\nNorth,Nora,nora@x.example\nSouth,Sol,sol@x.example\n*,All,all@x.example\n";
  const regions = table(
    "Site,Region\nDock,North\nDock, north \nQuay,South\nMill,\nYard,North\nYard,South\nPier,West\n",
  );
  const sites = splitTable(regions, ["Site"]).groups;

  it("are those of another column's value, and nobody where rows have several or none", () => {
    const { who, why, nobody, findings, said } = match(list, { by: "region", table: regions }, sites);
    expect(who).toEqual({ dock: ["Nora", "All"], quay: ["Sol", "All"], pier: ["All"] });
    expect(why.dock[0]).toBe('row 2 of the list stands for "North", the region of its rows');
    expect(nobody).toEqual({
      mill: "its rows have no region to look up in the list",
      yard: "its rows have several values of region",
    });
    expect(findings).toContain("stop several-looked-up");
    expect(said).toContain(
      'The rows of "Yard" have 2 values of region: "North", "South". People found by one of them would get rows of the others.',
    );
    const { nobody: none } = match(list.replace(/\*.*\n/, ""), { by: "region", table: regions }, sites);
    expect(none.pier).toBe('no row of the list names "West", the region of its rows');
  });

  it("are the same for every group, whatever the list says", () => {
    const always = { addresses: ["chief@x.example", "deputy@x.example"], name: "Chief" };
    const { who, why, findings } = match(list, { always }, sites);
    expect(who).toEqual({ dock: ["Chief"], mill: ["Chief"], pier: ["Chief"], quay: ["Chief"], yard: ["Chief"] });
    expect(why.dock).toEqual(["the report names it for every group"]);
    expect(findings).toEqual([]);
    expect(
      matchRecipients(sites, [], { always })
        .byGroup.get("quay")?.[0]
        .to.map((one) => one.address),
    ).toEqual(always.addresses);
  });
});
