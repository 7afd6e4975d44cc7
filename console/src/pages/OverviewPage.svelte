<script lang="ts">
import {
  type Arrival,
  allOf,
  api,
  type Notice,
  type Overview,
  type Problem,
  type ReportSummary,
  type Run,
  type RunSummary,
} from "../lib/client";
import { count, plural } from "../lib/format";
import { whenever } from "../lib/live";
import { may } from "../lib/rights.svelte";
import { link } from "../lib/router.svelte";
import Trouble from "../parts/common/Trouble.svelte";
import FirstDay from "../parts/overview/FirstDay.svelte";
import TwoWeeks from "../parts/overview/TwoWeeks.svelte";
import Waiting from "../parts/overview/Waiting.svelte";
import WentOut from "../parts/overview/WentOut.svelte";
import WentWrong from "../parts/overview/WentWrong.svelte";

/** Where the day begins: what waits, what went wrong, what comes, and what went out. */
let overview = $state<Overview>();
let held = $state<Run[]>([]);
let waiting = $state<RunSummary[]>([]);
let failed = $state<RunSummary[]>([]);
let gone = $state<RunSummary[]>([]);
let arrivals = $state<Arrival[]>([]);
let notices = $state<Notice[]>([]);
let reports = $state<ReportSummary[]>([]);
let problem = $state<Problem>();
/** Runs that wait for a word are told with what they would send; of many the newest. */
const TOLD = 6;
/** Other notices are told by the runs themselves. */
const NOT_STARTED = new Set<Notice["kind"]>(["nothing-came", "schedule-missed", "schedule-failed"]);
/** What went wrong longer ago is history. */
const RECENT_MS = 14 * 86_400_000;

async function read(): Promise<void> {
  if (!may("listRuns")) return;
  try {
    const runs = (state: RunSummary["state"], limit = TOLD) => api.get("/runs", { query: { state, limit } });
    const [counts, toRelease, still, broken, delivering, done, refused, all, told] = await Promise.all([
      api.get("/overview"),
      runs("held"),
      runs("waiting"),
      runs("failed"),
      runs("delivering"),
      runs("done"),
      api.get("/arrivals", { query: { outcome: "refused", limit: TOLD } }),
      allOf(api.all("/reports", { query: { limit: 1_000 } })),
      api.get("/notices", { query: { limit: 50 } }),
    ]);
    const isRecent = (at: string | null): boolean => Date.now() - new Date(at ?? 0).getTime() < RECENT_MS;
    [waiting, arrivals] = [still.items, refused.items.filter(({ at }) => isRecent(at))];
    notices = told.items.filter(({ at, kind }) => isRecent(at) && NOT_STARTED.has(kind)).slice(0, TOLD);
    failed = broken.items.filter(({ createdAt }) => isRecent(createdAt));
    gone = [...delivering.items, ...done.items].slice(0, TOLD);
    held = await Promise.all(toRelease.items.map(({ id }) => api.get("/runs/{id}", { path: { id } })));
    [overview, reports, problem] = [counts, all, undefined];
  } catch (error) {
    problem = error as Problem;
  }
}
$effect(() =>
  whenever(
    () => true,
    () => read(),
    "page",
  ),
);

/** Until the first report went out, the way there comes first. */
const isFirstDay = $derived(
  overview !== undefined &&
    overview.sent === 0 &&
    overview.held === 0 &&
    overview.runs < 2 &&
    may("saveReport") &&
    may("startRun"),
);
</script>

<div class="split head">
  <h1>Overview</h1>
  {#if overview}
    <p class="numbers soft"><a href={link("data")}>{plural(overview.datasets, ["# dataset", "# datasets"])}</a> <a href={link("reports")}>{plural(overview.reports, ["# report", "# reports"])}</a> <a href={link("runs")}>{count(overview.held)} held</a> <a href={link("outbox")}>{count(overview.onTheWay)} on the way</a> <a href={link("outbox")}>{count(overview.sent)} sent</a></p>
  {/if}
</div>
<Trouble {problem} />
{#if !may("listRuns")}
  {#if may("listEnquiries")}<p>You may ask: <a href={link("enquiries")}>what there is to ask</a>.</p>
  {:else if may("listPeople")}<p>You may operate: <a href={link("people")}>people</a>, <a href={link("settings")}>identities</a> and <a href={link("ways-out")}>ways out</a>.</p>
  {:else}<p>You may not do anything yet. Ask whoever invited you.</p>{/if}
{/if}
{#if overview}
  <div class="columns">
    <div>
      {#if isFirstDay}<FirstDay {overview} />{/if}
      <WentWrong troubles={overview.troubles} {failed} {arrivals} {notices} />
      {#if !isFirstDay || held.length + waiting.length > 0}<Waiting {held} {waiting} more={overview.held - held.length} />{/if}
      {#if !isFirstDay}<WentOut runs={gone} />{/if}
    </div>
    <TwoWeeks {reports} today={new Date()} />
  </div>
{/if}

<style>
  .head { align-items: baseline; }
  .numbers { display: flex; flex-wrap: wrap; gap: 0.25rem 1rem; font-variant-numeric: tabular-nums; }
  .columns { display: grid; grid-template-columns: minmax(0, 2fr) minmax(18rem, 1fr); gap: 2rem; align-items: start; }
  .columns :global(section) { margin-bottom: 1.5rem; }
  @media (max-width: 1000px) { .columns { grid-template-columns: minmax(0, 1fr); } }
</style>
