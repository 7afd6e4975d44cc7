<script lang="ts">
import { Button } from "carbon-components-svelte";
import { Close } from "carbon-icons-svelte";
import type { Dataset } from "../../lib/client";
import type { Draft } from "../../lib/report/draft.svelte";
import { begunBring } from "../../lib/report/row-steps";
import { link } from "../../lib/router.svelte";
import BringStep from "../prepare/BringStep.svelte";
import StepAccount from "../prepare/StepAccount.svelte";
import PartnerPicker from "./PartnerPicker.svelte";

/** Columns of other datasets, found by a key that both have; which, is suggested by the values. */
let {
  draft,
  data,
  datasets,
  names,
}: { draft: Draft; data: string; datasets: readonly Dataset[]; names: readonly string[] } = $props();

const brought = $derived([draft.get(["bring"]) ?? []].flat() as { from: string }[]);
/** What the step did to the rows that are looked at. */
const steps = $derived((draft.look?.steps ?? []).filter(({ kind }) => kind === "bring"));

function add(dataset: string, column: string, partner: string): void {
  const other = datasets.find(({ name }) => name === dataset);
  draft.set(["bring", brought.length], begunBring(names, other, { [column]: partner }));
}
</script>

{#each brought as one, at (at)}
  <section class="panel" aria-label={`Columns of ${one.from}`}>
    <div class="split">
      <h3>Columns of {one.from}</h3>
      <Button size="small" kind="ghost" icon={Close} iconDescription={`Do not bring columns of ${one.from}`} on:click={() => draft.set(["bring", at], undefined)} />
    </div>
    <BringStep {draft} path={["bring", at]} {datasets} {names} />
    {#if steps[at]}<StepAccount step={steps[at]} />{/if}
  </section>
{/each}
{#if datasets.some(({ name }) => name !== data)}<PartnerPicker {data} datasets={datasets.map(({ name }) => name)} label="Bring columns from another dataset" onchosen={add} />
{:else}<p class="soft">There is no other dataset yet. Load one under <a href={link("data")}>Data</a>, such as the suppliers of the orders here, to bring its columns by a key.</p>{/if}

<style>
  section { display: grid; grid-template-columns: minmax(0, 1fr); gap: 0.5rem; margin-bottom: 0.5rem; font-size: 0.875rem; }
  h3 { font-size: 0.875rem; font-weight: 600; }
</style>
