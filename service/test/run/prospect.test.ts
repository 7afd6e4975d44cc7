/** What a run would do, asked before anybody starts one. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";
import { toldSender } from "../../../test/setup/steps.js";
import { sendWaiting } from "../../dist/outbox/outbox.js";

interface Prospect {
  items: {
    group: string;
    people: string[];
    says: string;
    why: string | null;
    day: string | null;
    run: string | null;
  }[];
  total: number;
  period: string | null;
  rows: number;
  leftOut: { reason: string; count: number }[];
  counts: Record<string, number>;
  onceSentence: string;
  holds: boolean;
}

let service: TestService;
const { load, list, report, plan, refusal } = smallOffice(() => service);
const prospect = async (name: string, query = ""): Promise<Prospect> =>
  (await service.call<Prospect>("GET", `/api/v1/reports/${name}/prospect${query}`)).body;
const says = async (name: string, query = ""): Promise<string[]> =>
  (await prospect(name, query)).items.map((one) => `${one.group} ${one.says}`);
const send = async (): Promise<void> => {
  await sendWaiting(service.context, "office", toldSender([{}]).open);
};

beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" }, () => new Date("2026-11-02T09:00:00Z"));
  await load(
    "visits",
    "site,unit,day\nDock,L1,2026-09-02\nQuay,L2,2026-09-03\nDock,L1,2026-10-02\nQuay,L2,2026-10-03\nMole,L3,2026-10-04\nDock,L9,2026-11-01\n",
  );
  await list("Dock,Ann,ann@dock.example\nQuay,Ben,ben@quay.example");
  await report("monthly", "data: visits\nperiod: { column: day, every: month }");
});
afterAll(() => service?.close());

describe("a report's periods", () => {
  interface Period {
    key: string;
    label: string;
    state: string;
    rows: number;
    run: { id: string; state: string; releasedAt: string | null } | null;
  }
  const periods = () => service.list<Period>("/api/v1/reports/monthly/periods");

  it("are told with their rows and what became of each, the newest first", async () => {
    const told = async () => (await periods()).map(({ label, state, rows }) => `${label} ${state} ${rows}`);
    expect(await told()).toEqual(["November 2026 running 1", "October 2026 open 3", "September 2026 open 2"]);
    const first = await plan({ report: "monthly", period: "2026-09" });
    const held = await plan({ report: "monthly", period: "2026-10" }, { release: false });
    expect(await told()).toEqual(["November 2026 running 1", "October 2026 under way 3", "September 2026 delivered 2"]);
    const [, october, september] = await periods();
    expect(october?.run).toEqual({ id: held, state: "held", releasedAt: null });
    expect(september?.run).toMatchObject({ id: first, releasedAt: expect.stringMatching(/^\d{4}-/) });
  });

  it("are none where it has no period", async () => {
    await report("whole", "data: visits");
    expect(await service.list("/api/v1/reports/whole/periods")).toEqual([]);
  });
});

describe("what a run would do", () => {
  it("is told for each group: who gets theirs, who had it and when, and for whom there is nobody", async () => {
    const before = await prospect("monthly", "?period=2026-10");
    expect(before).toMatchObject({
      period: "2026-10",
      rows: 3,
      counts: { groups: 3, go: 2, some: 0, had: 0, none: 1 },
      holds: true,
      onceSentence: "Each group gets it once for a period.",
    });
    expect(before.leftOut.reduce((sum, { count }) => sum + count, 0)).toBe(3);
    expect(before.items.find(({ group }) => group === "Mole")).toMatchObject({
      says: "none",
      people: [],
      why: expect.any(String),
    });
    // September was released, and goes out now.
    await send();
    const after = await prospect("monthly", "?period=2026-09");
    expect(after.counts).toEqual({ groups: 2, go: 0, some: 0, had: 2, none: 0 });
    expect(after.items[0]).toMatchObject({
      group: "Dock",
      people: ["Ann"],
      says: "had",
      day: expect.stringMatching(/^2026-/),
      run: expect.any(String),
    });
  });

  it("skips a group whose message reached all it went to, as the run does, and is narrowed by that and by names", async () => {
    await list("Dock,Ann,ann@dock.example\nDock,Cem,cem@dock.example\nQuay,Ben,ben@quay.example");
    expect(await says("monthly", "?period=2026-09")).toEqual(["Dock had", "Quay had"]);
    expect(await says("monthly", "?period=2026-09&says=some")).toEqual([]);
    expect(await says("monthly", "?period=2026-09&says=had&search=qua")).toEqual(["Quay had"]);
  });

  it("is of an edition where one is named, and goes by the edition where that is what happens once", async () => {
    await list("Dock,Ann,ann@dock.example\nQuay,Ben,ben@quay.example\nMole,Mo,mo@mole.example");
    await plan({ report: "whole" });
    await send();
    expect(await says("whole")).toEqual(["Dock had", "Mole had", "Quay had"]);
    await load("visits", "site,unit,day\nDock,L1,2026-09-02\n");
    expect(await says("whole")).toEqual(["Dock go"]);
    expect(await says("whole", "?edition=2")).toEqual(["Dock had", "Mole had", "Quay had"]);
  });

  it("leaves out rows that have gone, where each row goes out once", async () => {
    await load("calls", "site,no\nDock,1\nDock,2\nQuay,3\n");
    await report("rows", "data: calls\nonce: { per: [no] }");
    await plan({ report: "rows" });
    await send();
    await load("calls", "site,no\nDock,1\nDock,2\nQuay,3\nDock,4\n");
    const { items, leftOut, rows } = await prospect("rows");
    expect(items.map(({ group, says: said }) => [group, said])).toEqual([["Dock", "go"]]);
    expect([rows, leftOut]).toEqual([1, [{ reason: expect.stringMatching(/^delivered already on 2026-/), count: 3 }]]);
  });

  it("begins anew with every run that a person starts as a delivery of its own", async () => {
    await report("byhand", "data: calls\nonce: hand");
    await plan({ report: "byhand" });
    await send();
    expect(await says("byhand")).toEqual(["Dock go", "Quay go"]);
  });

  it("is refused for reports, periods and editions that are not there", async () => {
    expect(await refusal("GET", "/api/v1/reports/gone/prospect")).toMatchObject({ status: 404 });
    expect(await refusal("GET", "/api/v1/reports/monthly/prospect?period=2026-13")).toMatchObject({ status: 422 });
    expect(await refusal("GET", "/api/v1/reports/monthly/prospect?edition=9")).toMatchObject({ status: 404 });
    expect(await refusal("GET", "/api/v1/reports/monthly/periods?edition=9")).toMatchObject({ status: 404 });
  });
});

describe("a prospect beside what the run then does", () => {
  const outlookOf = async (run: string): Promise<Record<string, number>> => {
    const { outlook } = (await service.call<{ outlook: Record<string, number> }>("GET", `/api/v1/runs/${run}`)).body;
    const { going = 0, some = 0, had = 0, none = 0 } = outlook;
    return { go: going, some, had, none };
  };
  const agree = async (name: string, query: string, request: object): Promise<Record<string, number>> => {
    const { groups: _, ...told } = (await prospect(name, query)).counts;
    const run = await plan({ report: name, ...request } as never, { release: false });
    expect(told).toEqual(await outlookOf(run));
    return told;
  };
  const MORE: Readonly<Record<string, string>> = {
    "one message for all": "",
    "one for each person": "each",
  };

  it.each(Object.entries(MORE))(
    "is the same with %s, for people who joined, left, or got another address",
    async (what, each) => {
      const name = `agree-${each || "all"}`;
      await load("ferries", "site,unit,day\nDock,L1,2026-09-02\nQuay,L2,2026-09-03\nMole,L3,2026-09-04\n");
      await list(
        "Dock,Ann,ann@dock.example\nQuay,Ben,ben@quay.example\nQuay,Bea,bea@quay.example\nMole,Mo,mo@mole.example",
      );
      const message = `message: { subject: "For {{ site }}", body: { text: "Attached." }, attach: [rows]${each ? ", each: person" : ""} }`;
      const definition = `report: ${name}\ntitle: ${what}\ndata: ferries\nperiod: { column: day, every: month }\nsplit: site\nfiles: { rows: { name: "{{ site }}", table: { sheet: Rows } } }\n${message}\n`;
      expect((await service.call("PUT", `/api/v1/reports/${name}`, definition)).status).toBeLessThan(300);
      const ask = () => agree(name, "?period=2026-09", { period: "2026-09" });
      expect(await ask()).toMatchObject({ go: 3 });
      await plan({ report: name, period: "2026-09" });
      await send();
      expect(await ask()).toMatchObject({ had: 3 });
      await list(
        "Dock,Ann,ann@dock.example\nDock,Cem,cem@dock.example\nQuay,Ben,ben@quay.example\nMole,Mo,mo@elsewhere.example",
      );
      await ask();
      await list("Dock,Ann,ann@dock.example\nQuay,Ben,ben@quay.example");
      await ask();
    },
  );
});
