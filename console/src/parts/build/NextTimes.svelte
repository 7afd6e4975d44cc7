<script lang="ts">
import { Button } from "carbon-components-svelte";
import type { ScheduledTime } from "../../lib/client";
import { day as dayText, language, plural, wholeTime } from "../../lib/format";
import { dayOf, monthsFrom } from "../../lib/report/month-days";

/** The next times of a schedule, on a small calendar and in words. */
let { times }: { times: readonly ScheduledTime[] } = $props();
const SHOWN_MONTHS = 3;
const FIRST_TIMES = 6;
let isWhole = $state(false);
const shown = $derived(isWhole ? times : times.slice(0, FIRST_TIMES));
const moments = $derived(times.map(({ at }) => new Date(at)));
/** Days off that a time was moved from. */
const left = $derived(new Map(times.flatMap(({ movedFrom }) => (movedFrom ? [[movedFrom.day, movedFrom.name]] : []))));
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
          <tr>{#each week as day}{@const at = day === undefined ? undefined : days.get(keyOf(month.key, day))}{@const off = day === undefined ? undefined : keyOf(month.key, day)}<td class:runs={at !== undefined} class:left={off !== undefined && left.has(off)} title={at ? `Runs ${wholeTime(at.toISOString())}` : off !== undefined && left.has(off) ? `Off: ${left.get(off) ?? "not worked"}` : undefined}>{day ?? ""}</td>{/each}</tr>
        {/each}
      </tbody>
    </table>
  {/each}
  <div>
    <p class="soft">The next times, in your time zone:</p>
    <ol aria-label="Next times">{#each shown as { at, movedFrom } (at)}<li>{wholeTime(at)}{#if movedFrom}<span class="soft moved">in place of {dayText(movedFrom.day)}{movedFrom.name ? `, ${movedFrom.name}` : ""}</span>{/if}</li>{/each}</ol>
    {#if times.length > FIRST_TIMES}<Button size="small" kind="ghost" on:click={() => { isWhole = !isWhole; }}>{isWhole ? "Fewer" : plural(times.length, ["All # of a year", "All # of a year"])}</Button>{/if}
  </div>
</div>

<style>
  .times { display: flex; flex-wrap: wrap; gap: 0.75rem 1.5rem; margin: 0.5rem 0 0.75rem; }
  table { border-collapse: collapse; font-size: 0.75rem; font-variant-numeric: tabular-nums; align-self: start; }
  caption { font-weight: 600; text-align: left; padding-bottom: 0.2rem; }
  th { color: var(--corbix-soft); font-weight: 400; }
  th, td { width: 1.6rem; height: 1.45rem; line-height: 1.45rem; padding: 0; text-align: center; vertical-align: middle; }
  .runs { background: var(--cds-interactive-01); color: var(--cds-text-04); border-radius: 0.75rem; font-weight: 600; }
  .left { outline: 1px dashed var(--corbix-soft); outline-offset: -3px; }
  .moved { margin-left: 0.4rem; }
  ol { max-height: 22rem; overflow-y: auto; padding-right: 0.5rem; list-style: decimal; padding-left: 1.6rem; font-size: 0.875rem; }
</style>
