<script lang="ts">
import { Button, DataTable, Link, Modal } from "carbon-components-svelte";
import { api, at, type EditionSummary, type Problem } from "../../lib/client";
import { count, time } from "../../lib/format";
import type { Pages } from "../../lib/pages.svelte";
import { may } from "../../lib/rights.svelte";
import { link } from "../../lib/router.svelte";
import More from "../common/More.svelte";
import Trouble from "../common/Trouble.svelte";

/** All editions of a dataset, the newest first, each with the file it came from. */
let { dataset, editions }: { dataset: string; editions: Pages<EditionSummary> } = $props();
let going = $state<number>();
let problem = $state<Problem>();
const newest = $derived(editions.items?.[0]?.number);
const emptied = $derived(new Map((editions.items ?? []).map((one) => [one.number, one.emptiedAt])));

async function empty(): Promise<void> {
  const number = going;
  [going, problem] = [undefined, undefined];
  if (number === undefined) return;
  try {
    await api.delete("/datasets/{name}/editions/{number}/rows", { path: { name: dataset, number } });
    await editions.reload();
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<Trouble {problem} />
<DataTable size="short" headers={[{ key: "number", value: "Edition" }, { key: "rowCount", value: "Rows" }, { key: "origin", value: "From" }, { key: "createdAt", value: "Loaded" }, { key: "createdBy", value: "By" }, { key: "rows", value: "Rows and file" }]} rows={(editions.items ?? []).map((one) => ({ id: one.number, number: one.number, rowCount: count(one.rowCount), origin: one.origin, createdAt: time(one.createdAt), createdBy: one.createdBy, rows: one.emptiedAt }))}>
  <div class="contents" slot="cell" let:row let:cell>{#if cell.key === "number"}<Link href={link("data", dataset, "rows", row.id)}>{cell.value}</Link>{:else if cell.key === "rows"}{#if cell.value}deleted {time(cell.value)}{:else if row.id !== newest && may("emptyEdition")}<Button size="small" kind="ghost" on:click={() => { going = row.id; }}>Delete the rows</Button>{/if}{:else if cell.key === "origin" && !emptied.get(row.id)}<Link href={at(`/datasets/${dataset}/editions/${row.id}/file`)}>{cell.value}</Link>{:else}{cell.value}{/if}</div>
</DataTable>
<More pages={editions} what="editions" />
<Modal danger iconDescription="Close the dialog" open={going !== undefined} modalHeading={`Delete the rows of edition ${going ?? ""}?`} primaryButtonText="Delete the rows" secondaryButtonText="Keep them" on:close={() => { going = undefined; }} on:click:button--secondary={() => { going = undefined; }} on:submit={empty}>
  <p>Its rows and the file they came from are deleted for good. Its number, digest and counts stay, and so does what went out of it: runs, files, messages and who had what.</p>
</Modal>
