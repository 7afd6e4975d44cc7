<script lang="ts">
import { Modal, Select, SelectItem, SkeletonText, TextInput } from "carbon-components-svelte";
import { untrack } from "svelte";
import { type Answer, api, type Edition, once, type Problem, type Query, type ReportSummary } from "../../lib/client";
import { count, day, plural } from "../../lib/format";
import { go } from "../../lib/router.svelte";
import { scrollable } from "../../lib/scrollable";
import Trouble from "../common/Trouble.svelte";

/** Rows that were ticked or found, sent on for a run of their own: to whom each would go, and whether it went out before. */
let {
  chosen,
  edition,
  reports,
  onclose,
}: {
  chosen: { rows: Query | { numbers: number[] }; total: number } | undefined;
  edition: Edition | undefined;
  reports: readonly ReportSummary[];
  onclose: () => void;
} = $props();
let report = $state("");
let typed = $state("");
/** What was typed, once nobody types any more. */
let period = $state("");
const PAUSE_MS = 300;
$effect(() => {
  const wish = typed.trim();
  const timer = setTimeout(() => {
    period = wish;
  }, PAUSE_MS);
  return () => clearTimeout(timer);
});
/** Nothing is started of a period that was not looked at yet. */
const isTyping = $derived(typed.trim() !== period);
let again = $state("");
let picks = $state<Answer<"post", "/reports/{name}/picks">>();
let problem = $state<Problem>();
const wanted = $derived(report || (reports[0]?.name ?? ""));
let asked = 0;

/** Looked at anew for another report or period; nothing is started by that. */
$effect(() => {
  const [rows, name, of] = [chosen?.rows, wanted, period];
  untrack(() => {
    picks = undefined;
    problem = undefined;
    if (!rows || name === "") return;
    const turn = ++asked;
    api
      .post("/reports/{name}/picks", {
        path: { name },
        body: { rows, ...(edition ? { edition: edition.number } : {}), ...(of === "" ? {} : { period: of }) },
      })
      .then(
        (found) => {
          if (turn === asked) picks = found;
        },
        (error: Problem) => {
          if (turn === asked) problem = error;
        },
      );
  });
});

async function runRows(): Promise<void> {
  if (!chosen || !picks) return;
  problem = undefined;
  try {
    const run = await api.post("/runs", {
      body: {
        report: wanted,
        rows: chosen.rows,
        edition: picks.edition,
        ...(picks.period === null ? {} : { period: picks.period }),
        ...(again.trim() === "" ? {} : { again: again.trim() }),
      },
      ...once(),
    });
    onclose();
    go("runs", run.id);
  } catch (error) {
    problem = error as Problem;
  }
}
const going = $derived(picks ? picks.picked - picks.leftOut - (again.trim() === "" ? picks.sentBefore : 0) : 0);
</script>

<Modal iconDescription="Close the dialog" open={chosen !== undefined} modalHeading="Use these rows for a run" primaryButtonText="Run" primaryButtonDisabled={picks === undefined || isTyping || going === 0} secondaryButtonText="Cancel" on:close={() => { onclose(); }} on:click:button--secondary={() => { onclose(); }} on:submit={runRows}>
  <p class="soft">{plural(chosen?.total ?? 0, ["# row", "# rows"])} of edition {edition?.number}; all others are left out and counted. The run is one of its own: the period's delivery is still to come.</p>
  <Trouble {problem} />
  <div class="fields">
    <Select labelText="Report" selected={wanted} on:update={({ detail }) => { report = String(detail); }}>{#each reports as one (one.name)}<SelectItem value={one.name} text={one.title} />{/each}</Select>
    <TextInput labelText="Period" placeholder={picks?.period ?? "2026-10"} helperText="Blank: the one in which most of the rows lie." bind:value={typed} />
  </div>
  {#if chosen && picks}
    <p role="status">{plural(going, ["# row goes", "# rows go"])} into the run{#if picks.period !== null}, for {picks.period}{/if}{#if picks.sentBefore > 0}; {plural(picks.sentBefore, ["# went out before", "# went out before"])}{/if}{#if picks.leftOut > 0}; {plural(picks.leftOut, ["# is left out", "# are left out"])}{/if}.</p>
    <div class="wide" use:scrollable data-scrolls="Picked rows"><table>
      <thead><tr><th class="right">Row</th><th>Group</th><th>Who receives</th><th>Sent before</th></tr></thead>
      <tbody>
        {#each picks.rows as one (one.rowNumber)}
          <tr class:out={one.why !== null || (one.before !== null && again.trim() === "")}>
            <td class="right">{one.rowNumber}</td>
            {#if one.why !== null}<td colspan="3">left out: {one.why}</td>
            {:else}<td>{one.group}</td><td>{one.people.length === 0 ? "nobody" : one.people.join(", ")}</td><td>{one.before === null ? "no" : day(one.before)}</td>{/if}
          </tr>
        {/each}
      </tbody>
    </table></div>
    {#if picks.rows.length < picks.picked}<p class="soft">The first {count(picks.rows.length)} of {count(picks.picked)}.</p>{/if}
    {#if picks.sentBefore > 0}
      <TextInput labelText="Why those that went out before go again" placeholder="the amounts were wrong" helperText="Blank: they stay out of the run." bind:value={again} />
    {/if}
  {:else if chosen && !problem}<SkeletonText paragraph lines={4} />{/if}
</Modal>

<style>
  .fields { display: grid; gap: 1rem; margin: 1rem 0; }
  .wide { max-height: 16rem; overflow: auto; margin: 0.5rem 0 1rem; }
  table { width: 100%; border-collapse: collapse; font-size: 0.8125rem; }
  th { text-align: left; background: var(--cds-ui-01); padding: 0.3rem 0.6rem; position: sticky; top: 0; }
  td { border-top: 1px solid var(--cds-ui-03); padding: 0.25rem 0.6rem; overflow-wrap: anywhere; }
  .right { text-align: right; }
  .out td { color: var(--corbix-soft); }
</style>
