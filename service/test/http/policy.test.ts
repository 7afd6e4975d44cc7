/** What pages may do: scripts from our own files alone, styles that are ours, and nothing made of texts. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_DEMO: "false" });
});
afterAll(() => service?.close());

async function policyOf(path: string): Promise<{ policy: Map<string, string>; text: string; headers: Headers }> {
  const response = await fetch(service.url + path, { redirect: "manual" });
  const policy = new Map(
    (response.headers.get("content-security-policy") ?? "")
      .split(";")
      .map((one) => one.trim().split(/ (.*)/s))
      .map(([name = "", value = ""]) => [name, value]),
  );
  return { policy, text: await response.text(), headers: response.headers };
}

describe("the policy of every page", () => {
  it("lets no script in but our own files, no style but ours, and makes no code or HTML of texts", async () => {
    for (const path of [
      "/",
      "/index.html",
      "/ask",
      "/d/1.1.x",
      "/api/v1/health",
      "/openapi.json",

      "/health/live",
    ]) {
      const { policy, headers } = await policyOf(path);
      expect([path, policy.get("script-src")]).toEqual([path, "'self'"]);
      expect([path, policy.get("style-src")]).toEqual([
        path,
        expect.stringMatching(/^'self' 'nonce-[A-Za-z0-9+/=]{24}'$/),
      ]);
      expect([path, policy.get("object-src"), policy.get("base-uri"), policy.get("default-src")]).toEqual([
        path,
        "'none'",
        "'none'",
        "'self'",
      ]);
      expect([path, policy.get("require-trusted-types-for")]).toEqual([path, "'script'"]);
      expect([path, policy.get("frame-ancestors")]).toEqual([path, "'self'"]);
      expect([path, [...policy.values()].join(" ")]).toEqual([
        path,
        expect.not.stringMatching(/unsafe-(inline|eval|hashes)/),
      ]);
      expect([path, headers.get("x-content-type-options"), headers.get("referrer-policy")]).toEqual([
        path,
        "nosniff",
        "no-referrer",
      ]);
      // Without TLS nothing is said of it: told so, a browser could not come any more.
      expect([path, headers.get("strict-transport-security")]).toEqual([path, null]);
    }
  });

  it("bears another nonce each time, which its own styles have", async () => {
    const pages = [await policyOf("/"), await policyOf("/"), await policyOf("/d/1.1.x"), await policyOf("/d/1.1.x")];
    const nonces = pages.map(({ policy }) => /'nonce-([^']+)'/.exec(policy.get("style-src") ?? "")?.[1] ?? "");
    expect(new Set(nonces).size).toBe(4);
    for (const [at, { text }] of pages.entries()) expect(text).toContain(`"${nonces[at]}"`);
  });

  it("lets what is asked stay in no cache", async () => {
    const headers = { Authorization: `Bearer ${service.signIn.token}` };
    for (const path of ["/api/v1/self", "/api/v1/reports", "/api/v1/outbox"])
      expect([path, (await fetch(service.url + path, { headers })).headers.get("cache-control")]).toEqual([
        path,
        "no-store",
      ]);
  });

  it("gives mails that are looked at styles of their own, and no power: an origin of its own, nothing from elsewhere", async () => {
    const { policy, text } = await policyOf("/mail.html");
    expect(policy.get("default-src")).toBe("'none'");
    expect(policy.get("script-src")).toMatch(/^'sha256-[A-Za-z0-9+/=]{44}'$/);
    expect(policy.get("sandbox")).toBe("allow-scripts");
    expect(policy.get("img-src")).toBe("data:");
    expect(policy.has("connect-src")).toBe(false);
    expect(text.match(/<script/g)).toHaveLength(1);
  });
});
