<script lang="ts">
import {
  Checkbox,
  InlineLoading,
  Modal,
  RadioButton,
  RadioButtonGroup,
  Select,
  SelectItem,
  TextInput,
} from "carbon-components-svelte";
import { untrack } from "svelte";
import { allOf, api, once, type PeriodOfReport, type Problem, type Prospect } from "../../lib/client";
import { plural, time, word } from "../../lib/format";
import { go } from "../../lib/router.svelte";
import { stateWord } from "../../lib/states";
import Trouble from "../common/Trouble.svelte";
import PickGroups from "./PickGroups.svelte";
import ProspectNote from "./ProspectNote.svelte";

/** Starting a run of a saved report, or a rehearsal that comes to one address alone: which period and groups, and what it will do. */
let {
  isOpen = $bindable(),
  report,
  rehearses,
  edition,
  wanted,
}: {
  isOpen: boolean;
  report: string;
  /** Whether a rehearsal is asked for; else a report that never ran is rehearsed first. */
  rehearses: boolean;
  /** Chosen with the data; the newest without one. */
  edition: number | undefined;
  /** The period to begin with, such as that of a run which is run again. */
  wanted?: string | undefined;
} = $props();

const KEY = "corbix-rehearsal-address";
let periods = $state<PeriodOfReport[]>();
let period = $state("");
let prospect = $state<Prospect>();
let address = $state(localStorage.getItem(KEY) ?? "");
let isRehearsal = $state(false);
let wasRun = $state(true);
let isPart = $state(false);
let groups = $state<string[]>([]);
let isAgain = $state(false);
let reason = $state("");
let problem = $state<Problem>();
const of = $derived({ ...(period === "" ? {} : { period }), ...(edition === undefined ? {} : { edition }) });

$effect(() => {
  if (isOpen) untrack(() => void begin());
});

async function begin(): Promise<void> {
  [isRehearsal, isPart, groups, isAgain, reason] = [rehearses, false, [], false, ""];
  [period, periods, prospect, problem] = ["", undefined, undefined, undefined];
  try {
    const query = edition === undefined ? {} : { edition };
    const [found, runs] = await Promise.all([
      allOf(api.all("/reports/{name}/periods", { path: { name: report }, query })),
      api.get("/runs", { query: { report, limit: 1 } }),
    ]);
    wasRun = runs.items.length > 0;
    if (!wasRun) isRehearsal = true;
    const same = found.find(({ key }) => key === wanted);
    [periods, period] = [found, (same ?? nextOf(found))?.key ?? found[0]?.key ?? ""];
  } catch (error) {
    problem = error as Problem;
  }
}

/** What is due is run; a report that never delivered begins with the newest, one that has nothing due shows its last. */
function nextOf(found: readonly PeriodOfReport[]): PeriodOfReport | undefined {
  const isBegun = found.some(({ state }) => state === "delivered");
  const due = found.find(({ state, isNext }) => (isBegun ? isNext : state === "open"));
  return due ?? found.find(({ state }) => state !== "running");
}

let asked = 0;
$effect(() => {
  const query = { ...of, limit: 1_000 };
  if (!isOpen || !periods) return;
  const mine = ++asked;
  untrack(() => {
    prospect = undefined;
    api.get("/reports/{name}/prospect", { path: { name: report }, query }).then(
      (found) => {
        if (mine === asked) prospect = found;
      },
      (error: Problem) => {
        if (mine === asked) problem = error;
      },
    );
  });
});

// @wc-ignore
const UNDER_WAY = "under way";

function said({ label, state, rows, run }: PeriodOfReport): string {
  const became = {
    open: word("open"),
    delivered: `released ${time(run?.releasedAt ?? null)}`,
    [UNDER_WAY]: `${stateWord(run?.state ?? "")} as run ${run?.id ?? ""}`,
    early: "before the schedule began",
    running: "not over yet",
  }[state];
  return `${label}: ${became}, ${plural(rows, ["# row", "# rows"])}`;
}

const cannot = $derived(
  (isRehearsal && address.trim() === "") ||
    (isPart && groups.length === 0) ||
    (isAgain && !isRehearsal && reason.trim().length < 3),
);

async function start(): Promise<void> {
  problem = undefined;
  if (isRehearsal) localStorage.setItem(KEY, address);
  try {
    const run = await api.post("/runs", {
      body: {
        report,
        ...of,
        ...(isRehearsal ? { rehearsalTo: address.trim() } : {}),
        ...(isPart ? { groups } : {}),
        ...(isAgain && !isRehearsal ? { again: reason.trim() } : {}),
      },
      ...once(),
    });
    isOpen = false;
    go("runs", run.id);
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<Modal iconDescription="Close the dialog" bind:open={isOpen} hasForm size="sm" modalHeading={isRehearsal ? "Rehearse this report" : "Run this report"} primaryButtonText={isRehearsal ? "Rehearse" : "Run"} primaryButtonDisabled={cannot} secondaryButtonText="Cancel" on:click:button--secondary={() => { isOpen = false; }} on:submit={start}>
  <div class="fields">
    <Trouble {problem} />
    {#if isOpen && !periods && !problem}<InlineLoading description="Looking what is due …" />{/if}
    {#if periods}
      <RadioButtonGroup legendText="It goes" selected={isRehearsal ? "me" : "people"} on:change={({ detail }) => { isRehearsal = detail === "me"; }}>
        <RadioButton labelText="to me alone, as a rehearsal" value="me" /><RadioButton labelText="to its people" value="people" />
      </RadioButtonGroup>
      {#if !wasRun && !isRehearsal}<p class="soft">This report has never run. A rehearsal first shows you all of it, and nobody else.</p>{/if}
      {#if isRehearsal}<TextInput labelText="Rehearse to" placeholder="me@lifts.example" helperText="Everything is made and sent for real, but only there." bind:value={address} />{/if}
      {#if periods.length > 0}
        <Select labelText="Period" selected={period} on:update={({ detail }) => { if (detail !== period) period = String(detail); }}>
          {#each periods as one (one.key)}<SelectItem value={one.key} text={said(one)} />{/each}
        </Select>
      {/if}
      {#if edition !== undefined}<p class="soft">Of edition {edition} of the data.</p>{/if}
      <Checkbox labelText="Only some groups" bind:checked={isPart} />
      {#if isPart}<PickGroups {report} {of} chosen={groups} onchange={(next) => { groups = next; }} />{/if}
      {#if prospect}
        {#if isPart}<p class="soft" role="status">{groups.length === 0 ? "Tick the groups." : `Only ${groups.slice(0, 6).join(", ")}${groups.length > 6 ? ` and ${groups.length - 6} more` : ""}.`}</p>
        {:else}<ProspectNote {prospect} rehearses={isRehearsal} {isAgain} />{/if}
        {#if !isRehearsal && prospect.counts.had + prospect.counts.some > 0}
          <Checkbox labelText="Send it again to those who have it" bind:checked={isAgain} />
          {#if isAgain}<TextInput labelText="Why" placeholder="the fees were corrected" helperText="It is marked as sent again, and kept with the run." bind:value={reason} />{/if}
        {/if}
      {:else if !problem}<InlineLoading description="Looking who would get what …" />{/if}
    {/if}
  </div>
</Modal>

<style>
  .fields { display: grid; grid-template-columns: minmax(0, 1fr); gap: 1rem; }
  .fields :global(.bx--form-item) { min-width: 0; }
</style>
