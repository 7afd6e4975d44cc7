/** One report after another: the figures of a run become data, and a summary of all groups follows by itself. */
import { readFileSync } from "node:fs";
import { loadTable } from "@corbix/core/table";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "1" });
  const rows = [
    "visit_date,site,unit,result,hours,rate,parts",
    "2026-10-05,Alder Court,L1,pass,1,100,0.5",
    "2026-10-06,Alder Court,L2,fail,2,100,0",
    "2026-10-07,007,L3,pass,1,80,0",
    "2026-10-08,Harbour House,L1,pass,1,60,0",
  ];
  await service.call("POST", "/api/v1/datasets/visits/editions?file=visits.csv", rows.join("\n"));
  const people = "Group,Name,Addresses\nAlder Court,Ruth Penhallow,ruth@alder.example\n007,Bo Lind,bo@seven.example\n";
  expect((await service.call("PUT", "/api/v1/recipients?file=people.csv", people)).status).toBeLessThan(300);
});
afterAll(() => service?.close());

const example = (name: string): string => readFileSync(`demo/examples/chain/${name}.yaml`, "utf8");
const define = (name: string, text: string) =>
  service.call<{ title: string; where: string; advice: string }>("PUT", `/api/v1/reports/${name}`, text);

async function delivered(wish: object = {}): Promise<string> {
  const { body } = await service.call<{ id: string }>("POST", "/api/v1/runs", {
    report: "chained-statements",
    period: "2026-10",
    ...wish,
  });
  await service.waitFor(body.id, ["held"]);
  await service.call("POST", `/api/v1/runs/${body.id}/release`, {});
  await service.waitFor(body.id, ["done"]);
  return body.id;
}
const figures = async (edition: number) => {
  const { body } = await service.call<{ columns: { name: string; type: string }[]; rows: unknown[][] }>(
    "GET",
    `/api/v1/datasets/statement-figures/editions/${edition}/rows`,
  );
  return body;
};

describe("figures of a run", () => {
  it("become data when nothing is on its way any more: a row for each group, with what became of its mail", async () => {
    expect((await define("chained-statements", example("statements"))).status).toBe(201);
    const run = await delivered();
    await expect
      .poll(async () => (await service.call("GET", "/api/v1/datasets/statement-figures/editions/1")).status, {
        timeout: 60_000,
      })
      .toBe(200);
    const { columns, rows } = await figures(1);
    expect(columns.map(({ name }) => name)).toEqual([
      "report",
      "run",
      "period",
      "group",
      "rows",
      "fees",
      "visits",
      "files",
      "bytes",
      "people",
      "message",
      "said",
    ]);
    const of = (name: string) => columns.findIndex((one) => one.name === name);
    const shown = rows.map((cells) =>
      ["group", "rows", "fees", "files", "people", "message"].map((name) => cells[of(name)]),
    );
    expect(shown).toEqual([
      ["007", 1, 80, 2, 1, "sent"],
      ["Alder Court", 2, 300.5, 2, 1, "sent"],
      ["Harbour House", 1, 60, 2, 0, "no message"],
    ]);
    // A person's word makes no second edition of them.
    const again = await service.call("POST", `/api/v1/runs/${run}/figures`, {});
    expect([again.status, again.body]).toEqual([201, { dataset: "statement-figures", edition: 1 }]);
  });

  it("start the summary of all groups, which goes to the coordinator as workbook, PDF and mail, once", async () => {
    expect((await define("statement-summary", example("summary"))).status).toBe(201);
    await delivered({ again: "figures were corrected" });
    const letters = () =>
      service.list<{ id: string; subject: string; attachments: number }>("/api/v1/letters?search=coordinator");
    await expect.poll(async () => (await letters()).length, { timeout: 120_000 }).toBe(1);
    const [letter] = await letters();
    expect([letter?.subject, letter?.attachments]).toEqual([
      "Statements of lift inspections, October 2026: 2 of 3 sent",
      2,
    ]);
    const { body } = await service.call<{ text: string }>("GET", `/api/v1/letters/${letter?.id}`);
    expect(body.text).toContain("3 groups, 440.50 in fees.");
    expect(body.text).toContain("Not sent: Harbour House");
    const [file] = await service.context.database.select<{ sha256: string }>(
      "SELECT files.sha256 FROM files JOIN runs ON runs.id = files.run_id WHERE runs.report = 'statement-summary' AND kind = 'xlsx'",
    );
    const { table } = loadTable(await service.context.store.get(file?.sha256 ?? ""), "summary.xlsx", { headerRow: 3 });
    expect(table.rowCount).toBeGreaterThanOrEqual(3);
    // Nothing more comes of it.
    const runs = await service.list<{ report: string }>("/api/v1/runs");
    expect(runs.filter(({ report }) => report === "statement-summary")).toHaveLength(1);
  });

  it("are not made of rehearsals, nor of what was not released", async () => {
    const { body } = await service.call<{ id: string }>("POST", "/api/v1/runs", {
      report: "chained-statements",
      period: "2026-10",
      rehearsalTo: "me@lifts.example",
    });
    await service.waitFor(body.id, ["done"]);
    const held = await service.call<{ id: string }>("POST", "/api/v1/runs", {
      report: "chained-statements",
      period: "2026-10",
    });
    await service.waitFor(held.body.id, ["held"]);
    const refused = await service.call<{ title: string }>("POST", `/api/v1/runs/${held.body.id}/figures`, {});
    expect([refused.status, refused.body.title]).toEqual([
      409,
      "Cannot make data of its figures: the run was not released.",
    ]);
    expect((await service.call("GET", "/api/v1/datasets/statement-figures/editions/3")).status).toBe(404);
  });
});

describe("a report that keeps figures", () => {
  it("replaces no data that people load, and starts no circle", async () => {
    const text = example("statements");
    const loaded = await define("chained-statements", text.replace("dataset: statement-figures", "dataset: visits"));
    expect([loaded.status, loaded.body.title]).toEqual([
      422,
      'Cannot put figures into `visits`: it is loaded from files, the newest "visits.csv".',
    ]);
    const circle = await define("statement-summary", `${example("summary")}figures: { dataset: statement-figures }\n`);
    expect([circle.status, circle.body.title]).toEqual([
      422,
      "Cannot keep figures there: they would lead back to `statement-figures` and start this report again and again.",
    ]);
  });

  it("is told where they cannot be made, and they are not tried for ever", async () => {
    const people = "report,run,group\nother,1,x\n";
    await service.call("POST", "/api/v1/datasets/statement-figures/editions?file=people.csv", people);
    await delivered({ again: "once more" });
    const notices = () => service.list<{ kind: string; report: string; what: string }>("/api/v1/notices");
    await expect
      .poll(async () => (await notices()).some(({ kind }) => kind === "schedule-failed"), { timeout: 60_000 })
      .toBe(true);
    const [told] = (await notices()).filter(({ kind }) => kind === "schedule-failed");
    expect([told?.report, told?.what]).toEqual([
      "chained-statements",
      'chained-statements: its figures were not made, so nothing that follows was started. Cannot put figures into `statement-figures`: it is loaded from files, the newest "people.csv".',
    ]);
    expect((await notices()).filter(({ kind }) => kind === "schedule-failed")).toHaveLength(1);
  });
});
