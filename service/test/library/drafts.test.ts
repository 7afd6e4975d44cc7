/** Definitions looked at before anybody saves them. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";

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
  nextTimes: string[];
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

  it("that is no definition, or of data that are not there, is refused with its place", async () => {
    expect((await look("report: [")).body).toMatchObject({ code: "BAD_DEFINITION" });
    expect((await look("report: x\ntitle: X\ndata: gone\nsplit: Site\n")).status).toBe(404);
  });

  it("tells when it would run by itself", async () => {
    const source =
      "report: x\ntitle: X\ndata: visits\nsplit: site\nschedule: { rule: FREQ=WEEKLY;BYDAY=FR, at: '17:00', zone: Europe/Zurich, from: '2026-01-02' }\n";
    const { body } = await look(source);
    expect(body.nextTimes).toHaveLength(12);
    for (const at of body.nextTimes) expect(new Date(at).getUTCDay()).toBe(5);
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
