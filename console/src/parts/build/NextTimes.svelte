<script lang="ts">
import { language, wholeTime } from "../../lib/format";
import { dayOf, monthsFrom } from "../../lib/report/month-days";

/** The next times of a schedule, on a small calendar and in words. */
let { times }: { times: readonly string[] } = $props();
const SHOWN_MONTHS = 2;
const moments = $derived(times.map((one) => new Date(one)));
const days = $derived(new Map(moments.map((one) => [dayOf(one), one])));
const months = $derived(moments[0] ? monthsFrom(moments[0], SHOWN_MONTHS) : []);
const monthName = (key: string): string =>
  new Intl.DateTimeFormat(language, { month: "long", year: "numeric" }).format(new Date(`${key}-15T12:00:00`));
const keyOf = (month: string, day: number): string => `${month}-${String(day).padStart(2, "0")}`;
</script>

<div class="times">
  {#each months as month (month.key)}
    <table>
      <caption>{monthName(month.key)}</caption>
      <thead><tr>{#each ["M", "T", "W", "T", "F", "S", "S"] as name}<th scope="col">{name}</th>{/each}</tr></thead>
      <tbody>
        {#each month.weeks as week}
          <tr>{#each week as day}{@const at = day === undefined ? undefined : days.get(keyOf(month.key, day))}<td class:runs={at !== undefined} title={at ? `Runs ${wholeTime(at.toISOString())}` : undefined}>{day ?? ""}</td>{/each}</tr>
        {/each}
      </tbody>
    </table>
  {/each}
  <div>
    <p class="soft">The next times, in your time zone:</p>
    <ol aria-label="Next times">{#each times.slice(0, 6) as at}<li>{wholeTime(at)}</li>{/each}</ol>
  </div>
</div>

<style>
  .times { display: flex; flex-wrap: wrap; gap: 0.75rem 1.5rem; margin: 0.5rem 0 0.75rem; }
  table { border-collapse: collapse; font-size: 0.75rem; font-variant-numeric: tabular-nums; align-self: start; }
  caption { font-weight: 600; text-align: left; padding-bottom: 0.2rem; }
  th { color: var(--corbix-soft); font-weight: 400; }
  th, td { width: 1.6rem; height: 1.45rem; line-height: 1.45rem; padding: 0; text-align: center; vertical-align: middle; }
  .runs { background: var(--cds-interactive-01); color: var(--cds-text-04); border-radius: 0.75rem; font-weight: 600; }
  ol { list-style: decimal; margin-left: 1.2rem; font-size: 0.875rem; }
</style>
