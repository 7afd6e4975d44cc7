/** Who wants to know is told: at once, in the morning, or by a signed call; of what they chose and of nothing else. */
import { createHmac } from "node:crypto";
import { createServer, type IncomingMessage } from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";

let service: TestService;
let clock = new Date("2026-11-02T09:00:00Z");
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_ZONE: "UTC" }, () => clock);
  await list("Dock,Ann,ann@dock.example");
  await load("days", "Site,Fee\nDock,3\nDock,4\n");
  await report("told", "data: days\nonce: hand");
  await report("other", "data: days\nonce: hand\nkeep: fee > 10");
});
afterAll(() => service?.close());
const { load, list, report, plan, select } = smallOffice(() => service);

/** The service passes on what is due within moments. */
const told = () =>
  expect
    .poll(
      async () =>
        (await select("SELECT 1 FROM tellings WHERE told_at IS NULL AND due_at <= $1", [clock])).length +
        (await select("SELECT 1 FROM tellings WHERE told_at IS NULL AND error IS NULL AND tries > 0")).length,
      { timeout: 20_000 },
    )
    .toBe(0);
const letters = async (to: string) =>
  (await service.list<{ id: string; subject: string; to: string[] }>("/api/v1/letters")).filter((one) =>
    JSON.stringify(one).includes(to),
  );
const watch = (name: string, wish: object) => service.call("PUT", `/api/v1/watchers/${name}`, wish);

describe("notices", () => {
  it("are mailed at once to whom they concern, with where to look, and to nobody else", async () => {
    expect(
      (
        await watch("chief", {
          way: "mail",
          address: "chief@lifts.example",
          kinds: ["waits-for-release"],
          reports: ["told"],
        })
      ).status,
    ).toBe(200);
    await watch("deputy", { way: "mail", address: "deputy@lifts.example", kinds: ["nothing-to-send"] });
    const held = await plan({ report: "told" }, { release: false });
    await plan({ report: "other" }, { release: false });
    await told();
    const [letter, ...more] = await letters("chief@lifts.example");
    expect([letter?.subject, more.length]).toEqual(["told, 2026-11-02, waits for its release: 1 message", 0]);
    const { body } = await service.call<{ text: string }>("GET", `/api/v1/letters/${letter?.id}`);
    expect(JSON.stringify(body)).toContain(`/#/runs/${held}`);
    expect((await letters("deputy@lifts.example")).map(({ subject }) => subject)).toEqual([
      "other, 2026-11-02: nothing to send",
    ]);
    await told();
    expect(await letters("chief@lifts.example")).toHaveLength(1);
  });

  it("wait for the morning where somebody wants a summary, and come as one mail", async () => {
    await watch("morning", {
      way: "mail",
      address: "early@lifts.example",
      kinds: ["waits-for-release", "nothing-to-send"],
      morning: "07:00",
    });
    await plan({ report: "told" }, { release: false });
    await plan({ report: "other" }, { release: false });
    await told();
    expect(await letters("early@lifts.example")).toHaveLength(0);
    clock = new Date("2026-11-03T06:59:00Z");
    await told();
    expect(await letters("early@lifts.example")).toHaveLength(0);
    clock = new Date("2026-11-03T07:00:01Z");
    await told();
    expect((await letters("early@lifts.example")).map(({ subject }) => subject)).toEqual(["Corbix: 2 notices"]);
    await service.call("DELETE", "/api/v1/watchers/morning");
  });

  it("are called out signed, and again later where nobody answers", async () => {
    const heard: { body: string; signature: string | undefined }[] = [];
    let isDown = true;
    const hook = createServer((request: IncomingMessage, response) => {
      let body = "";
      request.on("data", (part) => {
        body += part;
      });
      request.on("end", () => {
        response.statusCode = isDown ? 503 : 204;
        response.end();
        heard.push({ body, signature: request.headers["x-signature"] as string | undefined });
      });
    });
    await new Promise<void>((resolve) => hook.listen(0, "127.0.0.1", resolve));
    const address = `http://127.0.0.1:${(hook.address() as AddressInfo).port}/hook`;
    const secret = "a secret of sixteen signs";
    await watch("desk", { way: "callback", address, kinds: ["waits-for-release"], secret });
    await plan({ report: "told" }, { release: false });
    await told();
    expect(heard).toHaveLength(1);
    isDown = false;
    await told();
    expect(heard).toHaveLength(1);
    clock = new Date(clock.getTime() + 60_000);
    await told();
    expect(heard).toHaveLength(2);
    expect(heard[1]?.signature).toBe(
      createHmac("sha256", secret)
        .update(heard[1]?.body ?? "")
        .digest("hex"),
    );
    expect(JSON.parse(heard[1]?.body ?? "{}").notices[0]).toMatchObject({ kind: "waits-for-release", report: "told" });
    hook.close();
  });

  it("are refused where nobody could be told", async () => {
    const bad = async (wish: object) => {
      const { status, body } = await watch("x", wish);
      return [status, (body as { title?: string }).title];
    };
    expect((await bad({ way: "mail", address: "https://x.example", kinds: ["refused"] }))[0]).toBe(400);
    expect((await bad({ way: "mail", address: "a@b.example", kinds: [] }))[0]).toBe(400);
    expect((await bad({ way: "mail", address: "a@b.example", kinds: ["refused"], zone: "Europe/Aldmoor" }))[1]).toBe(
      "Cannot find the time zone `Europe/Aldmoor`.",
    );
  });
});
