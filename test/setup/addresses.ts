import { readFileSync } from "node:fs";
import type { TestService } from "./service.js";

/** The console's pages on the demo data, one run of it held: each address with something that is there when it is whole. */

const STEPS = ["data", "rows", "groups", "files", "people", "message", "when", "check", "text"];
const TABS = ["rows", "findings", "reading", "changes", "groups", "difference", "editions"];

/**
 * Every page by its address behind `#/`. `shown` is a selector that needs none of the console's own words, so that
 * it holds in any language.
 */
export function everyPage(run: string): readonly (readonly [address: string, shown: string])[] {
  return [
    ["", "main h1"],
    ["data", "td a:has-text('visits')"],
    ...TABS.map((tab) => [`data/visits/${tab}`, "main h1:has-text('visits')"] as const),
    ["recipients", "td"],
    ["templates", "td a:has-text('statement.xlsx')"],
    ["templates/statement.xlsx", "h1:has-text('statement.xlsx')"],
    ["templates/monthly.html", "code"],
    ["reports", "td a:has-text('Monthly statement')"],
    ["reports/new", "main form, main input"],
    ...STEPS.map((step) => [`reports/site-statement/${step}`, "aside h2"] as const),
    ["enquiries", "td a:has-text('Look up visits')"],
    ["enquiries/visit-enquiry", "main form"],
    ["reports/visit-enquiry/ask", "main section"],
    ["runs", "td a"],
    [`runs/${run}`, "td.label"],
    [`runs/${run}/1`, "td.label"],
    ["files/site-statement", "main li h2"],
    ["files/site-statement/2026-09", "main li h2"],
    ["outbox", "td"],
    ["letterbox", ".letters"],
    ["notices", "main h1"],
    ["calendars", "td a:has-text('office')"],
    ["calendars/office", "main table caption"],
    ["ways-out", "main h1"],
    ["ways-out/archive", "main h1"],
    ["settings", "main h1"],
    ["people", "td a:has-text('office')"],
    ["people/office", "main dl"],
    ["sign-in-provider", "main form"],
    ["known", "main form"],
    ["trail", "td"],
    ["operations", "main table"],
    ["account", "main form"],
    ["tools", "main h1"],
    ["api", "main h1"],
    ["nothing-here", "main h1"],
  ];
}

/** What every page needs to be full: a run, most of it held, and a second edition to be compared with. Gives the run. */
export async function fillEveryPage(service: TestService): Promise<string> {
  const started = await service.call<{ id: string }>("POST", "/api/v1/runs", {
    report: "site-statement",
    period: "2026-09",
  });
  const run = started.body.id;
  await service.waitFor(run, ["held"]);
  await service.call("POST", `/api/v1/runs/${run}/release`, { groups: ["Alder Court"] });
  await service.waitFor(run, ["delivering", "done", "held"]);
  await service.call(
    "POST",
    "/api/v1/datasets/visits/editions?file=visits-2026.xlsx",
    readFileSync("demo/files/visits-2026.xlsx"),
  );
  return run;
}
