<script lang="ts">
import { Button } from "carbon-components-svelte";
import type { ScheduledTime } from "../../lib/client";
import { day as dayText, plural, wholeTime } from "../../lib/format";
import { dayOf, monthsFrom } from "../../lib/report/month-days";
import MonthTable from "../common/MonthTable.svelte";

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
function about(day: string) {
  const at = days.get(day);
  if (at) return { look: "runs", says: `Runs ${wholeTime(at.toISOString())}` } as const;
  return left.has(day) ? ({ look: "left", says: `Off: ${left.get(day) ?? "not worked"}` } as const) : undefined;
}
</script>

<div class="times">
  {#each months as month (month.key)}
    <MonthTable {month} {about} />
  {/each}
  <div>
    <p class="soft">The next times, in your time zone:</p>
    <ol aria-label="Next times">{#each shown as { at, movedFrom } (at)}<li>{wholeTime(at)}{#if movedFrom}<span class="soft moved">in place of {dayText(movedFrom.day)}{movedFrom.name ? `, ${movedFrom.name}` : ""}</span>{/if}</li>{/each}</ol>
    {#if times.length > FIRST_TIMES}<Button size="small" kind="ghost" on:click={() => { isWhole = !isWhole; }}>{isWhole ? "Fewer" : plural(times.length, ["All # of a year", "All # of a year"])}</Button>{/if}
  </div>
</div>

<style>
  .times { display: flex; flex-wrap: wrap; gap: 0.75rem 1.5rem; margin: 0.5rem 0 0.75rem; }
  .moved { margin-left: 0.4rem; }
  ol { max-height: 22rem; overflow-y: auto; padding-right: 0.5rem; list-style: decimal; padding-left: 1.6rem; font-size: 0.875rem; }
</style>
