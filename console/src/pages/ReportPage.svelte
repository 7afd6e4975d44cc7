<script lang="ts">
import { Button, InlineNotification } from "carbon-components-svelte";
import { Undo } from "carbon-icons-svelte";
import { onMount, untrack } from "svelte";
import { allOf, api, type Dataset, type Problem, type Profile } from "../lib/client";
import type { Deed } from "../lib/keep";
import { whenever } from "../lib/live";
import { letWrite } from "../lib/may-write";
import type { Known } from "../lib/report/choices";
import { OpenReport } from "../lib/report/open-report.svelte";
import type { Schema } from "../lib/report/schema";
import { type StepKey, stateOfSteps, stepsFor } from "../lib/report/steps";
import { may } from "../lib/rights.svelte";
import { go, link } from "../lib/router.svelte";
import GroupPanel from "../parts/build/GroupPanel.svelte";
import StepList from "../parts/build/StepList.svelte";
import AskStep from "../parts/build/steps/AskStep.svelte";
import CheckStep from "../parts/build/steps/CheckStep.svelte";
import DataStep from "../parts/build/steps/DataStep.svelte";
import FilesStep from "../parts/build/steps/FilesStep.svelte";
import GroupsStep from "../parts/build/steps/GroupsStep.svelte";
import MessageStep from "../parts/build/steps/MessageStep.svelte";
import PeopleStep from "../parts/build/steps/PeopleStep.svelte";
import RowsStep from "../parts/build/steps/RowsStep.svelte";
import WhenStep from "../parts/build/steps/WhenStep.svelte";
import Trouble from "../parts/common/Trouble.svelte";
import ArchivedNote from "../parts/keep/ArchivedNote.svelte";
import KeepMenu from "../parts/keep/KeepMenu.svelte";
import NewRecord from "../parts/run/NewRecord.svelte";
import StartRun from "../parts/run/StartRun.svelte";

/** A report made in the order of the work: its steps, the work itself, and what one group gets. */
let { name, step }: { name: string; step: string } = $props();
// The page of another report is another page.
const opened = untrack(() => new OpenReport(name));
const { draft } = opened;
let schema = $state<Schema>();
let datasets = $state<Dataset[]>([]);
let templates = $state<string[]>([]);
let identities = $state<string[]>([]);
let profiles = $state(new Map<string, Profile>());
let isRunning = $state(false);
let isRehearsing = $state(false);
let isRecording = $state(false);
const records = $derived(draft.get(["records"]) as { lines?: string } | undefined);
const version = $derived(opened.version);
const saved = $derived(opened.saved);

onMount(async () => {
  try {
    const [found, sets, identity] = await Promise.all([
      api.get("/report-schema"),
      allOf(api.all("/datasets")),
      allOf(api.all("/identities")),
      readTemplates(),
    ]);
    schema = found as Schema;
    datasets = sets;
    identities = identity.map((one) => one.name);
  } catch (error) {
    opened.problem = error as Problem;
  }
});
$effect(() =>
  whenever(
    (event) => event.kind === "report" && event.subject === name,
    () => untrack(() => opened.read()),
    "page",
  ),
);

async function readTemplates(): Promise<void> {
  templates = (await allOf(api.all("/templates"))).map((one) => one.name);
}

$effect(() => opened.keep());

function left(_: Deed, called: string | undefined): void {
  if (called === undefined) go("reports");
  else if (called !== name) go("reports", called, step);
}

const data = $derived(String(draft.get(["data"]) ?? ""));
const dataset = $derived(datasets.find((one) => one.name === data));
const columns = $derived(dataset?.newest?.columns ?? []);
const known = $derived<Known>({
  columns: (draft.look?.columns ?? columns).map((one) => one.name),
  datasets: datasets.map((one) => one.name),
  templates,
  identities,
  files: Object.keys((draft.get(["files"]) ?? {}) as object),
  lines: Object.keys((draft.get(["lines"]) ?? {}) as object),
});

$effect(() => {
  const edition = dataset?.newest;
  if (!edition) return;
  api
    .post("/datasets/{name}/editions/{number}/profile", {
      path: { name: edition.dataset, number: edition.number },
      body: { columns: edition.columns.map((one) => one.name) },
    })
    .then(
      (found) => {
        profiles = new Map(found.columns.map((one) => [one.name, one]));
      },
      () => {},
    );
});
const valuesOf = (column: string): string[] =>
  (profiles.get(column)?.frequent ?? []).map(({ value }) => (value === null ? "" : String(value)));

const states = $derived(
  stateOfSteps({
    problems: draft.problems.map(({ where }) => where),
    has: (field) => draft.get([field]) !== undefined,
    hasData: dataset !== undefined,
    groupCount: draft.look?.groupCount,
    groupsWithoutPeople: draft.look?.groupsWithoutPeople ?? 0,
    isChanged: draft.isChanged,
  }),
);

const mayChange = $derived(may("saveReport", name));
letWrite(() => mayChange);
const mayStart = $derived(may("startRun", name));
const isAsked = $derived(draft.get(["enquiry"]) !== undefined);
const steps = $derived(stepsFor(isAsked));
const index = $derived(steps.findIndex(({ key }) => key === step));
const title = $derived(step === "text" ? "The report as text" : (steps[index]?.title ?? ""));
</script>

<div class="split">
  <h1><a href={link("reports")}>Reports</a> / {String(draft.get(["title"]) ?? name)}</h1>
  <div class="row">
    <span class="soft">{version === undefined ? "not saved yet" : draft.isChanged ? `changed since version ${version}` : `version ${version}`}</span>
    {#if mayChange}<Button size="small" kind="ghost" icon={Undo} disabled={!draft.canTakeBack} on:click={() => draft.takeBack()}>Take back</Button>{:else}<span class="soft">you may look at it, not change it</span>{/if}
    {#if version !== undefined && !draft.isChanged && records && mayStart}<Button size="small" kind="tertiary" on:click={() => { isRecording = true; }}>New record</Button>{/if}
    {#if version !== undefined && !draft.isChanged}
      {#if isAsked}<Button size="small" href={link("enquiries", name)}>Ask</Button>{:else if mayStart}<Button size="small" on:click={() => { isRehearsing = false; isRunning = true; }}>Run</Button>{/if}
    {/if}
    {#if version !== undefined}<KeepMenu kind="reports" {name} title={String(draft.get(["title"]) ?? name)} ondone={left} />{/if}
  </div>
</div>
<Trouble problem={opened.problem} />
{#if version !== undefined}<ArchivedNote kind="reports" {name} />{/if}
{#if opened.newer}
  <InlineNotification lowContrast hideCloseButton kind="warning" title={`Version ${opened.newer.number} was saved meanwhile by ${opened.newer.createdBy}.`} subtitle="Yours is not saved yet, and would take its place.">
    <div class="contents" slot="actions">
      <Button size="small" kind="ghost" on:click={() => opened.takeTheirs()}>Take that version</Button>
      <Button size="small" kind="ghost" on:click={() => opened.keepMine()}>Keep mine</Button>
    </div>
  </InlineNotification>
{/if}
{#if schema && draft.text !== ""}
  <div class="build" class:alone={isAsked && step !== "files"}>
    <StepList report={name} chosen={step as StepKey} {states} {isAsked} />
    <div class="work" role="region" aria-label={title}>
      {#if draft.definition.problem && step !== "text"}
        <InlineNotification lowContrast hideCloseButton kind="error" title="The text cannot be read." subtitle="Mend it under As text; the clicks wait for that." />
      {:else if step === "text"}{#await import("../parts/build/TextView.svelte") then { default: TextView }}<TextView {draft} {known} {schema} />{/await}
      {:else}<fieldset disabled={!mayChange}>{#if step === "data"}<DataStep {draft} {known} {schema} {dataset} onloaded={async () => { datasets = await allOf(api.all("/datasets")); }} />
      {:else if step === "rows"}<RowsStep {draft} {known} {columns} {datasets} {valuesOf} {saved} />
      {:else if step === "ask"}<AskStep {draft} {known} {schema} {columns} {name} />
      {:else if step === "groups"}<GroupsStep {name} {draft} {columns} {profiles} edition={dataset?.newest ?? undefined} />
      {:else if step === "files"}<FilesStep {draft} {known} {schema} ontemplate={readTemplates} />
      {:else if step === "people"}<PeopleStep {draft} {known} {schema} {saved} />
      {:else if step === "message"}<MessageStep {draft} {known} {schema} {saved} ontemplate={readTemplates} />
      {:else if step === "when"}<WhenStep {draft} {known} {schema} {saved} />
      {:else}<CheckStep {draft} {name} {mayChange} {mayStart} savedAs={version} isSaving={opened.isSaving || opened.newer !== undefined} onsave={(note) => opened.save(note)} ondiscard={() => opened.discard()} onrun={(rehearsal) => { isRehearsing = rehearsal; isRunning = true; }} />{/if}</fieldset>{/if}
      {#if index >= 0}
        <div class="next">
          {#if index > 0}<a href={link("reports", name, steps[index - 1]?.key ?? "")}>Back: {steps[index - 1]?.title}</a>{:else}<span></span>{/if}
          {#if index < steps.length - 1}<Button size="small" href={link("reports", name, steps[index + 1]?.key ?? "")}>Next: {steps[index + 1]?.title}</Button>{/if}
        </div>
      {/if}
    </div>
    {#if !isAsked || step === "files"}<GroupPanel {draft} {step} {version} />{/if}
  </div>
{/if}
{#if records}<NewRecord bind:isOpen={isRecording} report={name} {columns} lines={records.lines} />{/if}
<StartRun bind:isOpen={isRunning} report={name} rehearses={isRehearsing} edition={draft.edition} />

<style>
  /* Where one may look only, nothing of it can be changed. */
  fieldset { min-width: 0; margin: 0; padding: 0; border: 0; }
  .build { display: grid; grid-template-columns: 11.5rem minmax(0, 1.25fr) minmax(20rem, 1fr); gap: 1.25rem; margin-top: 0.75rem; }
  .build.alone { grid-template-columns: 11.5rem minmax(0, 42rem); }
  .work { min-width: 0; }
  .work :global(li), .work :global(p) { line-height: 1.25rem; }
  .work :global(h2:first-child) { margin-top: 0; }
  .work :global(h2) { margin-top: 1.75rem; }
  .next { display: flex; justify-content: space-between; align-items: center; margin-top: 1.5rem; padding-top: 0.75rem; border-top: 1px solid var(--cds-ui-03); font-size: 0.875rem; }
  /* The message's own editor shows what a group gets itself, and needs the room. */
  .build:has(:global(details.editor[open])) { grid-template-columns: 11.5rem minmax(0, 1fr); }
  .build:has(:global(details.editor[open])) > :global(aside) { display: none; }
  @media (max-width: 66rem) { .build, .build.alone { grid-template-columns: minmax(0, 1fr); } }
</style>
