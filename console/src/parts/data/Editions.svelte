<script lang="ts">
import { DataTable, Link } from "carbon-components-svelte";
import { at, type EditionSummary } from "../../lib/client";
import { count, time } from "../../lib/format";
import type { Pages } from "../../lib/pages.svelte";
import { link } from "../../lib/router.svelte";
import More from "../common/More.svelte";

/** All editions of a dataset, the newest first, each with the file it came from. */
let { dataset, editions }: { dataset: string; editions: Pages<EditionSummary> } = $props();
</script>

<DataTable size="short" headers={[{ key: "number", value: "Edition" }, { key: "rowCount", value: "Rows" }, { key: "origin", value: "From" }, { key: "createdAt", value: "Loaded" }, { key: "createdBy", value: "By" }]} rows={(editions.items ?? []).map((one) => ({ id: one.number, number: one.number, rowCount: count(one.rowCount), origin: one.origin, createdAt: time(one.createdAt), createdBy: one.createdBy }))}>
  <div class="contents" slot="cell" let:row let:cell>{#if cell.key === "number"}<Link href={link("data", dataset, "rows", row.id)}>{cell.value}</Link>{:else if cell.key === "origin"}<Link href={at(`/datasets/${dataset}/editions/${row.id}/file`)}>{cell.value}</Link>{:else}{cell.value}{/if}</div>
</DataTable>
<More pages={editions} what="editions" />
