<script lang="ts">
import { Button } from "carbon-components-svelte";
import { asSent, type CalendarForm, type CalendarYear } from "../../lib/calendar";
import { api, type Problem } from "../../lib/client";
import { day as dayText, language, plural } from "../../lib/format";
import { monthsOfYear } from "../../lib/report/month-days";
import MonthTable from "../common/MonthTable.svelte";

/** A year as a calendar has it: days off by colour and by name, and the periods that lie in it. */
let {
  form,
  year = $bindable(),
  onproblem,
}: {
  form: CalendarForm;
  year: number;
  onproblem: (problem: Problem | undefined) => void;
} = $props();
let shown = $state<CalendarYear>();
let asked = 0;

$effect(() => {
  const body = asSent($state.snapshot(form) as CalendarForm);
  const of = year;
  const mine = ++asked;
  const timer = setTimeout(() => {
    api.post("/calendar-years/{year}", { path: { year: of }, body: { ...body, title: body.title || "-" } }).then(
      (found) => {
        if (mine !== asked) return;
        shown = found;
        onproblem(undefined);
      },
      (error) => {
        if (mine === asked) onproblem(error as Problem);
      },
    );
  }, 250);
  return () => clearTimeout(timer);
});

const notes = $derived(new Map((shown?.days ?? []).map((one) => [one.day, one])));
const named = $derived((shown?.days ?? []).filter(({ name }) => name !== null));
const months = $derived(monthsOfYear(year));
const shortDay = (iso: string): string =>
  new Intl.DateTimeFormat(language, { dateStyle: "medium", timeZone: "UTC" }).format(new Date(`${iso}T00:00:00Z`));
const KINDS: Readonly<Record<string, string>> = {
  "fiscal-year": "Fiscal years",
  "fiscal-quarter": "Fiscal quarters",
  "fiscal-month": "Fiscal months",
  own: "Periods of its own",
};
const kinds = $derived([...new Set((shown?.periods ?? []).map(({ kind }) => kind))]);
function about(day: string) {
  const note = notes.get(day);
  if (!note) return undefined;
  const look = note.half ? (note.name ? "named half" : "half") : note.name ? "named off" : "off";
  return { look, says: note.half ? `${note.name ?? "half a day"} (half a day)` : (note.name ?? "not worked") } as const;
}
</script>

<div class="head">
  <h2>{year}</h2>
  <Button size="small" kind="ghost" on:click={() => { year -= 1; }}>Year before</Button>
  <Button size="small" kind="ghost" on:click={() => { year += 1; }}>Year after</Button>
  <span class="soft key"><i class="off"></i> off <i class="half"></i> half a day <i class="named"></i> has a name</span>
</div>
<div class="months">
  {#each months as month (month.key)}<MonthTable {month} width="month" {about} />
  {/each}
</div>
{#if named.length > 0}
  <h3>{plural(named.length, ["# named day", "# named days"])}</h3>
  <ul>{#each named as one (one.day)}<li><span>{dayText(one.day)}</span> {one.name}{#if one.half}<span class="soft">, half a day</span>{/if}</li>{/each}</ul>
{/if}
{#each kinds as kind}
  <h3>{KINDS[kind] ?? kind}</h3>
  <ul>{#each (shown?.periods ?? []).filter((one) => one.kind === kind) as one (one.key)}<li><span>{one.label}</span> {shortDay(one.from)} – {shortDay(one.to)}{#if one.key !== one.label} <span class="soft">{one.key}</span>{/if}</li>{/each}</ul>
{/each}

<style>
  .head { display: flex; flex-wrap: wrap; align-items: center; gap: 0.25rem 0.5rem; }
  .head h2 { margin: 0 0.5rem 0 0; }
  .key { display: inline-flex; align-items: center; gap: 0.3rem; font-size: 0.75rem; margin-left: auto; }
  .key i { display: inline-block; width: 0.9rem; height: 0.9rem; border: 1px solid var(--cds-ui-03); margin-left: 0.5rem; }
  .months { display: grid; grid-template-columns: repeat(auto-fill, minmax(11.5rem, 1fr)); gap: 0.75rem 1rem; margin: 0.75rem 0; }
  .off { background: var(--cds-ui-03); }
  .half { background: linear-gradient(135deg, var(--cds-ui-03) 50%, transparent 50%); }
  .named { box-shadow: inset 0 -2px 0 var(--cds-interactive-01); }
  h3 { font-size: 0.875rem; font-weight: 600; margin: 0.75rem 0 0.25rem; }
  ul { columns: 18rem; font-size: 0.8125rem; }
  li { padding: 0.1rem 0; break-inside: avoid; overflow-wrap: anywhere; }
  li > span:first-child { display: inline-block; min-width: 9rem; font-variant-numeric: tabular-nums; }
</style>
