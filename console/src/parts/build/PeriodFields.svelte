<script lang="ts">
import { Select, SelectItem } from "carbon-components-svelte";
import { knownCalendars } from "../../lib/calendars.svelte";
import type { Column } from "../../lib/client";
import { meant } from "../../lib/report/choices";
import type { Draft } from "../../lib/report/draft.svelte";
import { PERIOD_WORDS, periodKinds } from "../../lib/report/period-kinds";

/** Which periods a report is for, and what says which rows are of one. */
let { draft, columns }: { draft: Draft; columns: readonly Column[] } = $props();
interface Period {
  column?: string;
  every?: string;
  calendar?: string;
  take?: string;
}
const days = $derived(columns.filter(({ type }) => type === "date" || type === "datetime"));
const period = $derived(draft.get(["period"]) as Period | undefined);
const column = $derived(
  meant(
    period?.column ?? "",
    days.map(({ name }) => name),
  ) ?? period?.column,
);
/** A value that is no column's name. */
const OF_THE_RUN = " the day of the run";
const day = $derived(period ? (column ?? OF_THE_RUN) : "");
const known = knownCalendars();
const calendars = $derived(known.all);
const calendar = $derived(calendars.find((one) => one.name === period?.calendar));

function chooseDay(chosen: string): void {
  if (chosen === "") draft.set(["period"], undefined);
  else if (!period) draft.set(["period"], { ...(chosen === OF_THE_RUN ? {} : { column: chosen }), every: "month" });
  else draft.set(["period", "column"], chosen === OF_THE_RUN ? undefined : chosen);
}
</script>

<div class="pair">
  <Select size="sm" labelText="The day of a row" selected={day} on:update={({ detail }) => { if (detail !== day) chooseDay(String(detail)); }}>
    <SelectItem value="" text="no period: all rows each time" />
    <SelectItem value={OF_THE_RUN} text="all rows; the day of the run says the period" />
    {#if column !== undefined && !days.some(({ name }) => name === column)}<SelectItem value={column} text={column} />{/if}
    {#each days as one (one.name)}<SelectItem value={one.name} text={one.name} />{/each}
  </Select>
  {#if period}
    {@const every = period.every ?? "month"}
    {@const take = period.take ?? "over"}
    <Select size="sm" labelText="A report for each" selected={every} on:update={({ detail }) => { if (detail !== every) draft.set(["period", "every"], String(detail)); }}>
      {#each periodKinds(calendar, every) as one (one)}<SelectItem value={one} text={PERIOD_WORDS[one] ?? one} />{/each}
    </Select>
    <Select size="sm" labelText="Fiscal years and own periods of" selected={period.calendar ?? ""} on:update={({ detail }) => { if (detail !== (period.calendar ?? "")) draft.set(["period", "calendar"], String(detail) || undefined); }}>
      <SelectItem value="" text="no calendar" />
      {#each [...new Set([...calendars.filter((one) => one.fiscal || one.periods > 0).map((one) => one.name), ...(period.calendar ? [period.calendar] : [])])] as one (one)}<SelectItem value={one} text={calendars.find(({ name }) => name === one)?.title ?? one} />{/each}
    </Select>
    <Select size="sm" labelText="Where nobody names one, it is for" selected={take} on:update={({ detail }) => { if (detail !== take) draft.set(["period", "take"], detail === "over" ? undefined : String(detail)); }}>
      <SelectItem value="over" text="the earliest that is over and not delivered" />
      <SelectItem value="running" text="the one that is running" />
      <SelectItem value="next" text="the next one" />
    </Select>
  {/if}
</div>

<style>
  .pair { display: grid; grid-template-columns: 1fr 1fr; gap: 0.75rem 1rem; }
  @media (max-width: 40rem) { .pair { grid-template-columns: 1fr; } }
</style>
