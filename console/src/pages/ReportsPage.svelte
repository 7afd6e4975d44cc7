<script lang="ts">
import { Button, DataTable, Link } from "carbon-components-svelte";
import { Add } from "carbon-icons-svelte";
import { api, type Problem, type ReportSummary } from "../lib/client";
import { time } from "../lib/format";
import type { Deed } from "../lib/keep";
import { whenever } from "../lib/live";
import { Pages } from "../lib/pages.svelte";
import { unsavedDrafts } from "../lib/report/kept-drafts";
import { may } from "../lib/rights.svelte";
import { go, link } from "../lib/router.svelte";
import Empty from "../parts/common/Empty.svelte";
import More from "../parts/common/More.svelte";
import Trouble from "../parts/common/Trouble.svelte";
import Archived from "../parts/keep/Archived.svelte";
import KeepMenu from "../parts/keep/KeepMenu.svelte";

/** The reports there are, and the way to a new one. */
const reports = new Pages<ReportSummary>((wish) => api.get("/reports", { query: wish }));
let problem = $state<Problem>();

$effect(() =>
  whenever(
    (event) => event.kind === "report",
    () =>
      reports.reload().catch((error: Problem) => {
        problem = error;
      }),
    "page",
  ),
);

const rows = $derived(
  (reports.items ?? []).map((one) => ({
    id: one.name,
    name: one.name,
    title: one.title,
    data: one.data,
    number: one.number,
    next: one.isAsked ? "is asked" : one.nextTimes[0] ? time(one.nextTimes[0].at) : "by hand",
    more: "",
  })),
);
function done(deed: Deed, name: string | undefined): void {
  if (deed === "copy" && name) go("reports", name, "data");
}
/** Reports begun in this browser and not saved yet, or saved and changed since. */
const drafts = unsavedDrafts();
</script>

<div class="split">
  <h1>Reports</h1>
  {#if may("saveReport")}<Button size="field" icon={Add} href={link("reports", "new")}>New report</Button>{/if}
</div>
<Trouble {problem} />
{#if drafts.length > 0}
  <p class="soft">Changed in this browser and not saved: {#each drafts as name, at}{at > 0 ? ", " : ""}<a href={link("reports", name)}>{name}</a>{/each}</p>
{/if}
{#if reports.items}
  {#if rows.length === 0}
    <Empty title="No reports yet">A report says which rows each group gets, in which files, to whom and when. It begins with a file, with data that is loaded, or with a copy: <a href={link("reports", "new")}>make the first one</a>.</Empty>
  {:else}
    <div class="list"><DataTable size="short" headers={[{ key: "title", value: "Report" }, { key: "name", value: "Name" }, { key: "data", value: "Data" }, { key: "number", value: "Version" }, { key: "next", value: "Next run" }, { key: "more", empty: true }]} {rows}>
      <div class="contents" slot="cell" let:row let:cell>{#if cell.key === "more"}<KeepMenu kind="reports" name={row.id} title={row.title} ondone={done} />{:else if cell.key === "title"}<Link href={link("reports", row.id)}>{cell.value}</Link>{:else}{cell.value}{/if}</div>
    </DataTable></div>
    <More pages={reports} what="reports" />
  {/if}
  <Archived kind="reports" />
{/if}

<style>
  /* The day of the next run is not cut for long names. */
  .list :global(td:nth-child(2)), .list :global(td:nth-child(3)) { max-width: 11rem; }
</style>
