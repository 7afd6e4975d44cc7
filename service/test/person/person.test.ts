/** A person asks: everything about them is found, handed out and erased, what has to stay says why, and nothing else is touched. */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { inflateSync } from "node:zlib";
import { groupedBy } from "@corbix/core/common";
import { readJournal } from "@corbix/core/delivery";
import { inflateEntry, readZip } from "@corbix/core/ooxml";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";
import { toldSender } from "../../../test/setup/steps.js";
import { sendWaiting } from "../../dist/outbox/outbox.js";
import { ACTORS, checkTrail, PLACES, type Place } from "../../dist/records/index.js";

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), {
    CORBIX_WORKERS: "0",
    CORBIX_DEMO: "false",
    CORBIX_KEEP_TRAIL_MONTHS: "0",
  });
});
afterAll(() => service?.close());

const { load, list, report, plan, select } = smallOffice(() => service);
const RUTH = "ruth.penhallow@canal.example";
const NAME = "Ruth Penhallow";

interface Search {
  readonly id: string;
  readonly state: string;
  readonly places: readonly {
    readonly place: string;
    readonly count: number;
    readonly erasable: number;
    readonly kept: readonly { readonly why: string; readonly count: number }[];
    readonly examples: readonly string[];
  }[];
  readonly before: readonly { readonly by: string; readonly reason: string }[];
  readonly error: string | null;
}
const done = async (id: string): Promise<Search> => {
  for (;;) {
    const { body } = await service.call<Search>("GET", `/api/v1/person-searches/${id}`);
    if (body.state === "failed") throw new Error(body.error ?? "");
    if (body.state !== "looking" && body.state !== "erasing") return body;
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
};
const look = async (...words: string[]): Promise<Search> => {
  const { status, body } = await service.call<Search>("POST", "/api/v1/person-searches", { words });
  expect(status).toBe(202);
  return done(body.id);
};
const erase = async ({ id }: Search, more: object = {}): Promise<Search> => {
  const { status } = await service.call("POST", `/api/v1/person-searches/${id}/erase`, {
    reason: "asked by letter of 30 November",
    ...more,
  });
  expect(status).toBe(202);
  return done(id);
};
const counts = ({ places }: Search) => Object.fromEntries(places.map(({ place, count }) => [place, count]));
const send = () => sendWaiting(service.context, "office", toldSender([{}]).open);

/** Everything that the database holds, as one text for each table: packed words too. */
async function everything(): Promise<Map<string, string>> {
  const tables = await select<{ name: string }>(
    "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = 'public' ORDER BY 1",
  );
  const all = new Map<string, string>();
  for (const { name } of tables) {
    const rows = await select<Record<string, unknown>>(`SELECT * FROM ${name}`);
    const texts = rows.map((row) =>
      Object.values(row)
        .map((value) => (Buffer.isBuffer(value) ? unpacked(value) : JSON.stringify(value)))
        .join(" "),
    );
    all.set(name, texts.join("\n"));
  }
  return all;
}

/** What the journal of what left has. */
function journalText(): string {
  const folder = join(service.data, "left");
  return readdirSync(folder)
    .map((name) => readFileSync(join(folder, name), "utf8"))
    .join("");
}

function unpacked(value: Buffer): string {
  try {
    return inflateSync(value).toString("utf8");
  } catch {
    return value.toString("utf8");
  }
}
const tablesHolding = async (...words: string[]) =>
  [...(await everything())]
    .filter(([, text]) => words.some((word) => text.toLowerCase().includes(word.toLowerCase())))
    .map(([name]) => name);

describe("a person who asks", () => {
  let run: string;

  it("is found everywhere: in the list, rows, groups, files, messages, the trail", async () => {
    await load(
      "visits",
      `Site,Contact,Fee\nCanal Wharf,${NAME},10\nCanal Wharf,Tom Reed,20\nHarbour House,Tom Reed,30\nMill Lane,see ruth  penhallow,5\n`,
    );
    await list(
      `Canal Wharf,${NAME},${RUTH}\nHarbour House,Tom Reed,"tom@harbour.example, Ruth.Penhallow@CANAL.example"\nMill Lane,Ann,ann@mill.example`,
    );
    await report("notes", `data: visits\nmessages: {}`.replace("\nmessages: {}", ""));
    run = await plan({ report: "notes" }, { release: false });
    const held = await look(RUTH, NAME);
    expect(counts(held)).toMatchObject({ list: 2, rows: 2, parcels: 3, files: 3, messages: 2 });
    // Of a run under way nothing goes: what is proved is what goes out.
    const parcels = held.places.find(({ place }) => place === "parcels");
    expect([parcels?.erasable, parcels?.kept[0]?.why]).toEqual([0, expect.stringContaining("is under way")]);
    expect(held.places.find(({ place }) => place === "rows")).toMatchObject({ erasable: 0 });
    const { status } = await service.call("POST", `/api/v1/runs/${run}/release`, {});
    expect(status).toBe(200);
    await send();
    const found = await look(RUTH, NAME);
    expect(found.places.every(({ count, erasable }) => count === erasable)).toBe(true);
    expect((await look("ruth.penhallow@canal.example.org")).places).toEqual([]);
    expect(counts(await look("Tom Reed"))).toMatchObject({ list: 1, rows: 2 });
    // Looking is written down, and not whom for.
    const trail = await select<{ subject: string }>("SELECT subject FROM actions WHERE what = 'person looked for'");
    expect([trail.length > 2, JSON.stringify(trail).includes("uth")]).toEqual([true, false]);
  });

  it("is handed out whole: each thing as it stands, whole rows, and the files", async () => {
    const { id } = await look(RUTH, NAME);
    const answer = await fetch(`${service.url}/api/v1/person-searches/${id}/export.zip`, {
      headers: { Authorization: `Bearer ${service.signIn.token}` },
    });
    const entries = readZip(new Uint8Array(await answer.arrayBuffer()), "known.zip");
    const known = entries.find(({ name }) => name === "known.jsonl");
    if (!known) throw new Error("nothing is known");
    const lines = Buffer.from(inflateEntry(known, "known.zip"))
      .toString("utf8")
      .trim()
      .split("\n")
      .map((line) => JSON.parse(line) as { place: string; what: string; holds: unknown });
    const rows = lines.find(({ place }) => place === "Rows of editions");
    expect(rows?.holds).toEqual([
      { row: 2, Site: "Canal Wharf", Contact: NAME, Fee: 10 },
      { row: 5, Site: "Mill Lane", Contact: "see ruth penhallow", Fee: 5 },
    ]);
    expect(lines.filter(({ place }) => place === "Messages").length).toBe(2);
    expect(JSON.stringify(lines)).toContain("Attached.");
    expect(entries.filter(({ name }) => name.startsWith("files/")).length).toBe(3);
    expect(new Set(entries.map(({ name }) => name)).size).toBe(4);
  });

  it("is erased, and nobody else is: nothing that is kept names them any more, and it is known that it was done", async () => {
    const digests = await select<{ sha256: string }>("SELECT sha256 FROM messages ORDER BY id");
    const erased = await erase(await look(RUTH, NAME));
    expect(erased.places).toEqual([]);
    expect(erased.before).toEqual([{ at: expect.any(String), by: "office", reason: "asked by letter of 30 November" }]);
    expect(await tablesHolding("penhallow", "ruth")).toEqual([]);
    // The journal beside the store has stars in place of the address, in lines as long as they were, and whole.
    const journal = journalText();
    expect(journal).toContain("tom@harbour.example");
    expect(journal).not.toMatch(/penhallow/i);
    expect(journal).toContain("*".repeat(RUTH.length));
    for (const { entry } of readJournal(Buffer.from(journal))) expect(entry).toBeDefined();
    // Others are as they were.
    expect(await tablesHolding("tom@harbour.example")).toEqual(["ledger", "messages", "parcels", "recipient_lists"]);
    const now = (await service.call<{ items: { group: string; addresses: string }[] }>("GET", "/api/v1/recipients"))
      .body.items;
    expect(now.map(({ group }) => group)).toEqual(["Harbour House", "Mill Lane"]);
    const rows = await (
      await fetch(`${service.url}/api/v1/datasets/visits/editions/1/rows?limit=10`, {
        headers: { Authorization: `Bearer ${service.signIn.token}` },
      })
    ).text();
    expect(rows).toContain("Tom Reed");
    expect(rows).toMatch(/see erased-[a-z0-9]+/);
    // What went out is known by its digest still, and the bytes are gone.
    expect(await select("SELECT sha256 FROM messages ORDER BY id")).toEqual(digests);
    expect((await select("SELECT 1 FROM messages WHERE mime IS NOT NULL")).length).toBe(1);
    expect((await select("SELECT 1 FROM files WHERE removed_at IS NULL")).length).toBe(0);
    const file = await service.call<{ title: string }>("GET", "/api/v1/datasets/visits/editions/1/file");
    expect([file.status, file.body.title]).toEqual([404, expect.stringContaining("file")]);
    const check = await checkTrail(service.context.database);
    expect(check).toMatchObject({ brokenAt: null });
    // Asked again, it is known when that was, without their name.
    expect((await look(RUTH)).before.length).toBe(1);
    expect((await look("somebody@else.example")).before).toEqual([]);
  });

  it("can have places left, and is told of what is somebody's to change by hand", async () => {
    await list(`Canal Wharf,Vera Holt,vera@canal.example\nHarbour House,Tom Reed,tom@harbour.example`);
    const vera = await look("vera@canal.example");
    const named = await service.call<{ title: string }>("POST", `/api/v1/person-searches/${vera.id}/erase`, {
      reason: "Vera@canal.example asked",
    });
    expect([named.status, named.body.title]).toEqual([400, expect.stringContaining("names the person")]);
    const left = await erase(vera, { leave: ["list"] });
    expect(counts(left)).toMatchObject({ list: 1 });
    expect(counts(await erase(left))).toEqual({});
    await report("copies", `data: visits\ndelivery: { copies: [wanda@office.example] }`);
    const told = await erase(await look("wanda@office.example"));
    expect(told.places).toEqual([
      expect.objectContaining({
        place: "definitions",
        erasable: 0,
        kept: [{ why: "Change it where it stands.", count: 1 }],
      }),
    ]);
    const refused = await service.call<{ title: string }>(
      "POST",
      "/api/v1/person-searches/00000000-0000-4000-8000-000000000000/erase",
      { reason: "x" },
    );
    expect(refused.status).toBe(404);
  });

  it("is found however the name is written down: letters of two signs, quotation marks, signs of patterns", async () => {
    const odd = `Zoë O'Hara "Zo" 100%_x`;
    const { database } = service.context;
    await database.execute(
      "INSERT INTO notices (at, kind, what) VALUES (now(), 'run', $1), (now(), 'run', $2), (now(), 'run', $3)",
      [`for ${odd.normalize("NFD").toUpperCase()}.`, `for Zoe O'Hara "Zo" 100%_x`, `for Zoë O'Hara "Zo" 100__x`],
    );
    await database.execute(
      `INSERT INTO questions (id, report, version, editions, day, given, filled, found, rows, asked_by, asked_at) VALUES ('odd', 'notes', 1, '{}', 1, $1, '[]', 0, 0, 'ann', now())`,
      [JSON.stringify({ who: odd })],
    );
    const found = await look(odd);
    expect(counts(found)).toMatchObject({ notices: 1, questions: 1 });
    expect(counts(await erase(found))).toEqual({});
    expect(counts(await look("佐藤 花子"))).toEqual({});
  });

  it("whose name a group has stays there alone, where the ledger goes by it; one with a further sign is another", async () => {
    await load("staff", "Site,Fee\nInga Lund,10\nDock,20\n");
    await list(`Inga Lund,Inga Lund,inga+lists@x.example\nDock,Other,inga@x.example`);
    await report("own-rows", "data: staff");
    await plan({ report: "own-rows" });
    await send();
    expect(counts(await look("inga@x.example"))).not.toHaveProperty("rows");
    const left = await erase(await look("inga+lists@x.example", "Inga Lund"));
    expect(left.places.every(({ erasable }) => erasable === 0)).toBe(true);
    expect(Object.keys(counts(left)).sort()).toEqual(
      ["deliveredRows", "groups", "ledger"].filter((one) => counts(left)[one]),
    );
    expect(await tablesHolding("inga+lists@x.example")).toEqual([]);
    expect(await tablesHolding("inga@x.example")).toEqual(["ledger", "messages", "parcels", "recipient_lists"]);
  });

  it("who signs in is erased once they are switched off, wherever they did something", async () => {
    await service.call("POST", "/api/v1/people", {
      name: "mara.lind",
      shownName: "Mara Lind",
      roles: { prepare: "all" },
    });
    await service.context.database.execute("UPDATE users SET state = 'active' WHERE name = 'mara.lind'");
    await service.context.database.execute("UPDATE report_versions SET created_by = 'mara.lind' WHERE name = 'copies'");
    const first = await look("Mara Lind");
    expect(first.places.find(({ place }) => place === "people")?.kept[0]?.why).toBe("Switch the person off first.");
    expect(counts(first)).toMatchObject({ people: 1, actors: 1 });
    await service.context.database.execute(
      `UPDATE runs SET approvals = '[{"by":"mara.lind","at":"2026-11-01T00:00:00Z"},{"by":"ben","at":"2026-11-01T00:00:00Z"}]' WHERE id = (SELECT min(id) FROM runs)`,
    );
    await service.call("POST", "/api/v1/people/mara.lind/off", {});
    const gone = await erase(await look("Mara Lind"));
    expect(gone.places).toEqual([]);
    expect(await tablesHolding("mara.lind", "mara lind")).toEqual([]);
    const [by] = await select<{ by: string }>("SELECT created_by AS by FROM report_versions WHERE name = 'copies'");
    expect(by?.by).toMatch(/^erased-[a-z0-9]{12}$/);
    const [approved] = await select<{ names: string[] }>(
      "SELECT ARRAY(SELECT one->>'by' FROM json_array_elements(approvals) AS one) AS names FROM runs ORDER BY id LIMIT 1",
    );
    expect(approved?.names).toEqual([by?.by, "ben"]);
    expect(await checkTrail(service.context.database)).toMatchObject({ brokenAt: null, erased: expect.any(Number) });
    // Another of the same name is another.
    await service.call("POST", "/api/v1/people", {
      name: "mara.second",
      shownName: "Mara Lind",
      roles: { look: "all" },
    });
    await service.call("POST", "/api/v1/people/mara.second/off", {});
    expect((await erase(await look("Mara Lind"))).places).toEqual([]);
    const names = await select<{ name: string }>("SELECT name FROM users WHERE name LIKE 'erased-%' ORDER BY name");
    expect(names.map(({ name }) => name)).toEqual([by?.by, `${by?.by}-2`]);
  });
});

describe("the trail that names nobody", () => {
  it("takes no other change, and one that nothing tells of is found", async () => {
    const { database } = service.context;
    const [entry] = await select<{ id: string }>(
      "SELECT id FROM actions WHERE form = 2 AND erased IS NULL ORDER BY id DESC LIMIT 1",
    );
    const id = entry?.id ?? "";
    for (const sql of [
      "UPDATE actions SET who = 'nobody' WHERE id = $1",
      "UPDATE actions SET who = 'nobody', erased = 'x' WHERE id = $1",
      "UPDATE actions SET what = 'other', erased = action_digest(actions) WHERE id = $1",
      "UPDATE actions SET at = now(), erased = action_digest(actions) WHERE id = $1",
      "DELETE FROM actions WHERE id = $1",
    ])
      await expect(database.execute(sql, [id])).rejects.toThrow("the trail is added to, never changed");
    expect((await checkTrail(database)).brokenAt).toBeNull();
    await database.execute("UPDATE actions SET who = 'nobody', erased = action_digest(actions) WHERE id = $1", [id]);
    expect((await checkTrail(database)).brokenAt).toBe(id);
  });
});

describe("the places that are looked through", () => {
  it("are all that hold words: each other column says why it names nobody", async () => {
    const columns = await select<{ name: string }>(
      `SELECT table_name || '.' || column_name AS name FROM information_schema.columns
       WHERE table_schema = 'public' AND data_type IN ('text', 'json', 'jsonb', 'bytea', 'ARRAY') ORDER BY 1`,
    );
    const looked = new Set([
      ...Object.values(PLACES as Record<string, Place>).flatMap(({ table, columns: own }) =>
        Object.keys(own).map((column) => `${table}.${column}`),
      ),
      ...Object.entries(ACTORS).flatMap(([table, own]) => own.map((column) => `${table}.${column}`)),
      ...SPECIAL,
    ]);
    const rest = groupedBy(
      columns.map(({ name }) => name).filter((name) => !looked.has(name)),
      (name) => name.slice(0, name.indexOf(".")),
    );
    const shown = Object.fromEntries(
      [...rest].map(([table, all]) => [table, all.map((name) => name.slice(table.length + 1)).join(" ")]),
    );
    expect(shown).toEqual(NAMELESS);
  });
});

/** Looked through in ways of their own, or gone with what they belong to. */
const SPECIAL = [
  "actions.who",
  "actions.subject",
  "actions.facts",
  "actions.called_from",
  "edition_pieces.data",
  "edition_pieces.facts",
  "edition_changes.data",
  "recipient_lists.recipients",
  "recipient_lists.origin",
  "recipient_lists.findings",
  "messages.mime",
  "letters.raw",
  "delivery_reports.raw",
  "runs.approvals",
  "files.path",
];
/** Digests, secrets, states, keys that Corbix makes, what things are called, and what is gone within a day (answers, uploads, tries). */
const NAMELESS: Readonly<Record<string, string>> = {
  actions: "erased hash what",
  answers: "form kind question_id sha256",
  arrivals: "dataset outcome sha256 way",
  attempts: "identity outcome stage worker",
  blobs: "sha256",
  calendars: "name",
  calls: "answer etag key location process request",
  colleagues: "digest reports",
  delivered_rows: "report",
  delivery_reports: "original_message_id sha256",
  edition_changes: "column_name kind",
  editions: "appended changes reading sha256 stored",
  file_sections: "period sha256",
  files: "file group_key kind provenance rows_digest run_id sha256 stored",
  found_left: "became decided mail_id part report run_id",
  former_keys: "mark sealed",
  former_names: "kind leads_to name",
  halts: "why",
  identities: "holder kind name secret",
  installation: "key_mark",
  journal_files: "name",
  ledger: "part report run_id",
  letters: "message_id",
  messages: "group_key identity language message_id packed part run_id sha256 state way worker",
  notices: "kind report run_id",
  parcel_blobs: "sha256",
  parcel_lines: "name period",
  parcels: "rows_digest run_id state",
  passkeys: "credential name public_key transports",
  put_away: "kind name state",
  questions: "editions id report",
  recipient_lists: "sha256 stored",
  record_keys: "callback digest process report run_id",
  report_versions: "definition form name",
  run_lines: "columns name period run_id",
  run_steps: "ids name run_id worker",
  runs: "calendar columns editions emptied id occasion period period_choice report state templates trace",
  schedules: "report",
  senders: "digest form header report secret way",
  sign_in_provider: "secret settings",
  spent_challenges: "digest",
  template_versions: "name sha256",
  tokens: "agent digest kind name old_digest opened_from roles used_from way",
  tries: "key",
  uploads: "sha256",
  users: "invitation language password provider_issuer recovery_codes roles roles_from state totp totp_wanted zone",
  watchers: "kinds morning reports secret way zone",
  workers: "host id kind started_as version",
};
