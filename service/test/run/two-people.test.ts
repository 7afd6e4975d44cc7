/** Two pairs of eyes: an approval is given for what goes, by people of whom none prepared it where the report says so. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";
import { toldSender } from "../../../test/setup/steps.js";
import { sendWaiting } from "../../dist/outbox/outbox.js";
import { releaseRun } from "../../dist/run/release.js";

let service: TestService;
const clock = new Date("2026-11-02T09:00:00Z");
beforeAll(async () => {
  // No workers: the steps are driven by hand, with a mail server that does as it is told.
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" }, () => clock);
});
afterAll(() => service?.close());

const { plan } = smallOffice(() => service);
const states = async (run: string) =>
  (
    await service.context.database.select<{ state: string }>(
      "SELECT state FROM messages WHERE run_id = $1 ORDER BY id",
      [run],
    )
  ).map(({ state }) => state);
const send = (sender: ReturnType<typeof toldSender>) => sendWaiting(service.context, "office", sender.open);

describe("two people", () => {
  const two = async (name: string, more = "") => {
    const { source } = (await service.call<{ source: string }>("GET", "/api/v1/reports/site-statement")).body;
    const { status, body } = await service.call(
      "PUT",
      `/api/v1/reports/${name}`,
      source
        .replace("report: site-statement", `report: ${name}`)
        .replace("hold: true", `hold: true\n  approvals: 2${more}`)
        .replace(/schedule:[\s\S]*/, ""),
    );
    expect([200, 201], JSON.stringify(body)).toContain(status);
  };
  const shown = async (run: string) =>
    (
      await service.call<{ approvals: { by: string; stands: boolean; digest: string; groups: number | null }[] }>(
        "GET",
        `/api/v1/runs/${run}`,
      )
    ).body.approvals;

  it("approve what goes: an approval names it, and is taken back by a change", async () => {
    await two("pair-of-eyes");
    const groups = ["Alder Court", "Harbour House"];
    const run = await plan({ report: "pair-of-eyes", period: "2026-02", groups }, { release: false });
    expect(await releaseRun(service.context, run, "ann")).toBe("approved");
    expect((await shown(run)).map(({ by, stands, groups: of }) => [by, stands, of])).toEqual([["ann", true, null]]);
    expect((await shown(run))[0]?.digest).toMatch(/^[0-9a-f]{64}$/);
    // What ben lets go is what ann has seen: a group left out meanwhile is another run to look at.
    const skip = await service.call("POST", `/api/v1/runs/${run}/skip`, { groups: ["Alder Court"], reason: "not yet" });
    expect(skip.status).toBe(200);
    expect((await shown(run)).map(({ by, stands }) => [by, stands])).toEqual([["ann", false]]);
    expect(await releaseRun(service.context, run, "ben")).toBe("approved");
    expect((await shown(run)).map(({ by, stands }) => [by, stands])).toEqual([["ben", true]]);
    expect(await releaseRun(service.context, run, "ann")).toBe("released");
    await send(toldSender([{}]));
    expect((await states(run)).sort()).toEqual(["sent", "skipped"]);
  });

  it("let nothing go that one of them has not approved", async () => {
    await two("pair-of-groups");
    const groups = ["Alder Court", "Harbour House"];
    const run = await plan({ report: "pair-of-groups", period: "2026-02", groups }, { release: false });
    expect(await releaseRun(service.context, run, "ann", ["Alder Court"])).toBe("approved");
    await expect(releaseRun(service.context, run, "ben")).rejects.toThrow("ann has approved 1 group of it only");
    expect((await shown(run)).map(({ by }) => by)).toEqual(["ann"]);
    expect(await releaseRun(service.context, run, "ben", ["Alder Court"])).toBe("released");
  });

  it("are others than who prepared it, where the report says so", async () => {
    await two("pair-apart", "\n  apart: true");
    const run = await plan({ report: "pair-apart", period: "2026-02", groups: ["Alder Court"] }, { release: false });
    const { startedBy } = (await service.call<{ startedBy: string }>("GET", `/api/v1/runs/${run}`)).body;
    await expect(releaseRun(service.context, run, startedBy)).rejects.toThrow("another person has to");
    await expect(releaseRun(service.context, run, "office")).rejects.toThrow(
      /office (started it|saved its report last)/,
    );
    expect(await releaseRun(service.context, run, "ann")).toBe("approved");
    expect(await releaseRun(service.context, run, "ben")).toBe("released");
  });
});
