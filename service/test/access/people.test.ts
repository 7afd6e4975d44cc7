/** People over HTTP: how they come in, what they choose, and how they are out again. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_DEMO: "false" });
});
afterAll(() => service?.close());

interface Answer {
  readonly code?: string;
  readonly title?: string;
  readonly name?: string;
  readonly link?: string;
  readonly state?: string;
  readonly secret?: string;
  readonly token?: { readonly id: number };
  readonly items?: readonly Record<string, unknown>[];
  readonly roles?: Record<string, unknown>;
}

/** A call with a cookie or a token, or with neither. */
const call = async (method: string, path: string, body?: unknown, as: { cookie?: string; token?: string } = {}) => {
  const answer = await fetch(`${service.url}/api/v1${path}`, {
    method,
    headers: {
      "Content-Type": "application/json",
      ...(as.cookie ? { Cookie: as.cookie } : {}),
      ...(as.token ? { Authorization: `Bearer ${as.token}` } : {}),
    },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const text = await answer.text();
  return {
    status: answer.status,
    headers: answer.headers,
    cookie: answer.headers.get("set-cookie")?.split(";")[0] ?? "",
    body: (text.startsWith("{") ? JSON.parse(text) : {}) as Answer,
  };
};
const office = <Body = Answer>(method: "GET" | "POST" | "PUT" | "DELETE", path: string, body?: unknown) =>
  service.call<Body>(method, `/api/v1${path}`, body);
const secretOf = (link = ""): string => link.slice(link.lastIndexOf("/") + 1);
const GOOD = "seven quiet herons wade";
const invite = async (name: string, roles: object, more: object = {}) =>
  (await office("POST", "/people", { name, roles, ...more })).body;
/** Somebody who has come in, with their cookie. */
const comeIn = async (name: string, roles: object) => {
  const { link } = await invite(name, roles);
  return (await call("POST", `/invitations/${secretOf(link)}`, { password: GOOD })).cookie;
};

describe("somebody who is invited", () => {
  it("comes in by a link that works once, with a password of their own", async () => {
    const invited = await invite("mara.lindqvist", { look: "all" }, { shownName: "Mara Lindqvist" });
    expect(invited.link).toMatch(/\/#\/come-in\/[\w-]{32}$/);
    const secret = secretOf(invited.link);
    expect((await call("POST", "/session", { name: "mara.lindqvist", password: GOOD })).status).toBe(401);
    const shown = await call("GET", `/invitations/${secret}`);
    expect([shown.status, shown.body.name]).toEqual([200, "mara.lindqvist"]);
    const accepted = await call("POST", `/invitations/${secret}`, { password: GOOD });
    expect([accepted.status, accepted.cookie !== ""]).toEqual([201, true]);
    const self = await call("GET", "/self", undefined, { cookie: accepted.cookie });
    expect([self.body.name, self.body.roles]).toEqual(["mara.lindqvist", { look: "all" }]);
    expect((await call("POST", `/invitations/${secret}`, { password: GOOD })).status).toBe(404);
    expect((await call("POST", "/session", { name: "Mara.Lindqvist", password: GOOD })).status).toBe(201);
    // Nothing of link, password or cookie stands in the records.
    const { database } = service.context;
    const kept = JSON.stringify([
      await database.select("SELECT * FROM users"),
      await database.select("SELECT * FROM tokens"),
      await database.select("SELECT * FROM actions"),
    ]);
    for (const told of [secret, GOOD, accepted.cookie.split("=")[1] ?? ""]) expect(kept).not.toContain(told);
  });

  it("gets the link by mail where that is wanted, and it is told all the same where no mail can go", async () => {
    const mailed = await invite("lise.dahl", { look: "all" }, { address: "lise.dahl@lifts.example", mail: true });
    expect(mailed).toMatchObject({ isMailed: true, mailTrouble: null });
    const [letter] = await service.list<{ id: string; subject: string; rcptTo: string[] }>("/api/v1/letters");
    expect(letter).toMatchObject({ subject: "Come in to Corbix", rcptTo: ["lise.dahl@lifts.example"] });
    const { body } = await office<{ text: string }>("GET", `/letters/${letter?.id}`);
    expect(body.text).toContain(mailed.link);
    const again = await office("POST", "/people/lise.dahl/invitation", { mail: true });
    expect(again.body).toMatchObject({ isMailed: true });
    expect((await call("GET", `/invitations/${secretOf(mailed.link)}`)).status).toBe(404);
    expect(await invite("nils.falk", { look: "all" }, { mail: true })).toMatchObject({
      isMailed: false,
      mailTrouble: "No address is known of them.",
      link: expect.stringContaining("/#/come-in/"),
    });
  });

  it("is told what is wrong with a password: too short, known everywhere, a pattern, one's own name", async () => {
    const { link } = await invite("jonas.brandt", { look: "all" }, { shownName: "Jonas Brandt" });
    const tried = async (password: string) => {
      const { status, body } = await call("POST", `/invitations/${secretOf(link)}`, { password });
      return `${status} ${body.title}`;
    };
    expect(await tried("short")).toBe("400 The password has 5 characters, expected at least 15.");
    expect(await tried("1qaz2wsx3edc4rfv")).toMatch(/^400 .*tried first everywhere/);
    expect(await tried("password20262027")).toMatch(/^400 .*tried first everywhere/);
    expect(await tried("abcabcabcabcabcabc")).toMatch(/^400 .*repeated/);
    expect(await tried("abcdefghijklmnopqr")).toMatch(/^400 .*row of signs/);
    expect(await tried("jonas.brandt.jonas")).toMatch(/^400 .*little more than your name/);
    expect(await tried("corbixcorbixcorbix1")).toMatch(/^400/);
    // Long ones in any letters are good, and count by what a reader sees.
    expect(await tried("日本語のながいあいことばです。いち")).toMatch(/^201/);
  });

  it("has a link that ends: by time, by a newer one, by being switched off", async () => {
    const first = await invite("ida.holm", { look: "all" });
    const again = (await office("POST", "/people/ida.holm/invitation", {})).body;
    expect((await call("GET", `/invitations/${secretOf(first.link)}`)).status).toBe(404);
    await service.context.database.execute(
      "UPDATE users SET invited_until = now() - interval '1 second' WHERE name = 'ida.holm'",
    );
    expect((await call("GET", `/invitations/${secretOf(again.link)}`)).status).toBe(404);
    const third = (await office("POST", "/people/ida.holm/invitation", {})).body;
    expect((await office("POST", "/people/ida.holm/off")).body.state).toBe("off");
    expect((await call("GET", `/invitations/${secretOf(third.link)}`)).status).toBe(404);
    expect((await office("POST", "/people/ida.holm/invitation", {})).status).toBe(409);
    expect((await office("POST", "/people/ida.holm/on")).body.state).toBe("invited");
  });

  it("needs a name that nobody has, in whatever case", async () => {
    await invite("pia.wolf", { look: "all" });
    const taken = await office("POST", "/people", { name: "Pia.Wolf", roles: {} });
    expect([taken.status, taken.body.code]).toEqual([409, "CONFLICT"]);
    expect((await office("POST", "/people", { name: "no spaces", roles: {} })).status).toBe(400);
    expect((await office("POST", "/people", { name: "ok", roles: { rule: "all" } })).status).toBe(400);
    const near = await office<{ advice: string }>("GET", "/people/pia.wolff");
    expect([near.status, near.body.advice]).toEqual([404, expect.stringContaining("pia.wolf")]);
  });
});

describe("a password", () => {
  it("is changed by who knows it, and ends all other sessions", async () => {
    const here = await comeIn("nora.steen", { look: "all" });
    const there = (await call("POST", "/session", { name: "nora.steen", password: GOOD })).cookie;
    const wrong = await call(
      "PUT",
      "/self/password",
      { old: "something else", new: "nine tall ladders lean" },
      { cookie: here },
    );
    expect([wrong.status, wrong.body.code]).toEqual([403, "NOT_ALLOWED"]);
    const sessions = await call("GET", "/self/sessions", undefined, { cookie: here });
    expect(sessions.body.items?.map(({ isThis }) => isThis)).toEqual([false, true]);
    expect(
      (await call("PUT", "/self/password", { old: GOOD, new: "nine tall ladders lean" }, { cookie: here })).status,
    ).toBe(200);
    expect((await call("GET", "/self", undefined, { cookie: here })).status).toBe(200);
    expect((await call("GET", "/self", undefined, { cookie: there })).status).toBe(401);
    expect((await call("POST", "/session", { name: "nora.steen", password: GOOD })).status).toBe(401);
  });
});

describe("a leaver", () => {
  it("is out at once with sessions and tokens, and within a second of what is open", async () => {
    const cookie = await comeIn("erik.vale", { look: "all" });
    const made = await call("POST", "/tokens", { name: "nightly" }, { cookie });
    const token = made.body.secret ?? "";
    expect((await call("GET", "/runs", undefined, { token })).status).toBe(200);
    const stream = await fetch(`${service.url}/api/v1/events`, { headers: { Cookie: cookie } });
    const reader = stream.body?.getReader();
    if (!reader) throw new Error("no stream");
    await reader.read();
    const started = performance.now();
    await office("POST", "/people/erik.vale/off");
    expect((await call("GET", "/self", undefined, { cookie })).status).toBe(401);
    expect((await call("GET", "/runs", undefined, { token })).status).toBe(401);
    expect((await call("POST", "/session", { name: "erik.vale", password: GOOD })).status).toBe(401);
    while (!(await reader.read()).done);
    // What keeps the line alive looks every five seconds; this did not wait for that.
    expect(performance.now() - started).toBeLessThan(4_000);
    expect((await office("POST", "/people/erik.vale/on")).body.state).toBe("active");
    expect((await call("GET", "/self", undefined, { cookie })).status).toBe(401);
  });

  it("is never oneself, nor the last who could let people in", async () => {
    expect((await office("POST", "/people/office/off")).body.code).toBe("NOT_ALLOWED");
    expect((await office("PUT", "/people/office", { roles: { look: "all" } })).body.code).toBe("NOT_ALLOWED");
    // Two who would switch each other off at the same moment: one of them is left.
    await service.context.database.execute("UPDATE users SET state = 'active' WHERE name = 'office'");
    const [olga, rolf] = [await comeIn("olga.ruud", { operate: "all" }), await comeIn("rolf.eide", { operate: "all" })];
    await service.context.database.execute("UPDATE users SET state = 'off' WHERE name = 'office'");
    const both = await Promise.all([
      call("POST", "/people/rolf.eide/off", undefined, { cookie: olga }),
      call("POST", "/people/olga.ruud/off", undefined, { cookie: rolf }),
    ]);
    expect(both.filter(({ status }) => status === 200)).toHaveLength(1);
    await service.context.database.execute("UPDATE users SET state = 'active' WHERE name = 'office'");
    const left = (await office("GET", "/people?limit=100")).body.items ?? [];
    const states = left.filter(({ name }) => name === "olga.ruud" || name === "rolf.eide").map(({ state }) => state);
    expect(states.sort()).toEqual(["active", "off"]);
  });
});

describe("what somebody may do", () => {
  it("counts at once where it is changed", async () => {
    const cookie = await comeIn("lars.berg", { look: "all" });
    expect((await call("GET", "/runs", undefined, { cookie })).status).toBe(200);
    await office("PUT", "/people/lars.berg", { roles: { ask: "all" } });
    const after = await call("GET", "/runs", undefined, { cookie });
    expect([after.status, after.body.code]).toEqual([403, "NOT_ALLOWED"]);
    expect(after.body.title).toBe("You may not do this: it takes somebody who may look.");
  });
});

describe("a token", () => {
  it("may do no more than its person, is told once, counted, rotated and revoked", async () => {
    const cookie = await comeIn("tove.lang", { prepare: ["site-statement"] });
    const wide = await call("POST", "/tokens", { name: "wide", roles: { release: "all" } }, { cookie });
    expect([wide.status, wide.body.code]).toEqual([403, "NOT_ALLOWED"]);
    const made = await call(
      "POST",
      "/tokens",
      { name: "narrow", roles: { look: ["site-statement"] }, perMinute: 4 },
      { cookie },
    );
    expect(made.status).toBe(201);
    const token = made.body.secret ?? "";
    const id = made.body.token?.id;
    const first = await call("GET", "/self", undefined, { token });
    expect([
      first.body.roles,
      first.headers.get("ratelimit-policy"),
      first.headers.get("ratelimit")?.slice(0, 12),
    ]).toEqual([{ look: ["site-statement"] }, '"calls";q=4;w=60', '"calls";r=3;']);
    expect((await call("POST", "/runs", { report: "site-statement" }, { token })).status).toBe(403);
    // A token of a token has no more either.
    const child = await call("POST", "/tokens", { name: "child" }, { token });
    const own = await call("GET", "/self", undefined, { token: child.body.secret ?? "" });
    expect(own.body.roles).toEqual({ look: ["site-statement"] });
    expect((await call("GET", "/self", undefined, { token })).status).toBe(200);
    const fifth = await call("GET", "/self", undefined, { token });
    expect([fifth.status, fifth.body.code]).toEqual([429, "TOO_MANY_TRIES"]);
    expect(Number(fifth.headers.get("retry-after"))).toBeGreaterThan(0);
    const rotated = await call("POST", `/tokens/${id}/rotate`, { keepHours: 1 }, { cookie });
    const kept = await service.context.database.select<{ old_until: Date | null }>(
      "SELECT old_until FROM tokens WHERE id = $1",
      [id],
    );
    expect(kept[0]?.old_until).not.toBeNull();
    expect(rotated.body.secret).not.toBe(token);
    const listed = await call("GET", "/tokens", undefined, { cookie });
    expect(listed.body.items?.map(({ name }) => name)).toEqual(["child", "narrow"]);
    expect((await call("DELETE", `/tokens/${id}`, undefined, { cookie })).status).toBe(200);
    expect((await call("GET", "/self", undefined, { token: rotated.body.secret ?? "" })).status).toBe(401);
    // Nobody else's is one's own to end, but for who operates.
    const other = await comeIn("finn.dahl", { look: "all" });
    const childId = child.body.token?.id;
    expect((await call("DELETE", `/tokens/${childId}`, undefined, { cookie: other })).status).toBe(404);
    expect((await office("DELETE", `/tokens/${childId}`)).status).toBe(200);
  });
});

describe("a thousand wrong sign-ins at once", () => {
  it("are turned away beyond the first few, and others are answered meanwhile", async () => {
    let answered = 0;
    const wrong = Promise.all(
      Array.from({ length: 1_000 }, async (_, at) => {
        const { status } = await call("POST", "/session", { name: `guess${at % 50}`, password: `wrong ${at}` });
        answered += 1;
        return status;
      }),
    );
    const others: number[] = [];
    while (answered < 1_000) {
      const { status } = await office("GET", "/self");
      others.push(status);
    }
    const statuses = await wrong;
    expect(new Set(statuses)).toEqual(new Set([401, 429]));
    expect(statuses.filter((status) => status === 401).length).toBeLessThanOrEqual(10);
    expect(others.length).toBeGreaterThan(3);
    expect(new Set(others)).toEqual(new Set([200]));
  }, 120_000);
});
