/** Rows ticked for a run of their own: what would become of each is told before anything is started. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";

let service: TestService;
let clock = new Date("2026-11-02T09:00:00Z");
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_DEMO: "false" }, () => clock);
  const rows = [
    "day,site,fee",
    "2026-09-05,Dock,10",
    "2026-10-05,Dock,20",
    "2026-10-06,Dock,30",
    "2026-10-07,Quay,40",
    "2026-10-08,,50",
  ];
  await service.call("POST", "/api/v1/datasets/visits/editions?file=visits.csv", rows.join("\n"));
  await service.call("PUT", "/api/v1/recipients?file=list.csv", "Group,Name,Addresses\nDock,Ann,ann@dock.example\n");
  const report = `report: statements\ntitle: Statements\ndata: visits\nperiod: { column: day, every: month }\nkeep: fee > 0\nsplit: site\nfiles: { rows: { name: "{{ site }}", table: {} } }\nmessage: { subject: "For {{ site }}", body: { text: "Attached." }, attach: [rows] }\n`;
  expect((await service.call("PUT", "/api/v1/reports/statements", report)).status).toBe(201);
});
afterAll(() => service?.close());

interface Picks {
  readonly period: string;
  readonly picked: number;
  readonly sentBefore: number;
  readonly leftOut: number;
  readonly rows: {
    rowNumber: number;
    group: string | null;
    people: string[];
    before: string | null;
    why: string | null;
  }[];
}
const look = (rows: object, more: object = {}) =>
  service.call<Picks & { title: string; where: string }>("POST", "/api/v1/reports/statements/picks", { rows, ...more });
async function deliver(rows: object, more: object = {}): Promise<{ id: string; sentences: readonly string[] }> {
  const { status, body } = await service.call<{ id: string; title: string }>("POST", "/api/v1/runs", {
    report: "statements",
    period: "2026-10",
    rows,
    ...more,
  });
  expect([status, body.title]).toEqual([201, "Statements"]);
  const held = await service.waitFor(body.id, ["held", "done", "failed"]);
  await service.call("POST", `/api/v1/runs/${body.id}/release`, {});
  await service.waitFor(body.id, ["done", "held"]);
  return { id: body.id, sentences: held.sentences };
}

describe("ticked rows", () => {
  it("are told one by one before anything is started: to whom each goes, and which are left out for what", async () => {
    const { status, body } = await look({ numbers: [6, 5, 3, 2] });
    expect(status).toBe(200);
    expect([body.period, body.picked, body.sentBefore]).toEqual(["2026-10", 4, 0]);
    expect(body.rows).toEqual([
      { rowNumber: 2, group: null, people: [], before: null, why: "day not in 2026-10" },
      { rowNumber: 3, group: "Dock", people: ["Ann"], before: null, why: null },
      { rowNumber: 5, group: "Quay", people: [], before: null, why: null },
      { rowNumber: 6, group: null, people: [], before: null, why: expect.stringContaining("site") },
    ]);
    expect(body.leftOut).toBe(2);
    expect((await service.call<{ items: unknown[] }>("GET", "/api/v1/runs")).body.items).toEqual([]);
    // A search is looked at in the same way.
    const found = await look({ filters: [{ column: "site", is: "equal", value: "dock" }] }, { period: "2026-10" });
    expect(found.body.rows.map(({ rowNumber, why }) => [rowNumber, why === null])).toEqual([
      [2, false],
      [3, true],
      [4, true],
    ]);
  });

  it("become a run of just these, and are known as sent afterwards, each with its day", async () => {
    const run = await deliver({ numbers: [3] });
    const parcel = await service.call<{ rows: unknown[][] }>("GET", `/api/v1/runs/${run.id}/parcels/1/rows`);
    expect(parcel.body.rows.map((row) => row[2])).toEqual([20]);
    const { body } = await look({ numbers: [3, 4] });
    expect(body.rows.map(({ before }) => before)).toEqual([expect.stringMatching(/^\d{4}-\d\d-\d\d$/), null]);
    expect(body.sentBefore).toBe(1);
    // What is told is what becomes of them.
    const both = await deliver({ numbers: [3, 4] });
    const rows = await service.call<{ rows: unknown[][] }>("GET", `/api/v1/runs/${both.id}/parcels/1/rows`);
    expect(rows.body.rows.map((row) => row[2])).toEqual([30]);
  });

  it("of a report without periods are known as sent on whatever day", async () => {
    const report = `report: notes\ntitle: Notes\ndata: visits\nsplit: site\nonce: edition\nkeep: site <> ""\nmessage: { subject: "For {{ site }}", body: { text: "Hello" } }\ndelivery: { hold: false }\n`;
    expect((await service.call("PUT", "/api/v1/reports/notes", report)).status).toBe(201);
    const run = await service.call<{ id: string }>("POST", "/api/v1/runs", { report: "notes", rows: { numbers: [3] } });
    await service.waitFor(run.body.id, ["done"]);
    clock = new Date("2026-11-05T09:00:00Z");
    const { body } = await service.call<Picks>("POST", "/api/v1/reports/notes/picks", { rows: { numbers: [3, 4] } });
    expect(body.rows.map(({ before }) => before !== null)).toEqual([true, false]);
    const again = await service.call<{ id: string }>("POST", "/api/v1/runs", {
      report: "notes",
      rows: { numbers: [3, 4] },
    });
    await service.waitFor(again.body.id, ["done"]);
    const { body: rows } = await service.call<{ rows: unknown[][] }>(
      "GET",
      `/api/v1/runs/${again.body.id}/parcels/1/rows`,
    );
    expect(rows.rows.map((row) => row[2])).toEqual([30]);
  });

  it("that are not there are refused, with the row", async () => {
    const { status, body } = await look({ numbers: [3, 77] });
    expect([status, body.title, body.where]).toEqual([400, "Cannot find row 77 in visits edition 1.", "rows"]);
    expect(
      (await service.call("POST", "/api/v1/runs", { report: "statements", period: "2026-10", rows: { numbers: [77] } }))
        .status,
    ).toBe(400);
    expect((await look({ numbers: [] })).status).toBe(400);
  });
});
