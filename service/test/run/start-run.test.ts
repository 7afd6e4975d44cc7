import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { CorbixError } from "@corbix/core/common";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";
import { doOne, doSteps, openSteps, toldSender } from "../../../test/setup/steps.js";
import { sendWaiting } from "../../dist/outbox/outbox.js";
import { errorFacts } from "../../dist/run/run-records.js";
import { startRun } from "../../dist/run/start-run.js";

let service: TestService;
const clock = new Date("2026-11-02T09:00:00Z");
const folder = mkdtempSync(join(tmpdir(), "corbix-attach-"));
const { load, list, report, plan, runOf, refusal, select } = smallOffice(() => service);
const start = (body: object) => refusal("POST", "/api/v1/runs", body);
const VISITS = "site,unit,day,region\nDock,L1,2026-09-02,North\nQuay,L2,2026-10-03,South\n";

beforeAll(async () => {
  service = await testService(
    inject("databaseUrl"),
    { CORBIX_WORKERS: "0", CORBIX_ATTACH_FOLDER: folder },
    () => clock,
  );
  await load("lifts", VISITS);
});
afterAll(async () => {
  await service?.close();
  rmSync(folder, { recursive: true, force: true });
});

describe("a service without a list of recipients", () => {
  it("keeps reports that narrow it, makes their files, and says that nobody receives", async () => {
    await select("DELETE FROM recipient_lists");
    await report("alone", "data: lifts\nonce: hand\ndelivery: { narrow: { duty: manager } }");
    const run = await plan({ report: "alone" }, { release: false });
    const { state, findings, progress } = await runOf(run);
    expect([state, progress.messages]).toEqual(["held", {}]);
    expect(findings.map(({ code }) => code)).toContain("group-without-recipient");
    await list("Dock,Ann,ann@dock.example\nQuay,Ben,ben@quay.example");
  });
});

describe("what a run is started for", () => {
  it("is a period only where the report has one", async () => {
    await report("plain", "data: lifts\nonce: hand");
    const said = await start({ report: "plain", period: "2026-10" });
    expect([said.status, said.title]).toEqual([400, "Cannot run `plain` for `2026-10`: the report has no period."]);
  });

  it("is the earliest period that is open; none twice, unless rehearsed or on purpose", async () => {
    await report("monthly", "data: lifts\nperiod: { column: day, every: month }");
    await plan({ report: "monthly" });
    const held = await plan({ report: "monthly" }, { release: false });
    const said = await start({ report: "monthly" });
    expect([said.code, said.title]).toEqual([
      "CONFLICT",
      `Cannot choose a period for \`monthly\`: every one that is over and has rows was delivered, or is under way (2026-10 is held as run ${held}).`,
    ]);
    await service.call("POST", `/api/v1/runs/${held}/release`, {});
    expect((await start({ report: "monthly" })).title).toBe(
      "Cannot choose a period for `monthly`: every one that is over and has rows was delivered.",
    );
    const rehearsed = await startRun(service.context, { report: "monthly", rehearsalTo: "me@lifts.example" }, "test");
    expect(rehearsed.period).toBe("2026-10");
    const again = await startRun(service.context, { report: "monthly", again: "they asked" }, "test");
    expect(again.period).toBe("2026-10");
    await expect(startRun(service.context, { report: "monthly", period: "October" }, "test")).rejects.toThrow(
      "October",
    );
  });

  it("are groups there are; those that the preparation makes are known when it is planned", async () => {
    expect((await start({ report: "plain", groups: ["Dok"] })).title).toBe(
      "Cannot find the group `Dok`. Nothing was changed.",
    );
    expect((await start({ report: "plain", groups: ["Dok", "Qay"] })).title).toBe(
      "Cannot find the groups `Dok`, `Qay`. Nothing was changed.",
    );
    const shapes = {
      made: "split: place\nadd: { place: upper(site) }",
      brought: "split: manager\nbring: [{ from: sites, match: { site: site }, columns: [manager] }]",
      all: "split: { one: All sites }",
      rows: "split: { row: [unit, day] }",
    };
    await load("sites", "site,manager\nDock,Ann\nQuay,Ben\n");
    for (const [name, split] of Object.entries(shapes)) {
      const made = await service.call(
        "PUT",
        `/api/v1/reports/${name}`,
        `report: ${name}\ntitle: ${name}\ndata: lifts\nonce: hand\n${split}\nfiles: { rows: { name: "{{ group.key }}", table: {} } }\n`,
      );
      expect([name, made.status]).toEqual([name, 201]);
    }
    const groups = async (name: string, wanted: string) =>
      select<{ label: string }>("SELECT label FROM parcels WHERE run_id = $1", [
        await plan({ report: name, groups: [wanted] }, { release: false }),
      ]);
    expect(await groups("made", "dock")).toEqual([{ label: "DOCK" }]);
    expect(await groups("brought", "Ben")).toEqual([{ label: "Ben" }]);
    expect(await groups("all", "All sites")).toEqual([{ label: "All sites" }]);
    expect(await groups("rows", "L2 / 2026-10-03")).toEqual([{ label: "L2 / 2026-10-03" }]);
    expect((await start({ report: "all", groups: ["Dock"] })).code).toBe("UNKNOWN_NAME");
  });

  it("fails with words where the data have changed under the report", async () => {
    await report("changed", "data: units\nperiod: { column: day, every: month }").catch(() => undefined);
    await load("units", "site,day\nDock,02/09/2026\n");
    await report("changed", "data: units\nperiod: { column: day, every: month }");
    await load("units", "site,day\nDock,some day\n");
    const texts = await plan({ report: "changed", period: "2026-09" }, { release: false });
    expect((await runOf(texts)).error?.message).toContain("the column holds text, expected dates");
    await load("units", "site,visited\nDock,02/09/2026\n");
    const gone = await plan({ report: "changed", period: "2026-09" }, { release: false });
    expect((await runOf(gone)).error?.message).toMatch(/day/);
    expect((await start({ report: "changed" })).code).toBe("CONFLICT");
  });
});

describe("rows that go out once", () => {
  it("go again on purpose, and stay away else", async () => {
    await report("each", "data: lifts\nonce: { per: [unit] }");
    const sendAll = () =>
      sendWaiting(service.context, "office", toldSender([{ kind: "sent", response: "250 ok" }]).open);
    await plan({ report: "each" });
    await sendAll();
    const none = await plan({ report: "each" }, { release: false });
    expect((await runOf(none)).progress.parcels).toEqual({});
    const again = await plan({ report: "each", again: "the server lost them" }, { release: false });
    expect((await runOf(again)).progress.parcels).toEqual({ made: 2 });
    const rows = { rowNumbers: [2], why: "not among the rows found" };
    await plan({ report: "plain", rows });
    await report("once", "data: lifts\nperiod: { column: day, every: month }");
    await plan({ report: "once", period: "2026-09", rows });
    await sendAll();
    const picked = await plan({ report: "once", period: "2026-09", rows }, { release: false });
    expect((await runOf(picked)).progress.parcels).toEqual({});
    const anew = await plan({ report: "once", period: "2026-09", rows, again: "lost" }, { release: false });
    expect((await runOf(anew)).progress.parcels).toEqual({ made: 1 });
  });
});

describe("files that are found in a folder of its own place", () => {
  it("stop the run where they were changed or taken away after it was planned", async () => {
    mkdirSync(folder, { recursive: true });
    for (const site of ["Dock", "Quay"]) writeFileSync(join(folder, `${site} plan.txt`), site);
    await service.call(
      "PUT",
      "/api/v1/reports/plans",
      'report: plans\ntitle: Plans\ndata: lifts\nonce: hand\nsplit: site\nmessage: { subject: "For {{ site }}", body: { text: "Attached." }, attach: [{ found: "{{ site }} plan.txt" }] }\n',
    );
    const { id } = await startRun(service.context, { report: "plans" }, "test");
    await doSteps(service.context, id, ["plan", "make"]);
    writeFileSync(join(folder, "Dock plan.txt"), "another");
    rmSync(join(folder, "Quay plan.txt"));
    await doSteps(service.context, id);
    const { findings } = await runOf(id);
    expect(findings.filter(({ severity }) => severity === "stop").map(({ what }) => what)).toEqual([
      '"Dock plan.txt" was changed after the run was planned.',
      '"Quay plan.txt" was taken away after the run was planned.',
    ]);
    const said = await refusal("POST", `/api/v1/runs/${id}/release`, {});
    expect([said.code, said.title]).toEqual([
      "STOPPED_BY_FINDING",
      'Cannot release the run: "Dock plan.txt" was changed after the run was planned.',
    ]);
  });
});

describe("a batch of parcels", () => {
  it("that is done again makes only what is not made, and what cannot be made is told with its group", async () => {
    await service.call(
      "PUT",
      "/api/v1/reports/locked",
      'report: locked\ntitle: Locked\ndata: lifts\nonce: hand\nsplit: site\nfiles: { rows: { name: "{{ site }}", table: {}, protect: { password: "{{ if(site = \\"Quay\\", \\"\\", \\"secret\\") }}" } } }\n',
    );
    const { id } = await startRun(service.context, { report: "locked" }, "test");
    await doSteps(service.context, id, ["plan"]);
    const [make] = await openSteps(service.context, id);
    await select("UPDATE parcels SET state = 'failed' WHERE run_id = $1 AND label = 'Dock'", [id]);
    await doOne(service.context, id, make);
    const [{ files }] = await select<{ files: number }>("SELECT count(*)::int AS files FROM files WHERE run_id = $1", [
      id,
    ]);
    expect(files).toBe(0);
    await doSteps(service.context, id);
    const { findings, state } = await runOf(id);
    expect(state).toBe("held");
    expect(findings.filter(({ code }) => code === "parcel-failed")).toHaveLength(2);
  });
});

describe("a run's error", () => {
  it("is kept with its place and advice where it has them, whatever was thrown", () => {
    expect(errorFacts(new CorbixError("CONFLICT", "No.", { where: "here", advice: "Wait." }))).toEqual({
      code: "CONFLICT",
      message: "No.",
      where: "here",
      advice: "Wait.",
    });
    expect(errorFacts(new CorbixError("CONFLICT", "No."))).toEqual({ code: "CONFLICT", message: "No." });
    expect([errorFacts(new Error("broken")), errorFacts("odd")]).toEqual([
      { code: "FAILED", message: "broken" },
      { code: "FAILED", message: "odd" },
    ]);
  });
});
