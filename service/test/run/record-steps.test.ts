/** Runs of single records, done several at once: each for itself, and nothing by a process that lost one of them. */
import { readFileSync } from "node:fs";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type RunAnswer, type TestService, testService } from "../../../test/setup/service.js";
import { doSteps } from "../../../test/setup/steps.js";
import { takeRecords } from "../../dist/intake/take-records.js";
import { takeSteps } from "../../dist/records/index.js";
import { recordSteps } from "../../dist/run/steps/record-steps.js";
import { workerEnded } from "../../dist/run/sweep.js";

let service: TestService;
const folder = "demo/examples/attendance";
const training = JSON.parse(readFileSync(`${folder}/training.json`, "utf8")) as Record<string, unknown>;
const define = async (change: (text: string) => string = (text) => text) => {
  const text = change(readFileSync(`${folder}/attendance.yaml`, "utf8"));
  const { status, body } = await service.call("PUT", "/api/v1/reports/attendance", text);
  expect([200, 201], JSON.stringify(body)).toContain(status);
};
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_DEMO: "false" });
  const csv = readFileSync(`${folder}/trainings.csv`, "utf8");
  expect((await service.call("POST", "/api/v1/datasets/trainings/editions?file=trainings.csv", csv)).status).toBe(201);
  await define();
});
afterAll(() => service?.close());

const context = () => service.context;
const as = (process: string) => ({ ...context(), process });
const alive = (id: string) => context().database.execute("INSERT INTO workers (id) VALUES ($1)", [id]);
const call = (...records: object[]) => ({
  report: "attendance",
  records: records.map((more) => ({ ...training, ...more })),
  key: undefined,
  callback: undefined,
  sender: undefined,
  by: "test",
});
const taken = async (...records: object[]) =>
  (await takeRecords(context(), call(...records))).map(({ run }: { run: string }) => run);
const stateOf = async (run: string) => (await service.call<RunAnswer>("GET", `/api/v1/runs/${run}`)).body.state;
const traceOf = (runs: readonly string[]) =>
  context().database.select<{ parcels: number; files: number; messages: number }>(
    `SELECT (SELECT count(*)::int FROM parcels WHERE run_id = ANY($1)) AS parcels, (SELECT count(*)::int FROM files WHERE run_id = ANY($1)) AS files,
       (SELECT count(*)::int FROM messages WHERE run_id = ANY($1)) AS messages`,
    [runs],
  );

describe("runs of records that are done together", () => {
  it("come to what each would come to by itself: the same files, rows and words", async () => {
    await alive("together");
    const record = { training_no: "T-1", held_on: "2026-11-12" };
    const [together = ""] = await taken(record);
    const [apart = ""] = await taken({ ...record, training_no: "T-2" });
    const steps = await takeSteps(context().database, [together], "plan", "together");
    expect(await recordSteps(as("together"), steps)).toEqual([]);
    await doSteps(context(), apart);
    const [one, other] = await Promise.all(
      [together, apart].map((run) =>
        context().database.select<Record<string, unknown>>(
          `SELECT runs.state, runs.columns, runs.plan, runs.parcel_count, runs.proof->'sentences' AS sentences, runs.proof->'findings' AS findings,
             parcels.group_key, parcels.label, parcels.row_count, parcels.rows_digest, parcels.recipients, parcels.attachments, parcels.state AS parcel,
             files.path, files.kind, files.pages, files.rows_digest AS file_rows, messages.subject, messages.text, messages.envelope, messages.state AS message,
             (SELECT json_agg(name ORDER BY name) FROM run_steps WHERE run_id = runs.id AND done_at IS NOT NULL) AS steps
           FROM runs JOIN parcels ON parcels.run_id = runs.id JOIN files ON files.parcel_id = parcels.id JOIN messages ON messages.parcel_id = parcels.id
           WHERE runs.id = $1 ORDER BY files.kind`,
          [run],
        ),
      ),
    );
    const plain = (text: unknown) =>
      JSON.stringify(text).replaceAll(/T-\d/gi, "T").replaceAll(together, "run").replaceAll(apart, "run");
    expect(one?.map(({ state, kind, message }) => [state, kind, message])).toEqual([
      ["delivering", "pdf", "queued"],
      ["delivering", "xlsx", "queued"],
    ]);
    const digests = /"(?:rows_digest|file_rows|rowsDigest)":"[0-9a-f]+"/g;
    expect(plain(one).replaceAll(digests, "")).toBe(plain(other).replaceAll(digests, ""));
  });

  it("leave one that cannot be made to tell what is wrong, and hold nobody else up", async () => {
    await alive("mixed");
    await define((text) => text.replace("{{ trainer }}", "{{ trainer }} {{ 1 / number(room) }}"));
    const runs = await taken(
      { training_no: "M-1", room: "2" },
      { training_no: "M-2", room: "Hall 3" },
      { training_no: "M-3", room: "4" },
    );
    const steps = await takeSteps(context().database, runs, "plan", "mixed");
    const left = await recordSteps(as("mixed"), steps);
    expect(left.map(({ run }: { run: string }) => run)).toEqual([runs[1]]);
    expect([await stateOf(runs[0] ?? ""), await stateOf(runs[1] ?? ""), await stateOf(runs[2] ?? "")]).toEqual([
      "delivering",
      "planning",
      "delivering",
    ]);
    expect(await traceOf([runs[1] ?? ""])).toEqual([{ parcels: 0, files: 0, messages: 0 }]);
    await workerEnded(context(), "mixed");
    await doSteps(context(), runs[1] ?? "");
    expect(["held", "failed"]).toContain(await stateOf(runs[1] ?? ""));
    await define();
  });

  it("each keep to the data beside that it was started with", async () => {
    await alive("beside");
    const load = async (floor: number) => {
      const csv = `Room,Floor\nHall 2,${floor}\nHall 3,${floor}\nHall 4,${floor}\n`;
      expect((await service.call("POST", "/api/v1/datasets/rooms/editions?file=rooms.csv", csv)).status).toBe(201);
    };
    await load(1);
    await define((text) =>
      text
        .replace("add: {", "bring: [{ from: rooms, match: { room: room }, columns: [floor] }]\nadd: {")
        .replace("Dear {{ trainer }},", "Dear {{ trainer }}, on floor {{ floor }},"),
    );
    const runs = await taken({ training_no: "B-1", room: "Hall 2" });
    await load(2);
    runs.push(...(await taken({ training_no: "B-2", room: "Hall 2" })));
    const steps = await takeSteps(context().database, runs, "plan", "beside");
    expect(await recordSteps(as("beside"), steps)).toEqual([]);
    const told = await context().database.select<{ run: string; text: string }>(
      "SELECT run_id AS run, text FROM messages WHERE run_id = ANY($1)",
      [runs],
    );
    const floor = (run: string | undefined) => /floor (\d)/.exec(told.find((one) => one.run === run)?.text ?? "")?.[1];
    expect([floor(runs[0]), floor(runs[1])]).toEqual(["1", "2"]);
    await define();
  });

  it("are held where the report holds, and nothing of them is queued", async () => {
    await alive("held");
    await define((text) => text.replace("hold: false", "hold: true"));
    const runs = await taken({ training_no: "W-1" }, { training_no: "W-2" });
    const steps = await takeSteps(context().database, runs, "plan", "held");
    expect(await recordSteps(as("held"), steps)).toEqual([]);
    expect([await stateOf(runs[0] ?? ""), await stateOf(runs[1] ?? "")]).toEqual(["held", "held"]);
    const queued = await context().database.select(
      "SELECT id FROM messages WHERE run_id = ANY($1) AND state <> 'held'",
      [runs],
    );
    expect(queued).toEqual([]);
    await define();
  });

  it("are written by whoever has their steps, and by nobody who lost one", async () => {
    await alive("slow");
    await alive("quick");
    const runs = await taken({ training_no: "L-1" }, { training_no: "L-2" });
    const slow = await takeSteps(context().database, runs, "plan", "slow");
    expect(await takeSteps(context().database, runs, "plan", "quick")).toEqual([]);
    await workerEnded(context(), "slow");
    const quick = await takeSteps(context().database, runs.slice(0, 1), "plan", "quick");
    expect(quick.map(({ token }: { token: number }) => token)).toEqual([2]);
    // The slow one comes to its end: the run that is another's now stays as it is, what is still its own is done.
    await recordSteps(as("slow"), slow);
    expect(await traceOf(runs.slice(0, 1))).toEqual([{ parcels: 0, files: 0, messages: 0 }]);
    await recordSteps(as("quick"), quick);
    expect(await traceOf(runs.slice(0, 1))).toEqual([{ parcels: 1, files: 2, messages: 1 }]);
    const again = await recordSteps(as("quick"), quick);
    expect(again.map(({ run }: { run: string }) => run)).toEqual(runs.slice(0, 1));
    expect(await traceOf(runs.slice(0, 1))).toEqual([{ parcels: 1, files: 2, messages: 1 }]);
  });

  it("of records that came with one key at the same moment are one", async () => {
    const same = await Promise.all([
      takeRecords(context(), call({ training_no: "S-1" })),
      takeRecords(context(), call({ training_no: "S-1" })),
      takeRecords(context(), call({ training_no: "S-1", room: "Hall 9" })).catch(
        (error: { code: string }) => error.code,
      ),
      takeRecords(context(), call({ training_no: "S-2", held_on: "some day" })).catch(
        (error: { code: string }) => error.code,
      ),
      takeRecords(context(), call({ training_no: "S-3" })),
    ]);
    const [first, second, third, fourth, fifth] = same;
    expect([first[0].isNew, second[0].isNew, second[0].run]).toEqual([true, false, first[0].run]);
    expect([third, fourth, fifth[0].isNew]).toEqual(["KEY_REUSED", "BAD_RECORD", true]);
  });
});
