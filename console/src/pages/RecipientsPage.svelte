<script lang="ts">
import { DataTable, FileUploaderButton, Toolbar, ToolbarContent, ToolbarSearch } from "carbon-components-svelte";
import { get, Problem, type RecipientList, upload } from "../lib/api";
import { people, plural, time } from "../lib/format";
import { whenever } from "../lib/live";
import Empty from "../parts/Empty.svelte";
import Findings from "../parts/Findings.svelte";
import Trouble from "../parts/Trouble.svelte";

let list = $state<RecipientList | null>();
let files = $state<File[]>([]);
let problem = $state<Problem>();

$effect(() =>
  whenever(
    (event) => event.kind === "recipients",
    async () => {
      list = await get("/api/recipients");
    },
  ),
);
$effect(() => {
  const [file] = files;
  if (file) load(file);
});

async function load(file: File): Promise<void> {
  files = [];
  problem = undefined;
  try {
    await upload("PUT", `/api/recipients?${new URLSearchParams({ file: file.name })}`, file);
  } catch (error) {
    problem = error as Problem;
  }
}

const rows = $derived(
  (list?.recipients ?? []).map((one, index) => ({
    id: index,
    group: one.group,
    name: one.name,
    to: people(one.to),
    copies: people(one.copies),
  })),
);
</script>

<div class="split">
  <h1>Recipients</h1>
  <FileUploaderButton size="field" kind="primary" labelText={list ? "Replace by a file" : "Import a file"} disableLabelChanges accept={[".csv", ".xlsx"]} bind:files />
</div>
<Trouble {problem} />
{#if list}
  <p class="soft">{plural(list.recipients.length, "recipient")} from {list.origin}, imported {time(list.createdAt)} by {list.createdBy}. All reports share this list; groups are found by key, whatever their blanks and capitals.</p>
  <Findings findings={list.findings} />
  <div class="wrapping">
  <DataTable size="short" headers={[{ key: "group", value: "Group" }, { key: "name", value: "Name" }, { key: "to", value: "Addresses" }, { key: "copies", value: "Copies" }]} {rows}>
    <Toolbar size="sm"><ToolbarContent><ToolbarSearch persistent shouldFilterRows placeholder="Search" /></ToolbarContent></Toolbar>
  </DataTable>
  </div>
{:else if list === null}
  <Empty title="No recipients yet">Import a CSV or XLSX file with the columns Site (or Group), Name, Addresses, Copies. Several addresses in a cell are parted by semicolons.</Empty>
{/if}
