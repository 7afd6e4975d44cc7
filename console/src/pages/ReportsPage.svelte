<script lang="ts">
import { Button, DataTable, InlineNotification, Link, Modal, TextArea, TextInput } from "carbon-components-svelte";
import { api, matching, once, type Problem, type Report, type ReportSummary } from "../lib/client";
import { time, wholeTime } from "../lib/format";
import { whenever } from "../lib/live";
import { Pages } from "../lib/pages.svelte";
import { go, link } from "../lib/router.svelte";
import Empty from "../parts/common/Empty.svelte";
import More from "../parts/common/More.svelte";
import Trouble from "../parts/common/Trouble.svelte";
import Preparation from "../parts/data/Preparation.svelte";
import MessageEditor from "../parts/report/MessageEditor.svelte";
import WhoReceives from "../parts/report/WhoReceives.svelte";

let { name }: { name: string | undefined } = $props();
const reports = new Pages<ReportSummary>((wish) => api.get("/reports", { query: wish }));
let report = $state<Report>();
let etag = $state<string>();
let source = $state("");
let saved = $state("");
let problem = $state<Problem>();
let isStarting = $state(false);
let period = $state("");
let rehearsal = $state("");

$effect(() => {
  const wanted = name;
  report = undefined;
  return whenever(
    (event) => event.kind === "report",
    async () => {
      if (!wanted) return reports.reload();
      try {
        const found = await api.read("/reports/{name}", { path: { name: wanted } });
        [report, etag] = [found.data, found.etag];
      } catch (error) {
        problem = error as Problem;
      }
    },
  );
});
$effect(() => {
  if (report) source = report.source;
});

async function save(): Promise<void> {
  problem = undefined;
  saved = "";
  try {
    const kept = await api.put("/reports/{name}", { path: { name: name ?? "" }, body: source, ...matching(etag) });
    saved = `Version ${kept.number} is saved. Every name in it was checked against data and templates.`;
  } catch (error) {
    problem = error as Problem;
  }
}

async function start(): Promise<void> {
  problem = undefined;
  try {
    const run = await api.post("/runs", {
      body: {
        report: name ?? "",
        ...(period ? { period } : {}),
        ...(rehearsal ? { rehearsalTo: rehearsal } : {}),
      },
      ...once(),
    });
    isStarting = false;
    go("runs", run.id);
  } catch (error) {
    isStarting = false;
    problem = error as Problem;
  }
}

const rows = $derived(
  (reports.items ?? []).map((one) => ({
    id: one.name,
    name: one.name,
    title: one.title,
    data: one.data,
    number: one.number,
    next: one.nextTimes[0] ? time(one.nextTimes[0]) : "by hand",
  })),
);
</script>

<div class="split">
  <h1>{#if name}<a href={link("reports")}>Reports</a> / {report?.title ?? name}{:else}Reports{/if}</h1>
  {#if report}<Button size="field" on:click={() => { isStarting = true; }}>Run</Button>{/if}
</div>
{#if name && report}
  <p class="soft">{report.name}, version {report.number}, saved {time(report.createdAt)} by {report.createdBy}.</p>
  <Trouble {problem} />
  {#if saved}<InlineNotification lowContrast kind="success" title="Saved." subtitle={saved} />{/if}
  <h2>Preparation</h2>
  {#key report.number}<Preparation {report} />{/key}
  {#if report.hasMessage}<h2>Recipients</h2>
  {#key report.number}<WhoReceives report={report.name} />{/key}
  <h2>Message</h2>
  {#key report.name}<MessageEditor report={report.name} />{/key}{/if}
  <h2>Definition</h2>
  <div class="columns">
    <section>
      <TextArea labelText="Definition" hideLabel rows={30} bind:value={source} spellcheck="false" />
      <div class="row" style="margin-top: 0.75rem"><Button size="field" kind="tertiary" disabled={source === report.source} on:click={save}>Check and save</Button></div>
    </section>
    <section>
      <h2>Runs by itself</h2>
      {#if report.schedule}
        <div class="panel">
          <p class="soft"><code>{report.schedule.rule}</code><br />at {report.schedule.at} in {report.schedule.zone}. The next five times, in your time zone:</p>
          <ol>{#each report.nextTimes as at}<li>{wholeTime(at)}</li>{/each}</ol>
        </div>
      {:else}
        <Empty title="No schedule">It runs when somebody presses Run.</Empty>
      {/if}
    </section>
  </div>
{:else if name && problem}
  <Trouble {problem} />
{:else if !name && reports.items}
  {#if rows.length === 0}
    <Empty title="No reports yet">Save a definition: <code>npx corbix reports my-report.yaml</code>. The fields are told in docs/definition.md.</Empty>
  {:else}
    <DataTable size="short" headers={[{ key: "title", value: "Report" }, { key: "name", value: "Name" }, { key: "data", value: "Data" }, { key: "number", value: "Version" }, { key: "next", value: "Next run" }]} {rows}>
      <svelte:fragment slot="cell" let:row let:cell>{#if cell.key === "title"}<Link href={link("reports", row.id)}>{cell.value}</Link>{:else}{cell.value}{/if}</svelte:fragment>
    </DataTable>
    <More pages={reports} what="reports" />
  {/if}
{/if}

<Modal bind:open={isStarting} modalHeading="Run this report" primaryButtonText={rehearsal ? "Rehearse" : "Run"} secondaryButtonText="Cancel" on:click:button--secondary={() => { isStarting = false; }} on:submit={start}>
  <div class="fields">
    <TextInput labelText="Period" placeholder="2026-10" helperText="Blank: the last one that is over." bind:value={period} />
    <TextInput labelText="Rehearse to" placeholder="me@lifts.example" helperText="Blank: a run that is held until somebody releases it. With an address: everything is sent for real, but only there." bind:value={rehearsal} />
  </div>
</Modal>

<style>
  .columns { display: grid; grid-template-columns: minmax(0, 2fr) minmax(16rem, 1fr); gap: 1.5rem; }
  .columns :global(textarea) { font-family: "IBM Plex Mono", ui-monospace, monospace; font-size: 0.8125rem; line-height: 1.25rem; }
  code { overflow-wrap: anywhere; }
  ol { margin: 0.5rem 0 0 1.2rem; list-style: decimal; font-size: 0.875rem; line-height: 1.5rem; }
  .fields { display: grid; gap: 1rem; }
</style>
