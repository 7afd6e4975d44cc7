<script lang="ts">
import { Button } from "carbon-components-svelte";
import { Add, Close } from "carbon-icons-svelte";
import type { Column, Dataset } from "../../lib/client";
import { Reorder } from "../../lib/reorder.svelte";
import type { Draft } from "../../lib/report/draft.svelte";
import {
  begunStep,
  columnsBefore,
  STEP_KINDS,
  STEP_WORDS,
  type StepKind,
  stepsBefore,
  troublesOf,
} from "../../lib/report/row-steps";
import Formulas from "../build/Formulas.svelte";
import KeepField from "../build/KeepField.svelte";
import SortRows from "../build/SortRows.svelte";
import DragHandle from "../common/DragHandle.svelte";
import BringStep from "./BringStep.svelte";
import ColumnTicks from "./ColumnTicks.svelte";
import FoldStep from "./FoldStep.svelte";
import PickStep from "./PickStep.svelte";
import ReplaceStep from "./ReplaceStep.svelte";
import StackStep from "./StackStep.svelte";
import StepAccount from "./StepAccount.svelte";

/** Further steps over the rows, one after the other: each with its own fields, what it did, and what stands in its way. */
let {
  draft,
  datasets,
  loaded,
  valuesOf,
}: {
  draft: Draft;
  datasets: readonly Dataset[];
  /** Columns of the dataset as they were loaded. */
  loaded: readonly Pick<Column, "name" | "type">[];
  valuesOf: (column: string) => readonly string[];
} = $props();

const steps = $derived([draft.get(["prepare"]) ?? []].flat() as Record<string, unknown>[]);
/** Another dataset to begin with, where there is one. */
const other = $derived(datasets.find(({ name }) => name !== draft.get(["data"])));
const kindOf = (step: Record<string, unknown>): StepKind => Object.keys(step)[0] as StepKind;
const before = $derived(stepsBefore(draft));
const order = new Reorder(
  (from, to) => draft.move(["prepare", from], to),
  () => steps.length,
);
/** What was looked at last is told of a step only while that still is the same kind of step. */
const accountOf = (at: number) => {
  const found = draft.look?.steps[before + at];
  return found && steps[at] && found.kind === kindOf(steps[at]) ? found : undefined;
};
/** Without knowing what a step before it left, all that is known may be there. */
const namesAt = (at: number): string[] => {
  const names = columnsBefore(draft.look, before + at);
  return (draft.look?.steps.length ?? 0) >= before + at
    ? names
    : [...new Set([...names, ...loaded.map(({ name }) => name)])];
};

function add(kind: StepKind): void {
  draft.set(
    ["prepare", steps.length],
    begunStep(kind, draft.look?.columns ?? loaded, { split: draft.get(["split"]), other }),
  );
}
</script>

<ol>
  {#each steps as step, at (at)}
    {@const kind = kindOf(step)}
    {@const path = ["prepare", at, kind]}
    {@const names = namesAt(at)}
    {@const account = accountOf(at)}
    <li class="panel" class:over={order.over === at} aria-label={`Step ${at + 1}: ${STEP_WORDS[kind]?.title ?? kind}`} {...order.onto(at)}>
      <div class="split">
        <h3><DragHandle label={`Drag step ${at + 1}`} {...order.handle(at)} /> {at + 1}. {STEP_WORDS[kind]?.title ?? kind}</h3>
        <Button size="small" kind="ghost" icon={Close} iconDescription={`Take out step ${at + 1}`} on:click={() => draft.set(["prepare", at], undefined)} />
      </div>
      {#if kind === "keep"}<KeepField {draft} {path} label="Rows stay where" />
      {:else if kind === "add"}<Formulas {draft} {path} {names} />
      {:else if kind === "bring"}<BringStep {draft} {path} {datasets} {names} />
      {:else if kind === "replace"}<ReplaceStep {draft} {path} {names} {datasets} {valuesOf} />
      {:else if kind === "fold"}<FoldStep {draft} {path} {names} />
      {:else if kind === "stack"}<StackStep {draft} {path} {names} />
      {:else if kind === "sort"}<SortRows {draft} {path} {names} />
      {:else if kind === "distinct"}<ColumnTicks label="Rows are doubles where these are the same; where none is ticked, the whole row" {names} chosen={[step.distinct ?? []].flat().map(String)} onchange={(next) => draft.set(path, next)} />
      {:else}<PickStep {draft} {path} {names} />{/if}
      {#each troublesOf(draft.problems, before + at, at) as { what, advice }}<p class="wrong" role="alert">{what} {advice ?? ""}</p>{/each}
      {#if account}<StepAccount step={account} />{/if}
    </li>
  {/each}
</ol>
<div class="kinds" role="group" aria-label="Steps to add">
  {#each STEP_KINDS as kind}<button type="button" title={STEP_WORDS[kind].what} disabled={kind === "bring" && !other} onclick={() => add(kind)}><Add size={16} />{STEP_WORDS[kind].title}</button>{/each}
</div>

<style>
  ol { list-style: none; padding: 0; }
  li { display: grid; grid-template-columns: minmax(0, 1fr); gap: 0.6rem; margin-bottom: 0.75rem; font-size: 0.875rem; }
  li :global(.pair) { display: grid; grid-template-columns: 1fr 1fr; gap: 0.6rem 1rem; }
  h3 { font-size: 0.875rem; font-weight: 600; }
  .over { box-shadow: inset 0 2px 0 #d0782f; }
  .wrong { color: var(--corbix-stop); font-size: 0.875rem; }
  .kinds { display: flex; flex-wrap: wrap; gap: 0.15rem 0.75rem; margin-top: 0.4rem; }
  .kinds button { display: inline-flex; gap: 0.25rem; align-items: center; background: none; border: 0; padding: 0.25rem 0.1rem; font: inherit; font-size: 0.8125rem; color: var(--cds-link-01); cursor: pointer; }
  .kinds button:disabled { color: var(--cds-disabled-02); cursor: default; }
  .kinds button:hover:not(:disabled) { text-decoration: underline; }
</style>
