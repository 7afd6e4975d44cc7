import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";

let service: TestService;
const { load, report, plan, runOf, refusal, select } = smallOffice(() => service);
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" });
  await load("lifts", "site,unit\nDock,L1\nQuay,L2\n");
  const list = "Group,Name,Addresses,Duty\nDock,Ann,ann@dock.example,Manager\nQuay,Ben,ben@quay.example,Deputy\n";
  expect((await service.call("PUT", "/api/v1/recipients?file=list.csv", list)).status).toBe(200);
});
afterAll(() => service?.close());

const saving = (delivery: string) =>
  refusal(
    "PUT",
    "/api/v1/reports/tried",
    `report: tried\ntitle: Tried\ndata: lifts\nsplit: site\nmessage: { subject: A, body: { text: B } }\ndelivery: ${delivery}\n`,
  );

describe("what a report says of its people", () => {
  it.each([
    ["{ narrow: { dty: Manager } }", "Cannot narrow by `dty`: the recipient list has no such field.", "Duty"],
    ["{ narrow: { duty: Managr } }", "Cannot narrow to `Managr`: nobody of the list has it as Duty.", "Manager"],
    ["{ narrow: { duty: [manager, boss] } }", "Cannot narrow to `boss`: nobody of the list has it as Duty.", ""],
    ["{ from: offce }", "Cannot find the sending identity `offce`.", "office"],
    ["{ sender: x@y.example }", "Cannot send as x@y.example: the identity `office` may not send as it.", "senders"],
  ])("is refused where it would leave everybody out, or could not be sent: %s", async (delivery, title, advice) => {
    const said = await saving(delivery);
    expect([said.code, said.title]).toEqual(["BAD_DEFINITION", title]);
    expect(said.advice).toContain(advice);
  });

  it("is kept where it fits", async () => {
    expect((await saving("{ narrow: { duty: [manager, Deputy] } }")).status).toBe(201);
    expect((await saving("{ narrow: { Duty: manager } }")).status).toBe(200);
    const run = await plan({ report: "tried" }, { release: false });
    const people = await select<{ label: string; people: number }>(
      "SELECT label, json_array_length(recipients) AS people FROM parcels WHERE run_id = $1 ORDER BY label",
      [run],
    );
    expect(people).toEqual([
      { label: "Dock", people: 1 },
      { label: "Quay", people: 0 },
    ]);
  });

  it("stops a run where the identity may not send so any more", async () => {
    const { settings } = (await service.call<{ settings: object }>("GET", "/api/v1/identities/office")).body;
    const allow = (senders: string[]) =>
      service.call("PUT", "/api/v1/identities/office", { settings: { ...settings, senders } });
    expect((await allow(["team@lifts.example"])).status).toBe(200);
    await report("later", "data: lifts\nonce: hand\ndelivery: { sender: team@lifts.example }");
    expect((await allow([])).status).toBe(200);
    const { findings } = await runOf(await plan({ report: "later" }, { release: false }));
    expect(findings.find(({ code }) => code === "sender-not-allowed")).toMatchObject({ severity: "stop" });
  });
});

describe("two people who have to release", () => {
  it("leave no time to the clock, and neither does a run that is not held", async () => {
    await report("pair", "data: lifts\nonce: hand\ndelivery: { approvals: 2 }");
    const at = new Date(Date.now() + 3_600_000).toISOString();
    const pair = await plan({ report: "pair" }, { release: false });
    const later = (run: string) => refusal("POST", `/api/v1/runs/${run}/release`, { at });
    expect((await later(pair)).title).toBe("Cannot set a time: two people have to release this run.");
    await report("single", "data: lifts\nonce: hand");
    const single = await plan({ report: "single" }, { release: false });
    await service.call("POST", `/api/v1/runs/${single}/stop`, {});
    expect((await later(single)).title).toBe("Cannot set a time for the run: it is stopped, expected held.");
  });
});
