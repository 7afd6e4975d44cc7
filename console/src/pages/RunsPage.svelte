<script lang="ts">
import { DataTable, Link } from "carbon-components-svelte";
import { api, type RunSummary } from "../lib/client";
import { count, time } from "../lib/format";
import { whenever } from "../lib/live";
import { Pages } from "../lib/pages.svelte";
import { link } from "../lib/router.svelte";
import Empty from "../parts/common/Empty.svelte";
import More from "../parts/common/More.svelte";
import StateTag from "../parts/common/StateTag.svelte";

const runs = new Pages<RunSummary>((wish) => api.get("/runs", { query: wish }));
$effect(() =>
  whenever(
    (event) => event.kind === "run",
    () => runs.reload(),
    "page",
  ),
);
const headers = [
  { key: "report", value: "Report" },
  { key: "period", value: "Period" },
  { key: "state", value: "State" },
  { key: "groups", value: "Groups" },
  { key: "sent", value: "Sent" },
  { key: "kind", value: "" },
  { key: "started", value: "Started" },
  { key: "by", value: "By" },
  { key: "run", value: "Run" },
] as const;
const rows = $derived(
  (runs.items ?? []).map((run) => ({
    id: run.id,
    run: run.id,
    report: run.title,
    period: run.periodLabel,
    state: run.state,
    groups: count(run.parcelCount),
    sent: count(run.progress.messages.sent ?? 0),
    kind: run.rehearsalTo ? `rehearsal to ${run.rehearsalTo}` : "",
    started: time(run.createdAt),
    by: run.startedBy,
  })),
);
</script>

<h1>Runs</h1>
{#if runs.items?.length === 0}
  <Empty title="No runs yet">Open one of the <a href={link("reports")}>reports</a> and press Run, or Rehearse to see first what would go out.</Empty>
{:else if runs.items}
  <DataTable size="short" {headers} {rows}>
    <div class="contents" slot="cell" let:row let:cell>
      {#if cell.key === "report"}<Link href={link("runs", row.id)}>{cell.value}</Link>{:else if cell.key === "state"}<StateTag state={cell.value} />{:else}{cell.value}{/if}
    </div>
  </DataTable>
  <More pages={runs} what="runs" />
{/if}
