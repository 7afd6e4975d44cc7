<script lang="ts">
import { Button } from "carbon-components-svelte";
import type { Run, RunSummary } from "../../lib/client";
import { plural, time } from "../../lib/format";
import { unsavedDrafts } from "../../lib/report/kept-drafts";
import { link } from "../../lib/router.svelte";

/** What waits for somebody's word: held runs, those that stand still, reports begun and not saved. */
let { held, more, waiting }: { held: readonly Run[]; more: number; waiting: readonly RunSummary[] } = $props();
const drafts = unsavedDrafts();
const worth = (run: Run): number => run.findings.filter(({ severity }) => severity !== "note").length;
</script>

<section aria-label="What waits for you">
  <h2>What waits for you</h2>
  {#each held as run (run.id)}
    <div class="panel entry">
      <div>
        <strong><a href={link("runs", run.id)}>{run.title}, {run.periodLabel}</a></strong>
        <p class="soft">{run.rehearsalTo ? `A rehearsal to ${run.rehearsalTo}. ` : ""}{run.proof ? `${plural(run.outlook?.messages ?? run.proof.messages, ["# message", "# messages"])} for ${plural(run.proof.groups, ["# group", "# groups"])}` : plural(run.parcelCount, ["# group", "# groups"])}{#if worth(run) > 0}, {plural(worth(run), ["# finding", "# findings"])} to look at{/if}{#if run.releaseAt}; releases itself {time(run.releaseAt)}{/if}.</p>
      </div>
      <Button size="small" kind="tertiary" href={link("runs", run.id)}>Look and release</Button>
    </div>
  {/each}
  {#each waiting as run (run.id)}
    <div class="panel entry trouble">
      <div><strong><a href={link("runs", run.id)}>{run.title}, {run.periodLabel}</a></strong><p>It stands still: {run.waitingFor?.message ?? "something it needs is away"} <span class="soft">{run.waitingFor?.advice ?? ""}</span></p></div>
    </div>
  {/each}
  {#if drafts.length > 0}<p class="soft">Begun in this browser and not saved: {#each drafts as name, at}{at > 0 ? ", " : ""}<a href={link("reports", name)}>{name}</a>{/each}.</p>{/if}
  {#if more > 0}<p class="soft"><a href={link("runs")}>{plural(more, ["# more run", "# more runs"])} held</a></p>{/if}
  {#if held.length + waiting.length + drafts.length === 0}<p class="soft nothing">Nothing waits. What is due runs by itself, or from <a href={link("reports")}>Reports</a>.</p>{/if}
</section>

<style>
  .entry { display: flex; justify-content: space-between; gap: 1rem; align-items: center; margin-bottom: 0.5rem; }
  .entry strong { line-height: 1.3; }
  .entry p { font-size: 0.875rem; line-height: 1.25rem; margin-top: 0.15rem; }
  .trouble { border-left: 3px solid var(--corbix-stop); }
  .nothing { padding: 0.5rem 0; }
  @media (max-width: 40rem) { .entry { display: grid; } }
</style>
