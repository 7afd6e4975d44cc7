/** The service speaks the language of whom it answers, and keeps what it finds in that of its settings. */
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { CorbixError } from "@corbix/core/common";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { BRACKETED, bracketedWords, CLOSE, OPEN } from "../../../test/setup/brackets.js";
import { type RunAnswer, type TestService, testService } from "../../../test/setup/service.js";
import { openLanguages } from "../../dist/process/languages.js";

let folder: string;
let service: TestService;

beforeAll(async () => {
  folder = bracketedWords();
  service = await testService(inject("databaseUrl"), { CORBIX_WORDS: folder, CORBIX_LANGUAGE: BRACKETED });
});
afterAll(async () => {
  await service?.close();
  rmSync(folder, { recursive: true, force: true });
});

interface Problem {
  readonly title: string;
  readonly advice?: string;
}
const inEnglish = { "Accept-Language": "en-GB, en;q=0.8" };

describe("an answer", () => {
  it("is in the language that is asked for, and in that of the settings where none is known", async () => {
    const asked = await service.call<Problem>("GET", "/api/v1/reports/nothing", undefined, inEnglish);
    expect(asked.headers.get("content-language")).toBe("en");
    expect(asked.headers.get("vary")).toContain("Accept-Language");
    expect(asked.body.title).toMatch(/^Cannot find/);
    for (const language of ["fr-CH, fr;q=0.9", "*"]) {
      const other = await service.call<Problem>("GET", "/api/v1/reports/nothing", undefined, {
        "Accept-Language": language,
      });
      expect(other.headers.get("content-language")).toBe(BRACKETED);
      expect(other.body.title).toBe(`${OPEN}${asked.body.title}${CLOSE}`);
    }
  });

  it("is worded so in threads too, each as it was asked for, at the same time", async () => {
    const look = (headers: Record<string, string>): Promise<{ body: { title: string } }> =>
      service.call("POST", "/api/v1/drafts/look", { definition: "report: nothing\nfiles: 12" }, headers);
    const [own, english] = await Promise.all([look({}), look(inEnglish)]);
    expect(english.body.title).toMatch(/^Cannot read the report/);
    expect(own.body.title).toContain(OPEN);
  });

  it("tells what the fields of a definition mean", async () => {
    const schema = async (headers: Record<string, string>): Promise<string> =>
      JSON.stringify((await service.call("GET", "/api/v1/report-schema", undefined, headers)).body);
    expect(await schema(inEnglish)).toContain('"Wall-clock time, such as 07:15."');
    expect(await schema({})).toContain(`"${OPEN}Wall-clock time, such as 07:15.${CLOSE}"`);
  });
});

describe("words of a further language", () => {
  it("that cannot be read, or are not there, are told at the start, and nothing is spoken by halves", async () => {
    const begin = async (text: string, language = "de"): Promise<string> => {
      const place = mkdtempSync(join(tmpdir(), "corbix-words-"));
      writeFileSync(join(place, "de.mjs"), text);
      return openLanguages(language, place)
        .then(
          () => "spoken",
          (error: CorbixError) => error.toLine(),
        )
        .finally(() => rmSync(place, { recursive: true, force: true }));
    };
    expect(await begin("export const words = {")).toMatch(/^CORBIX_WORDS: .*Cannot read the words of a language/);
    expect(await begin("export const word = {};")).toMatch(/de\.mjs exports no `words`/);
    expect(await begin("export const words = {};", "fr")).toMatch(/^CORBIX_LANGUAGE: .*Cannot speak `fr`.*en, de/);
    // What was spoken before is spoken still.
    expect((await service.call<Problem>("GET", "/api/v1/reports/nothing")).body.title).toContain(OPEN);
  });
});

/** Under these names stand sentences, or parts of them, whose words are Corbix's. */
const WORDED = new Set(["what", "advice", "why", "sentence", "onceSentence", "reason"]);

/** Texts under those names, and in lists of sentences, that stand outside the brackets. */
function outside(value: unknown, name = ""): string[] {
  if (typeof value === "string")
    return WORDED.has(name) && /[a-z]{2} [a-z]{2}/.test(value) && !/[<=>]/.test(value) && !value.includes(OPEN)
      ? [`${name}: ${value}`]
      : [];
  if (Array.isArray(value)) return value.flatMap((one) => outside(one, name === "sentences" ? "sentence" : name));
  if (value === null || typeof value !== "object") return [];
  return Object.entries(value).flatMap(([key, one]) => outside(one, key));
}

describe("what is kept", () => {
  it("is in the language of the settings: findings, proof, and why somebody receives", async () => {
    const started = await service.call<{ id: string }>("POST", "/api/v1/runs", {
      report: "site-statement",
      period: "2026-09",
    });
    const run: RunAnswer = await service.waitFor(started.body.id, ["held"]);
    expect(run.findings.length).toBeGreaterThan(0);
    const answers = await Promise.all(
      [
        `/runs/${run.id}`,
        `/runs/${run.id}/findings`,
        `/runs/${run.id}/parcels/1`,
        "/datasets/visits/editions/1",
        "/datasets/visits/editions/1/groups?by=Site",
        "/reports/site-statement/periods",
        "/reports/site-statement/prospect?period=2026-09",
        "/reports/site-statement/matching",
        "/reports/site-statement/steps",
        "/templates/statement.xlsx/marks?report=site-statement",
        "/overview",
      ].map(async (path) => [path, await service.call("GET", `/api/v1${path}`)] as const),
    );
    expect(answers.map(([path, { status }]) => `${status} ${path}`).filter((one) => !one.startsWith("200"))).toEqual(
      [],
    );
    const told = answers.flatMap(([path, { body }]) => outside(body).map((text) => `${path} ${text}`));
    expect(told).toEqual([]);
    expect(JSON.stringify(answers).split(OPEN).length).toBeGreaterThan(50);
  });
});
