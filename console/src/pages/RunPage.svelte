<script lang="ts">
import { Button, Checkbox, Modal, ProgressBar, TextInput } from "carbon-components-svelte";
import { allOf, api, at, once, type ParcelSummary, Problem, type Run } from "../lib/client";
import { count, day, plural, time } from "../lib/format";
import { whenever } from "../lib/live";
import { may } from "../lib/rights.svelte";
import { go, link } from "../lib/router.svelte";
import Findings from "../parts/common/Findings.svelte";
import ReasonModal from "../parts/common/ReasonModal.svelte";
import StateTag from "../parts/common/StateTag.svelte";
import Trouble from "../parts/common/Trouble.svelte";
import HandOut from "../parts/run/HandOut.svelte";
import RunNotes from "../parts/run/RunNotes.svelte";
import RunParcels from "../parts/run/RunParcels.svelte";
import StartRun from "../parts/run/StartRun.svelte";

let { id, parcel }: { id: string; parcel: number | undefined } = $props();
let run = $state<Run>();
let skippable = $state<ParcelSummary[]>([]);
let problem = $state<Problem>();
let isReleasing = $state(false);
let isRehearsing = $state(false);
let isStarting = $state(false);
let isHanding = $state(false);
let later = $state("");
let isSkipping = $state(false);
let isReasoning = $state(false);
let skipped = $state<string[]>([]);

$effect(() => {
  const wanted = id;
  return whenever(
    (event) => event.kind === "run" && event.subject === wanted,
    async () => {
      try {
        run = await api.get("/runs/{id}", { path: { id: wanted } });
      } catch (error) {
        problem = error as Problem;
      }
    },
    "page",
  );
});

const made = $derived(run?.progress.parcels.made ?? 0);
const sent = $derived(run?.progress.messages.sent ?? 0);
/** Groups whose files go by other ways than mail, each way counted. */
const carriedAll = $derived(Object.values(run?.progress.carried ?? {}).reduce((sum, number) => sum + (number ?? 0), 0));
const isMoving = $derived(
  run !== undefined && ["planning", "making", "proving", "waiting", "delivering"].includes(run.state),
);
const canRelease = $derived(
  run?.state === "held" && run.proof?.mayBeReleased === true && may("releaseRun", run.report),
);

/** Groups whose message has not gone yet. */
async function chooseSkipped(): Promise<void> {
  skipped = [];
  const waiting = (message: "held" | "queued") =>
    allOf(api.all("/runs/{id}/parcels", { path: { id }, query: { message, limit: 1_000 } }));
  skippable = [...(await waiting("held")), ...(await waiting("queued"))];
  isSkipping = true;
}

const carried = $derived(Object.entries(run?.proof?.carried ?? {}));
/** What a release does, as its button says it. */
const releaseWords = $derived.by(() => {
  const messages = run?.outlook?.messages ?? run?.proof?.messages ?? 0;
  const files = carried.reduce((sum, [, number]) => sum + number, 0);
  return messages === 0 && files > 0
    ? plural(files, ["Let # file go", "Let # files go"])
    : plural(messages, ["Send # message", "Send # messages"]);
});
const allOfKind = ({ code, severity }: { code: string; severity: "stop" | "warn" | "note" }) =>
  api.get("/runs/{id}/findings", { path: { id }, query: { code, severity, limit: 1_000 } });

/** The release is asked for with Ctrl and Enter, from wherever one is on the page. */
function press(event: KeyboardEvent): void {
  const isAsked = event.key === "Enter" && (event.ctrlKey || event.metaKey);
  if (!isAsked || !canRelease || document.querySelector(".bx--modal.is-visible")) return;
  event.preventDefault();
  isReleasing = true;
}

/** A row for each group, as the newest edition of a dataset of their own. */
async function makeData(): Promise<void> {
  try {
    const { dataset } = await api.post("/runs/{id}/figures", { path: { id }, body: {} });
    go("data", dataset, "rows");
  } catch (error) {
    problem = error as Problem;
  }
}

async function act(work: () => Promise<Run>): Promise<void> {
  problem = undefined;
  isReleasing = false;
  isSkipping = false;
  try {
    const changed = await work();
    if (changed.id === id) run = changed;
    else go("runs", changed.id);
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<svelte:window onkeydown={press} />
{#if run}
  <div class="split">
    <div>
      <h1><a href={link("runs")}>Runs</a> / {run.title}, {run.periodLabel} <StateTag state={run.state} /></h1>
      <p class="soft">Run {run.id} from {run.data} edition {run.edition}, started {time(run.createdAt)} by {run.startedBy}{run.releasedAt ? `, released ${time(run.releasedAt)} by ${run.releasedBy}` : ""}{run.rehearsalTo ? `. A rehearsal: everything goes to ${run.rehearsalTo}` : ""}.</p>
    </div>
    <div class="row">
      {#if canRelease}<Button size="field" on:click={() => { isReleasing = true; }}>Release</Button>{/if}
      {#if run.state === "held" && may("startRun", run.report)}<Button size="field" kind="tertiary" on:click={() => { [isRehearsing, isStarting] = [true, true]; }}>Rehearse</Button>{/if}
      {#if run.state === "delivering" && may("pauseRun", run.report)}<Button size="field" kind="tertiary" on:click={() => act(() => api.post(`/runs/{id}/${run?.paused ? "resume" : "pause"}`, { path: { id } }))}>{run.paused ? "Resume" : "Pause"}</Button>{/if}
      {#if (run.state === "held" || run.state === "delivering") && may("skipGroups", run.report)}<Button size="field" kind="ghost" on:click={chooseSkipped}>Leave groups out</Button>{/if}
      {#if run.proof}<Button size="field" kind="ghost" href={at(`/runs/${id}/files.zip`)}>Save all as zip</Button><Button size="field" kind="ghost" href={at(`/runs/${id}/print.pdf?sheets=true`)}>Print</Button><Button size="field" kind="ghost" href={at(`/runs/${id}/audit.pdf`)}>For an auditor</Button>{#if may("exportToFolder", run.report)}<Button size="field" kind="ghost" on:click={() => { isHanding = true; }}>Hand out</Button>{/if}{#if run.releasedAt && !run.rehearsalTo}<Button size="field" kind="ghost" href={link("files", run.report, run.period)}>Files of the period</Button>{#if may("keepFigures", run.report)}<Button size="field" kind="ghost" on:click={makeData}>Figures as data</Button>{/if}{/if}{/if}
      {#if ["done", "stopped", "failed"].includes(run.state) && may("startRun", run.report)}<Button size="field" kind="tertiary" on:click={() => { [isRehearsing, isStarting] = [false, true]; }}>Run it again</Button>{/if}
      {#if (isMoving || run.state === "held") && may("stopRun", run.report)}<Button size="field" kind="ghost" on:click={() => act(() => api.post("/runs/{id}/stop", { path: { id } }))}>Stop</Button>{/if}
    </div>
  </div>
  <Trouble {problem} />
  {#if run.error}<Trouble problem={new Problem(run.error.message, 0, run.error.code, run.error)} />{/if}
  {#if run.state === "making" || run.state === "planning" || run.state === "proving"}<ProgressBar value={made} max={Math.max(1, run.parcelCount)} labelText="Making files" helperText={`${count(made)} of ${plural(run.parcelCount, ["# group", "# groups"])}`} />{/if}
  {#if run.state === "delivering" && (run.proof?.messages ?? 0) > 0}<ProgressBar value={sent} max={Math.max(1, run.proof?.messages ?? 1)} labelText="Sending" helperText={`${count(sent)} of ${plural(run.proof?.messages ?? 0, ["# message", "# messages"])}`} />{/if}
  {#if run.state === "delivering" && carried.length > 0}<ProgressBar value={run.progress.carried.sent ?? 0} max={Math.max(1, carriedAll)} labelText="Files on their way" helperText={`${count(run.progress.carried.sent ?? 0)} of ${plural(carriedAll, ["# group", "# groups"])}`} />{/if}

  <RunNotes {run} onnot={() => act(() => api.post("/runs/{id}/release", { path: { id }, body: { at: null } }))} />
  <ul class="proof" aria-label="Proof">{#each run.sentences as sentence}<li>{sentence}</li>{/each}</ul>
  {#if run.outlook && run.outlook.sentences.length > 0}
    <details class="note" open={run.outlook.notable.length <= 6}>
      <summary>{run.outlook.messages === 0 ? carried.length > 0 ? "A release would send no message." : "A release would send nothing." : `A release would send ${plural(run.outlook.messages, ["# message", "# messages"])}.`} {run.outlook.sentences.join(" ")} {run.onceSentence}</summary>
      <ul>
        {#each run.outlook.notable as one}
          <li>{one.label}: {one.what === "had" ? "has it" : one.what === "again" ? "gets it again, marked" : "gets it where it did not arrive"}{#if one.day}, {day(one.day)}{/if}{#if one.run}{" "}(<a href={link("runs", one.run)}>run {one.run}</a>){/if}</li>
        {/each}
      </ul>
    </details>
  {/if}
  {#if run.findings.length > 0}
    <details open={parcel === undefined}>
      <summary>{plural(run.findings.reduce((sum, one) => sum + one.times, 0), ["# finding", "# findings"])}</summary>
      <Findings findings={run.findings} onall={allOfKind} />
    </details>
  {/if}

  {#if run.state === "held" && (run.proof?.sample ?? []).length > 0}
    <p class="sample">Worth opening before the release: {#each run.proof?.sample ?? [] as one, index}{index > 0 ? ", " : ""}<a href={link("runs", id, one.number)}>{one.label}</a> <span class="soft">({one.why})</span>{/each}</p>
  {/if}
  <Modal iconDescription="Close the dialog" bind:open={isReleasing} modalHeading="Release this run?" selectorPrimaryFocus=".bx--modal-footer .bx--btn--primary" primaryButtonText={releaseWords} secondaryButtonText="Not yet" on:click:button--secondary={() => { isReleasing = false; }} on:submit={() => act(() => api.post("/runs/{id}/release", { path: { id }, body: {}, ...once() }))}>
    {#if carried.length === 0 || (run.outlook?.messages ?? run.proof?.messages ?? 0) > 0}<p>{plural(run.outlook?.messages ?? run.proof?.messages ?? 0, ["# message", "# messages"])} will go out{run.rehearsalTo ? ` to ${run.rehearsalTo}` : ""}. {run.outlook?.sentences.join(" ") ?? ""} {run.onceSentence}</p>{/if}
    {#each carried as [way, files] (way)}<p>{plural(files, ["# file goes", "# files go"])} by the way out {way}, where no group has had them.</p>{/each}
    {#if run.approvalsWanted < 2}
      <div class="later">
        <TextInput labelText="Or later, at" type="datetime-local" bind:value={later} />
        <Button size="field" kind="tertiary" disabled={later === ""} on:click={() => act(() => api.post("/runs/{id}/release", { path: { id }, body: { at: new Date(later).toISOString() } }))}>Set this time</Button>
      </div>
    {/if}
  </Modal>
  <Modal iconDescription="Close the dialog" bind:open={isSkipping} modalHeading="Leave groups out" primaryButtonText="Go on" primaryButtonDisabled={skipped.length === 0} secondaryButtonText="Cancel" on:click:button--secondary={() => { isSkipping = false; }} on:submit={() => { isSkipping = false; isReasoning = true; }}>
    <p class="kept">Their messages are not sent; their files stay.</p>
    <div class="choice">{#each skippable as one}<Checkbox labelText={one.label} value={one.groupKey} bind:group={skipped} />{/each}</div>
  </Modal>
  <ReasonModal bind:open={isReasoning} heading={`Why are ${plural(skipped.length, ["# group", "# groups"])} left out?`} text="It stands with their messages." button="Leave them out" ondone={(reason) => act(() => api.post("/runs/{id}/skip", { path: { id }, body: { groups: skipped, reason } }))} />
  <HandOut bind:isOpen={isHanding} run={id} period={run.period} />
  <StartRun bind:isOpen={isStarting} report={run.report} rehearses={isRehearsing} edition={run.edition} wanted={run.period} />
{:else if problem}
  <Trouble {problem} />
  <a href={link("runs")}>Back to the runs</a>
{:else}
  <h1><a href={link("runs")}>Runs</a> / …</h1>
{/if}
{#if !problem || run}<RunParcels {id} {run} {parcel} />{/if}

<style>
  .kept { margin-bottom: 0.75rem; }
  .proof { margin: 0.9rem 0; padding: 0.7rem 1rem; background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); border-left: 3px solid var(--cds-interactive-01); display: grid; gap: 0.35rem; line-height: 1.35rem; font-variant-numeric: tabular-nums; }
  .proof li { line-height: inherit; }
  .note { margin: 0.5rem 0; font-size: 0.875rem; }
  .sample { font-size: 0.875rem; margin: 0.6rem 0; }
  .later { display: grid; grid-template-columns: 14rem auto; gap: 0.75rem; align-items: end; margin-top: 1rem; }
  .choice { max-height: 18rem; overflow: auto; columns: 2; }
</style>
