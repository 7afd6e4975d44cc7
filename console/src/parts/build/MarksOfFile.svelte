<script lang="ts">
import { CopyButton, Select, SelectItem } from "carbon-components-svelte";
import { allOf, api, type Mark, type Problem } from "../../lib/client";
import { plural } from "../../lib/format";
import { insertable } from "../../lib/message";
import { writeName } from "../../lib/report/conditions";
import type { Draft } from "../../lib/report/draft.svelte";
import { missingNames } from "../../lib/report/missing-names";
import { scrollable } from "../../lib/scrollable";
import Trouble from "../common/Trouble.svelte";

/** Every mark of a template, what fits nothing with the column that fills it, and marks to be copied into one's own template. */
let { draft, file, template }: { draft: Draft; file: string; template: string } = $props();
let marks = $state<Mark[]>();
let problem = $state<Problem>();

$effect(() => {
  const wanted = template;
  allOf(api.all("/templates/{file}/marks", { path: { file: wanted }, query: { limit: 1_000 } })).then(
    (found) => {
      if (wanted === template) marks = found;
    },
    (error: Problem) => {
      problem = error;
    },
  );
});
const wrong = $derived(
  draft.problems.filter(({ where }) => where.includes(template) || where.split(/[,.]\s*/)[1] === file),
);
const columns = $derived(draft.look?.columns ?? []);
/** Names of the template that no column has: each is filled by a column that is chosen. */
const missing = $derived(missingNames(wrong.map(({ what }) => what)));
const fitting = $derived(insertable(columns, draft.get(["period"]) !== undefined));

/** A column by the mark's own name, with the values of the one that is chosen. */
function map(name: string, column: string): void {
  draft.set(["add", name], writeName(column));
}
</script>

<Trouble {problem} />
{#each wrong as one}<p class="wrong">{one.what} <span class="soft">{one.where}. {one.advice ?? ""}</span></p>{/each}
{#each missing as name (name)}
  <div class="map">
    <span>Fill <code>{name}</code> with</span>
    <Select size="sm" hideLabel labelText={`Column for ${name}`} selected="" on:update={({ detail }) => { if (detail !== "") map(name, String(detail)); }}>
      <SelectItem value="" text="a column …" />{#each columns as column (column.name)}<SelectItem value={column.name} text={column.name} />{/each}
    </Select>
  </div>
{/each}
{#if marks}
  <details>
    <summary>{plural(marks.length, ["# mark in it", "# marks in it"])}</summary>
    <ul use:scrollable data-scrolls="Marks of the file">{#each marks as mark}<li><code>{`{{ ${mark.mark} }}`}</code> <span class="soft">{mark.where}{mark.from === "itself" ? "" : `, from ${mark.from}`}</span></li>{/each}</ul>
  </details>
{/if}
<details>
  <summary>Marks to copy into your template</summary>
  <ul>{#each fitting as { name, mark }}<li class="copy"><CopyButton text={mark} feedback="Copied" iconDescription={`Copy the mark of ${name}`} /><span>{name}</span> <code>{mark}</code></li>{/each}</ul>
</details>

<style>
  .wrong { color: var(--corbix-stop); font-size: 0.875rem; }
  .map { display: flex; gap: 0.5rem; align-items: center; font-size: 0.875rem; }
  .map :global(.bx--form-item) { flex: 0 1 14rem; }
  ul { max-height: 12rem; overflow: auto; font-size: 0.8125rem; }
  .copy { display: grid; grid-template-columns: auto minmax(6rem, 12rem) minmax(0, 1fr); gap: 0.5rem; align-items: center; }
  code { overflow-wrap: anywhere; }
</style>
