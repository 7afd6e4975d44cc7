/** Each call by everybody: what the table says is what the service does. */
import { type Endpoint, endpoints, type Grants, HOLDERS, type Right, ROLES, type Role, rights } from "@corbix/api";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { addToken, addUser } from "../../dist/access/access.js";
import { makeApp } from "../../dist/http/app.js";

let service: TestService;
const tokens = new Map<string, string>();
const OWN = "site-statement";
const all = Object.entries(endpoints as Record<string, Endpoint>);
/** Everybody there can be: with one role for all, with one for a single report, with none. */
const PEOPLE: Record<string, Grants> = {
  ...Object.fromEntries(ROLES.map((role) => [role, { [role]: "all" }])),
  ...Object.fromEntries(ROLES.filter((role) => role !== "operate").map((role) => [`own ${role}`, { [role]: [OWN] }])),
  nobody: {},
};

beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" });
  const { database } = service.context;
  for (const [name, grants] of Object.entries(PEOPLE)) {
    const id = await addUser(database, name.replace(" ", "-"), "three blue chairs away", grants);
    tokens.set(name, await addToken(database, id, "client"));
  }
});
afterAll(() => service?.close());

const as = async <Body = { code?: string; title?: string }>(
  person: string,
  method: string,
  path: string,
  body?: unknown,
): Promise<{ status: number; body: Body }> => {
  const answer = await fetch(`${service.url}/api/v1${path}`, {
    method: method.toUpperCase(),
    headers: {
      Authorization: `Bearer ${tokens.get(person)}`,
      ...(typeof body === "string" ? {} : { "Content-Type": "application/json" }),
    },
    ...(body === undefined ? {} : { body: typeof body === "string" ? body : JSON.stringify(body) }),
  });
  const text = await answer.text();
  const isJson = /\bjson\b/.test(answer.headers.get("content-type") ?? "");
  return { status: answer.status, body: (isJson ? JSON.parse(text) : {}) as Body };
};

/** Whether somebody has a role that is wanted, for all reports or for any. */
function holds(grants: Grants, wanted: readonly Role[], forAll: boolean): boolean {
  const held = wanted.flatMap((role) => HOLDERS[role]).map((role) => grants[role]);
  return forAll ? held.includes("all") : held.some((scope) => scope !== undefined);
}

describe("the table of rights", () => {
  it("has a line for each call and no other, and opens to nobody but where the contract says so", () => {
    expect(Object.keys(rights).sort()).toEqual(Object.keys(endpoints).sort());
    for (const [id, one] of all) expect([id, rights[id as keyof typeof rights] === "nobody"]).toEqual([id, one.isOpen]);
  });

  it("leaves out no address of the service: what is not of the API is a page that knows its visitors itself", () => {
    const PAGES: Record<string, string> = {
      "/openapi.json": "what the API is, for everybody",
      "/api/v1/events": "whoever is signed in, looked at again at each change",
      "/health/live": "whoever looks after the process",
      "/health/ready": "the same: which things are there, and no more",
      "/metrics": "who sends the token of the settings",
      "/d/:token": "recipients, by an address that is signed and ends",
      "/d/:token/:file": "the same",
      "/ask/open/:token": "colleagues, by an address of their own",
      "/ask": "colleagues, or who is signed in and may ask",
      "/ask/:name": "the same",
      "/ask/q/:id": "the same",
      "/ask/q/:id/row/:row": "the same",
      "/ask/q/:id/file/:form/:kind": "the same",
      "/sign-in/provider": "who wants to sign in",
      "/sign-in/back": "who comes back from the provider",
      "/sign-in/ended": "the provider, by a token that it has signed",
    };
    const app = makeApp(service.context, "no such folder");
    const { stack } = (app as unknown as { router: { stack: { route?: { path: string } }[] } }).router;
    const served = [...new Set(stack.flatMap(({ route }) => (route ? [route.path] : [])))];
    const told = all.map(([, one]) => `/api/v1${one.path.replace(/\{(\w+)\}/g, ":$1")}`);
    expect(served.filter((path) => !told.includes(path)).sort()).toEqual(Object.keys(PAGES).sort());
  });

  it("is what the service does, at each address for each of ten people", async () => {
    const wrong: string[] = [];
    for (const [id, one] of all) {
      const right: Right = rights[id as keyof typeof rights];
      // Told apart by the call itself, below.
      if (right === "nobody") continue;
      const path = one.path
        .replace("{kind}/{name}", "reports/no-such-thing")
        .replaceAll("{id}", "999999")
        .replace(/\{(?:number|row|index|year)\}/g, "1")
        .replace(/\{\w+\}/g, "no-such-thing");
      for (const [person, grants] of Object.entries(PEOPLE)) {
        if (id === "signOut") continue;
        const { status, body } = await as(person, one.method, path, one.method === "get" ? undefined : {});
        const isNamed = person.startsWith("own");
        const may =
          right === "anybody" ||
          (right.about === "office"
            ? holds(grants, right.roles, true)
            : isNamed && !["some", "listed"].includes(right.about)
              ? undefined
              : holds(grants, right.roles, false));
        // Of single reports: what nobody may is refused, what is not one's own too, and what is not there is said so.
        const isRefused = status === 403 && body.code === "NOT_ALLOWED";
        if (may === undefined ? !isRefused && ![400, 404, 409].includes(status) : isRefused === may)
          wrong.push(`${person}: ${id} ${status} ${body.title ?? ""}`);
      }
    }
    expect(wrong).toEqual([]);
  }, 120_000);

  it("lets somebody do for their own report what they may, and nothing for another", async () => {
    const of = async (person: string, method: string, path: string, body?: unknown) =>
      (await as(person, method, path, body)).status;
    expect(await of("own look", "get", `/reports/${OWN}`)).toBe(200);
    expect(await of("own look", "get", "/reports/visit-enquiry")).toBe(403);
    expect(await of("own look", "get", "/reports/no-such-thing")).toBe(403);
    expect(await of("own look", "get", "/datasets/visits")).toBe(200);
    expect(await of("own look", "put", "/datasets/visits/settings", {})).toBe(403);
    expect(await of("own look", "post", "/runs", { report: OWN })).toBe(403);
    // Data that other reports use too are not one's own to change.
    expect(await of("own prepare", "put", "/datasets/visits/settings", {})).toBe(403);
    expect(await of("own prepare", "post", "/runs", { report: "visit-enquiry" })).toBe(403);
    const started = await as<{ id: string }>("own prepare", "post", "/runs", { report: OWN, period: "2026-10" });
    expect(started.status).toBe(201);
    expect(await of("own release", "get", `/runs/${started.body.id}`)).toBe(200);
    expect(await of("own prepare", "post", `/runs/${started.body.id}/release`, {})).toBe(403);
    expect(await of("own release", "post", `/runs/${started.body.id}/release`, {})).toBe(409);
    const { database } = service.context;
    const other = await addUser(database, "other", "three blue chairs away", { release: ["visit-enquiry"] });
    tokens.set("other", await addToken(database, other, "client"));
    expect(await of("other", "get", `/runs/${started.body.id}`)).toBe(403);
    expect(await of("other", "post", `/runs/${started.body.id}/release`, {})).toBe(403);
    // Nor is data that both are made from a way to what another report makes of it.
    const look = (report: string) => of("own look", "post", "/datasets/visits/editions/1/look", { report });
    expect([await look(OWN), await look("visit-enquiry")]).toEqual([200, 403]);
    expect(await of("own look", "get", "/templates/statement.xlsx/marks?report=visit-enquiry")).toBe(403);
    // What hangs on data that several share does not name reports of others.
    const hanging = async (person: string) =>
      JSON.stringify(
        (await as<{ hanging: { names: string[] }[] }>(person, "get", "/library/datasets/visits")).body.hanging,
      );
    expect(await hanging("look")).toContain("Look up visits");
    expect(await hanging("own look")).not.toContain("Look up visits");
    // A report of one's own is not a way to other data.
    const source = `report: ${OWN}\ntitle: T\ndata: technicians\nsplit: { one: All }\nfiles: { list: { name: List, table: {} } }\n`;
    const loaded = await service.call("POST", "/api/v1/datasets/technicians/editions?file=t.csv", "Name,Pay\nAnn,1\n");
    expect(loaded.status, JSON.stringify(loaded.body)).toBe(201);
    const saved = await as("own prepare", "put", `/reports/${OWN}`, source);
    expect([saved.status, saved.body.title]).toEqual([
      403,
      "You may not use `technicians`: none of your reports is made from it.",
    ]);
    expect((await as("own prepare", "post", "/drafts/look", { definition: source })).status).toBe(403);
    expect((await as("own prepare", "post", `/reports/${OWN}/occasions`, {})).status).toBe(400);
    expect((await as("own look", "post", `/reports/${OWN}/occasions`, {})).status).toBe(403);
  });

  it("narrows every list to what is one's own", async () => {
    const list = async (person: string, path: string) =>
      (await as<{ items: Record<string, unknown>[] }>(person, "get", path)).body.items;
    const names = async (path: string, field: string) => [
      ...new Set((await list("own look", path)).map((one) => one[field])),
    ];
    expect(await names("/reports", "name")).toEqual([OWN]);
    expect((await list("look", "/reports")).length).toBeGreaterThan(1);
    const more = await service.call<{ id: string }>("POST", "/api/v1/runs", {
      report: "unit-history",
      period: "2026-10",
    });
    const foreign = more.status === 201 ? more.body.id : undefined;
    expect(await names("/runs", "report")).toEqual([OWN]);
    if (foreign) expect((await list("look", "/runs")).map((one) => one.id)).toContain(foreign);
    expect(await names("/datasets", "name")).not.toContain("technicians");
    expect((await list("look", "/datasets")).map((one) => one.name)).toContain("technicians");
    const search = async (person: string, text: string) =>
      (await as<{ found: { kind: string; name: string }[] }>(person, "get", `/search?text=${text}`)).body.found;
    expect((await search("own look", "technicians")).length).toBe(0);
    expect((await search("look", "technicians")).length).toBe(1);
    expect((await search("own look", "lifts.example")).filter(({ kind }) => kind === "person")).toEqual([]);
    const overview = async (person: string) =>
      (await as<{ reports: number; letters: number }>(person, "get", "/overview")).body.reports;
    expect(await overview("own look")).toBe(1);
    expect(await overview("look")).toBeGreaterThan(1);
    expect(await overview("nobody")).toBe(0);
  });

  it("goes on meaning a report that is called otherwise by now", async () => {
    const runs = await service.list<{ id: string; state: string }>(`/api/v1/runs?report=${OWN}`);
    for (const { id } of runs) await service.call("POST", `/api/v1/runs/${id}/stop`, {});
    const renamed = await service.call("POST", `/api/v1/library/reports/${OWN}/rename`, { to: "statements" });
    expect(renamed.status, JSON.stringify(renamed.body)).toBe(200);
    expect((await as("own look", "get", "/reports/statements")).status).toBe(200);
    expect((await as("own look", "get", `/reports/${OWN}`)).status).toBe(200);
    expect((await as("own prepare", "post", "/runs", { report: OWN, period: "2026-09" })).status).toBe(201);
    const self = await as<{ roles: object }>("own look", "get", "/self");
    expect(self.body.roles).toEqual({ look: ["statements"] });
  });
});
