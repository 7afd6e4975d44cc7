<script lang="ts">
import { Button, Select, SelectItem } from "carbon-components-svelte";
import { Close } from "carbon-icons-svelte";
import type { Dataset } from "../../lib/client";
import { word } from "../../lib/format";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import { newTo } from "../../lib/report/row-steps";
import ColumnPick from "./ColumnPick.svelte";
import ColumnTicks from "./ColumnTicks.svelte";

/** Columns of one other dataset: by which key its rows are found, which columns, and what becomes of rows without a partner. */
let {
  draft,
  path,
  datasets,
  names,
}: { draft: Draft; path: Path; datasets: readonly Dataset[]; names: readonly string[] } = $props();

const from = $derived(String(draft.get([...path, "from"]) ?? ""));
const match = $derived(Object.entries((draft.get([...path, "match"]) ?? {}) as Record<string, string>));
const columns = $derived([draft.get([...path, "columns"]) ?? []].flat().map(String));
const partner = $derived(String(draft.get([...path, "partner"]) ?? "may-lack"));
const columnsOf = (dataset: string): string[] =>
  (datasets.find((one) => one.name === dataset)?.newest?.columns ?? []).map(({ name }) => name);
const all = $derived(columnsOf(from));
/** Another dataset has other columns: those that are called so there stay, and the rest is chosen anew. */
function choose(dataset: string): void {
  const there = columnsOf(dataset);
  const kept = columns.filter((one) => there.includes(one));
  const keys = match.map(([own, key]) => [own, there.includes(key) ? key : (there[0] ?? "")]);
  draft.set(path, {
    ...(draft.get(path) as object),
    from: dataset,
    match: Object.fromEntries(keys),
    columns:
      kept.length > 0
        ? kept
        : newTo(
            names,
            datasets.find(({ name }) => name === dataset),
          ),
  });
}
</script>

<Select size="sm" labelText="Dataset" selected={from} on:update={({ detail }) => { if (detail !== from) choose(String(detail)); }}>
  {#if !datasets.some(({ name }) => name === from)}<SelectItem value={from} text={from === "" ? "choose …" : `${from} (not there)`} />{/if}
  {#each datasets as { name } (name)}<SelectItem value={name} text={name} />{/each}
</Select>
{#each match as [own, key], index (index)}
  <div class="match">
    <ColumnPick isLabelHidden label={`Column here, ${index + 1}`} {names} value={own} onchange={(name) => draft.rename([...path, "match", own], name)} />
    <span class="soft">is</span>
    <ColumnPick isLabelHidden label={`Column of ${from}, ${index + 1}`} names={all} value={key} onchange={(name) => draft.set([...path, "match", own], name)} />
    <Button size="small" kind="ghost" icon={Close} iconDescription={`Take out the pair ${index + 1}`} disabled={match.length === 1} on:click={() => draft.set([...path, "match", own], undefined)} />
  </div>
{/each}
<Button size="small" kind="ghost" on:click={() => { const free = names.find((name) => !match.some(([own]) => own === name)); if (free) draft.set([...path, "match", free], all[0] ?? free); }}>And another column has to be the same</Button>
<ColumnTicks label={`Columns of ${from || word("it")} that are brought`} names={all} chosen={columns} onchange={(next) => draft.set([...path, "columns"], next)} />
<Select size="sm" inline labelText="Rows without a partner" selected={partner} on:update={({ detail }) => { if (detail !== partner) draft.set([...path, "partner"], detail === "may-lack" ? undefined : String(detail)); }}>
  <SelectItem value="may-lack" text="stay, with these columns blank" /><SelectItem value="needed" text="are left out" />
</Select>

<style>
  .match { display: grid; grid-template-columns: minmax(0, 1fr) auto minmax(0, 1fr) auto; gap: 0.4rem; align-items: center; }
</style>
