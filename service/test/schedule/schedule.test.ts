/** When reports run by themselves: calendars, periods of all kinds, data that have to come, times that were missed. */
import { afterAll, afterEach, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";
import { doSteps } from "../../../test/setup/steps.js";
import { tick } from "../../dist/schedule/tick.js";

let service: TestService;
let clock = new Date("2026-11-02T09:00:00Z");
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_ZONE: "UTC" }, () => clock);
});
afterAll(() => service?.close());

const { load, list, report, plan, refusal, select, runOf } = smallOffice(() => service);

interface Listed {
  readonly id: string;
  readonly report: string;
  readonly period: string;
  readonly periodLabel: string;
  readonly startedBy: string;
}
const runs = async (name: string) =>
  (await service.list<Listed>("/api/v1/runs")).filter((one) => one.report === name).reverse();
const at = async (when: string) => {
  clock = new Date(when);
  await tick(service.context);
  // The service looks by itself too: what it took meanwhile is started when it has ended.
  await expect.poll(async () => (await select("SELECT 1 FROM schedules WHERE next_at <= $1", [clock])).length).toBe(0);
};
const started = (name: string, count: number) =>
  expect.poll(async () => (await runs(name)).length, { timeout: 10_000 }).toBe(count);
const told = async (name: string) =>
  (await service.list<{ kind: string; what: string; report: string }>(`/api/v1/notices?report=${name}`))
    .filter(({ kind }) => kind !== "waits-for-release")
    .map((one) => `${one.kind}: ${one.what}`);
const next = async (name: string) =>
  (
    await service.call<{ nextTimes: { at: string; movedFrom: { day: string; name: string } | null }[] }>(
      "GET",
      `/api/v1/reports/${name}`,
    )
  ).body.nextTimes;
const calendar = (name: string, body: object, headers = {}) =>
  service.call<{ code?: string; title: string; definition: { off: object[] } }>(
    "PUT",
    `/api/v1/calendars/${name}`,
    { title: name, ...body },
    headers,
  );

afterEach(async () => {
  // What one test leaves on its way is not the next one's.
  await select("UPDATE schedules SET next_at = NULL, waits_since = NULL, data_at = NULL");
});

describe("a calendar", () => {
  it("is kept, shown with a year, changed by one of two people, and deleted only where no report goes by it", async () => {
    clock = new Date("2026-11-02T09:00:00Z");
    expect((await calendar("yard", { off: [{ day: "12-25", name: "Christmas Day" }] })).status).toBe(201);
    const { headers } = await service.call("GET", "/api/v1/calendars/yard");
    const first = await calendar("yard", { off: [] }, { "If-Match": headers.get("etag") as string });
    expect(first.status).toBe(200);
    const second = await calendar("yard", { off: [] }, { "If-Match": headers.get("etag") as string });
    expect([second.status, second.body.code]).toEqual([412, "CHANGED_MEANWHILE"]);
    await calendar("yard", { off: [{ day: "12-25", name: "Christmas Day" }], fiscal: { begins: 10 } });
    const year = await service.call<{ days: { day: string; name: string | null }[]; periods: { label: string }[] }>(
      "POST",
      "/api/v1/calendar-years/2026",
      (await service.call<{ definition: object }>("GET", "/api/v1/calendars/yard")).body.definition,
    );
    expect(year.body.days).toContainEqual({ day: "2026-12-25", name: "Christmas Day", half: false });
    expect(year.body.periods.map((one) => one.label)).toContain("FY 2027 Q1");
    expect(await refusal("PUT", "/api/v1/calendars/bad", { title: "x", off: [{ day: "25.12." }] })).toMatchObject({
      status: 400,
      title: expect.stringContaining("expected a day"),
    });

    await list("Dock,Ann,ann@dock.example");
    await load("visits", "Site,Day,Fee\nDock,2026-10-01,3\nDock,2026-10-20,4\n");
    await report(
      "monthly",
      'data: visits\nschedule: { day: { date: 25, of: month }, calendar: yard, off: before, at: "07:15", zone: UTC, from: 2026-01-01 }',
    );
    expect((await next("monthly")).slice(0, 2)).toEqual([
      { at: "2026-11-25T07:15:00.000Z", movedFrom: null },
      { at: "2026-12-24T07:15:00.000Z", movedFrom: { day: "2026-12-25", name: "Christmas Day" } },
    ]);
    const used = await refusal("DELETE", "/api/v1/calendars/yard");
    expect([used.status, used.title]).toEqual([
      409,
      "Cannot delete the calendar `yard`: these reports go by it: monthly.",
    ]);
    // Who changes the calendar moves the next time.
    await calendar("yard", { off: [{ day: "2026-11-25", name: "Moving" }], fiscal: { begins: 10 } });
    const [{ next_at: moved }] = await select<{ next_at: Date }>(
      "SELECT next_at FROM schedules WHERE report = 'monthly'",
    );
    expect(moved.toISOString()).toBe("2026-11-24T07:15:00.000Z");
    expect((await refusal("PUT", "/api/v1/calendars/yard", { title: "x", working: ["SA"] })).status).toBe(200);
  });

  it("that is not there, or says nothing of the periods asked for, is a refused definition", async () => {
    const refused = (more: string) =>
      refusal("PUT", "/api/v1/reports/odd", `report: odd\ntitle: x\ndata: visits\nsplit: site\n${more}\n`);
    await calendar("plain", {});
    expect(await refused("period: { column: day, every: fiscal-month, calendar: yrad }")).toMatchObject({
      status: 422,
      where: "period, calendar",
      advice: expect.stringContaining("yard"),
    });
    expect(await refused("period: { column: day, every: own, calendar: plain }")).toMatchObject({
      title: "The calendar `plain` has no periods of its own.",
    });
    expect(await refused("period: { column: day, every: fiscal-year }")).toMatchObject({
      title: expect.stringContaining("none is named"),
    });
    expect(await refused('schedule: { rule: "FREQ=MONTLY", at: "07:15", zone: UTC, from: 2026-01-01 }')).toMatchObject({
      title: expect.stringContaining("no frequency `MONTLY`"),
      advice: expect.stringContaining("MONTHLY"),
    });
    expect(
      await refused(
        'schedule: { rule: "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=31", at: "07:15", zone: UTC, from: 2026-01-01 }',
      ),
    ).toMatchObject({
      title: expect.stringContaining("never comes due"),
      advice: expect.stringContaining("2026-02-28"),
    });
    expect(
      await refused('schedule: { rule: FREQ=DAILY, waitFor: [visists], at: "07:15", zone: UTC, from: 2026-01-01 }'),
    ).toMatchObject({ where: "schedule, waitFor", advice: expect.stringContaining("visits") });
  });
});

describe("periods by a calendar", () => {
  it("are chosen, labelled and kept as they were when the run was started", async () => {
    clock = new Date("2026-11-02T09:00:00Z");
    await list("Dock,Ann,ann@dock.example");
    await load("visits", "Site,Day,Fee\nDock,2026-08-29,1\nDock,2026-08-31,2\nDock,2026-10-03,3\nDock,2026-10-20,4\n");
    // Weeks 4-4-5, the year ends on the last Saturday of June.
    await calendar("weeks", { fiscal: { weeks: "4-4-5", ends: "SA", near: "last", month: 6 } });
    await report("fiscal", "data: visits\nperiod: { column: day, every: fiscal-month, calendar: weeks }");
    const periods = await service.list<{ key: string; label: string; state: string; rows: number }>(
      "/api/v1/reports/fiscal/periods",
    );
    expect(periods.map((one) => [one.key, one.label, one.state, one.rows])).toEqual([
      ["FY2027-M04", "FY 2027 M4", "open", 2],
      ["FY2027-M03", "FY 2027 M3", "open", 2],
    ]);
    const run = await plan({ report: "fiscal", period: "fy2027-m03" });
    expect((await runs("fiscal"))[0]).toMatchObject({ period: "FY2027-M03", periodLabel: "FY 2027 M3" });
    await calendar("weeks", {
      fiscal: { weeks: "4-4-5", ends: "SA", near: "last", month: 6, labels: { month: "Month {number}" } },
    });
    expect((await runOf(run)).sentences[0]).toContain("in 1 group");
    expect((await runs("fiscal"))[0]?.periodLabel).toBe("FY 2027 M3");
  });

  it("without a column are said by the day: the running one, or the next, once", async () => {
    clock = new Date("2026-11-02T09:00:00Z");
    await report("ahead", "data: visits\nperiod: { every: month, take: next }");
    const run = await plan({ report: "ahead" });
    expect((await runs("ahead"))[0]?.period).toBe("2026-12");
    expect((await runOf(run)).sentences[0]).toMatch(/^4 rows = 4 in 1 group/);
    await expect(plan({ report: "ahead" })).rejects.toThrow("every one that is over");
    clock = new Date("2026-12-01T09:00:00Z");
    await plan({ report: "ahead" });
    expect((await runs("ahead")).map((one) => one.period)).toEqual(["2026-12", "2027-01"]);
    await report("now", "data: visits\nperiod: { column: day, every: quarter, take: running }");
    clock = new Date("2026-11-02T09:00:00Z");
    const running = await plan({ report: "now" });
    expect((await runs("now"))[0]?.period).toBe("2026-Q4");
    expect((await runOf(running)).sentences[0]).toMatch(/^4 rows = 2 in 1 group \+ 2 left out/);
  });
});

describe("data that have to come", () => {
  const WAITING =
    'schedule: { rule: FREQ=DAILY, at: "07:00", zone: UTC, from: 2026-11-01, waitFor: [visits, rates], notAfter: "18:00" }';

  it("start a report that waits for all of them, not before its time", async () => {
    clock = new Date("2026-11-02T22:00:00Z");
    await list("Dock,Ann,ann@dock.example");
    await load("visits", "Site,Day,Fee\nDock,2026-10-01,3\nDock,2026-10-20,4\n");
    await load("rates", "Site,Rate\nDock,2\nQuay,3\n");
    await report("waits", `data: visits\nonce: hand\n${WAITING}`);
    await at("2026-11-03T07:00:05Z");
    await at("2026-11-03T07:00:08Z");
    // It never ran before: what is there is new to it.
    await started("waits", 1);
    await doSteps(service.context, (await runs("waits"))[0]?.id as string);
    await at("2026-11-04T07:00:05Z");
    await load("visits", "Site,Day,Fee\nDock,2026-10-01,5\nDock,2026-10-20,4\n");
    await at("2026-11-04T09:00:00Z");
    await started("waits", 1);
    await load("rates", "Site,Rate\nDock,5\nQuay,3\n");
    await at("2026-11-04T09:30:00Z");
    await started("waits", 2);
    await at("2026-11-04T17:59:00Z");
    await started("waits", 2);
    expect(await told("waits")).toEqual([]);
  });

  it("and do not come by the hour are told, and start nothing afterwards", async () => {
    await report("waits", `data: visits\nonce: hand\n${WAITING}`);
    await at("2026-11-05T07:00:05Z");
    await load("rates", "Site,Rate\nDock,6\nQuay,3\n");
    await at("2026-11-05T18:00:05Z");
    expect(await told("waits")).toEqual([
      "nothing-came: waits was due at 5 Nov 2026, 07:00 and was not started: nothing new came for visits until 5 Nov 2026, 18:00.",
    ]);
    await load("visits", "Site,Day,Fee\nDock,2026-10-01,6\nDock,2026-10-20,4\n");
    await at("2026-11-05T19:00:00Z");
    await started("waits", 2);
    // They are new for the next time.
    await at("2026-11-06T07:00:05Z");
    await at("2026-11-06T07:00:06Z");
    await started("waits", 3);
  });

  it("start a report by themselves once all are new, and not before an hour", async () => {
    await report(
      "arrives",
      'data: visits\nonce: hand\nstartOnData: { all: [visits, rates], notBefore: "07:00", zone: UTC }',
    );
    clock = new Date("2026-11-08T03:00:00Z");
    await load("visits", "Site,Day,Fee\nDock,2026-10-01,7\nDock,2026-10-20,4\n");
    await at("2026-11-08T06:59:00Z");
    await started("arrives", 0);
    await at("2026-11-08T07:00:01Z");
    await started("arrives", 1);
    clock = new Date("2026-11-08T10:00:00Z");
    await load("visits", "Site,Day,Fee\nDock,2026-10-01,8\nDock,2026-10-20,4\n");
    await started("arrives", 1);
    await load("rates", "Site,Rate\nDock,8\nQuay,3\n");
    await started("arrives", 2);
  });
});

describe("times that passed while the service was down", () => {
  const missed = (how: string) =>
    report(
      `missed-${how}`,
      `data: visits\nonce: hand\nschedule: { rule: FREQ=DAILY, at: "07:00", zone: UTC, from: 2026-11-01, missed: ${how} }`,
    );

  it("are made up for once, each, or not at all and told, as the report says", async () => {
    clock = new Date("2026-11-10T06:00:00Z");
    for (const how of ["once", "all", "none"]) await missed(how);
    await at("2026-11-13T12:00:00Z");
    const counts = async (...wanted: readonly number[]) => {
      for (const [index, how] of ["once", "all", "none"].entries()) await started(`missed-${how}`, wanted[index] ?? 0);
    };
    await counts(1, 4, 0);
    expect(await told("missed-none")).toEqual([
      "schedule-missed: missed-none was not started: 4 times passed while the service was down, and it makes up for none.",
    ]);
    await at("2026-11-14T07:00:30Z");
    await counts(2, 5, 1);
  });

  it("and a start that fails are told", async () => {
    clock = new Date("2026-11-15T06:00:00Z");
    await load("few", "Site,Day,Fee\nDock,2026-10-01,7\nDock,2026-10-20,4\n");
    await report(
      "fails",
      'data: few\nperiod: { column: day, every: month }\nschedule: { rule: FREQ=DAILY, at: "07:00", zone: UTC, from: 2026-10-20 }',
    );
    await at("2026-11-15T07:00:01Z");
    expect(await told("fails")).toEqual([]);
    await at("2026-11-16T07:00:01Z");
    expect((await told("fails"))[0]).toMatch(/^schedule-failed: fails was not started\. .*every one that is over/);
  });
});
