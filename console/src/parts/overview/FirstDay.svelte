<script lang="ts">
import { Button } from "carbon-components-svelte";
import { CheckmarkFilled, CircleDash } from "carbon-icons-svelte";
import type { Overview } from "../../lib/client";
import { link } from "../../lib/router.svelte";

/** From nothing to the first report that went out: what is done, and what comes next. */
let { overview }: { overview: Overview } = $props();
const steps = $derived([
  {
    title: "Load your table",
    what: "A workbook or a text file, as the system gives it: title lines, totals and blank columns are left out and told.",
    isDone: overview.datasets > 0,
    at: link("data"),
    name: "Load a table",
  },
  {
    title: "Say who gets what",
    what: "A report puts the rows into groups, fills each group's files and says who receives them. It is made by clicking, beside what a group gets.",
    isDone: overview.reports > 0,
    at: link("reports", "new"),
    name: "Make a report",
  },
  {
    title: "See it yourself first",
    what: "A rehearsal makes everything and sends it for real, but to you alone.",
    isDone: overview.runs > 0,
    at: link("reports"),
    name: "Rehearse it",
  },
  {
    title: "Release it",
    what: "A run is held until you have looked at its proof: rows, totals, files, people. Then each group gets its own part, once.",
    isDone: overview.sent > 0,
    at: link("runs"),
    name: "Look at the runs",
  },
]);
const next = $derived(steps.findIndex(({ isDone }) => !isDone));
</script>

<section aria-label="The first report">
  <h2>Your first report, in four steps</h2>
  <ol>
    {#each steps as step, at}
      <li class="panel" class:next={at === next} aria-current={at === next ? "step" : undefined}>
        <span class="mark">{#if step.isDone}<CheckmarkFilled size={20} aria-label="Done" />{:else}<CircleDash size={20} aria-label={at === next ? "Next" : "Later"} />{/if}</span>
        <div><strong>{at + 1}. {step.title}</strong><p class="soft">{step.what}</p></div>
        {#if at === next}<Button size="small" href={step.at}>{step.name}</Button>{/if}
      </li>
    {/each}
  </ol>
  {#if overview.datasets === 0}<p class="soft">Or drop a file on <a href={link("reports", "new")}>New report</a>: it is loaded, and period and groups are suggested.</p>{/if}
</section>

<style>
  ol { display: grid; gap: 0.5rem; list-style: none; padding: 0; max-width: 52rem; }
  li { display: grid; grid-template-columns: auto 1fr auto; gap: 0.75rem; align-items: center; }
  li.next { border-left: 3px solid #d0782f; }
  .mark { color: var(--cds-interactive-01); display: inline-flex; }
  p { font-size: 0.875rem; line-height: 1.25rem; }
  section > p { margin-top: 0.75rem; }
</style>
