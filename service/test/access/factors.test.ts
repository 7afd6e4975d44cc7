/** What people sign in with besides a password: codes of an authenticator, recovery codes; and what an office asks for. */
import { Secret, TOTP } from "otpauth";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_DEMO: "false" });
});
afterAll(() => service?.close());

const GOOD = "seven quiet herons wade";

interface Answer {
  readonly code?: string;
  readonly title?: string;
  readonly secret?: string;
  readonly uri?: string;
  readonly recoveryCodes?: readonly string[];
  readonly authenticatorSince?: string | null;
  readonly link?: string;
  readonly isIn?: boolean;
  readonly roles?: object;
  readonly mustAddFactor?: boolean;
}
const call = async (method: string, path: string, body?: unknown, cookie = "") => {
  const answer = await fetch(`${service.url}/api/v1${path}`, {
    method,
    headers: { "Content-Type": "application/json", ...(cookie ? { Cookie: cookie } : {}) },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const text = await answer.text();
  return {
    status: answer.status,
    cookie: answer.headers.get("set-cookie")?.split(";")[0] ?? "",
    body: (text.startsWith("{") ? JSON.parse(text) : {}) as Answer,
  };
};
const comeIn = async (name: string, roles: object = { look: "all" }) => {
  const { body } = await service.call<Answer>("POST", "/api/v1/people", { name, roles });
  const secret = (body.link ?? "").slice((body.link ?? "").lastIndexOf("/") + 1);
  return (await call("POST", `/invitations/${secret}`, { password: GOOD })).cookie;
};
/** What an authenticator shows, some steps from now; it knows the secret and nothing else. */
const shows = (secret: string, steps = 0) =>
  new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: Date.now() + steps * 30_000 });
describe("an authenticator", () => {
  let cookie: string;
  let secret: string;
  let codes: readonly string[];

  it("is begun with the password, counts with its first code, and is then asked for after the password", async () => {
    cookie = await comeIn("mara.lindqvist");
    expect((await call("POST", "/self/authenticator", { password: "wrong" }, cookie)).status).toBe(403);
    expect((await call("POST", "/self/authenticator", {}, cookie)).status).toBe(400);
    const begun = await call("POST", "/self/authenticator", { password: GOOD }, cookie);
    secret = begun.body.secret ?? "";
    expect(begun.body.uri).toContain(`otpauth://totp/Corbix:mara.lindqvist?issuer=Corbix&secret=${secret}`);
    // Before its first code it is not asked for.
    expect((await call("POST", "/session", { name: "mara.lindqvist", password: GOOD })).status).toBe(201);
    expect((await call("PUT", "/self/authenticator", { code: "000000" }, cookie)).status).toBe(401);
    const added = await call("PUT", "/self/authenticator", { code: shows(secret) }, cookie);
    codes = added.body.recoveryCodes ?? [];
    expect([added.status, codes.length, new Set(codes).size]).toEqual([200, 10, 10]);
    const asked = await call("POST", "/session", { name: "mara.lindqvist", password: GOOD });
    expect([asked.status, asked.body.code, asked.cookie]).toEqual([401, "SECOND_FACTOR_NEEDED", ""]);
    // Of a wrong password nothing is told of a second factor.
    const wrong = await call("POST", "/session", { name: "mara.lindqvist", password: "wrong", code: shows(secret, 1) });
    expect([wrong.status, wrong.body.code]).toEqual([401, "NOT_SIGNED_IN"]);
    const signed = await call("POST", "/session", { name: "mara.lindqvist", password: GOOD, code: shows(secret, 1) });
    expect([signed.status, signed.cookie !== ""]).toEqual([201, true]);
  });

  it("takes no code twice, none of long ago, and a recovery code once", async () => {
    const withCode = async (code: string) =>
      (await call("POST", "/session", { name: "mara.lindqvist", password: GOOD, code })).status;
    expect(await withCode(shows(secret))).toBe(401);
    expect(await withCode(shows(secret, -10))).toBe(401);
    expect(await withCode(shows(secret, 10))).toBe(401);
    expect(await withCode(codes[0]?.toLowerCase() ?? "")).toBe(201);
    expect(await withCode(codes[0] ?? "")).toBe(401);
    expect(await withCode((codes[1] ?? "").replaceAll("-", " "))).toBe(201);
    // Several at one moment: the same code lets one of them in.
    await service.context.database.execute("UPDATE users SET totp_step = NULL WHERE name = 'mara.lindqvist'");
    const next = shows(secret);
    const all = await Promise.all(Array.from({ length: 4 }, () => withCode(next)));
    expect(all.filter((status) => status === 201).length).toBe(1);
  });

  it("keeps its secret and codes from whoever reads the database, and its deeds in the trail", async () => {
    const { database } = service.context;
    const kept = JSON.stringify([
      await database.select("SELECT * FROM users"),
      await database.select("SELECT * FROM actions"),
    ]);
    for (const told of [secret, ...codes]) {
      expect(kept).not.toContain(told);
      expect(kept).not.toContain(told.replaceAll("-", ""));
    }
    for (const deed of ["authenticator added", "sign-in failed: wrong code", "recovery code used"])
      expect(kept).toContain(deed);
  });

  it("is still asked for by who comes by a link for a new password", async () => {
    const { body } = await service.call<Answer>("POST", "/api/v1/people/mara.lindqvist/invitation", {});
    const link = (body.link ?? "").slice((body.link ?? "").lastIndexOf("/") + 1);
    const accepted = await call("POST", `/invitations/${link}`, { password: "nine tall ladders lean" });
    expect([accepted.status, accepted.body.isIn, accepted.cookie]).toEqual([201, false, ""]);
    const asked = await call("POST", "/session", { name: "mara.lindqvist", password: "nine tall ladders lean" });
    expect(asked.body.code).toBe("SECOND_FACTOR_NEEDED");
  });

  it("goes where whoever operates takes it out, with all sessions; nobody does so for themselves", async () => {
    const gone = await service.call("DELETE", "/api/v1/people/mara.lindqvist/factors");
    expect(gone.status).toBe(200);
    expect((await service.call("DELETE", "/api/v1/people/office/factors")).status).toBe(403);
    const plain = await call("POST", "/session", { name: "mara.lindqvist", password: "nine tall ladders lean" });
    expect(plain.status).toBe(201);
    const shown = await call("GET", "/self/factors", undefined, plain.cookie);
    expect(shown.body).toMatchObject({ authenticatorSince: null, recoveryCodes: 0, passkeys: 0, hasPassword: true });
  });

  it("is not to be guessed: after five wrong codes none is looked at, not even the right one", async () => {
    const own = await comeIn("anna.weiss");
    const { secret: shared = "" } = (await call("POST", "/self/authenticator", { password: GOOD }, own)).body;
    const kept = (await call("PUT", "/self/authenticator", { code: shows(shared) }, own)).body.recoveryCodes ?? [];
    const withCode = async (code = "") =>
      (await call("POST", "/session", { name: "anna.weiss", password: GOOD, code })).status;
    const tried: number[] = [];
    for (let at = 0; at < 6; at++) tried.push(await withCode("123456"));
    expect([...tried, await withCode(kept[0])]).toEqual([401, 401, 401, 401, 401, 429, 429]);
    const trail = await service.context.database.select("SELECT what FROM actions WHERE who = 'anna.weiss'");
    expect(JSON.stringify(trail)).toContain("sign-in refused: too many codes");
  });

  it("and the password are not tried without a count by whoever has a session", async () => {
    const own = await comeIn("jonas.brandt");
    const tried: number[] = [];
    for (let at = 0; at < 12; at++)
      tried.push(
        (await call("PUT", "/self/password", { old: `wrong ${at}`, new: "nine tall ladders lean" }, own)).status,
      );
    expect(tried).toEqual([...Array(10).fill(403), 429, 429]);
    expect((await call("PUT", "/self/password", { old: GOOD, new: "nine tall ladders lean" }, own)).status).toBe(429);
  });
});

describe("an office that asks for a second factor", () => {
  let strict: TestService;
  beforeAll(async () => {
    strict = await testService(inject("databaseUrl"), {
      CORBIX_WORKERS: "0",
      CORBIX_DEMO: "false",
      CORBIX_SECOND_FACTOR: "required",
    });
  });
  afterAll(() => strict?.close());

  it("lets nobody do anything by password alone, but add one; tokens for scripts go on", async () => {
    const at = async (method: string, path: string, body: unknown, cookie = "") => {
      const answer = await fetch(`${strict.url}/api/v1${path}`, {
        method,
        headers: { "Content-Type": "application/json", Cookie: cookie },
        ...(method === "GET" ? {} : { body: JSON.stringify(body) }),
      });
      return {
        status: answer.status,
        cookie: answer.headers.get("set-cookie")?.split(";")[0] ?? "",
        body: (await answer.json()) as Answer,
      };
    };
    const { body } = await strict.call<Answer>("POST", "/api/v1/people", {
      name: "ida.holm",
      roles: { prepare: "all" },
    });
    const link = (body.link ?? "").slice((body.link ?? "").lastIndexOf("/") + 1);
    const { cookie } = await at("POST", `/invitations/${link}`, { password: GOOD });
    expect((await at("GET", "/self", undefined, cookie)).body).toMatchObject({ roles: {}, mustAddFactor: true });
    expect((await at("GET", "/reports", undefined, cookie)).status).toBe(403);
    // A token would be a way around it.
    expect((await at("POST", "/tokens", { name: "around" }, cookie)).status).toBe(403);
    expect((await at("POST", "/tokens/1/rotate", {}, cookie)).status).toBe(403);
    const { secret = "" } = (await at("POST", "/self/authenticator", { password: GOOD }, cookie)).body;
    expect((await at("PUT", "/self/authenticator", { code: shows(secret) }, cookie)).status).toBe(200);
    expect((await at("GET", "/reports", undefined, cookie)).status).toBe(200);
    expect((await at("GET", "/self", undefined, cookie)).body).toMatchObject({ mustAddFactor: false });
    expect((await strict.call("GET", "/api/v1/reports")).status).toBe(200);
  });
});
