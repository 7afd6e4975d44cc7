<script lang="ts">
import type { Arrival, Notice, Overview, RunSummary } from "../../lib/client";
import { plural, time } from "../../lib/format";
import { link } from "../../lib/router.svelte";

/** What went wrong lately, with what to do: messages that did not get through, runs that failed, files that could not be read. */
let {
  troubles,
  failed,
  arrivals,
  notices = [],
}: {
  troubles: Overview["troubles"];
  failed: readonly RunSummary[];
  arrivals: readonly Arrival[];
  /** What schedules did not start, and why. */
  notices?: readonly Notice[];
} = $props();

const CORRECT = "Correct the address, then send it again from the outbox.";
const WORDS = {
  refused: [(n: number) => plural(n, ["# message was refused", "# messages were refused"]), CORRECT],
  returned: [(n: number) => plural(n, ["# message came back", "# messages came back"]), CORRECT],
  unsure: [
    (n: number) => plural(n, ["# message may or may not have arrived", "# messages may or may not have arrived"]),
    "Ask whether it did, then say so in the outbox.",
  ],
} as const;
</script>

{#if troubles.length + failed.length + arrivals.length + notices.length > 0}
  <section aria-label="What went wrong">
    <h2>What went wrong</h2>
    <ul class="panel">
      {#each troubles as one (`${one.run} ${one.state}`)}
        {@const [said, advice] = WORDS[one.state]}
        <li>
          <strong><a href={link("runs", one.run)}>{one.title}, {one.periodLabel}</a></strong>: {said(one.count)} ({one.groups.join(", ")}{#if one.count > one.groups.length}{" "}and {one.count - one.groups.length} more{/if}).
          <p class="soft">{one.response ? `The mail server: ${one.response}. ` : ""}{advice} <a href={link("outbox")}>Outbox</a></p>
        </li>
      {/each}
      {#each failed as run (run.id)}
        <li><strong><a href={link("runs", run.id)}>{run.title}, {run.periodLabel}</a></strong> failed {time(run.finishedAt ?? run.createdAt)}. <p class="soft">{run.error?.message ?? ""} {run.error?.advice ?? ""}</p></li>
      {/each}
      {#each arrivals as one (one.id)}
        <li><strong>{one.file}</strong>, {one.way === "mail" ? `by mail from ${one.sender}` : "from the watched folder"}, was not loaded {time(one.at)}. <p class="soft">{one.message ?? ""} <a href={link("data")}>Data</a></p></li>
      {/each}
      {#each notices as one (one.id)}
        <li>{one.what} <span class="soft">{time(one.at)}</span> <p class="soft">{one.advice ?? ""} {#if one.report}<a href={link("reports", one.report, "when")}>{one.report}</a>{/if}</p></li>
      {/each}
    </ul>
  </section>
{/if}

<style>
  ul { border-left: 3px solid var(--corbix-stop); display: grid; gap: 0.5rem; }
  li { font-size: 0.875rem; line-height: 1.3rem; overflow-wrap: anywhere; }
  li:not(:first-child) { border-top: 1px solid var(--cds-ui-03); padding-top: 0.5rem; }
  li p { font-size: inherit; line-height: inherit; }
</style>
