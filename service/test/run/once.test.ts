import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { dayInZone } from "@corbix/core/calendar";
import { openDocument, periodsOf } from "@corbix/core/document";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { Deck, titleOf } from "@corbix/core/slides";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { handDeck, title } from "../../../core/test/support/hand-deck.js";
import { type RunAnswer, type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";
import { doSteps, toldSender } from "../../../test/setup/steps.js";
import { sendWaiting } from "../../dist/outbox/outbox.js";
import { releaseRun } from "../../dist/run/release.js";
import { tick } from "../../dist/schedule/tick.js";

let service: TestService;
let clock = new Date("2026-11-02T09:00:00Z");
beforeAll(async () => {
  // No workers: the steps are driven by hand, with a mail server that does as it is told.
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" }, () => clock);
});
afterAll(() => service?.close());

interface Outlook {
  readonly messages: number;
  readonly had: number;
  readonly sentences: readonly string[];
}

const { load, list, report, plan } = smallOffice(() => service);
const messages = (run: string) =>
  service.context.database.select<{ id: string; group_key: string; state: string; response: string; subject: string }>(
    "SELECT id, group_key, state, response, subject FROM messages WHERE run_id = $1 ORDER BY id",
    [run],
  );
const states = async (run: string) => (await messages(run)).map((one) => one.state);
const runOf = async (run: string) =>
  (await service.call<RunAnswer & { outlook?: Outlook; periodSentence: string | null }>("GET", `/api/v1/runs/${run}`))
    .body;
const send = (sender: ReturnType<typeof toldSender>) => sendWaiting(service.context, "office", sender.open);
const demoList = async () =>
  expect(
    (await service.call("PUT", "/api/v1/recipients?file=list.csv", readFileSync("demo/files/recipients.csv"))).status,
  ).toBe(200);
const refused = (address: string) => ({
  kind: "refused" as const,
  response: "550 no such mailbox",
  taken: [],
  refused: [{ address, response: "550 no such mailbox" }],
});

describe("again, decide and resume", () => {
  it("let nothing of a run go that was never released, whatever was said of it", async () => {
    const run = await plan(
      { report: "site-statement", period: "2026-01", groups: ["Alder Court"] },
      { release: false },
    );
    await service.call("POST", `/api/v1/runs/${run}/stop`, {});
    const [message] = await messages(run);
    expect(message.state).toBe("skipped");
    const again = await service.call<{ title: string; advice: string }>(
      "POST",
      `/api/v1/messages/${message.id}/again`,
      {
        reason: "all the same",
      },
    );
    expect([again.status, again.body.title]).toEqual([
      409,
      "Cannot send this message: its run was never released, it is stopped.",
    ]);
    for (const as of ["again", "arrived"])
      expect((await service.call("POST", `/api/v1/messages/${message.id}/decide`, { as })).status).toBe(409);
    expect((await service.call("POST", `/api/v1/runs/${run}/resume`, {})).status).toBe(409);
    const sender = toldSender([{}]);
    await send(sender);
    expect(sender.sent).toEqual([]);
    // Nor does a statement that goes round the service.
    await expect(
      service.context.database.execute("UPDATE messages SET state = 'queued' WHERE id = $1", [message.id]),
    ).rejects.toThrow("was not released");
    await expect(
      service.context.database.execute("UPDATE runs SET state = 'delivering' WHERE id = $1", [run]),
    ).rejects.toThrow("was not released");
    await expect(
      service.context.database.execute("UPDATE runs SET state = 'making' WHERE id = $1", [run]),
    ).rejects.toThrow("cannot become making from stopped");
  });

  it("let one person not send what two have to release", async () => {
    const { source } = (await service.call<{ source: string }>("GET", "/api/v1/reports/site-statement")).body;
    await service.call(
      "PUT",
      "/api/v1/reports/both",
      source
        .replace("report: site-statement", "report: both")
        .replace("hold: true", "hold: true\n  approvals: 2")
        .replace(/schedule:[\s\S]*/, ""),
    );
    const run = await plan(
      { report: "both", period: "2026-01", groups: ["Alder Court", "Harbour House"] },
      { release: false },
    );
    expect(await releaseRun(service.context, run, "ann")).toBe("approved");
    expect(await releaseRun(service.context, run, "ben", ["Alder Court"])).toBe("released");
    await send(toldSender([{}]));
    expect(await states(run)).toEqual(["sent", "skipped"]);
    const [, left] = await messages(run);
    const again = await service.call<{ title: string }>("POST", `/api/v1/messages/${left.id}/again`, {
      reason: "after all",
    });
    expect(again.body.title).toContain("two people have to release it");
  });

  it("tell all but one of twenty who released, and when", async () => {
    const run = await plan(
      { report: "site-statement", period: "2026-02", groups: ["Alder Court"] },
      { release: false },
    );
    const all = await Promise.all(
      Array.from({ length: 20 }, () =>
        service.call<{ outcome?: string; advice?: string }>("POST", `/api/v1/runs/${run}/release`, {}),
      ),
    );
    expect(all.filter((one) => one.body.outcome === "released")).toHaveLength(1);
    const others = all.filter((one) => one.status === 409);
    expect(others).toHaveLength(19);
    for (const one of others) expect(one.body.advice).toMatch(/released by office on \d{4}-\d\d-\d\d at \d\d:\d\d UTC/);
    await send(toldSender([{}]));
  });
});

describe("what was not delivered stays due", () => {
  it("goes to the corrected address as a first time, and to nobody who has had it", async () => {
    await list("Dock,Ann,ann@dock.example; wrong@dock.example");
    await load("fees", "Site,Fee\nDock,3\n");
    await report("due", "data: fees");
    const first = await plan({ report: "due" });
    await send(
      toldSender([
        {
          kind: "sent",
          taken: ["ann@dock.example"],
          refused: [{ address: "wrong@dock.example", response: "550 no such mailbox" }],
        },
      ]),
    );
    expect(await states(first)).toEqual(["sent"]);
    await list("Dock,Ann,ann@dock.example; right@dock.example");
    const second = await plan({ report: "due" }, { release: false });
    const { outlook } = await runOf(second);
    expect(outlook?.sentences).toEqual(["1 group gets it only where it did not arrive before: Dock."]);
    await releaseRun(service.context, second, "test");
    const sender = toldSender([{}]);
    await send(sender);
    expect(sender.sent.map((one) => one.to)).toEqual([["right@dock.example"]]);
    expect(sender.sent[0].raw).toMatch(/^Subject: For Dock$/m);
    // Now everybody has had it.
    const third = await plan({ report: "due" }, { release: false });
    expect((await runOf(third)).outlook).toMatchObject({ messages: 0, had: 1 });
    await releaseRun(service.context, third, "test");
    await send(sender);
    expect(sender.sent).toHaveLength(1);
    expect((await messages(third))[0]).toMatchObject({
      state: "skipped",
      response: expect.stringContaining(`delivered already by run ${second}`),
    });
    expect((await runOf(third)).state).toBe("done");
  });

  it("is really sent when a refused one is decided to go again, and is marked only where somebody had it", async () => {
    await list("Quay,Ben,ben@quay.example");
    await load("quays", "Site,Fee\nQuay,3\n");
    await report("again", "data: quays");
    const run = await plan({ report: "again" });
    await send(toldSender([refused("ben@quay.example")]));
    expect(await states(run)).toEqual(["refused"]);
    const [{ id }] = await messages(run);
    const sender = toldSender([refused("ben@quay.example"), {}, {}]);
    expect((await service.call("POST", `/api/v1/messages/${id}/decide`, { as: "again" })).body).toEqual({
      state: "queued",
    });
    await send(sender);
    expect(sender.sent.map((one) => one.to)).toEqual([["ben@quay.example"]]);
    expect(await states(run)).toEqual(["refused"]);
    // Nobody has had it: a first time, without a mark.
    expect(
      (await service.call("POST", `/api/v1/messages/${id}/again`, { reason: "mailbox is there now" })).body,
    ).toEqual({
      id,
      as: "first",
      entries: 0,
    });
    await send(sender);
    expect(await states(run)).toEqual(["sent"]);
    expect(sender.sent[1].raw).toMatch(/^Subject: For Quay$/m);
    const repeat = (
      await service.call<{ id: string; as: string }>("POST", `/api/v1/messages/${id}/again`, { reason: "they lost it" })
    ).body;
    expect(repeat.as).toBe("repeat");
    await send(sender);
    expect(sender.sent[2].raw).toMatch(/^Subject: Sent again: For Quay$/m);
    expect(sender.sent[2].id).not.toBe(sender.sent[1].id);
    // A run that goes again on purpose marks those who had it, and only those.
    await list("Quay,Ben,ben@quay.example\nPier,Cy,cy@pier.example");
    await load("quays", "Site,Fee\nQuay,3\nPier,4\n");
    await plan({ report: "again", edition: 1, again: "to see it" });
    await send(sender);
    expect(sender.sent.at(-1)?.raw).toMatch(/^Subject: Sent again: For Quay$/m);
    await plan({ report: "again", edition: 2, again: "to see it" });
    await send(sender);
    expect(
      sender.sent
        .slice(-2)
        .map((one) => /^Subject: (.*)$/m.exec(one.raw)?.[1].trim())
        .sort(),
    ).toEqual(["For Pier", "For Quay"]);
  });

  it("is due again when it came back from everybody", async () => {
    await list("Mill,Dee,dee@mill.example");
    await load("mills", "Site,Fee\nMill,3\n");
    await report("back", "data: mills");
    const run = await plan({ report: "back" });
    const sender = toldSender([{}]);
    await send(sender);
    const { messageReport } = await import("../support/delivery-reports.js");
    const raw = messageReport(sender.sent[0].id, "dee@mill.example");
    expect((await service.call("POST", "/api/v1/delivery-reports", raw)).status).toBe(200);
    expect(await states(run)).toEqual(["returned"]);
    await list("Mill,Dee,dee.new@mill.example");
    await plan({ report: "back" });
    await send(sender);
    expect(sender.sent[1]).toMatchObject({ to: ["dee.new@mill.example"] });
    expect(sender.sent[1].raw).toMatch(/^Subject: For Mill$/m);
  });

  it("waits with patience for our own side, and is never called refused", async () => {
    await list("Dock,Ann,ann@dock.example");
    await load("owns", "Site,Fee\nDock,3\n");
    await report("own", "data: owns");
    const run = await plan({ report: "own" });
    const { renameSync } = await import("node:fs");
    renameSync(`${service.data}/files`, `${service.data}/away`);
    const sender = toldSender([{}]);
    await send(sender);
    expect(sender.sent).toEqual([]);
    expect((await messages(run))[0]).toMatchObject({
      state: "queued",
      response: expect.stringContaining("Cannot reach the file store"),
    });
    renameSync(`${service.data}/away`, `${service.data}/files`);
    clock = new Date(clock.getTime() + 600_000);
    await send(sender);
    expect(sender.sent).toHaveLength(1);
    expect(await states(run)).toEqual(["sent"]);
  });

  it("is refused in the definition, or stops the plan, where it could never go", async () => {
    const wrong = async (more: string) => {
      const { status, body } = await service.call<{ title: string; where: string }>(
        "PUT",
        "/api/v1/reports/never",
        `report: never\ntitle: Never\ndata: owns\nsplit: site\nmessage: { subject: x, body: { text: x } }\ndelivery: ${more}\n`,
      );
      return [status, body.where, body.title];
    };
    expect(await wrong("{ sender: other@lifts.example }")).toEqual([
      422,
      "delivery, sender",
      "Cannot send as other@lifts.example: the identity `office` may not send as it.",
    ]);
    expect((await wrong("{ from: nobody }"))[1]).toBe("delivery, from");
    const identity = (more: object) =>
      service.call("PUT", "/api/v1/identities/office", {
        settings: { from: "Office <office@lifts.example>", perMinute: 60_000, ...more },
      });
    await identity({ domains: ["lifts.example"] });
    expect((await wrong("{ copies: [boss@else.example] }"))[1]).toBe("delivery, copies");
    const run = await plan({ report: "own" }, { release: false });
    const { findings, proof } = await runOf(run);
    expect(findings.filter((one) => one.code === "domain-not-allowed").map((one) => one.what)).toEqual([
      "It would go to ann@dock.example, and the identity `office` may send to lifts.example only.",
    ]);
    expect(proof?.mayBeReleased).toBe(false);
    await identity({});
    await service.call("POST", `/api/v1/runs/${run}/stop`, {});
  });
});

describe("what may happen once", () => {
  it("is a period: the earliest that is over and open, and one group by hand cancels nothing", async () => {
    await demoList();
    const hand = await plan({ report: "site-statement", period: "2026-03", groups: ["Alder Court"] });
    await send(toldSender([{}]));
    expect(await states(hand)).toEqual(["sent"]);
    clock = new Date("2026-12-01T07:00:00Z");
    await tick(service.context);
    const scheduled = async () =>
      (await service.list<RunAnswer>("/api/v1/runs")).filter(
        (run) => (run as unknown as { startedBy: string }).startedBy === "schedule",
      );
    const [{ id: first }] = await scheduled();
    const january = (await runOf(first)) as unknown as { id: string; period: string; periodSentence: string };
    expect(january.period).toBe("2026-01");
    expect(january.periodSentence).toBe(
      "January 2026 is the earliest that is over and not delivered; also open: February 2026, March 2026, April 2026, May 2026, June 2026, July 2026 and 3 more.",
    );
    // Held, it is under way: the next time takes the next one.
    await doSteps(service.context, january.id);
    clock = new Date("2027-01-04T07:00:00Z");
    await tick(service.context);
    expect((await scheduled()).map((run) => (run as unknown as { period: string }).period)).toEqual([
      "2026-02",
      "2026-01",
    ]);
    const march = await plan({ report: "site-statement", period: "2026-03" }, { release: false });
    const { outlook } = await runOf(march);
    expect(outlook?.sentences[0]).toMatch(/^1 of \d+ groups has its already, on \d+ \w+ \d{4}; it is skipped\.$/);
    for (const run of await scheduled()) await service.call("POST", `/api/v1/runs/${run.id}/stop`, {});
    await service.call("POST", `/api/v1/runs/${march}/stop`, {});
    clock = new Date("2026-11-02T09:00:00Z");
  });

  it("is an edition where there is no period: new content of the same day goes out as new", async () => {
    await list("Dock,Ann,ann@dock.example\nQuay,Ben,ben@quay.example");
    await load("days", "Site,Fee\nDock,3\nQuay,4\n");
    await report("daily", "data: days");
    const sender = toldSender([{}]);
    await plan({ report: "daily" });
    await send(sender);
    await load("days", "Site,Fee\nDock,5\nQuay,6\n");
    const second = await plan({ report: "daily" }, { release: false });
    expect((await runOf(second)).outlook).toMatchObject({ messages: 2, had: 0 });
    await releaseRun(service.context, second, "test");
    await send(sender);
    expect(sender.sent).toHaveLength(4);
    // The same edition once more: nothing, and said before.
    const third = await plan({ report: "daily" }, { release: false });
    expect((await runOf(third)).outlook).toMatchObject({ messages: 0, had: 2 });
    await service.call("POST", `/api/v1/runs/${third}/stop`, {});
  });

  it("is a row by its key: delivered ones are left out with the day, and appended ones alone start a run", async () => {
    await list("Dock,Ann,ann@dock.example\nQuay,Ben,ben@quay.example");
    await load("rows", "Site,No,Fee\nDock,V-1,3\nDock,V-2,4\nQuay,V-3,5\n");
    await report("each", "data: rows\nonce: { per: [no] }\ntotals: { fees: sum(line.fee) }\nstartOnData: true");
    const sender = toldSender([{}]);
    await plan({ report: "each" });
    await send(sender);
    expect(sender.sent).toHaveLength(2);
    await service.call("PUT", "/api/v1/datasets/rows/settings", { mode: "append", key: ["No"] });
    await load("rows", "Site,No,Fee\nDock,V-9,7\n", "more.csv");
    const [fresh] = await service.list<RunAnswer>("/api/v1/runs");
    expect((fresh as unknown as { startedBy: string }).startedBy).toBe("new data");
    await doSteps(service.context, fresh.id);
    const shown = await runOf(fresh.id);
    expect(shown.sentences[0]).toBe(
      "4 rows = 1 in 1 group + 3 left out (3 delivered already on 2026-11-02).".replace(
        "2026-11-02",
        dayInZone(new Date(), service.context.settings.zone),
      ),
    );
    expect(shown.sentences[1]).toBe("fees: 19 in the master = 7 in the parcels + 12 in rows of no group.");
    // A second run over the same row, planned before the first is delivered, sends it neither.
    const rival = await plan({ report: "each" }, { release: false });
    await releaseRun(service.context, fresh.id, "test");
    await releaseRun(service.context, rival, "test");
    await send(sender);
    expect(sender.sent).toHaveLength(3);
    clock = new Date(clock.getTime() + 10_000);
    await send(sender);
    expect(sender.sent).toHaveLength(3);
    // Whichever of them comes first.
    const both = [...(await messages(fresh.id)), ...(await messages(rival))];
    expect(both.map((one) => one.state).sort()).toEqual(["sent", "skipped"]);
    expect(both.find((one) => one.state === "skipped")?.response).toContain("a row of it went out");
  });

  it("counts rows picked by a search: the same row is not mailed three times", async () => {
    await list("Dock,Ann,ann@dock.example");
    await load("picks", "Site,Day,Fee\nDock,2026-10-01,3\nDock,2026-10-02,4\nDock,2026-10-03,5\n");
    await report("picked", "data: picks\nperiod: { column: day, every: month }");
    const sender = toldSender([{}]);
    const pick = (rowNumbers: number[]) => ({
      report: "picked",
      period: "2026-10",
      rows: { rowNumbers, why: "not among the rows found" },
    });
    await plan(pick([2, 3]));
    await send(sender);
    const second = await plan(pick([3, 4]), { release: false });
    expect((await runOf(second)).sentences[0]).toMatch(
      /^3 rows = 1 in 1 group \+ 2 left out \(1 not among the rows found, 1 delivered already on/,
    );
    await releaseRun(service.context, second, "test");
    await send(sender);
    expect(sender.sent).toHaveLength(2);
    const third = await plan(pick([2, 3, 4]), { release: false });
    expect((await runOf(third)).findings.map((one) => one.code)).toContain("nothing-to-send");
    // The whole month is another thing, and says nothing twice by itself.
    const whole = await plan({ report: "picked", period: "2026-10" });
    await send(sender);
    expect(await states(whole)).toEqual(["sent"]);
    const last = await plan(pick([2]), { release: false });
    expect((await runOf(last)).findings.map((one) => one.code)).toContain("nothing-to-send");
  });

  it("ends quietly where conditions leave nothing, told to whom it concerns, and is done for its period", async () => {
    await list("Dock,Ann,ann@dock.example");
    await load(
      "limits",
      "Site,Day,Fee,Boss\nDock,2026-08-01,3,bea@dock.example\nDock,2026-09-02,400,bea@dock.example\n",
    );
    await report(
      "above",
      "data: limits\nperiod: { column: day, every: month }\nkeep: fee > 100\nwhenNothing: { tell: [chief@lifts.example] }\ndelivery: { copies: [{ column: boss }] }",
    );
    const quiet = await plan({ report: "above" }, { release: false });
    const { state, sentences, findings } = await runOf(quiet);
    expect([state, sentences[0]]).toEqual([
      "done",
      "2 rows = 0 in 0 groups + 2 left out (1 Day not in 2026-08, 1 Fee not > 100).",
    ]);
    expect(findings.map((one) => `${one.severity} ${one.code}`)).toContain("note nothing-to-send");
    const [told] = await service.list<{ kind: string; what: string; run: string }>("/api/v1/notices?report=above");
    expect([told?.kind, told?.run]).toEqual(["nothing-to-send", quiet]);
    expect(told?.what).toContain("above, August 2026: nothing to send. 2 rows = 0 in 0 groups");
    // The next one is September's, with a copy to whom the rows name.
    const sender = toldSender([{}]);
    const next = await plan({ report: "above" });
    await send(sender);
    expect(((await runOf(next)) as unknown as { period: string }).period).toBe("2026-09");
    expect(sender.sent[0]?.raw).toMatch(/^Cc: .*<bea@dock\.example>$/m);
    // A month that has no rows at all is no quiet end.
    const none = await plan({ report: "above", period: "2026-07" }, { release: false });
    expect((await runOf(none)).findings.map((one) => `${one.severity} ${one.code}`)).toContain("stop no-groups");
  });

  it("is a person's word where the report says so", async () => {
    await list("Dock,Ann,ann@dock.example\nQuay,Ben,ben@quay.example");
    await report("byhand", "data: days\nonce: hand");
    const sender = toldSender([{}]);
    for (const times of [2, 4]) {
      await plan({ report: "byhand" });
      await send(sender);
      expect(sender.sent).toHaveLength(times);
    }
    expect(sender.sent.every((one) => !one.raw.includes("Sent again"))).toBe(true);
    expect(new Set(sender.sent.map((one) => one.id)).size).toBe(4);
  });

  it("puts the months of a growing document in order, whatever order they were delivered in, and makes up for those between", async () => {
    await service.call(
      "PUT",
      "/api/v1/recipients?file=list.csv",
      "Group,Name,Addresses\nAlder Court,Ann,ann@alder.example\n",
    );
    const definition = [
      "report: grown",
      "title: Journal",
      "data: visits",
      "period: { column: visit_date, every: month }",
      "split: site",
      'files: { journal: { template: notice.docx, name: "{{ site }}", grows: true } }',
      'message: { subject: "Journal", body: { text: "Attached." }, attach: [journal] }',
    ].join("\n");
    expect((await service.call("PUT", "/api/v1/reports/grown", definition)).status).toBe(201);
    const month = async (period: string, more: { again?: string } = {}) => {
      const run = await plan({ report: "grown", period, groups: ["Alder Court"], ...more });
      await send(toldSender([{}]));
      const [{ sha256 }] = await service.context.database.select<{ sha256: string }>(
        "SELECT sha256 FROM files WHERE run_id = $1",
        [run],
      );
      return {
        periods: periodsOf(openDocument(await service.context.store.get(sha256), "journal")),
        gaps: (await runOf(run)).findings
          .filter((one) => one.code === "period-missing-in-document")
          .map((one) => one.what),
      };
    };
    await month("2026-03");
    const june = await month("2026-06");
    expect([june.periods, june.gaps]).toEqual([["2026-03", "2026-04", "2026-05", "2026-06"], []]);
    expect((await month("2026-02")).periods).toEqual(["2026-02"]);
    // May stands in the file of June: it is made once more only where somebody says so.
    const may = await plan({ report: "grown", period: "2026-05", groups: ["Alder Court"] }, { release: false });
    expect((await runOf(may)).sentences[0]).toMatch(/ delivered with 2026-06 already\b/);
    await service.call("POST", `/api/v1/runs/${may}/stop`, {});
    expect((await month("2026-05", { again: "one of its own" })).periods).toEqual([
      "2026-02",
      "2026-03",
      "2026-04",
      "2026-05",
    ]);
    const july = await month("2026-07");
    expect([july.periods, july.gaps]).toEqual([["2026-02", "2026-03", "2026-04", "2026-05", "2026-06", "2026-07"], []]);
  });

  describe("of a deck that grows", () => {
    const months = async (run: string): Promise<string[]> => {
      const [{ sha256 }] = await service.context.database.select<{ sha256: string }>(
        "SELECT sha256 FROM files WHERE run_id = $1 AND group_key = 'dock' AND kind = 'pptx'",
        [run],
      );
      const opened = OoxmlPackage.open(await service.context.store.get(sha256), "deck");
      const shown = new Deck(opened).slides.filter(({ isHidden }) => !isHidden);
      return shown.map(({ part }) => titleOf(opened.getXml(part)));
    };
    const define = async (name: string, rows: string, more = ""): Promise<void> => {
      await load(name, rows);
      const deck = handDeck({
        slides: [
          { shapes: title("Cover") },
          { shapes: title("{{ period.label }}: {{ sum(line.fee) }}"), isHidden: true },
        ],
      });
      expect((await service.call("PUT", "/api/v1/templates/grown.pptx", Buffer.from(deck))).status).toBeLessThan(300);
      const definition = [
        `report: ${name}`,
        `title: ${name}`,
        `data: ${name}`,
        "period: { column: day, every: month }",
        "split: site",
        "totals: { fees: sum(line.fee) }",
        `files: { deck: { template: grown.pptx, name: "{{ site }}", grows: true }${more} }`,
        'message: { subject: "Deck", body: { text: "Attached." }, attach: [deck] }',
      ].join("\n");
      expect((await service.call("PUT", `/api/v1/reports/${name}`, definition)).status).toBe(201);
    };
    const PEOPLE = "Dock,Ann,ann@dock.example\nQuay,Ben,ben@quay.example";
    const ROWS =
      "Site,Day,Fee\nDock,2026-05-02,1\nQuay,2026-05-02,2\nDock,2026-06-02,3\nDock,2026-07-02,4\nDock,2026-07-03,5\nQuay,2026-07-02,6\nDock,2026-09-02,7\nQuay,2026-09-02,8\n";

    it("a run that nobody names a period for makes all that are over, and each of them once", async () => {
      await list(PEOPLE);
      await define("caught", ROWS);
      await plan({ report: "caught", period: "2026-05" });
      await send(toldSender([{}, {}]));
      const due = await service.list<{ key: string; isNext: boolean }>("/api/v1/reports/caught/periods");
      expect(due.filter(({ isNext }) => isNext).map(({ key }) => key)).toEqual(["2026-09"]);
      const { body: ahead } = await service.call<{ madeUpFor: string[] }>(
        "GET",
        "/api/v1/reports/caught/prospect?period=2026-09",
      );
      expect(ahead.madeUpFor).toEqual(["June 2026", "July 2026"]);
      const all = await plan({ report: "caught" });
      expect(await months(all)).toEqual(["Cover", "May 2026: 1", "June 2026: 3", "July 2026: 9", "September 2026: 7"]);
      const said = await runOf(all);
      expect(said.periodSentence).toBe(
        "September 2026 is the newest that is over and not delivered; what the files go on without is made up for: June 2026, July 2026.",
      );
      expect(said.sentences.filter((one) => one.startsWith("Made up for"))).toEqual([
        "Made up for 2026-06 in the files that grow: 8 rows = 1 in 1 group + 7 left out (7 Day not in 2026-06). fees: 3 in the master = 3 in the parcels.",
        "Made up for 2026-07 in the files that grow: 8 rows = 3 in 2 groups + 5 left out (5 Day not in 2026-07). fees: 15 in the master = 15 in the parcels.",
      ]);
      // Quay has no rows of June, and August has none at all: that may be a month that was not loaded.
      expect(said.findings.map((one) => one.what)).toEqual([
        "The file goes on without August 2026: not delivered to this group. (in 2 parcels)",
      ]);
      await send(toldSender([{}, {}]));
      const states = await service.list<{ key: string; state: string }>("/api/v1/reports/caught/periods");
      expect(states.map((one) => `${one.key} ${one.state}`)).toEqual([
        "2026-09 delivered",
        "2026-07 delivered",
        "2026-06 delivered",
        "2026-05 delivered",
      ]);
      await expect(plan({ report: "caught" })).rejects.toThrow("every one that is over");
      const named = await plan({ report: "caught", period: "2026-07" }, { release: false });
      expect((await runOf(named)).findings.map((one) => `${one.code}: ${one.what}`)).toContain(
        `period-made-up-for: 2026-07 stands in the files of 2026-09 already: run ${all} made up for it.`,
      );
      await service.call("POST", `/api/v1/runs/${named}/stop`, {});
      // What stands in a deck is not made again by the next one.
      await load("caught", `${ROWS}Dock,2026-10-02,10\n`);
      const next = await plan({ report: "caught" });
      expect(await months(next)).toEqual([
        "Cover",
        "May 2026: 1",
        "June 2026: 3",
        "July 2026: 9",
        "September 2026: 7",
        "October 2026: 10",
      ]);
    });

    it("leaves a period open for groups that the run does not reach, and for what does not grow", async () => {
      await list(PEOPLE);
      await define("partly", ROWS.replace("Quay,2026-09-02,8\n", ""));
      await plan({ report: "partly", period: "2026-05" });
      await send(toldSender([{}, {}]));
      await plan({ report: "partly", period: "2026-09" });
      await send(toldSender([{}]));
      const open = async (name: string): Promise<string[]> =>
        (await service.list<{ key: string; state: string }>(`/api/v1/reports/${name}/periods`))
          .filter((one) => one.state === "open")
          .map((one) => one.key);
      expect(await open("partly")).toEqual(["2026-07"]);
      // Who has it does not get it twice.
      const july = await plan({ report: "partly" });
      expect((await runOf(july)).sentences[0]).toBe(
        "7 rows = 1 in 1 group + 6 left out (4 Day not in 2026-07, 2 delivered with 2026-09 already).",
      );
      await send(toldSender([{}]));
      await define("besides", ROWS, ', rows: { name: "{{ site }} rows", table: {} }');
      await plan({ report: "besides", period: "2026-05" });
      await send(toldSender([{}, {}]));
      const september = await plan({ report: "besides", period: "2026-09" });
      await send(toldSender([{}, {}]));
      expect(await months(september)).toContain("July 2026: 9");
      expect(await open("besides")).toEqual(["2026-07", "2026-06"]);
    });
  });
});

describe("found attachments", () => {
  const folder = () => `${service.data}/attachments`;
  const found = async (attach: string, rows: string, people: string) => {
    await list(people);
    await load("plans", `Site,Fee\n${rows}\n`);
    const made = await service.call<{ title: string; where?: string }>(
      "PUT",
      "/api/v1/reports/plans2",
      `report: plans2\ntitle: Plans\ndata: plans\nsplit: site\nonce: hand\nmessage: { subject: Plan, body: { text: x }, attach: [${attach}] }\n`,
    );
    if (made.status > 201) return { title: made.body.title, findings: [] };
    const run = await plan({ report: "plans2" }, { release: false });
    const { findings, proof } = await runOf(run);
    const enclosed = await service.context.database.select<{ label: string; enclosed: { name: string }[] }>(
      "SELECT label, enclosed FROM parcels WHERE run_id = $1 ORDER BY number",
      [run],
    );
    return {
      run,
      findings: findings.filter((one) => /attachment/.test(one.code)).map((one) => `${one.severity} ${one.code}`),
      files: Object.fromEntries(enclosed.map((one) => [one.label, one.enclosed.map((file) => file.name).join()])),
      released: proof?.mayBeReleased,
    };
  };

  it("are named by the data literally, and belong to their group by name", async () => {
    mkdirSync(folder(), { recursive: true });
    for (const name of ["Beta plan 2026.pdf", "B_ plan.pdf", "Harbour House plan.pdf", "Dock plan.pdf"])
      writeFileSync(`${folder()}/${name}`, name);
    const star = await found(
      '{ found: "{{ site }} plan*.pdf", needed: group }',
      "B*,3\nDock,4",
      "B*,Ann,ann@b.example\nDock,Ben,ben@dock.example",
    );
    // One missing file leaves its group out, with the reason, and stops nobody else.
    expect(star.findings).toEqual(["warn attachment-not-found"]);
    expect(star.files).toEqual({ "B*": "", Dock: "Dock plan.pdf" });
    expect(star.released).toBe(true);
    await releaseRun(service.context, star.run as string, "test");
    const sender = toldSender([{}]);
    await send(sender);
    expect(sender.sent.map((one) => one.to)).toEqual([["ben@dock.example"]]);
    const prefix = await found(
      '{ found: "{{ site }}*.pdf" }',
      "Harbour,3\nHarbour House,4",
      "Harbour,Ann,ann@h.example\nHarbour House,Ben,ben@h.example",
    );
    expect(prefix.findings).toContain("stop attachment-for-several");
    // Also where the other group has no rows this time, and only the list knows it.
    const listed = await found(
      '{ found: "{{ site }}*.pdf" }',
      "Harbour,3",
      "Harbour,Ann,ann@h.example\nHarbour House,Ben,ben@h.example",
    );
    expect(listed.findings).toEqual(["stop attachment-of-another"]);
    const same = await found('{ found: "Dock plan.pdf" }', "Dock,3", "Dock,Ann,ann@d.example");
    expect(same.title).toContain("nothing in it names the group");
    const all = await found(
      '{ found: "Dock plan.pdf", forAll: true }',
      "Dock,3\nQuay,4",
      "Dock,Ann,ann@d.example\nQuay,Ben,ben@q.example",
    );
    expect(all).toMatchObject({ findings: [], files: { Dock: "Dock plan.pdf", Quay: "Dock plan.pdf" } });
  });

  it("are looked for in linear time, whatever stands in the data", async () => {
    writeFileSync(`${folder()}/${"a".repeat(60)}!.pdf`, "x");
    const started = process.hrtime.bigint();
    const hung = await found(
      `{ found: "{{ site }}${"*a".repeat(12)}.pdf", needed: false }`,
      `${"*a".repeat(12)},3`,
      `${"*a".repeat(12)},Ann,ann@a.example`,
    );
    expect(hung.findings).toEqual(["warn attachment-not-found"]);
    // A pattern that goes back and forth takes minutes for this; the whole of it takes a moment.
    expect(Number(process.hrtime.bigint() - started) / 1e9).toBeLessThan(60);
  });
});

describe("a word that names nothing", () => {
  it("is told with the nearest, and changes nothing", async () => {
    const run = await plan({ report: "site-statement", period: "2026-04" }, { release: false });
    const before = await states(run);
    const wrong = async (path: string, body: object, method = "POST") => {
      const answer = await service.call<{ code: string; title: string; advice: string }>(method, path, body);
      return [answer.status, answer.body.code, answer.body.advice];
    };
    expect(await wrong(`/api/v1/runs/${run}/release`, { groups: ["Harbor House"] })).toEqual([
      422,
      "UNKNOWN_NAME",
      expect.stringContaining("Harbour House"),
    ]);
    expect(await wrong(`/api/v1/runs/${run}/skip`, { groups: ["Alder Cort"], reason: "no data" })).toEqual([
      422,
      "UNKNOWN_NAME",
      expect.stringContaining("Alder Court"),
    ]);
    expect(await wrong(`/api/v1/runs/${run}/folder`, { groups: ["Alder Cort"] })).toEqual([
      422,
      "UNKNOWN_NAME",
      expect.stringContaining("Alder Court"),
    ]);
    expect(
      await wrong("/api/v1/runs", { report: "site-statement", period: "2026-04", groups: ["Alder Cort"] }),
    ).toEqual([422, "UNKNOWN_NAME", expect.stringContaining("Alder Court")]);
    expect(
      await wrong(
        "/api/v1/datasets/visits/settings",
        { aliases: [{ column: "Site", from: "Alder Cort", to: "Alder Court" }] },
        "PUT",
      ),
    ).toEqual([422, "UNKNOWN_NAME", expect.stringContaining("Alder Court")]);
    const narrow = await service.call<{ title: string }>(
      "PUT",
      "/api/v1/reports/narrowed",
      "report: narrowed\ntitle: N\ndata: visits\nsplit: site\nmessage: { subject: x, body: { text: x } }\ndelivery: { narrow: { regoin: north } }\n",
    );
    expect([narrow.status, narrow.body.title]).toEqual([422, expect.stringContaining("no such field")]);
    expect(await states(run)).toEqual(before);
    expect((await runOf(run)).state).toBe("held");
    await service.call("POST", `/api/v1/runs/${run}/stop`, {});
  });
});

describe("names of files", () => {
  it("never meet: in the zip and in folders, and a value makes no folder", async () => {
    await list("A/B,Ann,ann@ab.example\nA-B,Ben,ben@ab.example\na-b ,Cy,cy@ab.example");
    await load("names", "Site,Fee\nA/B,3\nA-B,4\nA/B Ward,5\n");
    await report("named", "data: names");
    await service.call(
      "PUT",
      "/api/v1/reports/named",
      `report: named\ntitle: N\ndata: names\nsplit: site\nfiles: { rows: { name: "{{ site }}", folder: "by site/{{ site }}", table: { sheet: Rows } } }\n`,
    );
    const run = await plan({ report: "named" }, { release: false });
    const paths = await service.context.database.select<{ path: string }>(
      "SELECT path FROM files WHERE run_id = $1 ORDER BY id",
      [run],
    );
    expect(paths.map((one) => one.path.split("/").length)).toEqual([3, 3, 3]);
    expect(new Set(paths.map((one) => one.path.toLowerCase())).size).toBe(3);
    const zip = await fetch(`${service.url}/api/v1/runs/${run}/files.zip`, {
      headers: { Authorization: `Bearer ${service.signIn.token}` },
    });
    const { readZip } = await import("@corbix/core/ooxml");
    const names = [...readZip(new Uint8Array(await zip.arrayBuffer()), "z")].map((entry) => entry.name);
    expect(new Set(names.map((name) => name.toLowerCase())).size).toBe(3);
    expect([...new Set(names.map((name) => name.split("/")[0]))]).toEqual(["A-B", "A-B (2)", "A-B Ward"]);
    // Where one of them cannot be written, none is.
    const { readdirSync } = await import("node:fs");
    const out = `${service.data}/out/half`;
    mkdirSync(out, { recursive: true });
    writeFileSync(`${out}/A-B (2)`, "a file where a folder would be");
    const half = await service.call("POST", `/api/v1/runs/${run}/folder`, { folder: "half", perGroup: true });
    expect(half.status).toBeGreaterThanOrEqual(400);
    const left = readdirSync(out, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
    expect(left.map((entry) => entry.name)).toEqual(["A-B (2)"]);
  });
});
