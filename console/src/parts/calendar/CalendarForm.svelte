<script lang="ts">
import { Button, Checkbox, FileUploaderButton, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { Close } from "carbon-icons-svelte";
import { type CalendarForm, type DayOff, merged, type OwnPeriod, WEEKDAYS, type Weekday } from "../../lib/calendar";
import { api, type Problem } from "../../lib/client";
import { plural } from "../../lib/format";
import { scrollable } from "../../lib/scrollable";
import { weekdayName } from "../../lib/weekdays";
import FiscalFields from "./FiscalFields.svelte";

/** What a calendar says: its week, its days off, fiscal years and periods of its own. */
let { form = $bindable(), onproblem }: { form: CalendarForm; onproblem: (problem: Problem | undefined) => void } =
  $props();
let files = $state<File[]>([]);
let brought = $state<string>();

const stateOf = (day: Weekday): string =>
  form.half.includes(day) ? "half" : form.working.includes(day) ? "work" : "off";
function setDay(day: Weekday, to: string): void {
  const without = (list: readonly Weekday[]) => list.filter((one) => one !== day);
  const inOrder = (list: readonly Weekday[]) => WEEKDAYS.filter((one) => list.includes(one));
  const working = to === "off" ? without(form.working) : inOrder([...form.working, day]);
  if (working.length === 0) return;
  form.working = working;
  form.half = to === "half" ? inOrder([...form.half, day]) : without(form.half);
}

$effect(() => {
  const [file] = files;
  if (!file) return;
  files = [];
  void bring(file);
});

async function bring(file: File): Promise<void> {
  onproblem(undefined);
  try {
    const found = await api.post("/calendar-files", { query: { file: file.name }, body: file });
    const off = found.off as unknown as DayOff[];
    const periods = found.periods as unknown as OwnPeriod[];
    const before = form.off.length + form.periods.length;
    form.off = merged(form.off, off, (one) => `${one.day} ${one.until ?? ""}`);
    form.periods = merged(form.periods, periods, (one) => one.from);
    const added = form.off.length + form.periods.length - before;
    brought = `${file.name}: ${plural(off.length, ["# day off", "# days off"])}, ${plural(periods.length, ["# period", "# periods"])}; ${plural(added, ["# is new", "# are new"])}.`;
  } catch (error) {
    onproblem(error as Problem);
  }
}
</script>

<TextInput labelText="Title" bind:value={form.title} />
<h2>The week</h2>
<div class="week">
  {#each WEEKDAYS as day (day)}
    <Select size="sm" labelText={weekdayName(day, "long")} selected={stateOf(day)} on:update={({ detail }) => { if (detail !== stateOf(day)) setDay(day, String(detail)); }}>
      <SelectItem value="work" text="worked" /><SelectItem value="half" text="half a day" /><SelectItem value="off" text="off" />
    </Select>
  {/each}
</div>
<h2>Days off</h2>
<div class="row">
  <FileUploaderButton size="small" kind="tertiary" labelText="From a file" accept={[".ics", ".csv", ".xlsx", ".ods"]} bind:files disableLabelChanges />
  <Button size="small" kind="ghost" on:click={() => { form.off = [...form.off, { day: "", name: "" }]; }}>Add a day</Button>
  <span class="soft">{brought ?? "Public holidays as iCalendar (.ics), or a table with Day and Name, or From, To, Key and Label for periods."}</span>
</div>
{#if form.off.length > 0}
  <div class="wide" use:scrollable data-scrolls="Days off"><table class="days">
    <thead><tr><th>Day</th><th>Until</th><th>Name</th><th>Half</th><th></th></tr></thead>
    <tbody>
      {#each form.off as one, at}
        <tr>
          <td><TextInput size="sm" hideLabel labelText={`Day ${at + 1}`} placeholder="2026-04-03 or 12-25" bind:value={one.day} /></td>
          <td><TextInput size="sm" hideLabel labelText={`Until, ${at + 1}`} placeholder="one day" bind:value={() => one.until ?? "", (value) => { one.until = value || undefined; }} /></td>
          <td><TextInput size="sm" hideLabel labelText={`Name ${at + 1}`} bind:value={() => one.name ?? "", (value) => { one.name = value || undefined; }} /></td>
          <td><Checkbox hideLabel labelText={`Half a day ${at + 1}`} bind:checked={() => one.half ?? false, (value) => { one.half = value; }} /></td>
          <td><Button size="small" kind="ghost" icon={Close} iconDescription={`Take out ${one.name ?? one.day}`} tooltipAlignment="end" on:click={() => { form.off = form.off.filter((_, other) => other !== at); }} /></td>
        </tr>
      {/each}
    </tbody>
  </table></div>
{/if}
<h2>Fiscal years</h2>
<FiscalFields bind:form />
<h2>Periods of its own</h2>
<div class="row"><Button size="small" kind="ghost" on:click={() => { form.periods = [...form.periods, { from: "", to: "" }]; }}>Add a period</Button><span class="soft">Seasons, campaigns, whatever falls in no other way; in order, without overlaps.</span></div>
{#if form.periods.length > 0}
  <div class="wide" use:scrollable data-scrolls="Periods of its own"><table>
    <thead><tr><th>From</th><th>To</th><th>Key</th><th>Label</th><th></th></tr></thead>
    <tbody>
      {#each form.periods as one, at}
        <tr>
          <td><TextInput size="sm" hideLabel labelText={`From ${at + 1}`} placeholder="2026-01-10" bind:value={one.from} /></td>
          <td><TextInput size="sm" hideLabel labelText={`To ${at + 1}`} placeholder="2026-04-05" bind:value={one.to} /></td>
          <td><TextInput size="sm" hideLabel labelText={`Key ${at + 1}`} placeholder="its first day" bind:value={() => one.key ?? "", (value) => { one.key = value || undefined; }} /></td>
          <td><TextInput size="sm" hideLabel labelText={`Label ${at + 1}`} bind:value={() => one.label ?? "", (value) => { one.label = value || undefined; }} /></td>
          <td><Button size="small" kind="ghost" icon={Close} iconDescription={`Take out ${one.label ?? one.from}`} tooltipAlignment="end" on:click={() => { form.periods = form.periods.filter((_, other) => other !== at); }} /></td>
        </tr>
      {/each}
    </tbody>
  </table></div>
{/if}

<style>
  .week { display: grid; grid-template-columns: repeat(auto-fill, minmax(7.5rem, 1fr)); gap: 0.5rem 0.75rem; }
  .wide { overflow-x: auto; max-height: 22rem; }
  table { width: 100%; border-collapse: collapse; font-size: 0.875rem; }
  th { text-align: left; font-weight: 600; padding: 0.25rem 0.5rem; }
  td { padding: 0.15rem 0.25rem; vertical-align: middle; min-width: 7.75rem; }
  td:nth-child(3) { width: 60%; }
  td:last-child, .days td:nth-child(4) { min-width: 2.5rem; width: 2.5rem; }
  .days td:nth-child(4) :global(.bx--form-item.bx--checkbox-wrapper) { margin: 0; }
  .row { display: flex; flex-wrap: wrap; align-items: center; gap: 0.5rem; }
  h2 { margin: 0.75rem 0 0.25rem; }
</style>
