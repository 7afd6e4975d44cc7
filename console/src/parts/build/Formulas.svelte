<script lang="ts">
import { Button, TextInput } from "carbon-components-svelte";
import { Add, Close } from "carbon-icons-svelte";
import { cell } from "../../lib/format";
import { writeName } from "../../lib/report/conditions";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import { troubleOf } from "../../lib/report/formula-help";

/** Names with a formula each: new columns, or control totals. What comes out of each stands below it. */
let {
  draft,
  path,
  names,
  what = "column",
  example = "round(hours * rate, 2)",
  except = () => false,
}: {
  draft: Draft;
  path: Path;
  names: readonly string[];
  what?: "column" | "total";
  example?: string;
  /** Formulas that are chosen elsewhere and not shown here. */
  except?: (formula: string) => boolean;
} = $props();

/** Results that are shown below a formula. */
const SHOWN = 5;
const all = $derived(Object.entries((draft.get(path) ?? {}) as Record<string, unknown>));
const entries = $derived(all.filter(([, formula]) => !except(String(formula))));
let added = $state("");
const same = (one: string, other: string): boolean => writeName(one) === writeName(other);

function said(trouble: ReturnType<typeof troubleOf<Draft["problems"][number]>>): string {
  return trouble ? [trouble.problem.what, trouble.problem.advice].filter(Boolean).join(" ") : "";
}

/** What the formula gives for the first rows of the group that is looked at, or in sum. */
function resultsOf(name: string): string {
  const { look } = draft;
  // What was looked at last is not what stands here.
  if (draft.problem) return "";
  if (what === "total") {
    const total = look?.totals.find((one) => one.name === name);
    return total ? `${total.parcels ?? total.master} over all groups` : "";
  }
  const at = look?.columns.findIndex((column) => same(column.name, name)) ?? -1;
  const column = look?.columns[at];
  if (!look?.parcel || !column) return "";
  const values = look.parcel.cells.slice(0, SHOWN).map((line) => cell(line[at], column) || "(blank)");
  return `${values.join(" · ")}${look.parcel.rows > SHOWN ? " · …" : ""} for ${look.parcel.label}`;
}

function add(): void {
  const name = added.trim();
  if (name === "" || all.some(([known]) => known === name)) return;
  const [first] = names;
  draft.set([...path, name], what === "total" ? "count(line)" : first ? writeName(first) : "1");
  added = "";
}
</script>

{#each entries as [name, formula] (name)}
  {@const trouble = troubleOf(draft.problems, name, String(formula))}
  <div class="entry">
    <div class="formula">
      <TextInput size="sm" hideLabel labelText={what === "total" ? `Name of the total ${name}` : `Name of the column ${name}`} value={name} on:change={(event) => { const to = String((event as CustomEvent).detail ?? "").trim(); if (to !== "" && to !== name) draft.rename([...path, name], to); }} />
      <span class="soft">=</span>
      {#await import("../write/FormulaField.svelte") then { default: FormulaField }}
        <FormulaField label={`Formula of ${name}`} value={String(formula)} names={names.filter((one) => !same(one, name))} over={what === "total" ? "line" : "value"} trouble={trouble ? { words: said(trouble), character: trouble.character } : undefined} onchange={(text) => { if (text.trim() !== "" && text !== formula) draft.set([...path, name], text); }} />
      {/await}
      <Button size="small" kind="ghost" icon={Close} iconDescription={`Take out ${name}`} on:click={() => draft.set([...path, name], undefined)} />
    </div>
    {#if trouble}<p class="wrong" role="alert">{said(trouble)}</p>
    {:else}<p class="soft" role="status" aria-label={`What ${name} gives`}>{resultsOf(name)}</p>{/if}
  </div>
{/each}
<form onsubmit={(event) => { event.preventDefault(); add(); }}>
  <TextInput size="sm" labelText={`New ${what}`} placeholder="its name" helperText={entries.length === 0 ? `A name, then a formula such as ${example}.` : ""} bind:value={added} />
  <Button size="small" kind="ghost" icon={Add} type="submit" disabled={added.trim() === ""}>Add</Button>
</form>

<style>
  .entry { margin-bottom: 0.6rem; }
  .formula { display: grid; grid-template-columns: minmax(0, 1fr) auto minmax(0, 2.2fr) auto; gap: 0.4rem; align-items: center; }
  .entry p { font-size: 0.8125rem; margin: 0.15rem 0 0; overflow-wrap: anywhere; }
  .wrong { color: var(--corbix-stop); }
  form { display: grid; grid-template-columns: minmax(0, 18rem) auto; gap: 0.5rem; align-items: center; justify-content: start; }
</style>
