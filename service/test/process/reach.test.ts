/** What people write down leads nowhere into the network that the service stands in, unless whoever operates it has listed it. */
import { createServer as createHttpServer } from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";
import { openReach } from "../../dist/process/reach.js";
import { tell } from "../../dist/tell/notices.js";
import { postJson } from "../../dist/tell/post.js";
import { tellDue } from "../../dist/tell/tell-due.js";

const may = (host: string, listed?: string): boolean => {
  try {
    openReach(listed).check(host);
    return true;
  } catch {
    return false;
  }
};
const looked = (host: string, listed?: string) =>
  new Promise<string>((resolve) => {
    openReach(listed).lookup(host, {}, (error, address) =>
      resolve(error ? `refused: ${error.message}` : String(address)),
    );
  });

describe("an address that somebody writes down", () => {
  it("leads outside, and never inside, however it is written", () => {
    for (const host of [
      "93.184.216.34",
      "8.8.8.8",
      "2606:2800:220:1::1",
      "[2606:2800:220:1::1]",
      "lifts.example",
      "172.32.0.1",
      "100.128.0.1",
    ])
      expect([host, may(host)]).toEqual([host, true]);
    for (const host of [
      "127.0.0.1",
      "127.9.9.9",
      "0.0.0.0",
      "10.1.2.3",
      "172.16.0.1",
      "172.31.255.255",
      "192.168.7.7",
      "169.254.169.254",
      "100.64.0.1",
      "224.0.0.1",
      "255.255.255.255",
      "198.18.0.1",
      "::1",
      "[::1]",
      "::",
      "fd00::1",
      "fe80::1",
      "fe80::1%eth0",
      "ff02::1",
      "::ffff:127.0.0.1",
      "[::ffff:7f00:1]",
      "::ffff:10.0.0.1",
      "64:ff9b::127.0.0.1",
      "64:ff9b::a00:1",
      "2001:db8::1",
    ])
      expect([host, may(host)]).toEqual([host, false]);
    // As browsers and servers read addresses of other forms, too.
    for (const address of [
      "http://2130706433/",
      "http://0x7f.1/",
      "http://127.1/",
      "http://0177.0.0.1/",
      "http://[::ffff:127.0.0.1]/",
      "http://①②⑦.0.0.1/",
    ])
      expect([address, may(new URL(address).hostname)]).toEqual([address, false]);
  });

  it("may lead inside where that is listed: that address, or that network, and no other", () => {
    expect(may("10.0.4.7", "10.0.4.7")).toBe(true);
    expect(may("10.0.4.8", "10.0.4.7")).toBe(false);
    expect(may("192.168.1.200", "10.0.4.7, 192.168.1.0/24")).toBe(true);
    expect(may("192.168.2.1", "10.0.4.7, 192.168.1.0/24")).toBe(false);
    expect(may("::ffff:10.0.4.7", "10.0.4.7")).toBe(true);
    expect(may("fd00::7", "fd00::/64")).toBe(true);
    expect(may("fd01::7", "fd00::/64")).toBe(false);
  });

  it("is judged by what its name is looked up as, at the moment of calling", async () => {
    expect(await looked("localhost")).toMatch(/^refused: .*leads into the network/);
    expect(await looked("localhost", "127.0.0.1, ::1")).toMatch(/^(127\.0\.0\.1|::1)$/);
    expect(await looked("localhost", "10.0.0.0/8")).toMatch(/^refused/);
  });
});

describe("what the service calls on somebody's word", () => {
  let service: TestService;
  let calls = 0;
  const inner = createHttpServer((request, response) => {
    calls++;
    request.resume();
    response.end("{}");
  });
  let port: number;
  beforeAll(async () => {
    await new Promise<void>((resolve) => inner.listen(0, "127.0.0.1", () => resolve()));
    port = (inner.address() as AddressInfo).port;
    service = await testService(inject("databaseUrl"), {
      CORBIX_WORKERS: "0",
      CORBIX_DEMO: "false",
      CORBIX_REACH_INSIDE: "",
    });
  });
  afterAll(async () => {
    await service?.close();
    await new Promise((resolve) => inner.close(resolve));
  });

  it("is not a service beside it: ways out, folders of the web, host keys, notices, callbacks", async () => {
    const put = (name: string, settings: object, secret: object = {}) =>
      service.call("PUT", `/api/v1/ways-out/${name}`, { settings, secret });
    const tried = async (name: string) =>
      (await service.call<{ title: string }>("POST", `/api/v1/ways-out/${name}/try`)).body.title;
    for (const host of ["127.0.0.1", "localhost", "[::1]"]) {
      await put("dav", { kind: "web-dav", address: `http://${host}:${port}/dav` });
      await put("http", { kind: "http", address: `http://${host}:${port}/upload` });
      expect(await tried("dav")).toContain("leads into the network");
      expect(await tried("http")).toContain("leads into the network");
    }
    await put(
      "sftp",
      { kind: "sftp", host: "127.0.0.1", port, user: "office", hostKey: `SHA256:${"a".repeat(43)}` },
      { password: "x" },
    );
    expect(await tried("sftp")).toContain("leads into the network");
    const key = await service.call<{ title: string }>("POST", "/api/v1/host-keys", { host: "127.0.0.1", port });
    expect(key.status).toBeGreaterThanOrEqual(400);
    await expect(postJson(service.context.reach, `http://localhost:${port}/told`, {})).rejects.toThrow(
      "leads into the network",
    );
    await service.call("PUT", "/api/v1/watchers/ops", {
      way: "callback",
      address: `http://127.0.0.1:${port}/told`,
      kinds: ["refused"],
    });
    await tell(service.context, { kind: "refused", what: "Something came back." });
    await tellDue(service.context);
    const office = smallOffice(() => service);
    expect(await office.select("SELECT error FROM tellings")).toEqual([
      { error: expect.stringContaining("leads into the network") },
    ]);
    await office.load("jobs", "site,hours\nAlder,1\n");
    await office.list("Alder,Ann,ann@sites.example");
    await office.report("hours", "data: jobs");
    const run = await office.plan({ report: "hours" }, { release: false });
    const folder = await service.call<{ title: string }>("POST", `/api/v1/runs/${run}/web-folder`, {
      url: `http://127.0.0.1:${port}/dav`,
    });
    expect(folder.body.title).toContain("leads into the network");
    expect(calls).toBe(0);
  });

  it("is called where it is listed", async () => {
    await postJson(openReach("127.0.0.0/8"), `http://127.0.0.1:${port}/told`, {});
    expect(calls).toBe(1);
  });
});
