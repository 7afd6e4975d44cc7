<script lang="ts">
import { DataTable, Link } from "carbon-components-svelte";
import { allOf, api, type Overview, type ReportSummary, type Run, type RunSummary } from "../lib/client";
import { count, plural, time, wholeTime } from "../lib/format";
import { whenever } from "../lib/live";
import { link } from "../lib/router.svelte";
import Empty from "../parts/common/Empty.svelte";
import StateTag from "../parts/common/StateTag.svelte";

let overview = $state<Overview>();
let runs = $state<RunSummary[]>([]);
let held = $state<Run[]>([]);
let reports = $state<ReportSummary[]>([]);
/** Runs that wait for a word are told with what they would send; of many the newest. */
const TOLD = 6;

$effect(() =>
  whenever(
    () => true,
    async () => {
      const [counts, newest, waiting, all] = await Promise.all([
        api.get("/overview"),
        api.get("/runs", { query: { limit: 8 } }),
        api.get("/runs", { query: { state: "held", limit: TOLD } }),
        allOf(api.all("/reports", { query: { limit: 1_000 } })),
      ]);
      held = await Promise.all(waiting.items.map(({ id }) => api.get("/runs/{id}", { path: { id } })));
      [overview, runs, reports] = [counts, newest.items, all];
    },
  ),
);

const coming = $derived(
  reports
    .flatMap((report) => (report.nextTimes[0] ? [{ report, at: report.nextTimes[0] }] : []))
    .sort((a, b) => a.at.localeCompare(b.at)),
);
const headers = [
  { key: "report", value: "Report" },
  { key: "period", value: "Period" },
  { key: "state", value: "State" },
  { key: "messages", value: "Messages" },
  { key: "started", value: "Started" },
] as const;
const rows = $derived(
  runs.map((run) => ({
    id: run.id,
    report: run.title,
    period: run.periodLabel,
    state: run.state,
    messages: count(Object.values(run.progress.messages).reduce((sum, one) => sum + one, 0)),
    started: time(run.createdAt),
  })),
);
</script>

<h1>Overview</h1>
{#if overview}
  <div class="numbers">
    <a href={link("data")}><strong>{count(overview.datasets)}</strong><span>{overview.datasets === 1 ? "dataset" : "datasets"}</span></a>
    <a href={link("reports")}><strong>{count(overview.reports)}</strong><span>{overview.reports === 1 ? "report" : "reports"}</span></a>
    <a href={link("runs")} class:amber={overview.held > 0}><strong>{count(overview.held)}</strong><span>held for release</span></a>
    <a href={link("outbox")}><strong>{count(overview.onTheWay)}</strong><span>on the way</span></a>
    <a href={link("outbox")}><strong>{count(overview.sent)}</strong><span>sent</span></a>
    <a href={link("outbox")} class:stop={overview.troubled > 0}><strong>{count(overview.troubled)}</strong><span>refused or unsure</span></a>
  </div>
  {#if held.length > 0}
    <h2>Waiting for your word</h2>
    <div class="waiting">
      {#each held as run}
        <p class="panel split">
          <span><strong>{run.title}, {run.periodLabel}</strong><br /><span class="soft">{run.sentences[0] ?? ""}</span></span>
          <Link href={link("runs", run.id)}>{run.proof ? `${plural(run.proof.messages, "message")} to ${plural(run.proof.people, "person", "people")}` : "Look"}: look and release</Link>
        </p>
      {/each}
    </div>
    {#if overview.held > held.length}<p class="soft"><Link href={link("runs")}>{plural(overview.held - held.length, "more run")} held</Link></p>{/if}
  {/if}
  <div class="columns">
    <section>
      <h2>Newest runs</h2>
      {#if rows.length > 0}
        <DataTable size="short" {headers} {rows}>
          <svelte:fragment slot="cell" let:row let:cell>
            {#if cell.key === "report"}<Link href={link("runs", row.id)}>{cell.value}</Link>{:else if cell.key === "state"}<StateTag state={cell.value} />{:else}{cell.value}{/if}
          </svelte:fragment>
        </DataTable>
      {:else}
        <Empty title="Nothing has run yet">Open a report and press Run, or type <code>npx corbix run site-statement --for 2026-10</code>.</Empty>
      {/if}
    </section>
    <section>
      <h2>Runs by itself next</h2>
      {#if coming.length > 0}
        <ul class="panel coming">{#each coming as { report, at }}<li><Link href={link("reports", report.name)}>{report.title}</Link><br /><span class="soft">{wholeTime(at)}</span></li>{/each}</ul>
      {:else}
        <Empty title="Nothing is scheduled">Give a report a schedule, and it runs without anybody.</Empty>
      {/if}
    </section>
  </div>
{/if}

<style>
  .numbers { display: grid; grid-template-columns: repeat(auto-fit, minmax(8.5rem, 1fr)); gap: 0.75rem; margin-top: 0.75rem; }
  .numbers a { background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); border-top: 3px solid var(--cds-interactive-01); padding: 0.6rem 0.9rem; text-decoration: none; color: inherit; display: grid; }
  .numbers a.amber { border-top-color: #d0782f; }
  .numbers a.stop { border-top-color: var(--corbix-stop); }
  .numbers strong { font-size: 1.6rem; font-weight: 300; line-height: 2rem; }
  .numbers span { color: var(--corbix-soft); font-size: 0.8125rem; }
  .waiting { display: grid; gap: 0.5rem; }
  .columns { display: grid; grid-template-columns: minmax(0, 2.2fr) minmax(14rem, 1fr); gap: 1.5rem; }
  .coming { display: grid; gap: 0.6rem; }
  @media (max-width: 1000px) { .columns { grid-template-columns: 1fr; } }
</style>
