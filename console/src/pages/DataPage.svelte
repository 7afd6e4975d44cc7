<script lang="ts">
import {
  Button,
  DataTable,
  FileUploaderButton,
  Link,
  Modal,
  Tab,
  TabContent,
  Tabs,
  TextInput,
} from "carbon-components-svelte";
import { type DatasetSummary, type Edition, get, Problem, type Rows, upload } from "../lib/api";
import { count, plural, time } from "../lib/format";
import { whenever } from "../lib/live";
import { go, link } from "../lib/router.svelte";
import Empty from "../parts/Empty.svelte";
import Findings from "../parts/Findings.svelte";
import RowGrid from "../parts/RowGrid.svelte";
import Trouble from "../parts/Trouble.svelte";

let { name }: { name: string | undefined } = $props();
let datasets = $state<DatasetSummary[]>();
let editions = $state<Edition[]>([]);
let shown = $state<number>();
let isLoading = $state(false);
let target = $state("");
let files = $state<File[]>([]);
let problem = $state<Problem>();

$effect(() => {
  const wanted = name;
  return whenever(
    (event) => event.kind === "dataset",
    async () => {
      if (wanted) {
        const dataset = await get<{ editions: Edition[] }>(`/api/datasets/${wanted}`);
        editions = dataset.editions;
        shown = editions[0]?.number;
      } else datasets = await get("/api/datasets");
    },
  );
});

const edition = $derived(editions.find((one) => one.number === shown));
const rows = $derived(
  (datasets ?? []).map((one) => ({
    id: one.name,
    name: one.name,
    rows: count(one.newest?.rowCount ?? 0),
    columns: one.newest?.columns.length ?? 0,
    editions: one.editions,
    from: one.newest?.origin ?? "",
    loaded: time(one.newest?.createdAt ?? null),
  })),
);
const headers = [
  { key: "name", value: "Dataset" },
  { key: "rows", value: "Rows" },
  { key: "columns", value: "Columns" },
  { key: "editions", value: "Editions" },
  { key: "from", value: "From" },
  { key: "loaded", value: "Loaded" },
] as const;

function open(): void {
  target = name ?? "";
  files = [];
  problem = undefined;
  isLoading = true;
}

async function load(): Promise<void> {
  problem = undefined;
  try {
    const added = await upload<Edition>(
      "POST",
      `/api/datasets/${target}/editions?${new URLSearchParams({ file: files[0].name })}`,
      files[0],
    );
    isLoading = false;
    go("data", added.dataset);
  } catch (error) {
    problem = error as Problem;
  }
}

function loadRows(first: number, rowCount: number): Promise<Rows> {
  return get(`/api/datasets/${name}/editions/${shown}/rows?first=${first}&count=${rowCount}`);
}
</script>

<div class="split">
  <h1>{#if name}<a href={link("data")}>Data</a> / {name}{:else}Data{/if}</h1>
  <Button size="field" on:click={open}>Load a file</Button>
</div>

{#if name && edition}
  <p class="soft">Edition {edition.number} of {editions.length}: {plural(edition.rowCount, "row")}, {plural(edition.columns.length, "column")} from {edition.origin}, header in row {edition.headerRow}, loaded {time(edition.createdAt)} by {edition.createdBy}.</p>
  <Tabs>
    <Tab label="Rows" /><Tab label={`Findings (${edition.findings.length})`} /><Tab label="Columns" /><Tab label={`Editions (${editions.length})`} />
    <svelte:fragment slot="content">
      <TabContent>{#key `${name}/${shown}`}<RowGrid load={loadRows} label={`Rows of ${name}`} />{/key}</TabContent>
      <TabContent>{#if edition.findings.length > 0}<Findings findings={edition.findings} />{:else}<Empty title="No findings">Nothing about this edition wants a look.</Empty>{/if}</TabContent>
      <TabContent><DataTable size="short" headers={[{ key: "name", value: "Column" }, { key: "type", value: "Type" }]} rows={edition.columns.map((one) => ({ id: one.name, ...one }))} /></TabContent>
      <TabContent>
        <DataTable size="short" headers={[{ key: "number", value: "Edition" }, { key: "rowCount", value: "Rows" }, { key: "origin", value: "From" }, { key: "createdAt", value: "Loaded" }, { key: "createdBy", value: "By" }]} rows={editions.map((one) => ({ id: one.number, ...one, createdAt: time(one.createdAt) }))}>
          <svelte:fragment slot="cell" let:row let:cell>{#if cell.key === "number"}<Button size="small" kind="ghost" on:click={() => { shown = row.id; }}>{cell.value}</Button>{:else}{cell.value}{/if}</svelte:fragment>
        </DataTable>
      </TabContent>
    </svelte:fragment>
  </Tabs>
{:else if !name && datasets}
  {#if datasets.length === 0}
    <Empty title="No datasets yet">Load the master table: a workbook or a CSV file. Titles above the header and total lines below are found by themselves.</Empty>
  {:else}
    <DataTable size="short" {headers} {rows}>
      <svelte:fragment slot="cell" let:row let:cell>{#if cell.key === "name"}<Link href={link("data", row.id)}>{cell.value}</Link>{:else}{cell.value}{/if}</svelte:fragment>
    </DataTable>
  {/if}
{/if}

<Modal bind:open={isLoading} modalHeading="Load a file" primaryButtonText="Load" secondaryButtonText="Cancel" primaryButtonDisabled={files.length === 0 || target === ""} on:click:button--secondary={() => { isLoading = false; }} on:submit={load}>
  <TextInput labelText="Dataset" helperText="Small letters, digits and hyphens. A new name makes a new dataset; a known one gets its next edition." bind:value={target} />
  <p class="soft" style="margin: 1rem 0 0.5rem">A workbook (.xlsx) or a text file (.csv).</p>
  <FileUploaderButton labelText={files[0]?.name ?? "Choose a file"} accept={[".xlsx", ".xlsm", ".csv", ".tsv", ".txt"]} bind:files />
  <Trouble {problem} />
</Modal>
