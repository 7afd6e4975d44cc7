<script lang="ts">
import { Button, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { Close } from "carbon-icons-svelte";
import type { Dataset } from "../../lib/client";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import ColumnPick from "./ColumnPick.svelte";

/** Values that become others, by pairs written here or by a list that is kept as a dataset. */
let {
  draft,
  path,
  names,
  datasets,
  valuesOf,
}: {
  draft: Draft;
  path: Path;
  names: readonly string[];
  datasets: readonly Dataset[];
  /** The values of a column that are met most. */
  valuesOf: (column: string) => readonly string[];
} = $props();

const column = $derived(String(draft.get([...path, "column"]) ?? ""));
const says = (field: string): string => String(draft.get([...path, field]) ?? "");
const hasList = $derived(["from", "match", "take"].some((field) => draft.get([...path, field]) !== undefined));
/** The dataset that holds the list; blank where one is meant and not named. */
const from = $derived(hasList ? says("from") : undefined);
const pairs = $derived(Object.entries((draft.get([...path, "list"]) ?? {}) as Record<string, string>));
const values = $derived(
  [...new Set(valuesOf(column))].filter((one) => one !== "" && !pairs.some(([known]) => known === one)),
);
const there = $derived((datasets.find(({ name }) => name === from)?.newest?.columns ?? []).map(({ name }) => name));
let added = $state("");

function add(value: string): void {
  if (value.trim() === "" || pairs.some(([known]) => known === value)) return;
  draft.set([...path, "list", value], value);
  added = "";
}
function byList(dataset: string): void {
  const list = datasets.find(({ name }) => name === dataset)?.newest?.columns ?? [];
  const [match, take = match] = list.map(({ name }) => name);
  draft.set(
    path,
    dataset === "" ? { column, list: {} } : { column, from: dataset, match: match ?? "", take: take ?? "" },
  );
}
/** The last pair goes and the list stays: without one the step could not be told from one by a dataset. */
function takeOut(value: string): void {
  draft.set([...path, "list"], Object.fromEntries(pairs.filter(([known]) => known !== value)));
}
</script>

<div class="pair">
  <ColumnPick label="Column" {names} value={column} onchange={(name) => draft.set([...path, "column"], name)} />
  <Select size="sm" labelText="What each becomes" selected={from ?? ""} on:update={({ detail }) => { if (detail !== (from ?? "")) byList(String(detail)); }}>
    <SelectItem value="" text="is written here" />
    {#each [...new Set([...(from === undefined ? [] : [from]), ...datasets.map(({ name }) => name)])] as one (one)}<SelectItem value={one} text={one === "" ? "choose …" : `stands in the dataset ${one}`} />{/each}
  </Select>
  {#if from !== undefined}
    <ColumnPick label={`Its column of values as they stand`} names={there} value={says("match")} onchange={(name) => draft.set([...path, "match"], name)} />
    <ColumnPick label="Its column of what they become" names={there} value={says("take")} onchange={(name) => draft.set([...path, "take"], name)} />
  {/if}
</div>
{#if from === undefined}
  <table>
    <thead><tr><th scope="col">Value</th><th scope="col">becomes</th><th></th></tr></thead>
    <tbody>
      {#each pairs as [value, becomes] (value)}
        <tr>
          <td><TextInput size="sm" hideLabel labelText={`Value ${value}`} {value} on:change={(event) => { const to = String((event as CustomEvent).detail ?? ""); if (to !== "" && to !== value) draft.rename([...path, "list", value], to); }} /></td>
          <td><TextInput size="sm" hideLabel labelText={`What ${value} becomes`} placeholder="blank" value={becomes} on:change={(event) => draft.set([...path, "list", value], String((event as CustomEvent).detail ?? ""))} /></td>
          <td><Button size="small" kind="ghost" icon={Close} iconDescription={`Do not replace ${value}`} on:click={() => takeOut(value)} /></td>
        </tr>
      {/each}
    </tbody>
  </table>
  <form onsubmit={(event) => { event.preventDefault(); add(added); }}>
    <TextInput size="sm" hideLabel labelText="Value to be replaced" placeholder="a value" bind:value={added} />
    <Button size="small" kind="ghost" type="submit" disabled={added.trim() === ""}>Add</Button>
    {#if values.length > 0}
      {#key pairs.length}
        <Select size="sm" hideLabel labelText="Values it has" selected="" on:update={({ detail }) => { if (detail !== "") add(String(detail)); }}>
          <SelectItem value="" text="or one it has …" />{#each values as one (one)}<SelectItem value={one} text={one} />{/each}
        </Select>
      {/key}
    {/if}
  </form>
{/if}

<style>
  table { width: 100%; border-collapse: collapse; font-size: 0.8125rem; }
  th { text-align: left; font-weight: 600; padding: 0.2rem 0; }
  td { padding: 0.1rem 0.4rem 0.1rem 0; }
  td:last-child { width: 2.5rem; }
  form { display: grid; grid-template-columns: minmax(0, 1fr) auto minmax(0, 1fr); gap: 0.4rem; align-items: center; }
</style>
