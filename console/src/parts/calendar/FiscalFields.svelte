<script lang="ts">
import { Select, SelectItem, TextInput } from "carbon-components-svelte";
import { type CalendarForm, type Fiscal, type Labels, WEEKDAYS, type Weekday } from "../../lib/calendar";
import { language } from "../../lib/format";
import { weekdayName } from "../../lib/weekdays";

/** How fiscal years fall: calendar months from any month on, or whole weeks. */
let { form = $bindable() }: { form: CalendarForm } = $props();
const fiscal = $derived(form.fiscal);
const kind = $derived(!fiscal ? "none" : "begins" in fiscal ? "months" : "weeks");
const USUAL: Labels = { year: "FY {year}", quarter: "FY {year} Q{number}", month: "FY {year} M{number}" };
const labels = $derived(fiscal?.labels ?? USUAL);
const monthName = (month: number): string =>
  new Intl.DateTimeFormat(language, { month: "long" }).format(new Date(2026, month - 1, 15));
const MONTHS = Array.from({ length: 12 }, (_, at) => at + 1);

function choose(next: string): void {
  const kept = { named: fiscal?.named ?? ("end" as const), labels };
  if (next === "none") form.fiscal = undefined;
  else if (next === "months") form.fiscal = { begins: 4, ...kept };
  else form.fiscal = { weeks: "4-4-5", ends: "SA", near: "last", month: 12, ...kept };
}
const change = (more: Partial<Record<string, unknown>>): void => {
  form.fiscal = { ...(fiscal as object), ...more } as Fiscal;
};
</script>

<div class="fields">
  <Select size="sm" labelText="Fiscal years" selected={kind} on:update={({ detail }) => { if (detail !== kind) choose(String(detail)); }}>
    <SelectItem value="none" text="none" />
    <SelectItem value="months" text="of calendar months" />
    <SelectItem value="weeks" text="of whole weeks, 52 or 53" />
  </Select>
  {#if fiscal}
    {#if "begins" in fiscal}
      <Select size="sm" labelText="Begins with" selected={String(fiscal.begins)} on:update={({ detail }) => { if (Number(detail) !== fiscal.begins) change({ begins: Number(detail) }); }}>
        {#each MONTHS as month (month)}<SelectItem value={String(month)} text={monthName(month)} />{/each}
      </Select>
    {:else}
      <Select size="sm" labelText="Weeks of a quarter's months" selected={fiscal.weeks} on:update={({ detail }) => { if (detail !== fiscal.weeks) change({ weeks: detail }); }}>
        {#each ["4-4-5", "4-5-4", "5-4-4"] as one (one)}<SelectItem value={one} text={one} />{/each}
      </Select>
      <Select size="sm" labelText="Ends on a" selected={fiscal.ends} on:update={({ detail }) => { if (detail !== fiscal.ends) change({ ends: detail }); }}>
        {#each WEEKDAYS as one (one)}<SelectItem value={one} text={weekdayName(one as Weekday, "long")} />{/each}
      </Select>
      <Select size="sm" labelText="Which of them" selected={fiscal.near} on:update={({ detail }) => { if (detail !== fiscal.near) change({ near: detail }); }}>
        <SelectItem value="last" text="the last in the month" />
        <SelectItem value="nearest" text="the one nearest to the month's end" />
      </Select>
      <Select size="sm" labelText="In the month" selected={String(fiscal.month)} on:update={({ detail }) => { if (Number(detail) !== fiscal.month) change({ month: Number(detail) }); }}>
        {#each MONTHS as month (month)}<SelectItem value={String(month)} text={monthName(month)} />{/each}
      </Select>
    {/if}
    <Select size="sm" labelText="Called after the year it" selected={fiscal.named} on:update={({ detail }) => { if (detail !== fiscal.named) change({ named: detail }); }}>
      <SelectItem value="end" text="ends in" />
      <SelectItem value="begin" text="begins in" />
    </Select>
    {#each [["year", "A year is called"], ["quarter", "A quarter is called"], ["month", "A month is called"]] as const as [field, label] (field)}
      <TextInput size="sm" labelText={label} value={labels[field]} on:change={(event) => change({ labels: { ...labels, [field]: String((event as CustomEvent).detail ?? "") || USUAL[field] } })} />
    {/each}
  {/if}
</div>

<style>
  .fields { display: grid; grid-template-columns: repeat(auto-fill, minmax(13rem, 1fr)); gap: 0.75rem 1rem; }
</style>
