<script lang="ts">
import { Button, Tab, Tabs } from "carbon-components-svelte";
import {
  type Arrival,
  allOf,
  api,
  type Dataset,
  type DatasetSettings,
  type Edition,
  type EditionDifference,
  type EditionSummary,
  type Problem,
  type Query,
  type ReportSummary,
} from "../lib/client";
import { plural, time } from "../lib/format";
import type { Deed } from "../lib/keep";
import { whenever } from "../lib/live";
import { Pages } from "../lib/pages.svelte";
import { may } from "../lib/rights.svelte";
import { go, link, place } from "../lib/router.svelte";
import Empty from "../parts/common/Empty.svelte";
import Findings from "../parts/common/Findings.svelte";
import Trouble from "../parts/common/Trouble.svelte";
import ChangedCells from "../parts/data/ChangedCells.svelte";
import DatasetList from "../parts/data/DatasetList.svelte";
import DifferenceView from "../parts/data/DifferenceView.svelte";
import Editions from "../parts/data/Editions.svelte";
import Grid from "../parts/data/Grid.svelte";
import Groups from "../parts/data/Groups.svelte";
import LoadFile from "../parts/data/LoadFile.svelte";
import NextFiles from "../parts/data/NextFiles.svelte";
import UseRows from "../parts/data/UseRows.svelte";
import ArchivedNote from "../parts/keep/ArchivedNote.svelte";
import KeepMenu from "../parts/keep/KeepMenu.svelte";
import Decisions from "../parts/run/Decisions.svelte";

let { name }: { name: string | undefined } = $props();
const datasets = new Pages<Dataset>((wish) => api.get("/datasets", { query: wish }));
const arrivals = new Pages<Arrival>((wish) => api.get("/arrivals", { query: wish }));
let dataset = $state<Dataset>();
let edition = $state<Edition>();
let etag = $state<string>();
const editions = new Pages<EditionSummary>((wish) =>
  api.get("/datasets/{name}/editions", { path: { name: name ?? "" }, query: wish }),
);
let ownReports = $state<ReportSummary[]>([]);
/** Those that are run; rows are not picked for others. */
const runReports = $derived(ownReports.filter((one) => !one.isAsked));
let settings = $state<DatasetSettings>();
let difference = $state<EditionDifference>();
let problem = $state<Problem>();
let isLoading = $state(false);
let isOver = $state(false);
let dropped = $state<File>();
let chosen = $state<{ rows: Query | { numbers: number[] }; total: number }>();

$effect(() => {
  const wanted = name;
  return whenever(
    (event) => event.kind === "dataset",
    async () => {
      if (!wanted) {
        await Promise.all([datasets.reload(), arrivals.reload()]);
        return;
      }
      try {
        const path = { name: wanted };
        const [found, kept, own] = await Promise.all([
          api.get("/datasets/{name}", { path }),
          api.read("/datasets/{name}/settings", { path }),
          allOf(api.all("/reports", { query: { data: wanted, limit: 1_000 } })),
        ]);
        if (found.name !== wanted) return go("data", found.name, ...place.parts.slice(2));
        [dataset, settings, etag, ownReports] = [found, kept.data, kept.etag, own];
        if (editions.items) await editions.reload();
      } catch (error) {
        problem = error as Problem;
      }
    },
    "page",
  );
});

// The address says it all: #/data/visits/rows/2/2262/Site is row 2262 of edition 2, column Site marked.
const TABS = ["rows", "findings", "reading", "changes", "groups", "difference", "editions"] as const;
const tab = $derived(Math.max(0, TABS.indexOf((place.parts[2] ?? "rows") as (typeof TABS)[number])));
const wantedEdition = $derived(place.parts[3] ? Number(place.parts[3]) : undefined);
const newest = $derived(dataset?.newest ?? undefined);
$effect(() => {
  const [wanted, number, last] = [name, wantedEdition, newest];
  if (number === undefined || number === last?.number) edition = wanted === last?.dataset ? last : undefined;
  else if (wanted)
    api.get("/datasets/{name}/editions/{number}", { path: { name: wanted, number } }).then(
      (found) => {
        edition = found;
      },
      (error) => {
        problem = error;
      },
    );
});
$effect(() => {
  if (name && TABS[tab] === "editions") void editions.reload();
});
const row = $derived(place.parts[4] ? Number(place.parts[4]) : undefined);
// Another address ends the loading of a file.
$effect(() => {
  void place.parts.join("/");
  isLoading = false;
});

$effect(() => {
  difference = undefined;
  if (TABS[tab] !== "difference" || !edition || edition.number < 2) return;
  api
    .get("/datasets/{name}/editions/{number}/difference", { path: { name: edition.dataset, number: edition.number } })
    .then(
      (found) => {
        difference = found;
      },
      (error) => {
        problem = error;
      },
    );
});

function open(index: number): void {
  if (name && TABS[index] !== undefined && index !== tab)
    go("data", name, TABS[index], ...(wantedEdition ? [wantedEdition] : []));
}

function jump(to: number, column: string | undefined): void {
  if (name && edition) go("data", name, "rows", edition.number, to, ...(column ? [column] : []));
}

function loaded(added: Edition): void {
  isLoading = false;
  dropped = undefined;
  go("data", added.dataset, "findings");
}

function left(_: Deed, called: string | undefined): void {
  if (called === undefined) go("data");
  else go("data", called);
}

function drop(event: DragEvent): void {
  event.preventDefault();
  isOver = false;
  const [file] = event.dataTransfer?.files ?? [];
  if (!file || !may("loadUpload")) return;
  dropped = file;
  isLoading = true;
}
</script>

<!-- svelte-ignore a11y_no_static_element_interactions -->
<div class="page" class:whole={datasets.items !== undefined || edition !== undefined} class:over={isOver} ondragover={(event) => { event.preventDefault(); isOver = true; }} ondragleave={() => { isOver = false; }} ondrop={drop}>
  <div class="split">
    <h1>{#if name}<a href={link("data")}>Data</a> / {name}{:else}Data{/if}</h1>
    {#if !isLoading}<div class="row">{#if name && dataset}<KeepMenu kind="datasets" {name} ondone={left} />{/if}{#if may("loadUpload")}<Button size="field" on:click={() => { dropped = undefined; isLoading = true; }}>Load a file</Button>{/if}</div>{/if}
  </div>
  <Trouble {problem} />
  {#if name && dataset}<ArchivedNote kind="datasets" {name} />{/if}

  {#if isLoading}
    <LoadFile dataset={name} {dropped} onloaded={loaded} oncancel={() => { isLoading = false; dropped = undefined; }} />
  {:else if name && edition}
    <p class="soft">Edition {edition.number} of {dataset?.editions ?? 0}: {plural(edition.rowCount, ["# row", "# rows"])}, {plural(edition.columns.length, ["# column", "# columns"])} from {edition.origin}, header in row {edition.headerRow}, loaded {time(edition.createdAt)} by {edition.createdBy}. {#if edition.number !== newest?.number} <a href={link("data", name)}>To the newest</a>{/if}</p>
    <Tabs selected={tab} on:change={(event) => open(event.detail)}>
      <Tab label="Rows" /><Tab label="Findings ({edition.findings.length})" /><Tab label="How it was read" /><Tab label="Changed cells" /><Tab label="Groups" /><Tab label="Difference" /><Tab label="Editions ({dataset?.editions ?? 0})" />
    </Tabs>
    <div class="tab">
      {#if TABS[tab] === "rows"}
        {#key `${name}/${edition.number}/${row}`}<Grid sight={{ dataset: name, edition: edition.number }} label="Rows of {name}" {row} mark={place.parts[5]} onuse={runReports.length > 0 && may("startRun") ? (rows, total) => { chosen = { rows: JSON.parse(JSON.stringify(rows)), total }; } : undefined} />{/key}
      {:else if TABS[tab] === "findings"}
        {#if edition.findings.length > 0}<Findings findings={edition.findings} onjump={jump} />{:else}<Empty title="No findings">Nothing about this edition wants a look.</Empty>{/if}
      {:else if TABS[tab] === "reading"}
        <Decisions reading={edition} />
        {#if settings && may("changeDatasetSettings")}{#key name}<NextFiles {name} {settings} {etag} columns={edition.columns} onchange={(next) => { settings = next; }} />{/key}{/if}
      {:else if TABS[tab] === "changes"}
        {#key edition.number}<ChangedCells {edition} onjump={jump} />{/key}
      {:else if TABS[tab] === "groups"}
        {#key edition.number}<Groups {edition} onjump={jump} />{/key}
      {:else if TABS[tab] === "difference"}
        {#if edition.number < 2}<Empty title="Nothing to compare yet">This is the first edition. The next file is compared with it by itself.</Empty>
        {:else if difference}<p class="soft">Edition {difference.after} beside edition {difference.before}.</p><DifferenceView {difference} />{/if}
      {:else}
        <Editions dataset={name} {editions} />
      {/if}
    </div>
  {:else if !name && datasets.items}
    <DatasetList {datasets} {arrivals} />
  {/if}
</div>

<UseRows {chosen} {edition} reports={runReports} onclose={() => { chosen = undefined; }} />

<style>
  .page.whole { min-height: 70vh; }
  .page.over { outline: 2px dashed var(--cds-interactive-04); outline-offset: 0.5rem; }
  .tab { padding-top: 1rem; }
</style>
