import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type RunAnswer, type TestService, testService } from "../../../test/setup/service.js";
import { doSteps } from "../../../test/setup/steps.js";
import { sweepRetention } from "../../dist/run/retention.js";
import { startRun } from "../../dist/run/start-run.js";

let service: TestService;
let clock = new Date("2026-11-02T09:00:00Z");
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" }, () => clock);
  for (const [dataset, csv] of [
    ["rows", "site,unit,fee\nDock,L1,10\nDock,L2,20\nQuay,Q1,70\n"],
    ["costs", "place,kind,amount\nDock,parts,3\ndock,travel,4\nQuay,parts,9\nMill,parts,1\n"],
  ])
    expect((await service.call("POST", `/api/v1/datasets/${dataset}/editions?file=${dataset}.csv`, csv)).status).toBe(
      201,
    );
  const made = await service.call("PUT", "/api/v1/reports/costs", DEFINITION);
  expect(made.status).toBe(201);
});
afterAll(() => service?.close());

const DEFINITION = `report: costs
title: Costs
data: rows
split: site
lines: { costs: { data: costs, match: { site: place }, sort: [-amount] } }
totals: { costs: sum(costs.amount) }
files: { costs: { name: "{{ site }}", table: { lines: costs, sheet: Costs } } }
message:
  subject: "{{ site }}: {{ sum(costs.amount) }} of {{ sum(all.fee) }}"
  body: { text: "{{table costs: kind, amount total}}" }
retention: { rows: 1 }
`;

const messages = (run: string) =>
  service.context.database.select<{ subject: string; text: string }>(
    "SELECT subject, text FROM messages WHERE run_id = $1 ORDER BY subject",
    [run],
  );

describe("further lines in a run", () => {
  it("are each group's own, counted in the proof, and gone when the rows' time is over", async () => {
    const list = "Group,Name,Addresses\nDock,Ann,ann@dock.example\nQuay,Ben,ben@quay.example\n";
    expect((await service.call("PUT", "/api/v1/recipients?file=list.csv", list)).status).toBe(200);
    const { id } = await startRun(service.context, { report: "costs" }, "test");
    await doSteps(service.context, id);
    const { body } = await service.call<RunAnswer>("GET", `/api/v1/runs/${id}`);
    expect(body.state).toBe("held");
    expect(body.sentences.slice(0, 3)).toEqual([
      "3 rows = 3 in 2 groups + 0 left out.",
      "costs: 4 rows = 3 in groups + 1 left out (1 belong to no group).",
      "costs: 16 in the master = 16 in the parcels.",
    ]);
    const written = await messages(id);
    expect(written.map((one) => one.subject)).toEqual(["Dock: 7 of 100", "Quay: 9 of 100"]);
    expect(written[0].text).toMatch(/travel\s+4\s+parts\s+3\s+Total\s+7/);
    expect(written[0].text).not.toContain("9");
    expect(written[1].text).not.toMatch(/\b[34]\b/);
    const held = await service.context.database.select<{ editions: Record<string, number> }>(
      "SELECT editions FROM runs WHERE id = $1",
      [id],
    );
    expect(Object.keys(held[0].editions).sort()).toEqual(["costs", "rows"]);
    const kept = () =>
      service.context.database.select<{ parcels: number; runs: number }>(
        `SELECT (SELECT count(*)::int FROM parcel_lines) AS parcels, (SELECT count(lines)::int FROM run_lines) AS runs`,
      );
    expect(await kept()).toEqual([{ parcels: 2, runs: 1 }]);
    await service.call("POST", `/api/v1/runs/${id}/stop`, {});
    clock = new Date("2027-02-02T09:00:00Z");
    await sweepRetention(service.context);
    expect(await kept()).toEqual([{ parcels: 0, runs: 0 }]);
  });

  it("are checked when the report is saved, with the place", async () => {
    const wrong = await service.call<{ title: string; where: string }>(
      "PUT",
      "/api/v1/reports/costs",
      DEFINITION.replace("match: { site: place }", "match: { site: palce }"),
    );
    expect(wrong.status).toBe(422);
    expect(wrong.body.where).toContain("lines, costs, match");
  });

  it("count as a use of their dataset: a column that goes is told with the report", async () => {
    const csv = "place,kind\nDock,parts\n";
    const answer = await service.call<{ findings: { code: string; what: string }[] }>(
      "POST",
      "/api/v1/datasets/costs/editions?file=costs.csv",
      csv,
    );
    expect(JSON.stringify(answer.body)).toContain("amount");
    expect(JSON.stringify(answer.body)).toMatch(/costs/);
  });
});
