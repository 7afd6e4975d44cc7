<script lang="ts">
import type { ReportSummary } from "../../lib/client";
import { language, wholeTime } from "../../lib/format";
import { dayOf } from "../../lib/report/month-days";
import { link } from "../../lib/router.svelte";

/** What runs by itself in this week and the next two, day by day. */
let { reports, today }: { reports: readonly ReportSummary[]; today: Date } = $props();

/** Whole weeks that hold the next fourteen days, whichever day it is. */
const DAYS = 21;
const days = $derived.by(() => {
  const monday = new Date(today.getFullYear(), today.getMonth(), today.getDate() - ((today.getDay() + 6) % 7));
  return Array.from(
    { length: DAYS },
    (_, at) => new Date(monday.getFullYear(), monday.getMonth(), monday.getDate() + at),
  );
});
const times = $derived(
  reports
    .flatMap((report) => report.nextTimes.map(({ at }) => ({ report, at: new Date(at) })))
    .sort((one, other) => one.at.getTime() - other.at.getTime()),
);
const on = (day: Date) => times.filter(({ at }) => dayOf(at) === dayOf(day));
const listed = $derived(times.filter(({ at }) => at < new Date((days.at(-1)?.getTime() ?? 0) + 86_400_000)));
const later = $derived(times.find(({ at }) => !listed.some((one) => one.at === at)));
const dayName = new Intl.DateTimeFormat(language, { weekday: "short" });
const clock = new Intl.DateTimeFormat(language, { hour: "2-digit", minute: "2-digit" });
</script>

<section aria-label="What comes in the next two weeks">
  <h2>What comes</h2>
  <table>
    <thead><tr>{#each days.slice(0, 7) as day}<th scope="col">{dayName.format(day)}</th>{/each}</tr></thead>
    <tbody>
      {#each [0, 7, 14] as from}
        <tr>
          {#each days.slice(from, from + 7) as day}
            {@const own = on(day)}
            <td class:today={dayOf(day) === dayOf(today)} class:past={day < today && dayOf(day) !== dayOf(today)}>
              <span class="date">{day.getDate()}</span>
              {#if own.length > 0}<span class="runs" title={own.map(({ report, at }) => `${report.title}, ${wholeTime(at.toISOString())}`).join("\n")}>{own.length}</span>{/if}
            </td>
          {/each}
        </tr>
      {/each}
    </tbody>
  </table>
  {#if listed.length > 0}
    <ul>{#each listed.slice(0, 6) as { report, at }}<li><span class="soft">{dayName.format(at)} {at.getDate()}, {clock.format(at)}</span> <a href={link("reports", report.name)}>{report.title}</a></li>{/each}</ul>
    {#if listed.length > 6}<p class="soft">and {listed.length - 6} more</p>{/if}
  {:else if later}<p class="soft">Nothing by itself in these weeks; next is <a href={link("reports", later.report.name)}>{later.report.title}</a>, {wholeTime(later.at.toISOString())}.</p>
  {:else}<p class="soft">Nothing runs by itself. A report's schedule is set under When and how.</p>{/if}
</section>

<style>
  table { width: 100%; border-collapse: collapse; table-layout: fixed; font-size: 0.75rem; font-variant-numeric: tabular-nums; background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); }
  th { font-weight: 400; color: var(--corbix-soft); padding: 0.3rem 0; text-align: center; }
  td { height: 2.4rem; border: 1px solid var(--cds-ui-03); text-align: center; vertical-align: middle; }
  .today { box-shadow: inset 0 0 0 2px #d0782f; }
  .past { color: var(--corbix-soft); background: var(--cds-ui-01); }
  .date { display: block; line-height: 1rem; }
  .runs { display: inline-block; min-width: 1.1rem; line-height: 1.1rem; border-radius: 0.6rem; background: var(--cds-interactive-01); color: var(--cds-text-04); font-weight: 600; }
  ul { display: grid; gap: 0.4rem; margin-top: 0.6rem; font-size: 0.875rem; line-height: 1.25rem; }
  li { display: grid; grid-template-columns: 6rem 1fr; }
  li :global(.soft) { font-size: inherit; }
</style>
