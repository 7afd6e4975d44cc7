<script lang="ts">
import { Select, SelectItem } from "carbon-components-svelte";
import type { Known } from "../../lib/report/choices";
import { writeName } from "../../lib/report/conditions";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import { formWords } from "../../lib/report/list-forms";
import { type Schema, valuesOf } from "../../lib/report/schema";
import Section from "../form/Section.svelte";

/** The rows in a plain form: which one, and what belongs to it. */
let { draft, known, schema, path }: { draft: Draft; known: Known; schema: Schema; path: Path } = $props();
const list = $derived((draft.get(path) ?? {}) as { form?: string; columns?: unknown[]; lines?: string });
const form = $derived(list.form ?? "delimited");
const forms = $derived(valuesOf(schema.properties?.form ?? {}).map(String));
const FIELDS: Readonly<Record<string, readonly string[]>> = {
  delimited: [
    "columns",
    "delimiter",
    "quotes",
    "decimal",
    "encoding",
    "lineEnds",
    "headings",
    "guard",
    "ending",
    "lines",
  ],
  "fixed-width": ["columns", "decimal", "encoding", "lineEnds", "headings", "lines"],
  json: ["columns", "lines"],
  "json-lines": ["columns", "lines"],
  ods: ["columns", "title", "lines"],
  html: ["columns", "title", "lines"],
  icalendar: ["event", "lines"],
  vcard: ["card", "lines"],
};

/** What was said stays where the new form has it too; an entry begins with what there is. */
function choose(next: string): void {
  const fields = FIELDS[next] ?? [];
  const kept = Object.fromEntries(
    Object.entries(list).filter(([name]) => fields.includes(name) && name !== "event" && name !== "card"),
  );
  const day = draft.look?.columns.find(({ type }) => type === "date" || type === "datetime")?.name;
  const first = draft.look?.columns.find(({ type }) => type === "text")?.name ?? known.columns[0] ?? "name";
  const own =
    next === "icalendar"
      ? { event: { title: "{{ group.key }}", begins: `line.${writeName(day ?? "day")}` } }
      : next === "vcard"
        ? { card: { name: `{{ line.${writeName(first)} }}` } }
        : {};
  const columns =
    next === "fixed-width"
      ? { columns: known.columns.map((column) => ({ column: writeName(column), width: 20 })) }
      : {};
  draft.set(path, { form: next, ...kept, ...columns, ...own });
}
</script>

<Select size="sm" labelText="Form" selected={form} on:update={({ detail }) => { if (detail !== form) choose(String(detail)); }}>
  {#each forms as one (one)}<SelectItem value={one} text={formWords(one)} />{/each}
</Select>
<Section {draft} {known} {schema} {path} only={[...new Set([...(FIELDS[form] ?? []), ...Object.keys(list).filter((name) => name !== "form")])]} />
