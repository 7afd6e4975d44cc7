<script lang="ts">
import type { RunSummary } from "../../lib/client";
import { plural, time } from "../../lib/format";
import { link } from "../../lib/router.svelte";
import StateTag from "../common/StateTag.svelte";

/** What went out last, and what is on its way. */
let { runs }: { runs: readonly RunSummary[] } = $props();
const said = ({ progress, rehearsalTo }: RunSummary): string => {
  const { sent = 0, queued = 0, sending = 0, skipped = 0 } = progress.messages;
  return [
    rehearsalTo ? `rehearsal to ${rehearsalTo}` : "",
    `${plural(sent, ["# message", "# messages"])} sent`,
    queued + sending > 0 ? `${queued + sending} to go` : "",
    skipped > 0 ? `${skipped} left out` : "",
  ]
    .filter(Boolean)
    .join(", ");
};
</script>

<section aria-label="What went out">
  <h2>What went out</h2>
  {#if runs.length === 0}<p class="soft">Nothing has gone out yet.</p>
  {:else}
    <ul class="panel">{#each runs as run (run.id)}
      <li><span><a href={link("runs", run.id)}>{run.title}, {run.periodLabel}</a><br /><span class="soft">{said(run)}</span></span><span class="when"><StateTag state={run.state} /><span class="soft">{time(run.releasedAt ?? run.createdAt)}</span></span></li>
    {/each}</ul>
    <p class="soft"><a href={link("runs")}>All runs</a></p>
  {/if}
</section>

<style>
  li { display: flex; justify-content: space-between; gap: 1rem; padding: 0.45rem 0; font-size: 0.875rem; line-height: 1.25rem; }
  li:not(:first-child) { border-top: 1px solid var(--cds-ui-03); }
  .when { display: grid; justify-items: end; align-content: start; gap: 0.15rem; white-space: nowrap; }
  .when :global(.bx--tag) { margin: 0; }
</style>
