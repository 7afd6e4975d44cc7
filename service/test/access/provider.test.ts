/** Sign-in by an office's own provider, a real one on loopback: who comes in, as whom, with what, and who does not. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestProvider, testProvider } from "../../../test/setup/provider.js";
import { type TestService, testService } from "../../../test/setup/service.js";

import { groupsOf } from "../../dist/access/provider.js";

let service: TestService;
let provider: TestProvider;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_DEMO: "false" });
  provider = await testProvider(service.url);
  const add = (name: string, groups: string[], isVerified = true) =>
    provider.colleagues.set(name.toLowerCase().replace(" ", "."), {
      name,
      email: `${name.toLowerCase().replace(" ", ".")}@lifts.example`,
      isVerified,
      groups,
    });
  add("Petra Novak", ["reporting"]);
  add("Karl Berg", ["reporting", "heads"]);
  add("Lena Frost", ["canteen"]);
  add("Otto Lind", []);
  add("Nils Falk", [], false);
});
afterAll(async () => {
  await provider?.close();
  await service?.close();
});

interface Answer {
  readonly title?: string;
  readonly name?: string;
  readonly shownName?: string;
  readonly address?: string | null;
  readonly roles?: object;
  readonly rolesFrom?: string;
  readonly back?: string;
  readonly hasSecret?: boolean;
}
const office = (method: "GET" | "POST" | "PUT" | "DELETE", path: string, body?: unknown) =>
  service.call<Answer>(method, `/api/v1${path}`, body);
const settings = () => ({
  title: "Aldmoor",
  issuer: provider.issuer,
  clientId: provider.clientId,
  scope: "openid profile email groups",
  groups: [
    { group: "reporting", roles: { prepare: "all" } },
    { group: "heads", roles: { release: ["site-statement"], ask: "all" } },
    { group: "heads", roles: { release: ["unit-history"] } },
  ],
  trustsAddresses: true,
  sessionHours: 8,
});
const start = () => `${service.url}/sign-in/provider`;
/** Goes through sign-in; gives who one is here then, or what the page says. */
const comeBy = async (who: string) => {
  const { jar, answer, at } = await provider.goThrough(start(), who);
  const session = jar.get(new URL(service.url).host)?.get("corbix_session");
  const cookie = `corbix_session=${session}`;
  const self = await fetch(`${service.url}/api/v1/self`, { headers: { Cookie: cookie } });
  const said = at.startsWith(service.url) && answer.status >= 400 ? await answer.text() : "";
  return { jar, cookie, status: self.status, self: (await self.json()) as Answer, said };
};

describe("a provider of sign-ins", () => {
  it("is kept once it answers, with its secret sealed, and is told to whoever wants to sign in", async () => {
    const none = await fetch(`${service.url}/api/v1/session/ways`).then((answer) => answer.json());
    expect(none).toEqual({ provider: null, passkeys: false });
    expect((await fetch(start())).status).toBe(404);
    const wrong = await office("PUT", "/sign-in-provider", {
      settings: { ...settings(), issuer: "http://127.0.0.1:9" },
    });
    expect([wrong.status, wrong.body.title]).toEqual([400, expect.stringContaining("http://127.0.0.1:9")]);
    expect((await office("GET", "/sign-in-provider")).status).toBe(404);
    const saved = await office("PUT", "/sign-in-provider", { settings: settings(), secret: provider.secret });
    expect([saved.status, saved.body.hasSecret, saved.body.back]).toEqual([200, true, `${service.url}/sign-in/back`]);
    // The secret stays where it is not given anew, and stands nowhere in the open.
    expect((await office("PUT", "/sign-in-provider", { settings: settings() })).body.hasSecret).toBe(true);
    const { database } = service.context;
    const kept = JSON.stringify([
      await database.select("SELECT * FROM sign_in_provider"),
      await database.select("SELECT * FROM actions"),
    ]);
    expect(kept).not.toContain(provider.secret);
    expect(kept).toContain("sign-in provider changed");
    const ways = await fetch(`${service.url}/api/v1/session/ways`).then((answer) => answer.json());
    expect(ways).toEqual({ provider: { title: "Aldmoor", address: "/sign-in/provider" }, passkeys: false });
  });

  it("lets those in whose groups may, with what all their groups may, for the hours that were said", async () => {
    const petra = await comeBy("petra.novak");
    expect([petra.status, petra.self]).toEqual([
      200,
      expect.objectContaining({
        name: "petra.novak",
        shownName: "Petra Novak",
        address: "petra.novak@lifts.example",
        roles: { prepare: "all" },
      }),
    ]);
    const karl = await comeBy("karl.berg");
    expect(karl.self.roles).toEqual({ prepare: "all", ask: "all", release: ["site-statement", "unit-history"] });
    const [session] = await service.context.database.select<{ hours: number; way: string }>(
      "SELECT extract(epoch FROM tokens.expires_at - tokens.created_at)::float8 / 3600 AS hours, tokens.way FROM tokens JOIN users ON users.id = user_id WHERE users.name = 'karl.berg'",
    );
    expect([session?.hours, session?.way]).toEqual([expect.closeTo(8, 1), "provider"]);
    // There is no password that could be guessed.
    const tried = await fetch(`${service.url}/api/v1/session`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ name: "karl.berg", password: "" }),
    });
    expect(tried.status).toBe(401);
  });

  it("lets nobody in whose groups may not, whom it does not know, or who was switched off here", async () => {
    const lena = await comeBy("lena.frost");
    expect([lena.status, lena.said]).toEqual([401, expect.stringContaining("none of your groups may come in here")]);
    const nobody = await comeBy("no.such.colleague");
    expect([nobody.status, nobody.said]).toEqual([401, expect.stringContaining("did not let you in")]);
    expect((await office("POST", "/people/petra.novak/off", {})).status).toBe(200);
    const petra = await comeBy("petra.novak");
    expect([petra.status, petra.said]).toEqual([401, expect.stringContaining("is switched off")]);
    await office("POST", "/people/petra.novak/on", {});
    const people = await service.list<{ name: string }>("/api/v1/people");
    expect(people.map(({ name }) => name)).not.toContain("lena.frost");
    const trail = await service.list<{ what: string; who: string }>("/api/v1/trail");
    expect(
      trail
        .filter(({ what }) => what === "sign-in refused: provider")
        .map(({ who }) => who)
        .sort(),
    ).toEqual(["lena.frost", "petra.novak"]);
  });

  it("follows groups at each sign-in, until somebody here says otherwise", async () => {
    const karl = provider.colleagues.get("karl.berg");
    if (!karl) throw new Error("no Karl");
    karl.groups = ["heads"];
    const now = await comeBy("karl.berg");
    expect(now.self.roles).toEqual({ ask: "all", release: ["site-statement", "unit-history"] });
    karl.groups = [];
    const out = await comeBy("karl.berg");
    expect(out.said).toContain("none of your groups");
    // The session of before is worth nothing any more either.
    const before = await fetch(`${service.url}/api/v1/self`, { headers: { Cookie: now.cookie } });
    expect(((await before.json()) as Answer).roles).toEqual({});
    const changed = await office("PUT", "/people/karl.berg", { roles: { look: "all" } });
    expect(changed.body.rolesFrom).toBe("here");
    expect((await comeBy("karl.berg")).self.roles).toEqual({ look: "all" });
  });

  it("knows who was invited here by an address that it has verified, and by no other", async () => {
    for (const [name, address] of [
      ["otto", "Otto.Lind@lifts.example"],
      ["nils", "nils.falk@lifts.example"],
    ])
      expect((await office("POST", "/people", { name, address, roles: { release: "all" } })).status).toBe(201);
    const otto = await comeBy("otto.lind");
    expect([otto.self.name, otto.self.roles]).toEqual(["otto", { release: "all" }]);
    expect((await comeBy("nils.falk")).status).toBe(401);
    // Of two with one address neither is meant.
    provider.colleagues.set("two", { name: "Two", email: "two@lifts.example", isVerified: true, groups: [] });
    for (const name of ["two.a", "two.b"])
      await office("POST", "/people", { name, address: "two@lifts.example", roles: { operate: "all" } });
    expect((await comeBy("two")).status).toBe(401);
  });

  it("gives a name that is taken to nobody else", async () => {
    provider.colleagues.set("office", {
      name: "Not the office",
      email: "o@x.example",
      isVerified: false,
      groups: ["reporting"],
    });
    const other = await comeBy("office");
    expect([other.self.name, other.self.roles]).toEqual(["office-2", { prepare: "all" }]);
    expect((await comeBy("office")).self.name).toBe("office-2");
  });

  it("takes no answer that this browser did not ask for, nor one twice", async () => {
    const begun = await fetch(start(), { redirect: "manual" });
    const cookie = begun.headers.get("set-cookie")?.split(";")[0] ?? "";
    const asked = new URL(begun.headers.get("location") ?? "");
    expect(asked.searchParams.get("code_challenge_method")).toBe("S256");
    const state = asked.searchParams.get("state") ?? "";
    const back = (query: string, sent = "") =>
      fetch(`${service.url}/sign-in/back?${query}`, { headers: { Cookie: sent }, redirect: "manual" });
    for (const [query, sent] of [
      [`code=x&state=${state}`, ""],
      [`code=x&state=other`, cookie],
      [`code=x&state=${state}`, cookie],
      [`state=${state}`, cookie],
      ["", cookie],
      [`code=x&state=${state}`, "corbix_trip=forged"],
    ]) {
      const answer = await back(query ?? "", sent);
      expect([
        query,
        answer.status,
        answer.headers.getSetCookie().some((set) => /^corbix_session=\w/.test(set)),
      ]).toEqual([query, 401, false]);
    }
  });

  it("ends sessions at once when somebody signs out there, and takes no such word from anybody else", async () => {
    const petra = await comeBy("petra.novak");
    const self = async () => (await fetch(`${service.url}/api/v1/self`, { headers: { Cookie: petra.cookie } })).status;
    expect(await self()).toBe(200);
    const tell = (token: string) =>
      fetch(`${service.url}/sign-in/ended`, { method: "POST", body: new URLSearchParams({ logout_token: token }) });
    expect((await tell("eyJhbGciOiJub25lIn0.eyJzdWIiOiJwZXRyYS5ub3ZhayJ9.")).status).toBe(400);
    expect((await tell("")).status).toBe(400);
    expect(await self()).toBe(200);
    await provider.leave(petra.jar);
    await expect.poll(self, { timeout: 60_000 }).toBe(401);
  });

  it("may take the client's secret in the body only, and tell groups within another claim", async () => {
    const other = await testProvider(service.url, "client_secret_post");
    other.colleagues.set("berta.kuhn", {
      name: "Berta Kuhn",
      email: "b@x.example",
      isVerified: true,
      groups: ["heads"],
    });
    const saved = await office("PUT", "/sign-in-provider", {
      settings: { ...settings(), issuer: other.issuer },
      secret: other.secret,
    });
    expect(saved.status).toBe(200);
    const { answer, jar } = await other.goThrough(start(), "berta.kuhn");
    expect([answer.status, jar.get(new URL(service.url).host)?.has("corbix_session")]).toEqual([303, true]);
    await other.close();
    expect(groupsOf({ groupsClaim: "access.roles" }, { access: { roles: ["a", 1, "b"] } })).toEqual(["a", "b"]);
    expect(groupsOf({ groupsClaim: "https://x.example/groups" }, { "https://x.example/groups": "one" })).toEqual([
      "one",
    ]);
    expect(groupsOf({ groupsClaim: "a.b.c" }, { a: { b: null } })).toEqual([]);
  });

  it("is gone when it is taken out; people stay", async () => {
    expect((await office("DELETE", "/sign-in-provider")).status).toBe(200);
    expect((await fetch(start())).status).toBe(404);
    expect((await office("GET", "/people/petra.novak")).status).toBe(200);
  });
});
