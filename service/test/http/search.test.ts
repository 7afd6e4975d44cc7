/** One search over everything that has a name, and what the overview tells of trouble. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";
import { toldSender } from "../../../test/setup/steps.js";
import { sendWaiting } from "../../dist/outbox/outbox.js";

interface Found {
  kind: string;
  title: string;
  what: string;
  name: string;
  parcel: number | null;
}

let service: TestService;
const { load, list, report, plan, refusal } = smallOffice(() => service);
let run: string;
const search = async (text: string): Promise<Found[]> =>
  (await service.call<{ found: Found[] }>("GET", `/api/v1/search?text=${encodeURIComponent(text)}`)).body.found;
const kinds = async (text: string): Promise<string[]> =>
  (await search(text)).map(({ kind, title }) => `${kind} ${title}`);

beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" }, () => new Date("2026-11-02T09:00:00Z"));
  await load("quays", "site,day\nNorth 100%,2026-10-02\nSouth_Quay,2026-10-03\n");
  await list('North 100%,Åsa,asa@quays.example\nSouth_Quay,"",crew@quays.example');
  await report("quays", "data: quays\nperiod: { column: day, every: month }");
  run = await plan({ report: "quays", period: "2026-10" });
});
afterAll(() => service?.close());

describe("a search over everything", () => {
  it("finds groups with their newest parcel, people, reports, runs, files, data and templates", async () => {
    expect(await kinds("quays")).toEqual([
      "person Åsa",
      "person crew@quays.example",
      "report quays",
      "run quays, October 2026",
      "dataset quays",
    ]);
    const [group, file] = (await search("south_quay")).filter(({ kind }) => kind === "group" || kind === "file");
    expect(group).toEqual({ kind: "group", title: "South_Quay", what: "quays, October 2026", name: run, parcel: 2 });
    expect(file).toMatchObject({ kind: "file", title: "South_Quay.xlsx", name: run, parcel: 2 });
    expect(await kinds("statement.xlsx")).toContain("template statement.xlsx");
    expect(await kinds(run.slice(0, 6))).toContain("run quays, October 2026");
  });

  it("takes signs of patterns for themselves, and capitals for small letters", async () => {
    expect((await kinds("100%"))[0]).toBe("group North 100%");
    expect(await kinds("0%1")).toEqual([]);
    expect(await kinds("h_q")).toEqual(["group South_Quay", "file South_Quay.xlsx"]);
    expect((await kinds("ÅSA"))[0]).toBe("person Åsa");
  });

  it("names the group's parcel of the newest run that has it", async () => {
    const again = await plan({ report: "quays", period: "2026-10", again: "to be found" }, { release: false });
    expect((await search("North 100"))[0]).toMatchObject({ kind: "group", name: again, parcel: 1 });
  });

  it("asks for two letters at least", async () => {
    expect(await refusal("GET", "/api/v1/search?text=%20a")).toMatchObject({ status: 400 });
  });
});

describe("what the overview tells of trouble", () => {
  interface Trouble {
    run: string;
    title: string;
    periodLabel: string;
    state: string;
    count: number;
    groups: string[];
    response: string | null;
  }
  const troubles = async (): Promise<Trouble[]> =>
    (await service.call<{ troubles: Trouble[] }>("GET", "/api/v1/overview")).body.troubles;

  it("is by run and state, with the groups and what the server said; what went out again is settled", async () => {
    expect(await troubles()).toEqual([]);
    const refused = { kind: "refused", response: "550 no such person", refused: [] } as const;
    await sendWaiting(service.context, "office", toldSender([refused, {}]).open);
    expect(await troubles()).toEqual([
      expect.objectContaining({
        run,
        title: "quays",
        periodLabel: "October 2026",
        state: "refused",
        count: 1,
        groups: ["North 100%"],
        response: expect.stringContaining("550 no such person"),
      }),
    ]);
    const [message] = await service.context.database.select<{ id: string }>(
      "SELECT id::text FROM messages WHERE run_id = $1 AND state = 'refused'",
      [run],
    );
    const again = await service.call("POST", `/api/v1/messages/${message?.id}/again`, { reason: "address corrected" });
    expect(again.status).toBeLessThan(300);
    expect(await troubles()).toEqual([]);
  });
});
