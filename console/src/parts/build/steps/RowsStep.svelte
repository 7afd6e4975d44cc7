<script lang="ts">
import { Button, TextArea } from "carbon-components-svelte";
import { untrack } from "svelte";
import type { Column, Dataset, Report } from "../../../lib/client";
import { count, plural } from "../../../lib/format";
import type { Known } from "../../../lib/report/choices";
import { type Condition, conditionOf, partsOf, writeCondition, writePart } from "../../../lib/report/conditions";
import type { Draft } from "../../../lib/report/draft.svelte";
import Preparation from "../../data/Preparation.svelte";
import RowSteps from "../../prepare/RowSteps.svelte";
import StepAccount from "../../prepare/StepAccount.svelte";
import BringColumns from "../BringColumns.svelte";
import ConditionRows from "../ConditionRows.svelte";
import Formulas from "../Formulas.svelte";
import PeriodFields from "../PeriodFields.svelte";
import SortRows from "../SortRows.svelte";

/** Which rows a report is about, and what is made of them before they are put into groups. */
let {
  draft,
  known,
  columns,
  datasets,
  valuesOf,
  saved,
}: {
  draft: Draft;
  known: Known;
  /** Columns of the dataset as it was loaded. */
  columns: readonly Column[];
  datasets: readonly Dataset[];
  valuesOf: (column: string) => readonly string[];
  /** The report as it is saved, while nothing of it is changed. */
  saved: Report | undefined;
} = $props();

const keep = $derived(String(draft.get(["keep"]) ?? ""));
const types = $derived(Object.fromEntries(columns.map(({ name, type }) => [name, type])));
const condition = $derived(
  conditionOf(
    keep,
    columns.map(({ name }) => name),
  ),
);
const steps = $derived(draft.look?.steps ?? []);

$effect(() => {
  const counted =
    condition && condition.clauses.length > 0 ? partsOf(condition).map((one) => writePart(one, types)) : [];
  untrack(() => draft.count(counted));
});
const counts = $derived(new Map((draft.look?.conditions ?? []).map((one) => [one.formula, one])));

function setCondition(next: Condition): void {
  draft.set(["keep"], next.clauses.length === 0 ? undefined : writeCondition(next, types));
}
</script>

<h2>Period</h2>
<PeriodFields {draft} {columns} />

<h2>Rows that are kept</h2>
{#if draft.get(["add"]) !== undefined}<p class="soft">These look at the columns as they were loaded. Conditions over new columns are a step of their own, under More steps.</p>{/if}
{#if condition}<ConditionRows {condition} {columns} {valuesOf} loaded={draft.look?.loadedColumns ?? []} countOf={(part) => counts.get(writePart(part, types))} onchange={setCondition} />
{:else}
  <TextArea labelText="Keep rows where" helperText="Written as a formula, with more than clicks can make." rows={2} value={keep} on:change={(event) => draft.set(["keep"], (event.target as HTMLTextAreaElement).value || undefined)} />
  <Button size="small" kind="ghost" on:click={() => draft.set(["keep"], undefined)}>Begin anew by clicking</Button>
{/if}

<h2>Columns from other datasets</h2>
<BringColumns {draft} data={String(draft.get(["data"]) ?? "")} {datasets} names={columns.map(({ name }) => name)} />

<h2>New columns</h2>
<Formulas {draft} path={["add"]} names={[...new Set([...columns.map(({ name }) => name), ...known.columns])]} />

<h2>Order of the rows</h2>
<SortRows {draft} names={known.columns} />

<h2>More steps</h2>
<RowSteps {draft} {datasets} loaded={columns} {valuesOf} />

{#if saved}
  <h2>What each step does</h2>
  {#key saved.number}<Preparation report={saved} />{/key}
{:else if steps.length > 0}
  <h2>What each step does</h2>
  <ol aria-label="Steps of the rows">
    {#each steps as step}
      <li>
        <span>{step.what}</span>
        <StepAccount {step} />
      </li>
    {/each}
  </ol>
{/if}

<style>
  ol { display: grid; gap: 0.3rem; font-size: 0.875rem; }
  li { display: grid; padding: 0.3rem 0; border-top: 1px solid var(--cds-ui-03); overflow-wrap: anywhere; }
</style>
