<script lang="ts">
import { Button, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { Add, Close } from "carbon-icons-svelte";
import { writeName } from "../../lib/report/conditions";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";

/** Names with a formula each: new columns, or control totals. Columns and functions are put in where the cursor is. */
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
  what?: string;
  example?: string;
  /** Formulas that are chosen elsewhere and not shown here. */
  except?: (formula: string) => boolean;
} = $props();

const FUNCTIONS = ["round", "if", "sum", "count", "upper", "left", "year", "month", "today", "coalesce", "contains"];
const all = $derived(Object.entries((draft.get(path) ?? {}) as Record<string, unknown>));
const entries = $derived(all.filter(([, formula]) => !except(String(formula))));
let added = $state("");
const troubleOf = (name: string): string => draft.problems.find((one) => one.where.includes(name))?.what ?? "";

function add(): void {
  const name = added.trim();
  if (name === "" || all.some(([known]) => known === name)) return;
  draft.set([...path, name], names[0] ? writeName(names[0]) : "1");
  added = "";
}

function insert(name: string, text: string, word: string): void {
  const field = document.getElementById(`formula-${path.join("-")}-${name}`) as HTMLInputElement | null;
  const at = field?.selectionStart ?? text.length;
  draft.set([...path, name], `${text.slice(0, at)}${word}${text.slice(field?.selectionEnd ?? at)}`);
}
</script>

{#each entries as [name, formula], at (name)}
  {@const trouble = troubleOf(name)}
  <div class="formula">
    <TextInput size="sm" hideLabel={at > 0} labelText={what === "total" ? "Total" : "Column"} value={name} on:change={(event) => { const to = String((event as CustomEvent).detail ?? "").trim(); if (to !== "" && to !== name) draft.rename([...path, name], to); }} />
    <TextInput size="sm" id={`formula-${path.join("-")}-${name}`} hideLabel={at > 0} labelText={`Formula of ${name}`} value={String(formula)} invalid={trouble !== ""} invalidText={trouble} on:input={(event) => { const text = String((event as CustomEvent).detail ?? ""); if (text !== "" && text !== formula) draft.set([...path, name], text); }} />
    <Select size="sm" hideLabel={at > 0} labelText="Put in" selected="" on:update={({ detail }) => { if (detail !== "") insert(name, String(formula), String(detail)); }}>
      <SelectItem value="" text="…" />
      {#each names as one}<SelectItem value={what === "total" ? `line.${writeName(one)}` : writeName(one)} text={one} />{/each}
      {#each FUNCTIONS as one}<SelectItem value={`${one}()`} text={`${one}()`} />{/each}
    </Select>
    <Button size="small" kind="ghost" icon={Close} iconDescription={`Take out ${name}`} on:click={() => draft.set([...path, name], undefined)} />
  </div>
{/each}
<form onsubmit={(event) => { event.preventDefault(); add(); }}>
  <TextInput size="sm" labelText={`New ${what}`} placeholder="its name" helperText={entries.length === 0 ? `A name, then a formula such as ${example}.` : ""} bind:value={added} />
  <Button size="small" kind="ghost" icon={Add} type="submit" disabled={added.trim() === ""}>Add</Button>
</form>

<style>
  .formula { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 2fr) 6.5rem auto; gap: 0.4rem; align-items: end; margin-bottom: 0.5rem; }
  form { display: grid; grid-template-columns: minmax(0, 18rem) auto; gap: 0.5rem; align-items: center; justify-content: start; }
</style>
