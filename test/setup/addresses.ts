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
    ["runs", "td a"],
    [`runs/${run}`, "td.label"],
    [`runs/${run}/1`, "td.label"],
    ["outbox", "td"],
    ["letterbox", ".letters"],
    ["settings", "main h1"],
    ["tools", "main h1"],
    ["api", "main h1"],
    ["nothing-here", "main h1"],
  ];
}
