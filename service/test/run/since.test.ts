/** A run beside the one of the period before, and a run of very many parcels. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { largeRun } from "../../../test/setup/large-run.js";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";

interface Parcel {
  number: number;
  label: string;
  rowCount: number;
  moved: number | null;
  since: { rows: number; totals: Record<string, string>; bytes: number; isResized: boolean } | null;
  files: { size: number }[];
}
interface Since {
  run: string;
  periodLabel: string;
  newCount: number;
  movedCount: number;
  resizedCount: number;
  goneCount: number;
  gone: { label: string; rows: number }[];
}

let service: TestService;
const { load, list, report, plan, runOf } = smallOffice(() => service);
const sinceOf = async (run: string): Promise<Since | null> =>
  ((await runOf(run)) as unknown as { since: Since | null }).since;
const parcels = async (run: string, query = ""): Promise<Parcel[]> =>
  (await service.call<{ items: Parcel[] }>("GET", `/api/v1/runs/${run}/parcels?limit=100${query}`)).body.items;
const labels = async (run: string, query: string): Promise<string[]> =>
  (await parcels(run, query)).map(({ label }) => label);

const MONTHS = [
  "site,day,fee",
  "Dock,2026-08-02,10",
  "Quay,2026-08-03,10",
  "Pier,2026-08-04,5",
  "Dock,2026-09-02,10",
  ...Array.from({ length: 60 }, (_, at) => `Quay,2026-09-03,${at + 11}`),
  "Mole,2026-09-04,3",
  "Dock,2026-10-02,10",
];

beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" }, () => new Date("2026-11-02T09:00:00Z"));
  await load("tolls", `${MONTHS.join("\n")}\n`);
  await list("Dock,Ann,ann@dock.example");
  await report("tolls", "data: tolls\nperiod: { column: day, every: month }\ntotals: { fees: sum(line.fee) }");
});
afterAll(() => service?.close());

describe("a run beside the period before", () => {
  it("has nothing to be set beside the first time", async () => {
    const run = await plan({ report: "tolls", period: "2026-08" });
    expect(await sinceOf(run)).toBeNull();
    expect((await parcels(run)).map(({ since, moved }) => [since, moved])).toEqual(Array(3).fill([null, null]));
    expect(await labels(run, "&since=new")).toEqual([]);
  });

  it("tells what is new and gone, what moved much and whose files have another size; each is found by it", async () => {
    const run = await plan({ report: "tolls", period: "2026-09" }, { release: false });
    expect(await sinceOf(run)).toMatchObject({
      periodLabel: "August 2026",
      newCount: 1,
      movedCount: 1,
      goneCount: 1,
      gone: [{ label: "Pier", rows: 1 }],
    });
    const [dock, mole, quay] = await parcels(run, "&sort=label");
    expect(dock).toMatchObject({ label: "Dock", moved: 0, since: { rows: 1, totals: { fees: "10" } } });
    expect(mole).toMatchObject({ label: "Mole", moved: null, since: null });
    expect(quay?.moved).toBeCloseTo(1 - 10 / 2430, 3);
    expect(await labels(run, "&since=new")).toEqual(["Mole"]);
    expect(await labels(run, "&since=moved")).toEqual(["Quay"]);
    expect(await labels(run, "&sort=-moved")).toEqual(["Mole", "Quay", "Dock"]);
    expect(await labels(run, "&sort=-bytes")).toEqual(["Quay", expect.any(String), expect.any(String)]);
    const resized = (await parcels(run)).filter(({ since }) => since?.isResized).map(({ label }) => label);
    expect(await labels(run, "&since=resized")).toEqual(resized);
  });

  it("passes over runs that were never released, rehearsals and those of some groups", async () => {
    const [first] = await service.list<{ id: string }>("/api/v1/runs?report=tolls&period=2026-08");
    await plan({ report: "tolls", period: "2026-09", rehearsalTo: "me@lifts.example" }, { release: false });
    await plan({ report: "tolls", period: "2026-09", groups: ["Dock"] });
    const run = await plan({ report: "tolls", period: "2026-10" }, { release: false });
    expect((await sinceOf(run))?.run).toBe(first?.id);
  });

  it("does not call groups gone that were not asked for", async () => {
    const run = await plan({ report: "tolls", period: "2026-09", groups: ["Dock"] }, { release: false });
    expect(await sinceOf(run)).toMatchObject({ newCount: 0, goneCount: 0, gone: [] });
  });

  it("is of the run before where a report has no period", async () => {
    await report("alltolls", "data: tolls\nonce: hand");
    const first = await plan({ report: "alltolls" });
    const second = await plan({ report: "alltolls" }, { release: false });
    expect(await sinceOf(second)).toMatchObject({
      run: first,
      newCount: 0,
      movedCount: 0,
      resizedCount: 0,
      goneCount: 0,
    });
  });
});

describe("a run of very many parcels", () => {
  it("is told whole, and its parcels are found, filtered, sorted and jumped to", async () => {
    const of = await plan({ report: "tolls", period: "2026-08", again: "to be copied" }, { release: false });
    const run = await largeRun(service.context, of, 5_000);
    const { outlook, parcelCount } = (
      await service.call<{ outlook: object; parcelCount: number }>("GET", `/api/v1/runs/${run}`)
    ).body;
    expect([parcelCount, outlook]).toEqual([
      5_000,
      expect.objectContaining({ groups: 5_000, going: 4_995, none: 5, messages: 4_995 }),
    ]);
    expect(await labels(run, "&first=4999")).toEqual(["Site 05000"]);
    expect((await labels(run, "&first=1234"))[0]).toBe("Site 01235");
    expect(await labels(run, "&first=5000")).toEqual([]);
    expect(await labels(run, "&message=skipped")).toEqual(
      [7, 1007, 2007, 3007, 4007].map((at) => `Site 0${String(at).padStart(4, "0")}`),
    );
    expect(await labels(run, "&search=e 0499&sort=-label&first=3")).toEqual([
      "Site 04996",
      "Site 04995",
      "Site 04994",
      "Site 04993",
      "Site 04992",
      "Site 04991",
      "Site 04990",
    ]);
    const rows = (await parcels(run, "&sort=-rowCount")).map(({ rowCount }) => rowCount);
    expect(rows).toEqual([...rows].sort((a, b) => b - a));
    // An address is found in any parcel's message, and what is none of its people is not.
    const found = async (search: string) =>
      (await service.call<{ total: number }>("GET", `/api/v1/runs/${run}/parcels?search=${search}`)).body.total;
    expect([await found("ann@dock"), await found("address")]).toEqual([5_000, 0]);
  });
});
