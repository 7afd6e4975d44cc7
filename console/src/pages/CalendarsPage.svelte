<script lang="ts">
import { Button, TextInput } from "carbon-components-svelte";
import { untrack } from "svelte";
import { asSent, BLANK, type CalendarSummary, type CalendarForm as Form } from "../lib/calendar";
import { allOf, api, matching, Problem } from "../lib/client";
import { plural, time } from "../lib/format";
import { may } from "../lib/rights.svelte";
import { go, link } from "../lib/router.svelte";
import { scrollable } from "../lib/scrollable";
import CalendarForm from "../parts/calendar/CalendarForm.svelte";
import YearView from "../parts/calendar/YearView.svelte";
import Trouble from "../parts/common/Trouble.svelte";

/** Named calendars: which days are off, how fiscal years fall, periods of one's own. */
let { name }: { name: string | undefined } = $props();
let all = $state<CalendarSummary[]>();
let form = $state<Form>();
let etag = $state<string>();
let problem = $state<Problem>();
let formProblem = $state<Problem>();
let savedAs = $state<string>();
let newName = $state("");
let year = $state(new Date().getFullYear());
const text = $derived(form ? JSON.stringify(asSent($state.snapshot(form) as Form)) : "");
const own = $derived(all?.find((one) => one.name === name));

async function load(): Promise<void> {
  try {
    all = await allOf(api.all("/calendars"));
    if (name === undefined) return;
    if (!all.some((one) => one.name === name)) {
      form = { ...structuredClone(BLANK), title: name.charAt(0).toUpperCase() + name.slice(1) };
      return;
    }
    const found = await api.read("/calendars/{name}", { path: { name } });
    etag = found.etag;
    form = { ...structuredClone(BLANK), ...(found.data.definition as unknown as Form) };
    savedAs = JSON.stringify(asSent($state.snapshot(form) as Form));
  } catch (error) {
    problem = error as Problem;
  }
}
$effect(() => {
  void name;
  untrack(() => void load());
});

async function save(): Promise<void> {
  if (!form || name === undefined) return;
  problem = undefined;
  try {
    const body = asSent($state.snapshot(form) as Form);
    await api.put("/calendars/{name}", { path: { name }, body, ...matching(etag) });
    await load();
  } catch (error) {
    problem = error as Problem;
  }
}

async function remove(): Promise<void> {
  if (name === undefined) return;
  try {
    await api.delete("/calendars/{name}", { path: { name } });
    go("calendars");
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<h1>{#if name}<a href={link("calendars")}>Calendars</a> / {form?.title || name}{:else}Calendars{/if}</h1>
<Trouble {problem} />
{#if !name}
  <p class="soft">Which days are worked, how fiscal years fall, and periods of one's own. A report names one for its schedule, or for its periods.</p>
  {#if all && all.length > 0}
    <div class="lines" use:scrollable data-scrolls="Calendars"><table>
      <thead><tr><th>Name</th><th>Title</th><th>Says</th><th>Used by</th><th>Changed</th></tr></thead>
      <tbody>
        {#each all as one (one.name)}
          <tr>
            <td><a href={link("calendars", one.name)}>{one.name}</a></td>
            <td>{one.title}</td>
            <td>{plural(one.daysOff, ["# day off", "# days off"])}{one.fiscal ? ", fiscal years" : ""}{one.periods > 0 ? `, ${plural(one.periods, ["# period of its own", "# periods of its own"])}` : ""}</td>
            <td>{#each one.usedBy as report, at}{at > 0 ? ", " : ""}<a href={link("reports", report, "when")}>{report}</a>{:else}<span class="soft">no report</span>{/each}</td>
            <td>{time(one.changedAt)} <span class="soft">{one.changedBy}</span></td>
          </tr>
        {/each}
      </tbody>
    </table></div>
  {:else if all}<p class="soft none">There is none yet. Without one Monday to Friday are worked, and no day is off.</p>{/if}
  {#if may("saveCalendar")}<div class="row add">
    <TextInput size="sm" labelText="A new calendar" placeholder="office" bind:value={newName} />
    <Button size="small" kind="tertiary" disabled={!/^[a-z][a-z0-9-]*$/.test(newName)} on:click={() => go("calendars", newName)}>Set it up</Button>
  </div>{/if}
{:else if form}
  <div class="both">
    <div class="form">
      <CalendarForm bind:form onproblem={(found) => { problem = found; }} />
      {#if may("saveCalendar")}<div class="row buttons">
        <Button size="field" disabled={text === savedAs || form.title.trim() === "" || formProblem !== undefined} on:click={save}>Save</Button>
        {#if own}<Button size="field" kind="danger-tertiary" on:click={remove}>Delete</Button>{/if}
        <span class="soft">{text === savedAs ? "Saved." : own && own.usedBy.length > 0 ? plural(own.usedBy.length, ["Saving moves the next times of # report.", "Saving moves the next times of # reports."]) : ""}</span>
      </div>{/if}
    </div>
    <div class="year"><Trouble problem={formProblem} /><YearView {form} bind:year onproblem={(found) => { formProblem = found; }} /></div>
  </div>
{/if}

<style>
  .none { margin: 0.75rem 0; }
  .add { align-items: flex-end; max-width: 26rem; margin-top: 0.75rem; }
  .both { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 2rem; align-items: start; margin-top: 0.5rem; }
  .form { display: grid; gap: 0.6rem; min-width: 0; }
  .buttons { margin-top: 0.75rem; align-items: center; }
  .year { min-width: 0; }
  @media (max-width: 75rem) { .both { grid-template-columns: minmax(0, 1fr); } }
</style>
