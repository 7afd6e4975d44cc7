/** Files that go by themselves after the release: into folders, by WebDAV, SFTP and HTTP, to real servers on loopback. */
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import {
  type DavServer,
  davServer,
  type SshServer,
  sshServer,
  uploadServer,
} from "../../../test/setup/ways-servers.js";
import { loseBegun } from "../../dist/records/index.js";

let service: TestService;
let ssh: SshServer;
let dav: DavServer;
beforeAll(async () => {
  [ssh, dav] = await Promise.all([sshServer(), davServer()]);
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "1" });
  const rows = [
    "district,site,unit,fee",
    "North,Alder Court,L1,10.50",
    "North,Alder Court,L2,20.00",
    "South,Dock/1,E1,7.25",
    "South,Élan House,L9,8.00",
  ];
  const { status } = await service.call("POST", "/api/v1/datasets/visits/editions?file=visits.csv", rows.join("\n"));
  expect(status).toBe(201);
  folder = join(service.context.settings.data, service.context.settings.outFolder);
});
afterAll(async () => {
  await service?.close();
  await Promise.all([ssh?.close(), dav?.close()]);
});

let folder = "";
const set = (name: string, settings: object, secret: object = {}) =>
  service.call<{ code: string; title: string; secrets: string[]; place: string; reports: string[] }>(
    "PUT",
    `/api/v1/ways-out/${name}`,
    { settings: { firstPause: 0.1, ...settings }, secret },
  );
const attempt = <Answer = { words: string }>(name: string) =>
  service.call<Answer & { title: string; advice: string }>("POST", `/api/v1/ways-out/${name}/try`);

/** A report whose files go by these ways, in its words. */
async function define(
  report: string,
  ways: string,
  more = "",
): Promise<{ status: number; body: { title: string; where: string; advice: string } }> {
  const text = `report: ${report}
title: Lists of visits
data: visits
split: site
once: hand
totals: { fees: sum(line.fee) }
files:
  rows: { name: "{{ site }}", folder: "{{ district }}", list: { form: delimited } }
${more}waysOut:
${ways}`;
  return service.call("PUT", `/api/v1/reports/${report}`, text);
}
/** Runs it, releases it and gives the run when it is done. */
async function carried(report: string, wish: object = {}): Promise<string> {
  const started = await service.call<{ id: string; title: string }>("POST", "/api/v1/runs", { report, ...wish });
  expect(started.status, JSON.stringify(started.body)).toBe(201);
  const { id } = started.body;
  await service.waitFor(id, ["held"]);
  expect((await service.call("POST", `/api/v1/runs/${id}/release`, {})).status).toBe(200);
  await service.waitFor(id, ["done"]);
  return id;
}
interface Entry {
  readonly id: string;
  readonly label: string;
  readonly way: string | null;
  readonly state: string;
  readonly response: string;
  readonly attempts: number;
  readonly results: Record<string, { state: string; response: string }>;
}
const outbox = (run: string): Promise<Entry[]> => service.list<Entry>(`/api/v1/outbox?run=${run}`);
const digest = (bytes: Buffer): string => createHash("sha256").update(bytes).digest("hex");
const files = (at: string): string[] =>
  existsSync(at)
    ? readdirSync(at, { recursive: true, withFileTypes: true })
        .filter((one) => one.isFile())
        .map((one) => join(one.parentPath, one.name).slice(at.length + 1))
        .sort()
    : [];

describe("a folder", () => {
  it("gets each group's files under the names the report gives them, each with a receipt in the outbox", async () => {
    const saved = await set("archive", { kind: "folder", folder: "archive" });
    expect([saved.status, saved.body.place]).toEqual([201, `${folder}/archive`]);
    expect(
      (await define("lists", '  archive: { folder: "{{ district }}/{{ site }}", name: "rows of {{ site }}" }\n'))
        .status,
    ).toBe(201);
    const run = await carried("lists");
    expect(files(join(folder, "archive"))).toEqual([
      "North/Alder Court/rows of Alder Court.csv",
      "South/Dock-1/rows of Dock-1.csv",
      "South/Élan House/rows of Élan House.csv",
    ]);
    expect(readFileSync(join(folder, "archive/South/Dock-1/rows of Dock-1.csv"), "utf8")).toContain("Dock/1,E1,7.25");
    const entries = await outbox(run);
    expect(entries.map(({ way, state }) => [way, state])).toEqual(Array(3).fill(["archive", "sent"]));
    const [dock] = entries.filter((one) => one.label === "Dock/1");
    const place = "South/Dock-1/rows of Dock-1.csv";
    const put = readFileSync(join(folder, "archive", place));
    expect(dock?.results[place]?.response).toBe(`put and read again: ${put.length} bytes, SHA-256 ${digest(put)}`);
    const { body } = await service.call<{ sentences: string[]; progress: { carried: object; messages: object } }>(
      "GET",
      `/api/v1/runs/${run}`,
    );
    expect(body.sentences).toContain("3 files to the way out archive.");
    expect([body.progress.carried, body.progress.messages]).toEqual([{ sent: 3 }, {}]);
  });

  it("is not written over: another file of the name is a refusal with its place, the same bytes count as put", async () => {
    const place = join(folder, "archive/South/Élan House/rows of Élan House.csv");
    const before = readFileSync(join(folder, "archive/North/Alder Court/rows of Alder Court.csv"), "utf8");
    writeFileSync(place, "somebody's own");
    const run = await carried("lists");
    const entries = await outbox(run);
    const of = (label: string) => entries.find((one) => one.label === label);
    expect([of("Élan House")?.state, of("Élan House")?.response]).toEqual([
      "refused",
      "another file of that name is there, and is not written over",
    ]);
    expect(readFileSync(place, "utf8")).toBe("somebody's own");
    expect(Object.values(of("Alder Court")?.results ?? {})[0]?.response).toContain("was there already");
    expect(readFileSync(join(folder, "archive/North/Alder Court/rows of Alder Court.csv"), "utf8")).toBe(before);
    // It is put once the other is gone.
    rmSync(place);
    expect(
      (await service.call("POST", `/api/v1/messages/${of("Élan House")?.id}/decide`, { as: "again" })).status,
    ).toBe(200);
    await service.waitFor(run, ["done"]);
    await expect.poll(() => existsSync(place), { timeout: 60_000 }).toBe(true);
  });

  it("is written over where the report says so, and a link that leads elsewhere is not followed", async () => {
    expect((await define("over", "  archive: { folder: over, over: true }\n")).status).toBe(201);
    mkdirSync(join(folder, "archive/over"), { recursive: true });
    writeFileSync(join(folder, "archive/over/Alder Court.csv"), "of last time");
    await carried("over");
    expect(readFileSync(join(folder, "archive/over/Alder Court.csv"), "utf8")).toContain("L2");
    symlinkSync("/tmp", join(folder, "archive/away"));
    expect((await define("away", "  archive: { folder: away }\n")).status).toBe(201);
    const entries = await outbox(await carried("away"));
    expect(new Set(entries.map((one) => one.state))).toEqual(new Set(["refused"]));
    expect(entries[0]?.response).toContain("leads outside of the folder");
    expect(existsSync("/tmp/Alder Court.csv")).toBe(false);
  });

  it("is left alone while it is not there, and nothing is lost: what waits goes once it is", async () => {
    const gone = `${folder}-moved`;
    const { renameSync } = await import("node:fs");
    expect((await define("later", "  archive: { folder: later }\n")).status).toBe(201);
    // A file stands where the folder should be: as a share that is not mounted, it cannot be written to.
    renameSync(folder, gone);
    writeFileSync(folder, "");
    const started = await service.call<{ id: string }>("POST", "/api/v1/runs", { report: "later" });
    await service.waitFor(started.body.id, ["held"]);
    await service.call("POST", `/api/v1/runs/${started.body.id}/release`, {});
    await expect
      .poll(
        async () => (await outbox(started.body.id)).some((one) => one.state === "queued" && one.response !== null),
        { timeout: 60_000 },
      )
      .toBe(true);
    rmSync(folder);
    renameSync(gone, folder);
    await service.call("POST", "/api/v1/ways-out/archive/resume");
    await service.waitFor(started.body.id, ["done"]);
    expect(files(join(folder, "archive/later"))).toHaveLength(3);
  });
});

describe("the example of folders", () => {
  it("gives 188 sites a folder each with their rows, from one run", async () => {
    const sites = Array.from({ length: 188 }, (_, at) => `Site ${String(at + 1).padStart(3, "0")}`);
    const rows = sites.flatMap((site, at) => [
      `2026-10-05,${site},L1,pass,1,${at + 1},0.5`,
      `2026-10-09,${site},L2,cancelled,1,99,0`,
    ]);
    const loaded = await service.call(
      "POST",
      "/api/v1/datasets/inspections/editions?file=inspections.csv",
      ["visit_date,site,unit,result,hours,rate,parts", ...rows].join("\n"),
    );
    expect(loaded.status).toBe(201);
    const { parseYaml } = await import("@corbix/core/report");
    const settings = parseYaml(
      readFileSync("demo/examples/folders/share.yaml", "utf8"),
      "share.yaml",
      "BAD_DEFINITION",
    );
    await set("share", settings as object);
    const definition = readFileSync("demo/examples/folders/folders.yaml", "utf8").replace(
      "data: visits",
      "data: inspections",
    );
    expect((await service.call("PUT", "/api/v1/reports/site-folders", definition)).status).toBe(201);
    const run = await carried("site-folders", { period: "2026-10" });
    const put = files(join(folder, "reports/October 2026"));
    expect(put).toEqual(sites.map((site) => `${site}/visits 2026-10.csv`));
    for (const [at, path] of put.entries()) {
      const text = readFileSync(join(folder, "reports/October 2026", path), "utf8");
      expect(text.trim().split(/\r?\n/)).toEqual(["visit_date;unit;result;fee", `2026-10-05;L1;pass;${at + 1}.5`]);
    }
    const { body } = await service.call<{ progress: { carried: object } }>("GET", `/api/v1/runs/${run}`);
    expect(body.progress.carried).toEqual({ sent: 188 });
  });
});

describe("SFTP", () => {
  const settings = (more: object = {}) => ({
    kind: "sftp",
    host: "127.0.0.1",
    port: ssh.port,
    user: ssh.user,
    hostKey: ssh.hostKey,
    folder: "in/office",
    ...more,
  });

  it("puts files on an OpenSSH server whose key is known, and none on one that shows another", async () => {
    const shown = await service.call<{ hostKey: string }>("POST", "/api/v1/host-keys", {
      host: "127.0.0.1",
      port: ssh.port,
    });
    expect(shown.body.hostKey).toBe(ssh.hostKey);
    const other = `SHA256:${"A".repeat(43)}`;
    expect((await set("partner", settings({ hostKey: other }), { privateKey: ssh.privateKey })).status).toBe(201);
    const refused = await attempt("partner");
    expect([refused.status, refused.body.title]).toEqual([
      503,
      `Cannot put a file there: the server shows another key, ${ssh.hostKey}: it is not spoken to until somebody has seen why.`,
    ]);
    const right = await set("partner", settings());
    // The secret is of the same place, and stays.
    expect([right.status, right.body.secrets]).toEqual([200, ["privateKey"]]);
    expect((await attempt("partner")).body.words).toContain("put and read again");
    expect(files(ssh.folder)).toEqual([]);
    expect((await define("abroad", '  partner: { folder: "{{ district }}" }\n')).status).toBe(201);
    await carried("abroad");
    expect(files(ssh.folder)).toEqual([
      "in/office/North/Alder Court.csv",
      "in/office/South/Dock-1.csv",
      "in/office/South/Élan House.csv",
    ]);
    expect(readFileSync(join(ssh.folder, "in/office/South/Élan House.csv"), "utf8")).toContain("L9");
  });

  it("does not write over another's file, does so where it is told, and says who is not let in", async () => {
    const place = join(ssh.folder, "in/office/North/Alder Court.csv");
    const before = readFileSync(place);
    writeFileSync(place, "theirs");
    const entries = await outbox(await carried("abroad"));
    expect(entries.find((one) => one.label === "Alder Court")?.state).toBe("refused");
    expect(readFileSync(place, "utf8")).toBe("theirs");
    expect(entries.find((one) => one.label === "Dock/1")?.state).toBe("sent");
    expect((await define("abroad", '  partner: { folder: "{{ district }}", over: true }\n')).status).toBe(200);
    await carried("abroad");
    expect(readFileSync(place)).toEqual(before);
    expect(files(ssh.folder).filter((one) => one.includes("/."))).toEqual([]);
    await set("stranger", settings(), { privateKey: ssh.strangerKey });
    const { status, body } = await attempt("stranger");
    expect([status, body.title]).toEqual([
      503,
      "Cannot put a file there: All configured authentication methods failed.",
    ]);
  });
});

describe("WebDAV", () => {
  it("puts files on a server that asks for a sign-in, makes folders, and leaves what is there", async () => {
    const settings = { kind: "web-dav", address: dav.address, user: dav.user };
    expect((await set("shared", settings, { password: "wrong" })).status).toBe(201);
    expect((await attempt("shared")).body.title).toBe(
      "Cannot put a file there: it answered 401: the sign-in is not accepted.",
    );
    await set("shared", settings, { password: dav.password });
    expect((await attempt("shared")).body.words).toContain("taken with 201");
    expect(
      (
        await define(
          "online",
          '  shared: { folder: "{{ period.label }}/{{ district }}" }\n',
          "period: { every: month }\n",
        )
      ).status,
    ).toBe(201);
    const run = await carried("online", { period: "2026-10" });
    expect(files(dav.folder)).toEqual([
      "October 2026/North/Alder Court.csv",
      "October 2026/South/Dock-1.csv",
      "October 2026/South/Élan House.csv",
    ]);
    const entries = await outbox(run);
    expect(entries.map((one) => one.state)).toEqual(["sent", "sent", "sent"]);
    // Whoever takes a folder away gets it anew.
    rmSync(join(dav.folder, "October 2026/North"), { recursive: true });
    // The same files once more count as put; another's file stays.
    writeFileSync(join(dav.folder, "October 2026/South/Dock-1.csv"), "theirs");
    const again = await outbox(await carried("online", { period: "2026-10" }));
    expect(again.map(({ label, state }) => [label, state]).sort()).toEqual([
      ["Alder Court", "sent"],
      ["Dock/1", "refused"],
      ["Élan House", "sent"],
    ]);
    expect(files(join(dav.folder, "October 2026/North"))).toEqual(["Alder Court.csv"]);
  });

  it("keeps its secret for its own place: led elsewhere, it is not handed over", async () => {
    const moved = await set("shared", { kind: "web-dav", address: "http://127.0.0.1:9/other", user: dav.user });
    expect([moved.status, moved.body.secrets]).toEqual([200, []]);
    await set("shared", { kind: "web-dav", address: dav.address, user: dav.user }, { password: dav.password });
  });
});

describe("HTTP", () => {
  it("hands each file over with its digest and a key, and tries again with patience what is refused for now", async () => {
    const server = await uploadServer((_, count) => (count === 1 ? 503 : 201));
    await set(
      "portal",
      { kind: "http", address: server.address, headers: { "X-Office": "Aldmoor" } },
      { token: "secret-word" },
    );
    expect((await define("uploads", "  portal: { files: [rows] }\n")).status).toBe(201);
    await carried("uploads");
    const paths = server.got.map(({ method, path }) => `${method} ${path}`);
    expect(new Set(paths)).toEqual(
      new Set(["PUT /in/North/Alder Court.csv", "PUT /in/South/Dock-1.csv", "PUT /in/South/Élan House.csv"]),
    );
    // The one that was refused for now came twice, with the same key.
    expect(paths).toHaveLength(4);
    const keys = server.got.map(({ headers }) => headers["idempotency-key"]);
    expect(new Set(keys).size).toBe(3);
    for (const { headers, body } of server.got) {
      expect(headers.authorization).toBe("Bearer secret-word");
      expect(headers["x-office"]).toBe("Aldmoor");
      expect(headers["content-type"]).toBe("text/csv");
      expect(headers["content-digest"]).toBe(`sha-256=:${createHash("sha256").update(body).digest("base64")}:`);
    }
    await server.close();
  });

  it("does not repeat a POST whose answer was lost: nobody can know, so a person decides", async () => {
    const server = await uploadServer(({ headers }) =>
      /Dock/.test(headers["content-disposition"] ?? "") ? "break" : 200,
    );
    await set("post-box", { kind: "http", address: server.address, method: "POST" });
    expect((await define("posts", "  post-box: {}\n")).status).toBe(201);
    const run = await carried("posts");
    const entries = await outbox(run);
    const dock = entries.find((one) => one.label === "Dock/1");
    expect([dock?.state, dock?.attempts]).toEqual(["unsure", 1]);
    expect(dock?.response).toContain("nobody knows whether it was taken");
    expect(server.got).toHaveLength(3);
    expect(server.got.map(({ headers }) => headers["content-disposition"]).sort()).toEqual([
      `attachment; filename="Alder Court.csv"; filename*=UTF-8''Alder%20Court.csv`,
      `attachment; filename="Dock-1.csv"; filename*=UTF-8''Dock-1.csv`,
      `attachment; filename="_lan House.csv"; filename*=UTF-8''%C3%89lan%20House.csv`,
    ]);
    await server.close();
  });
});

describe("ways out", () => {
  it("are named with a near one where a report means another, and stay while a report needs them", async () => {
    const { status, body } = await define("wrong", "  archiv: {}\n");
    expect([status, body.title, body.where]).toEqual([422, "There is no way out `archiv`.", "waysOut, archiv"]);
    expect(body.advice).toContain('Did you mean "archive"?');
    const missing = await define("wrong", "  archive: { files: [row] }\n");
    expect([missing.status, missing.body.title]).toEqual([422, "Cannot send `row`: the report makes no such file."]);
    const removed = await service.call<{ title: string }>("DELETE", "/api/v1/ways-out/archive");
    expect([removed.status, removed.body.title]).toEqual([
      409,
      "Cannot take it away: files of these reports go there: away, later, lists, over.",
    ]);
    expect((await service.call("DELETE", "/api/v1/ways-out/stranger")).status).toBe(200);
    const taken = await set("office", { kind: "folder" });
    expect([taken.status, taken.body.title]).toEqual([
      409,
      "Cannot call it `office`: a sending identity has that name.",
    ]);
  });

  it("go once for their occasion: a second run of the period puts nothing again, unless somebody says so", async () => {
    await define("monthly", '  archive: { folder: "monthly {{ period.key }}" }\n', "period: { every: month }\n");
    await service.call(
      "PUT",
      "/api/v1/reports/monthly",
      (await service.call<{ source: string }>("GET", "/api/v1/reports/monthly")).body.source.replace(
        "once: hand",
        "once: period",
      ),
    );
    await carried("monthly", { period: "2026-10" });
    const place = join(folder, "archive/monthly 2026-10/North/Alder Court.csv");
    rmSync(place, { force: true });
    const second = await outbox(await carried("monthly", { period: "2026-10" }));
    expect(second.map((one) => one.state)).toEqual(["skipped", "skipped", "skipped"]);
    expect(existsSync(place)).toBe(false);
    const again = await carried("monthly", { period: "2026-10", again: "the share lost it" });
    // The page of the period shows each group once, as it was let go last.
    const { body } = await service.call<{
      total: number;
      items: { label: string; run: string; files: { path: string }[] }[];
    }>("GET", "/api/v1/reports/monthly/files?period=2026-10");
    expect(body.items.map(({ label, run, files }) => [label, run, files[0]?.path])).toEqual([
      ["Alder Court", again, "North/Alder Court.csv"],
      ["Dock/1", again, "South/Dock-1.csv"],
      ["Élan House", again, "South/Élan House.csv"],
    ]);
    const narrowed = await service.list<{ label: string }>("/api/v1/reports/monthly/files?period=2026-10&search=dock");
    expect(narrowed.map(({ label }) => label)).toEqual(["Dock/1"]);
    expect(files(join(folder, "archive/monthly 2026-10"))).toContain("Alder Court.csv");
  });

  it("count each for itself: a way that is added gets what another one has had for the period", async () => {
    await set("second", { kind: "folder", folder: "second" });
    const { source } = (await service.call<{ source: string }>("GET", "/api/v1/reports/monthly")).body;
    const both = `${source}  second: { folder: "monthly {{ period.key }}" }\n`;
    expect((await service.call("PUT", "/api/v1/reports/monthly", both)).status).toBe(200);
    const entries = await outbox(await carried("monthly", { period: "2026-10" }));
    expect(entries.map(({ way, state }) => `${way} ${state}`).sort()).toEqual([
      ...Array(3).fill("archive skipped"),
      ...Array(3).fill("second sent"),
    ]);
    expect(files(join(folder, "second/monthly 2026-10"))).toHaveLength(3);
  });

  it("put files once more when the process that was at them ended, and a POST not by themselves", async () => {
    const server = await uploadServer(() => 200);
    await set("desk", { kind: "http", address: server.address, method: "POST" });
    await define("broken", "  archive: { folder: broken }\n  desk: {}\n");
    const started = await service.call<{ id: string }>("POST", "/api/v1/runs", { report: "broken" });
    const run = started.body.id;
    await service.waitFor(run, ["held"]);
    for (const name of ["archive", "desk"]) await service.call("POST", `/api/v1/ways-out/${name}/pause`);
    await service.call("POST", `/api/v1/runs/${run}/release`, {});
    // A process was in the middle of all of them, and ended.
    const { database } = service.context;
    await database.execute("INSERT INTO workers (id, ended_at) VALUES ('gone', now())");
    await database.execute("UPDATE messages SET state = 'sending', attempts = 1, worker = 'gone' WHERE run_id = $1", [
      run,
    ]);
    await loseBegun(database, "the process ended");
    const states = async () => (await outbox(run)).map(({ way, state }) => `${way} ${state}`).sort();
    expect(await states()).toEqual([...Array(3).fill("archive queued"), ...Array(3).fill("desk unsure")]);
    for (const name of ["archive", "desk"]) await service.call("POST", `/api/v1/ways-out/${name}/resume`);
    await expect
      .poll(states, { timeout: 60_000 })
      .toEqual([...Array(3).fill("archive sent"), ...Array(3).fill("desk unsure")]);
    expect(files(join(folder, "archive/broken"))).toHaveLength(3);
    expect(server.got).toEqual([]);
    await server.close();
  });

  it("carry nothing in a rehearsal, which says so", async () => {
    const { body } = await service.call<{ id: string }>("POST", "/api/v1/runs", {
      report: "monthly",
      period: "2026-09",
      rehearsalTo: "colleague@lifts.example",
    });
    const run = await service.waitFor(body.id, ["done", "held"]);
    expect(JSON.stringify(run)).toContain("In a rehearsal no files go to the ways out: archive, second.");
    expect(existsSync(join(folder, "archive/monthly 2026-09"))).toBe(false);
  });
});
