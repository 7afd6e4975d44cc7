/** The example of new rows: each visit goes out once, whenever the data come again. */
import { readFileSync } from "node:fs";
import { afterAll, beforeAll, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_DEMO: "false" });
});
afterAll(() => service?.close());

const HEAD = "visit_no,visit_date,site,unit,kind,result,remarks";
const ROWS = [
  "1,2026-10-05,Alder Court,L1,lift,fail,rope worn",
  "2,2026-10-06,Alder Court,L2,lift,pass,",
  "3,2026-10-07,Canal Wharf,E1,escalator,fail,comb plate",
];
const load = (rows: readonly string[]) =>
  service.call<{ number: number }>(
    "POST",
    "/api/v1/datasets/visits/editions?file=visits.csv",
    [HEAD, ...rows].join("\n"),
  );
/** The newest run, once it is one that was not there before. */
async function nextRun(before: readonly string[]): Promise<{ id: string; state: string }> {
  await expect
    .poll(async () => (await service.call<{ items: { id: string }[] }>("GET", "/api/v1/runs")).body.items.length)
    .toBe(before.length + 1);
  const { body } = await service.call<{ items: { id: string }[] }>("GET", "/api/v1/runs");
  const id = body.items.find((one) => !before.includes(one.id))?.id ?? "";
  const { state } = await service.waitFor(id, ["done", "failed", "stopped"]);
  return { id, state };
}
const letters = async () =>
  (await service.list<{ rcptTo: string[]; subject: string }>("/api/v1/letters")).map(
    ({ rcptTo, subject }) => `${rcptTo.join(",")}: ${subject}`,
  );

it("sends each visit once: of the same data again nothing, of data that grew the new ones alone", async () => {
  await service.call(
    "PUT",
    "/api/v1/recipients?file=list.csv",
    "Group,Name,Addresses\nAlder Court,Ruth,ruth@alder.example\nCanal Wharf,Imogen,imogen@canal.example\n",
  );
  await load(ROWS);
  const saved = await service.call(
    "PUT",
    "/api/v1/reports/failed-visits",
    readFileSync("demo/examples/new-rows/failed-visits.yaml", "utf8"),
  );
  expect(saved.status).toBe(201);
  await load(ROWS);
  const first = await nextRun([]);
  expect(first.state).toBe("done");
  expect((await letters()).sort()).toEqual([
    expect.stringContaining("imogen@canal.example: 1 of your lifts did not pass: Canal Wharf"),
    expect.stringContaining("ruth@alder.example: 1 of your lifts did not pass: Alder Court"),
  ]);
  // One more failure, and a visit that was told already: only the new one goes.
  await load([...ROWS, "4,2026-10-09,Alder Court,L3,lift,fail,door"]);
  const second = await nextRun([first.id]);
  expect(second.state).toBe("done");
  const parcels = await service.list<{ number: number; rowCount: number }>(`/api/v1/runs/${second.id}/parcels`);
  expect(parcels.map(({ rowCount }) => rowCount)).toEqual([1]);
  expect(await letters()).toHaveLength(3);
  // Nothing new: the run ends, and nothing is sent.
  await load([...ROWS, "4,2026-10-09,Alder Court,L3,lift,fail,door", "5,2026-10-10,Alder Court,L1,lift,pass,"]);
  await nextRun([first.id, second.id]);
  expect(await letters()).toHaveLength(3);
});
