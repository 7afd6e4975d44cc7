<script lang="ts">
import { Button, Checkbox, Select, SelectItem } from "carbon-components-svelte";
import { Close } from "carbon-icons-svelte";
import type { Dataset } from "../../lib/client";
import { count } from "../../lib/format";
import { meant } from "../../lib/report/choices";
import { writeName } from "../../lib/report/conditions";
import type { Draft } from "../../lib/report/draft.svelte";
import { link } from "../../lib/router.svelte";
import PartnerPicker from "./PartnerPicker.svelte";

/** Columns of other datasets, found by a key that both have: which columns, and what becomes of rows without a partner. */
let {
  draft,
  data,
  datasets,
  names,
}: { draft: Draft; data: string; datasets: readonly Dataset[]; names: readonly string[] } = $props();

interface Bring {
  from: string;
  match: Record<string, string>;
  columns?: string[];
  partner?: "needed" | "may-lack";
}
const brought = $derived([draft.get(["bring"]) ?? []].flat() as Bring[]);
const columnsOf = (dataset: string): string[] =>
  (datasets.find((one) => one.name === dataset)?.newest?.columns ?? []).map(({ name }) => name);
/** What the step did to the rows that are looked at. */
const steps = $derived((draft.look?.steps ?? []).filter(({ kind }) => kind === "bring"));
const same = (one: string, other: string): boolean => writeName(one) === writeName(other);

function add(dataset: string, column: string, partner: string): void {
  const columns = columnsOf(dataset).filter((one) => !same(one, partner) && !names.some((name) => same(name, one)));
  draft.set(["bring", brought.length], { from: dataset, match: { [column]: partner }, columns });
}
function tick(at: number, name: string, isOn: boolean): void {
  const own = brought[at]?.columns ?? [];
  draft.set(["bring", at, "columns"], isOn ? [...own, name] : own.filter((one) => !same(one, name)));
}
</script>

{#each brought as one, at (at)}
  {@const all = columnsOf(one.from)}
  <section class="panel" aria-label={`Columns of ${one.from}`}>
    <div class="split">
      <Select size="sm" inline labelText="Dataset" selected={one.from} on:update={({ detail }) => { if (detail !== one.from) draft.set(["bring", at, "from"], String(detail)); }}>
        {#each [...new Set([one.from, ...datasets.map(({ name }) => name)])] as each (each)}<SelectItem value={each} text={each} />{/each}
      </Select>
      <Button size="small" kind="ghost" icon={Close} iconDescription={`Do not bring columns of ${one.from}`} on:click={() => draft.set(["bring", at], undefined)} />
    </div>
    {#each Object.entries(one.match) as [own, partner], index (index)}
      <div class="pair">
        <Select size="sm" hideLabel labelText={`Column here, ${index + 1}`} selected={meant(own, names) ?? own} on:update={({ detail }) => { if (detail !== (meant(own, names) ?? own)) draft.rename(["bring", at, "match", own], String(detail)); }}>
          {#each [...new Set([meant(own, names) ?? own, ...names])] as each (each)}<SelectItem value={each} text={each} />{/each}
        </Select>
        <span class="soft">is</span>
        <Select size="sm" hideLabel labelText={`Column of ${one.from}, ${index + 1}`} selected={meant(partner, all) ?? partner} on:update={({ detail }) => { if (detail !== (meant(partner, all) ?? partner)) draft.set(["bring", at, "match", own], String(detail)); }}>
          {#each [...new Set([meant(partner, all) ?? partner, ...all])] as each (each)}<SelectItem value={each} text={each} />{/each}
        </Select>
        <Button size="small" kind="ghost" icon={Close} iconDescription={`Take out the pair ${index + 1}`} disabled={Object.keys(one.match).length === 1} on:click={() => draft.set(["bring", at, "match", own], undefined)} />
      </div>
    {/each}
    <Button size="small" kind="ghost" on:click={() => { const free = names.find((name) => !(name in one.match)); if (free) draft.set(["bring", at, "match", free], all[0] ?? free); }}>And another column has to be the same</Button>
    <div class="ticks" role="group" aria-label={`Columns of ${one.from} that are brought`}>
      {#each [...new Set([...all, ...(one.columns ?? [])])] as name (name)}{@const isOn = (one.columns ?? all).some((each) => same(each, name))}<Checkbox labelText={name} checked={isOn} on:check={({ detail }) => { if (detail !== isOn) tick(at, name, detail); }} />{/each}
    </div>
    <Select size="sm" inline labelText="Rows without a partner" selected={one.partner ?? "may-lack"} on:update={({ detail }) => { if (detail !== (one.partner ?? "may-lack")) draft.set(["bring", at, "partner"], detail === "may-lack" ? undefined : String(detail)); }}>
      <SelectItem value="may-lack" text="stay, with these columns blank" /><SelectItem value="needed" text="are left out" />
    </Select>
    {#if steps[at]}<p class="soft">{count(steps[at].rowsIn)} rows in, {count(steps[at].rowsOut)} out{#each steps[at].leftOut as left}; {count(left.count)} {left.reason}{/each}</p>{/if}
  </section>
{/each}
{#if datasets.some(({ name }) => name !== data)}<PartnerPicker {data} datasets={datasets.map(({ name }) => name)} label="Bring columns from another dataset" onchosen={add} />
{:else}<p class="soft">There is no other dataset yet. Load one under <a href={link("data")}>Data</a>, such as the suppliers of the orders here, to bring its columns by a key.</p>{/if}

<style>
  section { margin-bottom: 0.5rem; font-size: 0.875rem; }
  .pair { display: grid; grid-template-columns: minmax(0, 1fr) auto minmax(0, 1fr) auto; gap: 0.4rem; align-items: center; margin: 0.3rem 0; }
  .ticks :global(.bx--checkbox-wrapper) { margin: 0; }
  .ticks { display: grid; grid-template-columns: repeat(auto-fill, minmax(11rem, 1fr)); gap: 0 1rem; max-height: 12rem; overflow: auto; }
</style>
