/** What a browser has to load of the console, as the build made it and as the service sends it. */
import { readFileSync } from "node:fs";
import { gzipSync } from "node:zlib";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type TestService, testService } from "./setup/service.js";

interface Chunk {
  readonly file: string;
  readonly imports?: readonly string[];
  readonly css?: readonly string[];
  readonly isEntry?: boolean;
}

const dist = new URL("../console/dist/", import.meta.url);
const read = (file: string): Buffer => readFileSync(new URL(file, dist));
const manifest = JSON.parse(read("manifest.json").toString()) as Record<string, Chunk>;

/** Files that come with a part, and with what it needs at once. */
function filesOf(name: string, found = new Set<string>()): Set<string> {
  const chunk = manifest[name];
  if (!chunk || found.has(chunk.file)) return found;
  found.add(chunk.file);
  for (const style of chunk.css ?? []) found.add(style);
  for (const other of chunk.imports ?? []) filesOf(other, found);
  return found;
}
const weight = (files: Iterable<string>): number =>
  [...files].reduce((sum, file) => sum + gzipSync(read(file)).length, 0);
const entry = Object.keys(manifest).find((name) => manifest[name].isEntry) ?? "";
/** What every page needs: the entry, the words in one language, and the frame around the pages. */
const WORDS = Object.keys(manifest).find((name) => name.endsWith(".en.compiled.js")) ?? "";
const everywhere = new Set([entry, WORDS, "src/App.svelte"].flatMap((name) => [...filesOf(name)]));
const pages = Object.keys(manifest).filter((name) => name.startsWith("src/pages/"));

describe("the console's weight", () => {
  it("is under 300 kB of code and styles for the first page, compressed", () => {
    const first = new Set([...everywhere, ...filesOf("src/pages/OverviewPage.svelte")]);
    expect(weight(first)).toBeGreaterThan(50_000);
    expect(weight(first)).toBeLessThan(300_000);
  });

  it("is loaded page by page, and editors and drawers of pages only where they are needed", () => {
    expect(pages.length).toBeGreaterThan(12);
    const at = (page: string): string[] =>
      [...filesOf(`src/pages/${page}.svelte`)].filter((file) => !everywhere.has(file));
    for (const page of ["OverviewPage", "RunsPage", "ReportsPage", "OutboxPage", "RecipientsPage", "SettingsPage"])
      expect(weight(at(page)), page).toBeLessThan(60_000);
    const code = (page: string): string =>
      at(page)
        .map((file) => read(file).toString())
        .join("");
    expect(code("RunsPage")).not.toContain("ProseMirror");
    expect(code("ReportPage")).toContain("ProseMirror");
  });
});

describe("what the service sends", () => {
  let service: TestService;
  beforeAll(async () => {
    service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" });
  });
  afterAll(() => service?.close());

  it("is compressed for those who take it, and kept by browsers for good", async () => {
    const url = `${service.url}/${manifest[entry].file}`;
    const packed = await fetch(url, { headers: { "Accept-Encoding": "gzip" } });
    expect([packed.headers.get("content-encoding"), packed.headers.get("cache-control")]).toEqual([
      "gzip",
      "public, max-age=31536000, immutable",
    ]);
    const plain = await fetch(url, { headers: { "Accept-Encoding": "identity" } });
    expect(plain.headers.get("content-encoding")).toBeNull();
    expect(await packed.text()).toBe(await plain.text());
  });
});
