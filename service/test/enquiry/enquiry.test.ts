/** Reports that are asked: by HTTP, and on the plain page by colleagues who may ask and change nothing. */
import { execFileSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";

let service: TestService;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"));
  const rows = [
    "day,site,unit,state,fee,note",
    "2026-10-05,Alder Court,L1,pass,120.50,doors aligned",
    "2026-10-06,alder court ,L2,fail,80,rope worn",
    "2026-10-07,Canal Wharf,L1,pass,60,",
    "2026-11-02,Canal Wharf,E1,,40,comb plate",
    "2026-11-03,007,L3,pass,15,rope renewed",
  ];
  await service.call("POST", "/api/v1/datasets/lifts/editions?file=lifts.csv", rows.join("\n"));
  const saved = await define("lift-enquiry", LIFTS);
  expect([saved.status, saved.body.where]).toEqual([201, undefined]);
});
afterAll(() => service?.close());

const LIFTS = `
report: lift-enquiry
title: Look up lifts
data: lifts
add:
  gross: round(fee * 1.2, 2)
enquiry:
  fields:
    site: { choose: site, label: Site }
    state: { choose: state }
    day: { between: day, label: Day }
    gross: { between: gross }
    words: { search: [unit, note] }
  columns: [day, site, unit, gross]
`;

interface Answer {
  readonly question: { id: string; found: number; of: number; filled: { label: string; value: string }[] };
  readonly columns: { name: string; type: string }[];
  readonly rowNumbers: number[];
  readonly rows: (string | number | null)[][];
  readonly title: string;
  readonly where: string;
  readonly advice: string;
}

const define = (name: string, text: string) =>
  service.call<{ title: string; where: string; advice: string }>("PUT", `/api/v1/reports/${name}`, text);
const ask = (values: object, name = "lift-enquiry") =>
  service.call<Answer>("POST", `/api/v1/enquiries/${name}/questions`, { values });
const units = async (values: object): Promise<string> => {
  const { status, body } = await ask(values);
  expect(status).toBe(201);
  return body.rows.map((row) => row[2]).join(" ");
};
async function file(
  question: string,
  form: string,
  query = "",
): Promise<{ status: number; bytes: Buffer; name: string }> {
  const response = await fetch(`${service.url}/api/v1/questions/${question}/files/${form}${query}`, {
    headers: { Authorization: `Bearer ${service.signIn.token}` },
  });
  const name = decodeURIComponent(
    /filename\*?=(?:UTF-8'')?"?([^";]+)/.exec(response.headers.get("content-disposition") ?? "")?.[1] ?? "",
  );
  return { status: response.status, bytes: Buffer.from(await response.arrayBuffer()), name };
}
function pdfText(bytes: Buffer): string {
  const path = join(mkdtempSync(join(tmpdir(), "corbix-answer-")), "answer.pdf");
  writeFileSync(path, bytes);
  return execFileSync("pdftotext", ["-layout", path, "-"], { encoding: "utf8" });
}

describe("an enquiry", () => {
  it("tells what there is to fill in: values to choose from with their rows, spellings that count as one together", async () => {
    const { body } = await service.call<{
      fields: { name: string; kind: string; type: string; choices: { value: unknown; count: number }[] }[];
      columns: { name: string }[];
      forms: { name: string; of: string; kinds: string[] }[];
    }>("GET", "/api/v1/enquiries/lift-enquiry");
    expect(body.fields.map(({ name, kind, type }) => `${name} ${kind} ${type}`)).toEqual([
      "site choose text",
      "state choose text",
      "day between date",
      "gross between number",
      "words search text",
    ]);
    expect(body.fields[0]?.choices).toEqual([
      { value: "007", count: 1 },
      { value: "Alder Court", count: 2 },
      { value: "Canal Wharf", count: 2 },
    ]);
    expect(body.fields[1]?.choices.at(-1)).toEqual({ value: null, count: 1 });
    expect(body.columns.map(({ name }) => name)).toEqual(["day", "site", "unit", "gross"]);
    expect(body.forms).toEqual([
      { name: "list", of: "list", kinds: ["xlsx", "pdf"] },
      { name: "text", of: "list", kinds: ["csv"] },
      { name: "page", of: "row", kinds: ["xlsx", "pdf"] },
    ]);
    const { body: list } = await service.call<{ items: { name: string; fields: string[] }[] }>(
      "GET",
      "/api/v1/enquiries",
    );
    expect(list.items.find(({ name }) => name === "lift-enquiry")?.fields).toEqual([
      "Site",
      "state",
      "Day",
      "gross",
      "unit, note",
    ]);
  });

  it.each([
    [{ site: "ALDER  COURT" }, "L1 L2"],
    [{ site: ["Canal Wharf", "007"] }, "L1 E1 L3"],
    [{ state: [""] }, "E1"],
    [{ day: "2026-10-06..2026-11-02" }, "L2 L1 E1"],
    [{ day: { from: "2026-11-01" } }, "E1 L3"],
    [{ day: "..2026-10-05" }, "L1"],
    [{ day: "2026-10-07" }, "L1"],
    [{ gross: { from: "48", to: "96" } }, "L2 L1 E1"],
    [{ words: "rope" }, "L2 L3"],
    [{ words: "rope l3" }, "L3"],
    [{ words: "  " }, "L1 L2 L1 E1 L3"],
    [{ site: "Canal Wharf", day: { to: "2026-10-31" } }, "L1"],
    [{ site: "Nowhere" }, ""],
  ])("finds by %j", async (values, expected) => {
    expect(await units(values)).toBe(expected);
  });

  it.each([
    [{ sit: "x" }, "sit", "site"],
    [{ day: "soon" }, "day", "2026-10-31"],
    [{ gross: { from: "much" } }, "gross", "12.50"],
    [{ site: { from: "a" } }, "site", ""],
  ])("says which field %j is wrong", async (values, where, advice) => {
    const { status, body } = await ask(values);
    expect([status, body.where]).toEqual([400, where]);
    expect(body.advice ?? "").toContain(advice);
  });

  it("gives what was found as workbook, PDF and delimited text, and a row as a page with everything about it", async () => {
    const { body } = await ask({ site: "Alder Court" });
    const { id } = body.question;
    expect([body.question.found, body.question.of]).toEqual([2, 5]);
    const text = await file(id, "text/csv");
    expect(text.name).toMatch(/^Look up lifts \d{4}-\d\d-\d\d\.csv$/);
    expect(parse(text.bytes.toString("utf8"), { bom: true })).toEqual([
      ["day", "site", "unit", "gross"],
      ["2026-10-05", "Alder Court", "L1", "144.6"],
      ["2026-10-06", "alder court", "L2", "96"],
    ]);
    expect((await file(id, "list/xlsx")).bytes.subarray(0, 2).toString()).toBe("PK");
    const list = pdfText((await file(id, "list/pdf")).bytes);
    expect(list).toContain("L2");
    expect(list).not.toContain("Canal");
    const page = pdfText((await file(id, "page/pdf", "?row=3")).bytes);
    expect(page).toMatch(/note\s+rope worn/);
    expect(page).not.toContain("doors aligned");
    const { body: row } = await service.call<{ cells: unknown[] }>("GET", `/api/v1/questions/${id}/rows/3`);
    expect(row.cells).toContain("rope worn");
    // What was not found is not to be had by its number.
    expect((await service.call("GET", `/api/v1/questions/${id}/rows/5`)).status).toBe(404);
    expect((await file(id, "page/pdf", "?row=5")).status).toBe(404);
    expect((await file(id, "page/pdf")).status).toBe(404);
    expect((await file(id, "list/docx")).status).toBe(404);
    expect((await file(id, "list/exe")).status).toBe(400);
    const nothing = await ask({ site: "Nowhere" });
    expect((await file(nothing.body.question.id, "list/pdf")).status).toBe(404);
  });

  it("keeps what was asked, by whom, and what was made of it; the answer stays that of the data then", async () => {
    const { body } = await ask({ day: { from: "2026-11-01" } });
    const { id } = body.question;
    expect(body.question.filled).toEqual([{ name: "day", label: "Day", value: "from 2026-11-01" }]);
    await file(id, "text/csv");
    await service.call(
      "POST",
      "/api/v1/datasets/lifts/editions?file=later.csv",
      "day,site,unit,state,fee,note\n2026-11-09,Alder Court,L9,pass,10,new",
    );
    const { body: then } = await service.call<Answer & { question: { files: { form: string; madeBy: string }[] } }>(
      "GET",
      `/api/v1/questions/${id}?first=1&limit=5`,
    );
    expect(then.rows.map((row) => row[2])).toEqual(["L3"]);
    expect(then.question.files).toMatchObject([{ form: "text", kind: "csv", madeBy: "office", row: null }]);
    expect(parse((await file(id, "text/csv")).bytes.toString("utf8"), { bom: true })).toHaveLength(3);
    expect(await units({ day: { from: "2026-11-01" } })).toBe("L9");
    const { body: kept } = await service.call<{ items: { id: string; askedBy: string; isColleague: boolean }[] }>(
      "GET",
      "/api/v1/questions?report=lift-enquiry",
    );
    expect(kept.items.find((one) => one.id === id)).toMatchObject({ askedBy: "office", isColleague: false });
  });

  it("makes no file of more rows than it says, and says so", async () => {
    expect((await define("few-lifts", `${LIFTS.replace("lift-enquiry", "few-lifts")}  most: 1\n`)).status).toBe(201);
    await service.call(
      "POST",
      "/api/v1/datasets/lifts/editions?file=two.csv",
      "day,site,unit,state,fee,note\n2026-11-09,A,L1,pass,10,a\n2026-11-10,A,L2,pass,10,b",
    );
    const { body } = await ask({}, "few-lifts");
    const refused = await service.call<Answer>("GET", `/api/v1/questions/${body.question.id}/files/list/pdf`);
    expect([refused.status, refused.body.title]).toEqual([413, expect.stringContaining("2 rows")]);
    const narrow = await ask({ words: "L2" }, "few-lifts");
    expect((await file(narrow.body.question.id, "list/pdf")).status).toBe(200);
  });

  it.each([
    ["message: { subject: Hello, body: { text: Hello } }", "enquiry"],
    ["split: site", "enquiry"],
    ["schedule: { rule: FREQ=DAILY, at: '07:00', zone: Europe/Zurich, from: 2026-01-01 }", "enquiry"],
  ])("is no report that is run: %s is refused", async (line, where) => {
    const { status, body } = await define("wrong", `${LIFTS.replace("lift-enquiry", "wrong")}${line}\n`);
    expect([status, `${body.where} ${body.title}`]).toEqual([422, expect.stringContaining(where)]);
  });

  it.each([
    ["{ choose: sight }", "site"],
    ["{ between: note }", "dates"],
    ["{ search: [unit, remark] }", "enquiry, fields, site"],
  ])("with the field %s is refused with the place", async (field, words) => {
    const text = LIFTS.replace("lift-enquiry", "wrong").replace("{ choose: site, label: Site }", field);
    const { status, body } = await define("wrong", text);
    expect(status).toBe(422);
    expect([body.title, body.where, body.advice].join(" ")).toContain(words);
  });

  it("is not run", async () => {
    const { status, body } = await service.call<{ title: string; advice: string }>("POST", "/api/v1/runs", {
      report: "lift-enquiry",
    });
    expect([status, body.title]).toEqual([400, expect.stringContaining("is a report that is asked")]);
    expect(body.advice).toContain("corbix ask lift-enquiry");
    expect((await service.call("POST", "/api/v1/enquiries/site-statement/questions", { values: {} })).status).toBe(404);
  });

  it("of the demo gives one visit's sheet from a template", async () => {
    const { body } = await ask({ site: "Alder Court", visited: "2026-09-01..2026-09-30" }, "visit-enquiry");
    expect(body.question.found).toBeGreaterThan(3);
    const [row] = body.rowNumbers;
    const sheet = await file(body.question.id, "visit/pdf", `?row=${row}`);
    expect(sheet.name).toMatch(/^Visit to .+ at Alder Court, 2026-09-\d\d\.pdf$/);
    expect(pdfText(sheet.bytes)).toMatch(/Site\s+Alder Court/);
  });
});

it("that finds nothing for a value that no row has names a near one", async () => {
  const { body } = await service.call<{ hints: string[] }>("POST", "/api/v1/enquiries/visit-enquiry/questions", {
    values: { site: "Alder Cort" },
  });
  expect(body.hints).toEqual(["No row has `Alder Cort` in Site. Did you mean `Alder Court`?"]);
});

it("knows spellings that were made to count as one, also those that came to it later", async () => {
  await service.call(
    "POST",
    "/api/v1/datasets/doors/editions?file=doors.csv",
    "site,fee\nSjostad Quay,1\nSjöstad Quay,2\nDock,3",
  );
  const text = `report: door-enquiry\ntitle: Doors\ndata: doors\nenquiry:\n  fields: { site: { choose: site } }\n`;
  expect((await define("door-enquiry", text)).status).toBe(201);
  const found = async () => (await ask({ site: "Sjöstad Quay" }, "door-enquiry")).body.question.found;
  const before = await found();
  const aliases = [{ column: "site", from: "Sjostad Quay", to: "Sjöstad Quay" }];
  expect((await service.call("PUT", "/api/v1/datasets/doors/settings", { aliases })).status).toBe(200);
  expect([before, await found()]).toEqual([1, 2]);
});

it("that is renamed is asked under its new name: questions and colleagues go with it", async () => {
  expect((await define("old-lifts", LIFTS.replace("lift-enquiry", "old-lifts"))).status).toBe(201);
  await service.call("PUT", "/api/v1/colleagues/Uwe", { reports: ["old-lifts", "visit-enquiry"] });
  const { body } = await ask({}, "old-lifts");
  expect((await service.call("POST", "/api/v1/library/reports/old-lifts/rename", { to: "new-lifts" })).status).toBe(
    200,
  );
  const { body: kept } = await service.call<Answer>("GET", `/api/v1/questions/${body.question.id}`);
  expect(kept.question).toMatchObject({ report: "new-lifts", found: body.question.found });
  const { body: colleagues } = await service.call<{ items: { name: string; reports: string[] }[] }>(
    "GET",
    "/api/v1/colleagues",
  );
  expect(colleagues.items.find(({ name }) => name === "Uwe")?.reports).toEqual(["new-lifts", "visit-enquiry"]);
});

describe("a colleague who may ask", () => {
  /** A browser that holds one cookie. */
  function browser() {
    let cookie = "";
    return async (
      method: "GET" | "POST",
      path: string,
      form?: Record<string, string>,
      headers: Record<string, string> = {},
    ) => {
      const response = await fetch(path.startsWith("http") ? path : service.url + path, {
        method,
        redirect: "manual",
        headers: {
          ...(cookie ? { Cookie: cookie } : {}),
          ...(form ? { "Content-Type": "application/x-www-form-urlencoded" } : {}),
          ...headers,
        },
        ...(form ? { body: new URLSearchParams(form).toString() } : {}),
      });
      cookie = response.headers.get("set-cookie")?.split(";")[0] ?? cookie;
      const bytes = Buffer.from(await response.arrayBuffer());
      return {
        status: response.status,
        to: response.headers.get("location") ?? "",
        text: bytes.toString("utf8"),
        bytes,
      };
    };
  }
  const invite = async (name: string, reports: string[] | null) => {
    const { body } = await service.call<{ address: string }>("PUT", `/api/v1/colleagues/${encodeURIComponent(name)}`, {
      reports,
    });
    return new URL(body.address).pathname;
  };

  it("opens an address, fills in the form, reads rows and takes files; what was asked is kept under the name", async () => {
    const visit = browser();
    expect((await visit("GET", "/ask")).status).toBe(403);
    const opened = await visit("GET", await invite("Mara Lindqvist", ["visit-enquiry"]));
    expect([opened.status, opened.to]).toEqual([303, "/ask"]);
    const first = await visit("GET", "/ask");
    expect(first.text).toContain("Look up visits");
    expect(first.text).not.toContain("Look up lifts");
    const form = await visit("GET", "/ask/visit-enquiry");
    expect(form.text).toContain('<option value="Alder Court">Alder Court</option>');
    expect(form.text).not.toContain("<script");
    const wrong = await visit("POST", "/ask/visit-enquiry", { site: "Alder Court", "visited.from": "soon" });
    expect([wrong.status, wrong.text]).toEqual([422, expect.stringContaining("Cannot read `soon` in Visited.")]);
    expect(wrong.text).toContain('<option value="Alder Court" selected>');
    const asked = await visit("POST", "/ask/visit-enquiry", {
      site: "Alder Court",
      "visited.from": "2026-09-01",
      "visited.to": "",
      words: "",
    });
    expect(asked.status).toBe(303);
    const answer = await visit("GET", asked.to);
    expect(answer.text).toMatch(/\d+ of [\d,]+ rows found for/);
    expect(answer.text).toContain("Site: Alder Court; Visited: from 2026-09-01");
    expect(answer.text).not.toContain("Bellfield");
    const row = /\/row\/(\d+)"/.exec(answer.text)?.[1];
    expect((await visit("GET", `${asked.to}/row/${row}`)).text).toContain('<th scope="row">Inspector</th>');
    const pdf = await visit("GET", `${asked.to}/file/visit/pdf?row=${row}`);
    expect(pdfText(pdf.bytes)).toContain("Alder Court");
    const list = await visit("GET", `${asked.to}/file/text/csv`);
    expect(list.text).toContain("Alder Court");
    expect((await visit("GET", "/ask")).text).toContain("Site: Alder Court");
    const { body } = await service.call<{ items: { askedBy: string; isColleague: boolean; files: unknown[] }[] }>(
      "GET",
      "/api/v1/questions?report=visit-enquiry",
    );
    expect(body.items[0]).toMatchObject({ askedBy: "Mara Lindqvist", isColleague: true });
    expect(body.items[0]?.files).toHaveLength(2);
  });

  it("changes nothing, sees neither other reports nor what others asked, and not from another site's page", async () => {
    const visit = browser();
    await visit("GET", await invite("Otto Brandt", ["lift-enquiry"]));
    expect((await visit("GET", "/ask/visit-enquiry")).status).toBe(404);
    const unknown = await visit("GET", "/ask/q/000000");
    expect([unknown.status, unknown.text]).toEqual([404, expect.stringContaining('<p class="wrong"')]);
    const { body } = await ask({}, "lift-enquiry");
    expect((await visit("GET", `/ask/q/${body.question.id}`)).status).toBe(404);
    expect((await visit("GET", `/ask/q/${body.question.id}/file/text/csv`)).status).toBe(404);
    expect((await visit("GET", "/api/v1/reports")).status).toBe(401);
    const foreign = await visit("POST", "/ask/lift-enquiry", { words: "a" }, { Origin: "https://elsewhere.example" });
    expect(foreign.status).toBe(403);
  });

  it("is out at once when taken out, and an earlier address ends with a new one", async () => {
    const visit = browser();
    const address = await invite("Ida Kern", null);
    await visit("GET", address);
    expect((await visit("GET", "/ask")).text).toContain("Look up lifts");
    await invite("Ida Kern", null);
    expect((await visit("GET", "/ask")).status).toBe(403);
    expect((await visit("GET", address)).status).toBe(403);
    const { body } = await service.call<{ items: { name: string }[] }>("GET", "/api/v1/colleagues");
    expect(body.items.map(({ name }) => name)).toContain("Ida Kern");
    expect((await service.call("DELETE", "/api/v1/colleagues/Ida%20Kern")).status).toBe(200);
    expect((await service.call("DELETE", "/api/v1/colleagues/Ida%20Kern")).status).toBe(404);
    expect((await service.call("PUT", "/api/v1/colleagues/Nobody", { reports: ["site-statement"] })).status).toBe(404);
  });
});
