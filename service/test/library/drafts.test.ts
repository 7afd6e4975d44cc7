/** Definitions looked at before anybody saves them. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";

interface Look {
  period: string;
  columns: { name: string; type: string }[];
  steps: { kind: string; rowsIn: number; rowsOut: number }[];
  rows: { master: number; inGroups: number; leftOut: { reason: string; count: number }[] };
  totals: { name: string; master: string; agrees: boolean }[];
  groups: { label: string; rows: number; people: number }[];
  groupCount: number;
  parcel: {
    label: string;
    cells: unknown[][];
    files: { path: string }[];
    messages: { subject: string; html: string }[];
    recipients: object[];
  } | null;
  problems: { code: string; title: string; where?: string }[];
  nextTimes: { at: string }[];
}

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" });
});
afterAll(() => service?.close());

const look = async (definition: string, wish: object = {}) =>
  service.call<Look & { code?: string; title?: string }>("POST", "/api/v1/drafts/look", { definition, ...wish });
const saved = async (): Promise<string> =>
  (await service.call<{ source: string }>("GET", "/api/v1/reports/site-statement")).body.source;

describe("a definition that is not saved", () => {
  it("is looked at over the data there are: steps, groups, totals, and what one group gets", async () => {
    const { body, status } = await look(await saved());
    expect([status, body.problems]).toEqual([200, []]);
    expect(body.groupCount).toBeGreaterThan(3);
    expect(body.groups.reduce((sum, group) => sum + group.rows, 0)).toBe(body.rows.inGroups);
    expect(body.rows.inGroups + body.rows.leftOut.reduce((sum, one) => sum + one.count, 0)).toBe(body.rows.master);
    expect(body.totals.every(({ agrees }) => agrees)).toBe(true);
    const { parcel } = body;
    expect(parcel?.files.length).toBeGreaterThan(0);
    expect(parcel?.messages[0].html).toContain("<table");
    expect(parcel?.recipients.length).toBeGreaterThan(0);
    const day = body.columns.findIndex(({ type }) => type === "date");
    expect(parcel?.cells[0][day]).toMatch(/^\d{4}-\d{2}-\d{2}$/);
  });

  it("shows any group, and those that are looked for", async () => {
    const source = await saved();
    const { label } = (await look(source)).body.groups[2];
    expect((await look(source, { group: label })).body.parcel?.label).toBe(label);
    const found = (await look(source, { search: label.slice(1, 6) })).body;
    expect(found.groups.map((group) => group.label)).toContain(label);
    expect(found.groupCount).toBeGreaterThan(found.groups.length);
  });

  it("tells what stands in the way of a part, and shows the others", async () => {
    const wrong = (await saved()).replace(/^( *subject:).*$/m, '$1 "{{ sitte }}"');
    const { body, status } = await look(wrong);
    expect(status).toBe(200);
    expect(body.problems).toHaveLength(1);
    expect(body.problems[0]).toMatchObject({ code: "BAD_EXPRESSION", where: expect.stringContaining("subject") });
    expect(body.problems[0].title).toContain("sitte");
    expect(body.groupCount).toBeGreaterThan(3);
    expect(body.parcel?.files.length).toBeGreaterThan(0);
  });

  it("is looked at over an older edition of its data where one is named, and its files are made of that", async () => {
    const office = smallOffice(() => service);
    await office.load("fees", "Site,Fee\nDock,1\nQuay,2\n");
    await office.load("fees", "Site,Fee\nDock,1\nQuay,2\nMole,3\n");
    const source =
      'report: fees\ntitle: Fees\ndata: fees\nsplit: site\nfiles: { rows: { name: "{{ site }}", table: {} } }\n';
    const groups = async (wish: object) => (await look(source, wish)).body.groups.map(({ label }) => label);
    expect(await groups({})).toEqual(["Dock", "Mole", "Quay"]);
    expect(await groups({ edition: 1 })).toEqual(["Dock", "Quay"]);
    const made = (edition: number) =>
      service.call("POST", "/api/v1/drafts/try", { definition: source, file: "rows", group: "Mole", edition });
    expect((await made(2)).status).toBe(200);
    expect(await made(1)).toMatchObject({ status: 404 });
    expect(await look(source, { edition: 9 })).toMatchObject({ status: 404 });
  });

  it("that is no definition, or of data that are not there, is refused with its place", async () => {
    expect((await look("report: [")).body).toMatchObject({ code: "BAD_DEFINITION" });
    expect((await look("report: x\ntitle: X\ndata: gone\nsplit: Site\n")).status).toBe(404);
  });

  it("tells when it would run by itself", async () => {
    const source =
      "report: x\ntitle: X\ndata: visits\nsplit: site\nschedule: { rule: FREQ=WEEKLY;BYDAY=FR, at: '17:00', zone: Europe/Zurich, from: '2026-01-02' }\n";
    const { body } = await look(source);
    // Each Friday of a year.
    expect([52, 53]).toContain(body.nextTimes.length);
    for (const { at } of body.nextTimes) expect(new Date(at).getUTCDay()).toBe(5);
  });

  it("makes a file to be looked at, and keeps nothing", async () => {
    const before = (await service.list<unknown>("/api/v1/reports")).length;
    const source = (await saved()).replace(/^report: .*$/m, "report: not-saved");
    const { body, status } = await service.call<{ id: string; files: { kind: string; pages?: number }[] }>(
      "POST",
      "/api/v1/drafts/try",
      {
        definition: source,
        file: "statement",
      },
    );
    expect([status, body.files.find(({ kind }) => kind === "pdf")?.pages]).toEqual([200, expect.any(Number)]);
    expect((await service.call("POST", "/api/v1/drafts/try", { definition: source, file: "gone" })).status).toBe(404);
    expect((await service.list<unknown>("/api/v1/reports")).length).toBe(before);
  });
});

describe("the versions of a report", () => {
  it("are kept with who saved them and why, and are shown as they were", async () => {
    const { source } = await service.client.get("/reports/{name}", { path: { name: "unit-figures" } });
    const put = (text: string, note?: string) =>
      service.call<{ number: number; note: string | null }>(
        "PUT",
        `/api/v1/reports/unit-figures${note === undefined ? "" : `?note=${encodeURIComponent(note)}`}`,
        text,
      );
    expect((await put(`${source}# second\n`, " figures & more ")).body).toMatchObject({
      number: 2,
      note: "figures & more",
    });
    expect((await put(`${source}# third\n`)).body).toMatchObject({ number: 3, note: null });
    const versions = await service.list<{ number: number; note: string | null; createdBy: string }>(
      "/api/v1/reports/unit-figures/versions?limit=2",
    );
    expect(versions.map(({ number, note }) => [number, note])).toEqual([
      [3, null],
      [2, "figures & more"],
      [1, null],
    ]);
    expect(versions[2].createdBy).toBe("demo");
    const second = await service.client.get("/reports/{name}/versions/{number}", {
      path: { name: "unit-figures", number: 2 },
    });
    expect(second.source).toBe(`${source}# second\n`);
    for (const gone of ["unit-figures/versions/9", "nothing/versions/1"]) {
      const said = await service.call<{ code: string }>("GET", `/api/v1/reports/${gone}`);
      expect([said.status, said.body.code]).toEqual([404, "NOT_FOUND"]);
    }
    expect((await put(source, "x".repeat(501))).status).toBe(400);
  });
});

describe("conditions while they are clicked", () => {
  it("are counted each for itself, with the rows they leave out", async () => {
    const { source } = await service.client.get("/reports/{name}", { path: { name: "site-statement" } });
    const conditions = ['result <> "cancelled"', "site = `nothing`"];
    const found = await service.client.post("/drafts/look", {
      body: { definition: source, period: "2026-10", conditions },
    });
    expect(found.conditions.map(({ holds, leavesOut, trouble }) => [holds, leavesOut, trouble !== null])).toEqual([
      [240, 3, false],
      [0, 0, true],
    ]);
    const [cancelled] = found.conditions;
    const result = found.loadedColumns.findIndex(({ name }) => name === "Result");
    expect(cancelled.cells.map((line) => line[result])).toEqual(["cancelled", "cancelled", "cancelled"]);
    expect(cancelled.rowNumbers).toHaveLength(3);
  });
});

describe("columns of two datasets", () => {
  it("are suggested where they have the same values", async () => {
    await service.call(
      "POST",
      "/api/v1/datasets/managers/editions?file=m.csv",
      "Place,Manager\nHARBOUR HOUSE,Ann\nCanal Wharf,Ben\nAlder Court,Cid\n",
    );
    const path = { name: "managers", other: "visits" };
    const { partners } = await service.client.get("/datasets/{name}/partners/{other}", { path });
    expect(partners[0]).toEqual({ column: "Place", partner: "Site", values: 3, found: 3, isUnique: false });
    expect((await service.call("GET", "/api/v1/datasets/managers/partners/nothing")).status).toBe(404);
  });
});

describe("groups that are new", () => {
  it("are those that the report's last run had not; none before it has run", async () => {
    const { load, report, plan } = smallOffice(() => service);
    await load("news", "site,unit\nDock,L1\nQuay,L2\n");
    await report("news", "data: news\nonce: hand");
    const { source } = await service.client.get("/reports/{name}", { path: { name: "news" } });
    const fresh = async () =>
      (await service.client.post("/drafts/look", { body: { definition: source } })).groups.map(({ label, isNew }) => [
        label,
        isNew,
      ]);
    expect(await fresh()).toEqual([
      ["Dock", false],
      ["Quay", false],
    ]);
    await plan({ report: "news" }, { release: false });
    await load("news", "site,unit\nDock,L1\nMill,L3\n", "more.csv");
    expect(await fresh()).toEqual([
      ["Dock", false],
      ["Mill", true],
    ]);
    await plan({ report: "news", rehearsalTo: "me@lifts.example" }, { release: false });
    expect(await fresh()).toEqual([
      ["Dock", false],
      ["Mill", true],
    ]);
  });
});
