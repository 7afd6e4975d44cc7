<script lang="ts">
import { DataTable, Link } from "carbon-components-svelte";
import type { Arrival, Dataset } from "../../lib/client";
import { count, time } from "../../lib/format";
import type { Pages } from "../../lib/pages.svelte";
import { link } from "../../lib/router.svelte";
import Empty from "../common/Empty.svelte";
import More from "../common/More.svelte";
import Archived from "../keep/Archived.svelte";
import KeepMenu from "../keep/KeepMenu.svelte";

/** All datasets with what wants a look in their newest editions, and what came by itself. */
let { datasets, arrivals }: { datasets: Pages<Dataset>; arrivals: Pages<Arrival> } = $props();

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
    more: "",
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
  { key: "more", empty: true },
] as const;
</script>

{#if datasets.items}
  {#if datasets.items.length === 0}
    <Empty title="No datasets yet">Load the master table, or drop it here: a workbook, spreadsheet, text or JSON file. Titles above the header and total lines below are found by themselves.</Empty>
  {:else}
    <DataTable size="short" {headers} {rows}>
      <div class="contents" slot="cell" let:row let:cell>{#if cell.key === "more"}<KeepMenu kind="datasets" name={row.id} />{:else if cell.key === "name"}<Link href={link("data", row.id)}>{cell.value}</Link>{:else}{cell.value}{/if}</div>
    </DataTable>
    <More pages={datasets} what="datasets" />
  {/if}
  <Archived kind="datasets" />
  <h2>Arrivals</h2>
  {#if (arrivals.items ?? []).length === 0}
    <p class="soft">Nothing came by itself yet. A file put into the watched folder, under the dataset's name, or sent by mail to its address, is loaded and listed here.</p>
  {:else}
    <div class="wrapping"><DataTable size="short" headers={[{ key: "at", value: "When" }, { key: "way", value: "By" }, { key: "sender", value: "From" }, { key: "file", value: "File" }, { key: "outcome", value: "Outcome" }]} rows={(arrivals.items ?? []).map((one) => ({ id: one.id, at: time(one.at), way: one.way, sender: one.sender, file: one.file, outcome: one.outcome === "loaded" ? `edition ${one.edition} of ${one.dataset}` : `refused: ${one.message}` }))} /></div>
    <More pages={arrivals} what="arrivals" />
  {/if}
{/if}
