<script lang="ts">
import { Button, DataTable, Link, Modal, Select, SelectItem, Tab, Tabs, TextInput } from "carbon-components-svelte";
import {
  type Arrival,
  allOf,
  api,
  at,
  type Dataset,
  type DatasetSettings,
  type Edition,
  type EditionDifference,
  type EditionSummary,
  type IntakeRules,
  matching,
  once,
  type Problem,
  type Query,
  type ReportSummary,
} from "../lib/client";
import { count, plural, time } from "../lib/format";
import { whenever } from "../lib/live";
import { Pages } from "../lib/pages.svelte";
import { go, link, place } from "../lib/router.svelte";
import Empty from "../parts/common/Empty.svelte";
import Findings from "../parts/common/Findings.svelte";
import More from "../parts/common/More.svelte";
import Trouble from "../parts/common/Trouble.svelte";
import ChangedCells from "../parts/data/ChangedCells.svelte";
import Corrections from "../parts/data/Corrections.svelte";
import DifferenceView from "../parts/data/DifferenceView.svelte";
import Grid from "../parts/data/Grid.svelte";
import Groups from "../parts/data/Groups.svelte";
import LoadFile from "../parts/data/LoadFile.svelte";
import WaysIn from "../parts/data/WaysIn.svelte";
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
let settings = $state<DatasetSettings>();
let difference = $state<EditionDifference>();
let problem = $state<Problem>();
let isLoading = $state(false);
let isOver = $state(false);
let dropped = $state<File>();
let chosen = $state<{ query: Query; total: number }>();
let report = $state("");
let period = $state("");

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
        [dataset, settings, etag, ownReports] = [found, kept.data, kept.etag, own];
        if (editions.items) await editions.reload();
      } catch (error) {
        problem = error as Problem;
      }
    },
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

function drop(event: DragEvent): void {
  event.preventDefault();
  isOver = false;
  const [file] = event.dataTransfer?.files ?? [];
  if (!file) return;
  dropped = file;
  isLoading = true;
}

async function keepRules(rules: IntakeRules): Promise<void> {
  problem = undefined;
  try {
    settings = await api.put("/datasets/{name}/settings", {
      path: { name: name ?? "" },
      body: { rules },
      ...matching(etag),
    });
  } catch (error) {
    problem = error as Problem;
  }
}

async function runRows(): Promise<void> {
  problem = undefined;
  try {
    const run = await api.post("/runs", {
      body: {
        report: report || (ownReports[0]?.name ?? ""),
        ...(edition ? { edition: edition.number } : {}),
        ...(chosen ? { rows: chosen.query } : {}),
        ...(period ? { period } : {}),
      },
      ...once(),
    });
    go("runs", run.id);
  } catch (error) {
    problem = error as Problem;
  } finally {
    chosen = undefined;
  }
}

const rows = $derived(
  (datasets.items ?? []).map((one) => ({
    id: one.name,
    name: one.name,
    rows: count(one.newest?.rowCount ?? 0),
    columns: one.newest?.columns.length ?? 0,
    editions: one.editions,
    look: (one.newest?.findings ?? []).filter((finding) => finding.severity !== "note").length || "",
    from: one.newest?.origin ?? "",
    loaded: time(one.newest?.createdAt ?? null),
  })),
);
const headers = [
  { key: "name", value: "Dataset" },
  { key: "rows", value: "Rows" },
  { key: "columns", value: "Columns" },
  { key: "editions", value: "Editions" },
  { key: "look", value: "To look at" },
  { key: "from", value: "From" },
  { key: "loaded", value: "Loaded" },
] as const;
</script>

<!-- svelte-ignore a11y_no_static_element_interactions -->
<div class="page" class:over={isOver} ondragover={(event) => { event.preventDefault(); isOver = true; }} ondragleave={() => { isOver = false; }} ondrop={drop}>
  <div class="split">
    <h1>{#if name}<a href={link("data")}>Data</a> / {name}{:else}Data{/if}</h1>
    {#if !isLoading}<Button size="field" on:click={() => { dropped = undefined; isLoading = true; }}>Load a file</Button>{/if}
  </div>
  <Trouble {problem} />

  {#if isLoading}
    <LoadFile dataset={name} {dropped} onloaded={loaded} oncancel={() => { isLoading = false; dropped = undefined; }} />
  {:else if name && edition}
    <p class="soft">Edition {edition.number} of {dataset?.editions ?? 0}: {plural(edition.rowCount, "row")}, {plural(edition.columns.length, "column")} from {edition.origin}, header in row {edition.headerRow}, loaded {time(edition.createdAt)} by {edition.createdBy}. {#if edition.number !== newest?.number} <a href={link("data", name)}>To the newest</a>{/if}</p>
    <Tabs selected={tab} on:change={(event) => open(event.detail)}>
      <Tab label="Rows" /><Tab label="Findings ({edition.findings.length})" /><Tab label="How it was read" /><Tab label="Changed cells" /><Tab label="Groups" /><Tab label="Difference" /><Tab label="Editions ({dataset?.editions ?? 0})" />
    </Tabs>
    <div class="tab">
      {#if TABS[tab] === "rows"}
        {#key `${name}/${edition.number}/${row}`}<Grid sight={{ dataset: name, edition: edition.number }} label="Rows of {name}" {row} mark={place.parts[5]} onuse={ownReports.length > 0 ? (query, total) => { chosen = { query: JSON.parse(JSON.stringify(query)), total }; } : undefined} />{/key}
      {:else if TABS[tab] === "findings"}
        {#if edition.findings.length > 0}<Findings findings={edition.findings} onjump={jump} />{:else}<Empty title="No findings">Nothing about this edition wants a look.</Empty>{/if}
      {:else if TABS[tab] === "reading"}
        <Decisions reading={edition} />
        <h2>The next files</h2>
        {#if settings}{#key name}<WaysIn {name} {settings} {etag} onchange={(next) => { settings = next; }} />{/key}{/if}
        <h2>Corrections for the next files</h2>
        {#if settings}{#key `${name}/${JSON.stringify(settings.rules)}`}<Corrections rules={settings.rules} columns={edition.columns} action="Keep these corrections" onapply={keepRules} />{/key}{/if}
      {:else if TABS[tab] === "changes"}
        {#key edition.number}<ChangedCells {edition} onjump={jump} />{/key}
      {:else if TABS[tab] === "groups"}
        {#key edition.number}<Groups {edition} onjump={jump} />{/key}
      {:else if TABS[tab] === "difference"}
        {#if edition.number < 2}<Empty title="Nothing to compare yet">This is the first edition. The next file is compared with it by itself.</Empty>
        {:else if difference}<p class="soft">Edition {difference.after} beside edition {difference.before}.</p><DifferenceView {difference} />{/if}
      {:else}
        <DataTable size="short" headers={[{ key: "number", value: "Edition" }, { key: "rowCount", value: "Rows" }, { key: "origin", value: "From" }, { key: "createdAt", value: "Loaded" }, { key: "createdBy", value: "By" }]} rows={(editions.items ?? []).map((one) => ({ id: one.number, number: one.number, rowCount: count(one.rowCount), origin: one.origin, createdAt: time(one.createdAt), createdBy: one.createdBy }))}>
          <svelte:fragment slot="cell" let:row let:cell>{#if cell.key === "number"}<Link href={link("data", name, "rows", row.id)}>{cell.value}</Link>{:else if cell.key === "origin"}<Link href={at(`/datasets/${name}/editions/${row.id}/file`)}>{cell.value}</Link>{:else}{cell.value}{/if}</svelte:fragment>
        </DataTable>
        <More pages={editions} what="editions" />
      {/if}
    </div>
  {:else if !name && datasets.items}
    {#if datasets.items.length === 0}
      <Empty title="No datasets yet">Load the master table, or drop it here: a workbook, spreadsheet, text or JSON file. Titles above the header and total lines below are found by themselves.</Empty>
    {:else}
      <DataTable size="short" {headers} {rows}>
        <svelte:fragment slot="cell" let:row let:cell>{#if cell.key === "name"}<Link href={link("data", row.id)}>{cell.value}</Link>{:else}{cell.value}{/if}</svelte:fragment>
      </DataTable>
      <More pages={datasets} what="datasets" />
    {/if}
    <h2>Arrivals</h2>
    {#if (arrivals.items ?? []).length === 0}
      <p class="soft">Nothing came by itself yet. A file put into the watched folder, under the dataset's name, or sent by mail to its address, is loaded and listed here.</p>
    {:else}
      <div class="wrapping"><DataTable size="short" headers={[{ key: "at", value: "When" }, { key: "way", value: "By" }, { key: "sender", value: "From" }, { key: "file", value: "File" }, { key: "outcome", value: "Outcome" }]} rows={(arrivals.items ?? []).map((one) => ({ id: one.id, at: time(one.at), way: one.way, sender: one.sender, file: one.file, outcome: one.outcome === "loaded" ? `edition ${one.edition} of ${one.dataset}` : `refused: ${one.message}` }))} /></div>
      <More pages={arrivals} what="arrivals" />
    {/if}
  {/if}
</div>

<Modal open={chosen !== undefined} modalHeading="Use these rows for a run" primaryButtonText="Run" secondaryButtonText="Cancel" on:close={() => { chosen = undefined; }} on:click:button--secondary={() => { chosen = undefined; }} on:submit={runRows}>
  <p class="soft">{plural(chosen?.total ?? 0, "row")} of edition {edition?.number}; all others are left out and counted. The run is one of its own: the period's delivery is still to come.</p>
  <div class="fields">
    <Select labelText="Report" bind:selected={report}>{#each ownReports as one (one.name)}<SelectItem value={one.name} text={one.title} />{/each}</Select>
    <TextInput labelText="Period" placeholder="2026-10" helperText="Blank: the last one that is over." bind:value={period} />
  </div>
</Modal>

<style>
  .page { min-height: 70vh; }
  .page.over { outline: 2px dashed var(--cds-interactive-04); outline-offset: 0.5rem; }
  .tab { padding-top: 1rem; }
  .fields { display: grid; gap: 1rem; margin-top: 1rem; }
</style>
