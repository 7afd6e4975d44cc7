import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { openDocument } from "@corbix/core/document";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { Deck } from "@corbix/core/slides";
import { openWorkbook } from "@corbix/core/spreadsheet";
import { createTransport } from "nodemailer";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { makeElsewhere } from "../../../core/test/support/helpers.js";
import { type TestService, testService } from "../../../test/setup/service.js";
import { addToken, addUser, maybeUser, removeToken } from "../../dist/access/access.js";
import { checkSignIn } from "../../dist/access/sign-in.js";
import { Tries } from "../../dist/access/tries.js";
import { openLetterbox } from "../../dist/letterbox/letterbox.js";

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" });
});
afterAll(() => service?.close());

const demo = (name: string): Uint8Array => readFileSync(new URL(`../../../demo/files/${name}`, import.meta.url));

interface Mark {
  where: string;
  mark: string;
  from: string;
  problem?: { what: string; advice?: string };
}

describe("a template tried", () => {
  const authorised = () => ({ headers: { Authorization: `Bearer ${service.signIn.token}` } });
  const fetched = async (path: string): Promise<Uint8Array> =>
    new Uint8Array(await (await fetch(`${service.url}${path}`, authorised())).arrayBuffer());

  it("says where each mark gets its value, and what a report does not have", async () => {
    const path = "/api/v1/templates/statement.xlsx";
    const { body } = await service.call<{ uses: object[] }>("GET", path);
    expect(body.uses).toEqual([
      { report: "site-statement", file: "statement", title: "Monthly statement of lift inspections" },
    ]);
    const marks = await service.list<Mark>(`${path}/marks?report=site-statement`);
    const from = (mark: string): string | undefined => marks.find((one) => one.mark === mark)?.from;
    expect(from("site")).toBe("column site, which all lines of the group share");
    expect(from("line.unit")).toBe("column unit of each line");
    expect(from("period.label")).toBe("the period: label");
    expect(marks.find((one) => one.mark === "line.unit")?.where).toMatch(/^Statement![A-Z]+\d+$/);
    expect(marks.filter((mark) => mark.problem)).toEqual([]);
    const strange = Buffer.from(makeElsewhere('sheet["B2"] = "{{ line.wieght }}"'));
    await service.call("PUT", "/api/v1/templates/strange.xlsx", strange);
    const [wrong] = await service.list<Mark>("/api/v1/templates/strange.xlsx/marks?report=site-statement");
    expect([wrong.where, wrong.problem?.what]).toEqual(["Sheet!B2", "Cannot find the column `wieght`."]);
  });

  it("tells what a definition can name in it: tables, names, sheets and cells beside a label", async () => {
    const form = makeElsewhere('sheet["A1"] = "Site"; sheet["D4"] = "Checked by"');
    await service.call("PUT", "/api/v1/templates/form.xlsx", Buffer.from(form));
    const places = await service.list<object>("/api/v1/templates/form.xlsx/places");
    expect(places).toContainEqual({ kind: "sheet", name: "Sheet", where: "Sheet", headings: [] });
    expect(places).toContainEqual({ kind: "cell", name: "Sheet!B1", where: "beside “Site”", headings: [] });
    expect(places).toContainEqual({ kind: "cell", name: "Sheet!E4", where: "beside “Checked by”", headings: [] });
    await service.call("PUT", "/api/v1/templates/plain.md", "# {{ group.key }}");
    expect(await service.list<object>("/api/v1/templates/plain.md/places")).toEqual([]);
  });

  it("is filled for any group, beside its rows, and nothing is kept", async () => {
    const runs = (await service.list<unknown>("/api/v1/runs")).length;
    const tried = await service.call<{
      id: string;
      group: string;
      period: string;
      groups: { key: string; label: string; rows: number }[];
      files: { kind: string; pages?: number }[];
      rows: unknown[][];
    }>("POST", "/api/v1/reports/site-statement/try", { file: "statement", group: "harbour house ", period: "2026-10" });
    const { id, group, groups, files, rows, period } = tried.body;
    expect([group, groups.length, period, files.map((file) => file.kind)]).toEqual([
      "harbour house",
      26,
      "2026-10",
      ["xlsx", "pdf"],
    ]);
    expect(rows.length).toBe(groups.find((one) => one.key === group)?.rows);
    expect(Buffer.from((await fetched(`/api/v1/made/${id}/pdf`)).subarray(0, 5)).toString()).toBe("%PDF-");
    const cells = openWorkbook(await fetched(`/api/v1/made/${id}/xlsx`), "x").sharedStrings;
    expect(cells).toContain("Harbour House");
    expect((await service.list<unknown>("/api/v1/runs")).length).toBe(runs);
    const nobody = await service.call<{ detail: string; title: string }>("POST", "/api/v1/reports/site-statement/try", {
      file: "statement",
      group: "Harbor House",
      period: "2026-10",
    });
    expect([nobody.status, JSON.stringify(nobody.body)]).toEqual([404, expect.stringContaining("Harbour House")]);
  });

  it("is a document as well: its structures explained, filled with what follows it, wrong marks named with their paragraph", async () => {
    const marks = await service.list<Mark>("/api/v1/templates/report.docx/marks?report=unit-figures");
    expect(marks.filter((mark) => mark.problem)).toEqual([]);
    expect(marks.find((one) => one.mark === "repeat line by unit")).toMatchObject({
      from: "column unit, which all lines of the group share",
    });
    expect(marks.every((one) => /^(?:text|footer|header|footnotes)/.test(one.where))).toBe(true);
    const tried = await service.call<{ id: string; files: { kind: string; pages?: number }[] }>(
      "POST",
      "/api/v1/reports/unit-figures/try",
      { file: "report", group: "Canal Wharf", period: "2026-Q3" },
    );
    expect(tried.body.files.map((file) => file.kind)).toEqual(["docx", "pdf"]);
    const made = openDocument(await fetched(`/api/v1/made/${tried.body.id}/docx`), "x").getText("word/document.xml");
    expect(made.replace(/<[^>]*>/g, "")).toMatch(
      /Unit L01, passenger lift.*What a repair needs.*Units concerned: L01/s,
    );
    const wrong = OoxmlPackage.open(demo("templates/repairs.docx"));
    const text = wrong.getText("word/document.xml").replace("{{ site }}", "{{ sitte }}");
    const bytes = Buffer.from(wrong.with(new Map([["word/document.xml", text]])).toBytes());
    expect((await service.call("PUT", "/api/v1/templates/wrong.docx", bytes)).status).toBe(201);
    const [problem] = (await service.list<Mark>("/api/v1/templates/wrong.docx/marks?report=unit-figures")).filter(
      (mark) => mark.problem,
    );
    expect([problem.where, problem.problem?.what]).toEqual(["text, paragraph 2", "Cannot find the column `sitte`."]);
  });

  it("is a slide deck as well: marks named with their slide, tried for a group, wrong ones told", async () => {
    const marks = await service.list<Mark>("/api/v1/templates/quarter.pptx/marks?report=unit-figures");
    expect(marks.filter((mark) => mark.problem)).toEqual([]);
    expect(marks.length).toBeGreaterThan(10);
    expect(marks.every((one) => /^(?:slide \d|layout|master|properties|notes)/.test(one.where))).toBe(true);
    const { body: template } = await service.call<{ uses: object[] }>("GET", "/api/v1/templates/quarter.pptx");
    expect(template.uses).toEqual([{ report: "unit-figures", file: "slides", title: "Figures by unit" }]);
    const tried = await service.call<{ id: string; files: { kind: string; pages?: number }[] }>(
      "POST",
      "/api/v1/reports/unit-figures/try",
      { file: "slides", group: "Canal Wharf", period: "2026-Q3" },
    );
    expect(tried.body.files.map((file) => file.kind)).toEqual(["pptx", "pdf"]);
    const made = OoxmlPackage.open(await fetched(`/api/v1/made/${tried.body.id}/pptx`), "x");
    const deck = new Deck(made);
    expect(tried.body.files[1].pages).toBe(deck.slides.length);
    expect(deck.slides.map(({ part }) => made.getXml(part).text).join()).toContain("Canal Wharf");
    const wrong = OoxmlPackage.open(demo("templates/quarter.pptx"));
    const { part } = new Deck(wrong).slides[0];
    const text = wrong.getText(part).replace("{{ site }}", "{{ sitte }}");
    const bytes = Buffer.from(wrong.with(new Map([[part, text]])).toBytes());
    expect((await service.call("PUT", "/api/v1/templates/wrong.pptx", bytes)).status).toBe(201);
    const [problem] = (await service.list<Mark>("/api/v1/templates/wrong.pptx/marks?report=unit-figures")).filter(
      (mark) => mark.problem,
    );
    expect([problem.where, problem.problem?.what]).toEqual([
      expect.stringMatching(/^slide 1, /),
      "Cannot find the column `sitte`.",
    ]);
    expect((await service.call("PUT", "/api/v1/templates/no.pptx", Buffer.from("no deck"))).status).toBe(422);
  });

  it("may be a picture that documents choose, or none", async () => {
    const notice = OoxmlPackage.open(demo("templates/notice.docx"));
    const png = Buffer.from(notice.getBytes(notice.names.find((name) => name.endsWith(".png")) as string));
    expect((await service.call("PUT", "/api/v1/templates/seal.png", png)).status).toBe(201);
    expect((await service.call("PUT", "/api/v1/templates/no.png", Buffer.from("no picture"))).status).toBe(400);
  });

  it("is set in fonts that somebody brings, at once and in every process", async () => {
    const family = "Noto Sans Arabic";
    const file = createRequire(createRequire(import.meta.url).resolve("@corbix/fonts")).resolve(
      "@fontsource/noto-sans-arabic/files/noto-sans-arabic-arabic-700-normal.woff",
    );
    const own = async () =>
      (await service.list<{ family: string; own: boolean }>("/api/v1/fonts")).filter((font) => font.own);
    expect(await own()).toEqual([]);
    const added = await service.call("PUT", "/api/v1/fonts/arabic.woff", readFileSync(file));
    expect([added.status, added.body]).toEqual([200, { family, bold: true, italic: false }]);
    expect(await own()).toEqual([{ family, own: true }]);
    expect((await service.call("PUT", "/api/v1/fonts/bad.ttf", Buffer.from("no font"))).status).toBe(400);
    expect((await service.call("PUT", "/api/v1/fonts/..%2Fup.ttf", readFileSync(file))).status).toBe(400);
  });

  it("gives odd jobs: sheets apart, words replaced, two workbooks compared", async () => {
    const book = Buffer.from(
      makeElsewhere('sheet.append(["Old Mill", 2, "=B1*2"]); book.create_sheet("Notes")["A1"] = "the Old Mill again"'),
    );
    const apart = (
      await service.call<{ id: string; sheets: string[] }>("POST", "/api/v1/tools/sheets?name=b.xlsx", book)
    ).body;
    expect(apart.sheets).toEqual(["Sheet", "Notes"]);
    const archive = OoxmlPackage.open(await fetched(`/api/v1/made/${apart.id}/zip`));
    expect(archive.names).toEqual(["Sheet.xlsx", "Notes.xlsx"]);
    expect(openWorkbook(archive.getBytes("Notes.xlsx"), "n").sheets.map((sheet) => sheet.name)).toEqual(["Notes"]);
    const query = "name=b.xlsx&from=Old%20Mill&to=New%20Mill&whole=true";
    const replaced = (
      await service.call<{ id: string; total: number; cells: { cell: string; after: string }[] }>(
        "POST",
        `/api/v1/tools/replace?${query}`,
        book,
      )
    ).body;
    expect(replaced.cells.map(({ cell, after }) => [cell, after])).toEqual([
      ["A1", "New Mill"],
      ["A1", "the New Mill again"],
    ]);
    const pairs = encodeURIComponent('[{"from":"Old","to":"Mill"},{"from":"Mill","to":"Old"}]');
    const swapped = await service.call<{ cells: { after: string }[] }>(
      "POST",
      `/api/v1/tools/replace?name=b.xlsx&pairs=${pairs}`,
      book,
    );
    expect(swapped.body.cells.map(({ after }) => after)).toEqual(["Mill Old", "the Mill Old again"]);
    const { id: second } = (await service.call<{ id: string }>("POST", `/api/v1/tools/replace?${query}`, book)).body;
    const together = await service.call<{ id: string; files: number }>("POST", "/api/v1/tools/archive", {
      ids: [replaced.id, second],
    });
    expect(OoxmlPackage.open(await fetched(`/api/v1/made/${together.body.id}/zip`)).names).toEqual([
      "b.xlsx",
      "b (2).xlsx",
    ]);
    expect((await service.call("POST", "/api/v1/tools/archive", { ids: ["none"] })).status).toBe(404);
    for (const wrong of ["", "&pairs=none", "&pairs=%5B%5D"])
      expect((await service.call("POST", `/api/v1/tools/replace?name=b.xlsx${wrong}`, book)).status).toBe(400);
    const held = (await service.call<{ id: string }>("POST", "/api/v1/tools/hold?name=b.xlsx", book)).body;
    const changed = Buffer.from(await fetched(`/api/v1/made/${replaced.id}/xlsx`));
    const { body } = await service.call<{
      total: number;
      differences: { cell: string; first: string; second: string }[];
    }>("POST", `/api/v1/tools/differ?name=c.xlsx&with=${held.id}`, changed);
    expect([body.total, body.differences[0]]).toEqual([
      2,
      expect.objectContaining({ first: "Old Mill", second: "New Mill" }),
    ]);
    expect((await service.call("POST", `/api/v1/tools/differ?name=c.xlsx&with=none`, changed)).status).toBe(404);
    expect((await service.call("POST", "/api/v1/tools/sheets?name=b.xlsx", Buffer.from("no workbook"))).status).toBe(
      422,
    );
  });
});

describe("versions", () => {
  it("keeps a template's versions apart, and makes none for the same bytes", async () => {
    const put = async (bytes: Uint8Array) =>
      (await service.call<{ number: number; sha256: string }>("PUT", "/api/v1/templates/letter.docx", bytes)).body;
    const first = await put(demo("templates/notice.docx"));
    expect([first.number, (await put(demo("templates/notice.docx"))).number]).toEqual([1, 1]);
    const other = Buffer.from(demo("templates/notice.docx"));
    const changed = await put(Buffer.concat([other.subarray(0, other.length - 2), Buffer.from([1, 0, 120])]));
    expect(changed.number).toBe(2);
    expect(Buffer.compare(await service.context.store.get(first.sha256), demo("templates/notice.docx"))).toBe(0);
  });

  it("gives a template's marks, its file and its pages", async () => {
    const body = await service.list<Mark>("/api/v1/templates/notice.docx/marks");
    expect(body.map(({ mark }) => mark)).toEqual(
      expect.arrayContaining(["recipient.name", "count(line)", 'line.visit_date as "dd/mm/yyyy"']),
    );
    const authorised = { headers: { Authorization: `Bearer ${service.signIn.token}` } };
    const pages = await fetch(`${service.url}/api/v1/templates/notice.docx/pages.pdf`, authorised);
    expect(pages.headers.get("content-type")).toBe("application/pdf");
    const content = await fetch(`${service.url}/api/v1/templates/statement.xlsx/content`, authorised);
    expect(Buffer.compare(Buffer.from(await content.arrayBuffer()), demo("templates/statement.xlsx"))).toBe(0);
  });

  it("keeps a report's versions and serves the JSON Schema of its definition", async () => {
    const source = readFileSync(new URL("../../../demo/files/site-statement.yaml", import.meta.url), "utf8");
    const saved = await service.call<{ number: number; definition: { files: object; totals: object } }>(
      "PUT",
      "/api/v1/reports/site-statement",
      source.replace("importance: normal", "importance: high"),
    );
    expect(saved.body.number).toBe(2);
    expect([Object.keys(saved.body.definition.files), Object.keys(saved.body.definition.totals)]).toEqual([
      ["statement", "notice"],
      ["fees", "hours", "visits"],
    ]);
    const { body } = await service.call<{ properties: Record<string, unknown> }>("GET", "/api/v1/report-schema");
    expect(Object.keys(body.properties)).toContain("split");
  });

  it("refuses a report under another's name, and one whose schedule cannot be", async () => {
    const source = readFileSync(new URL("../../../demo/files/site-statement.yaml", import.meta.url), "utf8");
    expect((await service.call<{ title: string }>("PUT", "/api/v1/reports/other", source)).body.title).toContain(
      "the address says `other`",
    );
    const never = source.replace("day: { working: 1, of: month }", "rule: FREQ=SOMETIMES");
    expect((await service.call<{ code: string }>("PUT", "/api/v1/reports/site-statement", never)).body.code).toBe(
      "BAD_RULE",
    );
    expect((await service.call<{ number: number }>("GET", "/api/v1/reports/site-statement")).body.number).toBe(2);
  });

  it("refuses names of templates that would lead elsewhere", async () => {
    for (const name of ["..%2F..%2Fx.docx", "x.exe", ".docx", "a%00b.docx"])
      expect((await service.call("PUT", `/api/v1/templates/${name}`, demo("templates/notice.docx"))).status).toBe(400);
  });

  it("replaces the recipient list whole, and keeps the old one where the new cannot be used", async () => {
    const before = (await service.list("/api/v1/recipients")).length;
    expect((await service.call("PUT", "/api/v1/recipients?file=bad.csv", "Name,Phone\nAnn,1\n")).status).toBe(422);
    expect(await service.list("/api/v1/recipients")).toHaveLength(before);
    const put = await service.call<{ count: number; findings: { code: string }[] }>(
      "PUT",
      "/api/v1/recipients?file=new.csv",
      "Group;Name;E-mail;CC\nDock;Ann;ann@dock.example;\nQuay;Ben;nobody;\n",
    );
    expect(put.body.count).toBe(1);
    expect(put.body.findings.map((finding) => finding.code)).toEqual(["bad-address", "recipient-without-address"]);
    expect((await service.list<{ name: string }>("/api/v1/recipients")).map((one) => one.name)).toEqual(["Ann"]);
  });

  it("writes down what was done by whom", async () => {
    const actions = await service.context.database.select<{ who: string; what: string }>(
      "SELECT who, what FROM actions ORDER BY id",
    );
    expect(actions.map((action) => `${action.who}: ${action.what}`)).toEqual(
      expect.arrayContaining(["demo: demo loaded", "office: report saved", "office: recipients imported"]),
    );
  });
});

describe("access", () => {
  it("keeps neither passwords nor tokens, only what they can be checked by", async () => {
    const { database } = service.context;
    const id = await addUser(database, "ann", "correct horse");
    const token = await addToken(database, id, "client");
    expect(await maybeUser(database, token)).toMatchObject({ id, name: "ann", grants: { operate: "all" } });
    const kept = JSON.stringify([
      await database.select("SELECT * FROM users"),
      await database.select("SELECT * FROM tokens"),
    ]);
    expect(kept).not.toContain("correct horse");
    expect(kept).not.toContain(token);
    await removeToken(database, token);
    expect(await maybeUser(database, token)).toBeUndefined();
  });

  it("lets a session end by itself", async () => {
    const { database } = service.context;
    const id = await addUser(database, "ben", "secret secret");
    const token = await addToken(database, id, "session");
    await database.execute("UPDATE tokens SET expires_at = now() - interval '1 second' WHERE user_id = $1", [id]);
    expect(await maybeUser(database, token)).toBeUndefined();
  });

  /** What the trail holds of sign-ins that failed or were refused for a name. */
  const noted = async (name: string): Promise<string[]> =>
    (
      await service.context.database.select<{ what: string; subject: string }>(
        "SELECT what, subject FROM actions WHERE who LIKE $1 ORDER BY actions.id",
        [name],
      )
    ).map(({ what, subject }) => `${what} ${subject}`);

  it("makes one who guesses wait, and only that one", async () => {
    let now = 0;
    const { database } = service.context;
    const signIn = (tries: Tries, password: string, address: string, name = "cid") =>
      checkSignIn(service.context, tries, { name, password, code: undefined }, address);
    const tries = new Tries(database, () => now);
    await addUser(database, "cid", "right right");
    for (let guess = 0; guess < 10; guess++)
      await expect(signIn(tries, `wrong ${guess}`, "10.0.0.1")).rejects.toThrow("name or password is wrong");
    await expect(signIn(tries, "right right", "10.0.0.1")).rejects.toThrow("too many tries");
    await expect(signIn(tries, "right right", "10.0.0.1")).rejects.toThrow("too many tries");
    // Nor is another process more patient, which has counted none of them itself.
    await expect(signIn(new Tries(database, () => now), "right right", "10.0.0.1")).rejects.toThrow("too many tries");
    expect((await signIn(tries, "right right", "10.0.0.2")).user).toMatchObject({ name: "cid" });
    now = 61_000;
    await database.execute("UPDATE tries SET since = since - interval '61 seconds'");
    expect((await signIn(tries, "right right", "10.0.0.1")).user).toMatchObject({ name: "cid" });
    await expect(signIn(tries, "x", "10.0.0.3", "nobody")).rejects.toThrow("name or password is wrong");
    // Each failure is noted, and the refusals that follow once.
    const all = await noted("cid");
    expect(all.filter((one) => one === "sign-in failed 10.0.0.1")).toHaveLength(10);
    expect(all.filter((one) => one.startsWith("sign-in refused"))).toHaveLength(1);
  });

  it("counts guesses before it checks them: of three hundred at once ten are looked at, from wherever thirty", async () => {
    const tries = new Tries(service.context.database, () => 0);
    const guess = (name: string, n: number, address: string) =>
      checkSignIn(service.context, tries, { name, password: `guess ${n}`, code: undefined }, address);
    await Promise.allSettled(Array.from({ length: 300 }, (_, n) => guess("eve", n, "10.0.0.9")));
    expect((await noted("eve")).filter((one) => one.startsWith("sign-in failed"))).toHaveLength(10);
    await Promise.allSettled(Array.from({ length: 300 }, (_, n) => guess("dan", n, `10.0.1.${n}`)));
    expect((await noted("dan")).filter((one) => one.startsWith("sign-in failed"))).toHaveLength(30);
  });
});

describe("the letterbox", () => {
  it("keeps what any mail program sends it, and shows it without its scripts having power", async () => {
    const letterbox = await openLetterbox({ ...service.context, takeReport: async () => {} }, 0);
    const transport = createTransport({ host: "127.0.0.1", port: letterbox.port, secure: false });
    await transport.sendMail({
      from: "a@x.example",
      to: ["b@y.example", "ü@z.example"],
      subject: "Grüße",
      html: "<p>Hi<script>alert(1)</script></p>",
      text: "Hi",
      attachments: [{ filename: "naïve 1.txt", content: "abc" }],
    });
    transport.close();
    await letterbox.close();
    const [letter] = await service.list<{ id: string; subject: string; rcptTo: string[]; attachments: number }>(
      "/api/v1/letters",
    );
    expect(letter).toMatchObject({ subject: "Grüße", attachments: 1 });
    expect(letter.rcptTo).toHaveLength(2);
    const { body } = await service.call<{
      html: string;
      text: string;
      headers: string[];
      attachments: { filename: string; size: number }[];
    }>("GET", `/api/v1/letters/${letter.id}`);
    expect(body.attachments).toEqual([expect.objectContaining({ filename: "naïve 1.txt", size: 3 })]);
    expect(body.headers.some((header) => /^Subject:/i.test(header))).toBe(true);
    const attachment = await fetch(`${service.url}/api/v1/letters/${letter.id}/attachments/0`, {
      headers: { Authorization: `Bearer ${service.signIn.token}` },
    });
    expect(await attachment.text()).toBe("abc");
    expect(attachment.headers.get("content-disposition")).toContain("attachment");
    expect((await service.call("GET", `/api/v1/letters/${letter.id}/attachments/7`)).status).toBe(404);
  });

  it("says when its port is taken", async () => {
    const first = await openLetterbox({ ...service.context, takeReport: async () => {} }, 0);
    await expect(openLetterbox({ ...service.context, takeReport: async () => {} }, first.port)).rejects.toMatchObject({
      code: "PORT_TAKEN",
      where: "CORBIX_LETTERBOX_PORT",
    });
    await first.close();
  });
});
