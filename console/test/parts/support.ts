/** Parts of the console without a service: what they ask for is answered here, and what they hold is read as its users see it. */
import { vi } from "vitest";
import type { DraftLook } from "../../src/lib/client.js";
import { Draft } from "../../src/lib/report/draft.svelte.js";

export const COLUMNS = [
  { name: "Site", type: "text" },
  { name: "Visit date", type: "date" },
  { name: "Fee", type: "number" },
] as const;

export const KNOWN = {
  columns: COLUMNS.map(({ name }) => name),
  datasets: ["visits", "sites"],
  templates: ["statement.xlsx", "letter.docx", "words.md", "logo.png"],
  identities: ["office", "second"],
  files: ["list"],
  lines: ["costs"],
};

export function lookOf(more: Partial<DraftLook> = {}): DraftLook {
  return {
    period: null,
    columns: [...COLUMNS],
    loadedColumns: [...COLUMNS],
    conditions: [],
    steps: [],
    rows: { master: 2, made: 0, inGroups: 2, leftOut: [] },
    totals: [],
    findings: [],
    groups: [
      { key: "dock", label: "Dock", rows: 1, people: 1, nobody: null, totals: {}, isNew: false },
      {
        key: "quay",
        label: "Quay",
        rows: 1,
        people: 0,
        nobody: "no row of the list names it",
        totals: {},
        isNew: true,
      },
    ],
    groupCount: 2,
    groupsWithoutPeople: 1,
    messageCount: 1,
    sendingSeconds: 0,
    parcel: null,
    problems: [],
    nextTimes: [],
    ...more,
  };
}

/** Answers for paths that begin so; what is asked besides is an empty page. */
export function answering(answers: Readonly<Record<string, unknown>> = {}): {
  readonly asked: { path: string; body: unknown }[];
} {
  const asked: { path: string; body: unknown }[] = [];
  globalThis.answersOfTests = async (input, init) => {
    const request = new Request(input as RequestInfo, init);
    const path = new URL(request.url).pathname.replace(/^\/api\/v1/, "");
    const text = await request.clone().text();
    asked.push({ path, body: text.startsWith("{") ? JSON.parse(text) : text });
    const [, answer] = Object.entries(answers).find(([start]) => path.startsWith(start)) ?? [];
    return Response.json(
      answer ?? (path.startsWith("/drafts/look") ? lookOf() : { items: [], next: null, total: 0, marks: [] }),
    );
  };
  return { asked };
}

/** A draft that was looked at. */
export async function draftOf(text: string): Promise<Draft> {
  const draft = new Draft();
  draft.begin(text, false);
  await vi.waitUntil(() => draft.look !== undefined || draft.problem !== undefined, { timeout: 20_000 });
  return draft;
}

/** What stands in all controls of a part that can be used, one line each. */
export function controlsOf(part: ParentNode): string[] {
  return [...part.querySelectorAll<HTMLElement>("input, select, textarea, [contenteditable='true']")].flatMap((one) => {
    if (one instanceof HTMLInputElement && one.disabled) return [];
    if (one instanceof HTMLInputElement && /^(?:checkbox|radio)$/.test(one.type))
      return [`${one.type} ${one.labels?.[0]?.textContent?.trim() ?? ""} ${one.checked}`];
    if (one instanceof HTMLInputElement || one instanceof HTMLTextAreaElement || one instanceof HTMLSelectElement)
      return [one.value];
    // A chip says what it stands for in its title.
    return [[...one.querySelectorAll<HTMLElement>("[title]")].map(({ title }) => title).join(" ") + one.textContent];
  });
}
