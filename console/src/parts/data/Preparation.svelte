<script lang="ts">
import { wordsFor } from "../../lib/report/field-words";
import { allOf, api, type Problem, type Report, type Step } from "../../lib/client";
import { count } from "../../lib/format";
import Empty from "../common/Empty.svelte";
import Findings from "../common/Findings.svelte";
import Grid from "./Grid.svelte";
import Trouble from "../common/Trouble.svelte";

/** Each step of a report's preparation on the newest edition: rows in, rows out, reasons, and the rows as they stand then. */
let { report }: { report: Report } = $props();
let steps = $state<Step[]>();
let edition = $state<number>();
let chosen = $state<number>();
let problem = $state<Problem>();

$effect(() => {
  const { name, data, number } = report;
  void number;
  problem = undefined;
  Promise.all([
    allOf(api.all("/reports/{name}/steps", { path: { name } })),
    api.get("/datasets/{name}", { path: { name: data } }),
  ]).then(
    ([found, dataset]) => {
      steps = found;
      edition = dataset.newest?.number;
    },
    (error) => {
      problem = error;
    },
  );
});
const left = (step: Step): number => step.leftOut.reduce((sum, one) => sum + one.count, 0);
const makesRows = $derived(steps?.some(({ made }) => made > 0) ?? false);
const step = $derived(chosen === undefined ? undefined : steps?.[chosen]);
</script>

<Trouble {problem} />
{#if steps && edition}
  {#if steps.length === 0}
    <Empty title="No preparation">The report takes the rows as they are.</Empty>
  {:else}
    <table>
      <thead><tr><th scope="col"></th><th scope="col">Step</th><th scope="col">What</th><th scope="col" class="right">Rows in</th><th scope="col" class="right">Left out</th>{#if makesRows}<th scope="col" class="right">Made</th>{/if}<th scope="col" class="right">Rows out</th></tr></thead>
      <tbody>
        {#each steps as one, at}
          <tr class:on={chosen === at}>
            <td class="soft">{at + 1}</td>
            <td><button onclick={() => { chosen = chosen === at ? undefined : at; }} aria-expanded={chosen === at}>{wordsFor(one.kind)}</button></td>
            <td class="what">{one.what}{#each one.leftOut as reason}<span class="soft reason">{count(reason.count)} {reason.reason}</span>{/each}</td>
            <td class="right">{count(one.rowsIn)}</td><td class="right">{left(one) ? count(left(one)) : ""}</td>{#if makesRows}<td class="right">{one.made ? count(one.made) : ""}</td>{/if}<td class="right">{count(one.rowsOut)}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    <p class="soft note">On edition {edition} of {report.data}, all periods. Choose a step to see the rows as they stand after it.</p>
    {#if step}
      {#if step.findings.length > 0}<Findings findings={step.findings} />{/if}
      {#key chosen}<Grid sight={{ dataset: report.data, edition, report: report.name, step: chosen ?? 0 }} label="Rows after step {(chosen ?? 0) + 1}" mark={step.columnsAdded[0]} />{/key}
    {/if}
  {/if}
{/if}

<style>
  table { border-collapse: collapse; font-size: 0.8125rem; font-variant-numeric: tabular-nums; background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); width: 100%; }
  th { text-align: left; background: var(--cds-ui-01); font-weight: 600; }
  th, td { padding: 0.3rem 0.5rem; line-height: 1.15rem; border-bottom: 1px solid var(--cds-ui-03); vertical-align: top; }
  .right { text-align: right; }
  tr.on td { background: var(--cds-highlight); }
  .what { overflow-wrap: break-word; width: 55%; }
  .reason { display: block; font-size: 0.8125rem; line-height: 1.1rem; }
  td.soft { font-size: inherit; }
  td button { background: none; border: 0; padding: 0; color: var(--cds-link-01); cursor: pointer; font: inherit; font-weight: 600; text-decoration: underline; text-align: left; }
  .note { margin: 0.5rem 0 1rem; }
</style>
