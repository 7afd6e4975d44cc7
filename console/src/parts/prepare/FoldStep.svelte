<script lang="ts">
import { Select, SelectItem, TextInput, Toggle } from "carbon-components-svelte";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import ColumnTicks from "./ColumnTicks.svelte";
import NameField from "./NameField.svelte";

/** Several columns as one text of a new column: which of them count in a row, and what is written of each. */
let { draft, path, names }: { draft: Draft; path: Path; names: readonly string[] } = $props();

const columns = $derived([draft.get([...path, "columns"]) ?? []].flat().map(String));
const where = $derived(String(draft.get([...path, "where"]) ?? ""));
const show = $derived(draft.get([...path, "show"]) as string | undefined);
const drop = $derived(draft.get([...path, "drop"]) === true);

const FILLED = 'value <> ""';
const [, quoted] = $derived(/^value = "((?:[^"]|"")*)"$/.exec(where) ?? []);
/** How it is said which columns count: by any value, by one value, or by a formula. */
let wantsFormula = $state(false);
const counts = $derived(
  wantsFormula ? "formula" : where === FILLED ? "filled" : quoted !== undefined ? "is" : "formula",
);
const SHOWN = [
  ["name", "the column's name"],
  ["value", "its value"],
  ['name & ": " & value', "the name and the value"],
] as const;
const shown = $derived(show ?? "name");
let wantsOwn = $state(false);
const isOwn = $derived(wantsOwn || !SHOWN.some(([formula]) => formula === shown));

function count(next: string): void {
  if (next === counts) return;
  // A formula begins as what was chosen before.
  wantsFormula = next === "formula";
  if (!wantsFormula) draft.set([...path, "where"], next === "is" ? 'value = "yes"' : FILLED);
}
function write(next: string): void {
  if (next === (isOwn ? "own" : shown)) return;
  wantsOwn = next === "own";
  if (!wantsOwn) draft.set([...path, "show"], next === "name" ? undefined : next);
  else if (show === undefined) draft.set([...path, "show"], shown);
}
</script>

<ColumnTicks label="Columns" {names} chosen={columns} onchange={(next) => draft.set([...path, "columns"], next)} />
<div class="pair">
  <Select size="sm" labelText="A column counts where its value" selected={counts} on:update={({ detail }) => count(String(detail))}>
    <SelectItem value="filled" text="is filled" /><SelectItem value="is" text="is …" /><SelectItem value="formula" text="fits a formula over value and name" />
  </Select>
  {#if counts === "is"}<TextInput size="sm" labelText="Value" value={quoted?.replaceAll('""', '"') ?? ""} on:change={(event) => draft.set([...path, "where"], `value = "${String((event as CustomEvent).detail ?? "").replaceAll('"', '""')}"`)} />
  {:else if counts === "formula"}<NameField {draft} path={[...path, "where"]} label="Formula" isNeeded />{:else}<span></span>{/if}
  <Select size="sm" labelText="Of each is written" selected={isOwn ? "own" : shown} on:update={({ detail }) => write(String(detail))}>
    {#each SHOWN as [formula, text] (formula)}<SelectItem value={formula} {text} />{/each}<SelectItem value="own" text="what a formula gives" />
  </Select>
  {#if isOwn}<NameField {draft} path={[...path, "show"]} label="Formula of what is written" isNeeded />{:else}<span></span>{/if}
  <NameField {draft} path={[...path, "into"]} label="Name of the new column" isNeeded />
  <NameField {draft} path={[...path, "separator"]} label="Between them" standing=", " />
</div>
<Toggle size="sm" labelText="Leave these columns out afterwards" labelA="No" labelB="Yes" toggled={drop} on:toggle={({ detail }) => { if (detail.toggled !== drop) draft.set([...path, "drop"], detail.toggled || undefined); }} />
