<script lang="ts">
import type { Answer } from "@corbix/api/client";
import { Button, DataTable, Link, Toolbar, ToolbarContent, ToolbarSearch } from "carbon-components-svelte";
import { untrack } from "svelte";
import { api, at, type ListVersion, type Problem, type Recipient } from "../lib/client";
import { people, plural, time } from "../lib/format";
import { whenever } from "../lib/live";
import { Pages } from "../lib/pages.svelte";
import { may } from "../lib/rights.svelte";
import { scrollable } from "../lib/scrollable";
import Empty from "../parts/common/Empty.svelte";
import EntryModal from "../parts/common/EntryModal.svelte";
import Findings from "../parts/common/Findings.svelte";
import More from "../parts/common/More.svelte";
import Trouble from "../parts/common/Trouble.svelte";
import ImportList from "../parts/people/ImportList.svelte";

/** The list of recipients; `wanted` is looked for at once. */
let { wanted = "" }: { wanted?: string } = $props();
let list = $state<Answer<"get", "/recipients">["list"]>();
let etag = $state<string>();
let search = $state(untrack(() => wanted));
const entries = new Pages<Recipient>(async (wish) => {
  const query = { ...wish, ...(search.trim() === "" ? {} : { search: search.trim() }) };
  const found = await api.read("/recipients", { query });
  [list, etag] = [found.data.list, found.etag];
  return found.data;
});
const history = new Pages<ListVersion>((wish) => api.get("/recipients/history", { query: wish }));
let problem = $state<Problem>();
let edited = $state<Recipient>();
let isEditing = $state(false);

$effect(() =>
  whenever(
    (event) => event.kind === "recipients",
    async () => {
      await entries.reload();
      if (history.items) await history.reload();
    },
    "page",
  ),
);
let timer: ReturnType<typeof setTimeout> | undefined;
function find(): void {
  clearTimeout(timer);
  timer = setTimeout(() => void entries.begin(), 250);
}

const rows = $derived(
  (entries.items ?? []).map((one, index) => ({
    id: index,
    group: one.group === "*" ? "all groups" : one.group,
    name: one.name,
    to: people(one.to),
    copies: people([...one.copies, ...one.blindCopies]),
    more: [
      ...(one.role === "copy" ? ["gets a copy"] : one.role === "blind" ? ["gets a blind copy"] : []),
      ...(one.neverSend ? ["never"] : []),
      ...(one.language ? [one.language] : []),
      ...(one.dataset ? [`only ${one.dataset}`] : []),
      ...(one.activeFrom === null ? [] : [`from ${one.activeFrom}`]),
      ...(one.activeUntil === null ? [] : [`until ${one.activeUntil}`]),
    ].join(", "),
  })),
);
const allHeaders: { key: "group" | "name" | "to" | "copies" | "more"; value: string }[] = [
  { key: "group", value: "Group" },
  { key: "name", value: "Name" },
  { key: "to", value: "Addresses" },
  { key: "copies", value: "Copies" },
  { key: "more", value: "How and when" },
];
const headers = $derived(allHeaders.filter(({ key }) => key !== "more" || rows.some((one) => one.more !== "")));
const words = { added: "new", changed: "changed", removed: "taken out" };
</script>

<div class="split">
  <h1>Recipients</h1>
  <div class="row">
    {#if may("addRecipient")}<Button size="field" kind="tertiary" on:click={() => { edited = undefined; isEditing = true; }}>Add one</Button>
    <ImportList {etag} onproblem={(one) => { problem = one; }} />{/if}
  </div>
</div>
<Trouble {problem} />
{#if list}
  <p class="soft">{plural(entries.total ?? 0, ["# entry", "# entries"])}, changed {time(list.createdAt)} by {list.createdBy} from {list.origin}. All reports share this list; groups are found by key, whatever their blanks and capitals. Save it as <Link href={at("/recipients/export?as=csv")}>CSV</Link>, <Link href={at("/recipients/export?as=xlsx")}>workbook</Link> or <Link href={at("/recipients/export?as=vcf")}>vCards</Link>.</p>
  <Findings findings={list.findings} />
  <div class="wrapping">
  <DataTable size="short" {headers} {rows}>
    <Toolbar size="sm" ariaLabel="Search the list"><ToolbarContent><ToolbarSearch {...{ closeButtonLabelText: "Clear what is searched for" }} persistent placeholder="Search" bind:value={search} on:input={find} on:clear={find} /></ToolbarContent></Toolbar>
    <div class="contents" slot="cell" let:row let:cell>
      {#if cell.key === "name"}<button class="name" onclick={() => { edited = entries.items?.[row.id]; isEditing = true; }}>{cell.value}</button>
      {:else}{cell.value ?? ""}{/if}
    </div>
  </DataTable>
  </div>
  <More pages={entries} what="entries" />
  <details ontoggle={(event) => { if (event.currentTarget.open) void history.reload(); }}>
    <summary>What was changed, by whom and when</summary>
    <ul class="history" use:scrollable data-scrolls="Who changed the list">
      {#each history.items ?? [] as one}
        <li><strong>{time(one.createdAt)}, {one.createdBy}</strong>, {one.origin}{#if one.emptiedAt}: entries deleted {time(one.emptiedAt)}{:else}: {one.added} new, {one.changed} changed, {one.removed} taken out{/if}
          {#if one.changes.length > 0 && one.changes.length <= 10}<br /><span class="soft">{one.changes.map((change) => `${change.group}: ${change.name} ${words[change.kind]}${change.fields.length > 0 ? ` (${change.fields.join(", ")})` : ""}`).join("; ")}</span>{/if}
        </li>
      {/each}
    </ul>
    <More pages={history} what="changes" />
  </details>
{:else if list === null}
  <Empty title="No recipients yet">Import a CSV, workbook or vCard file with the columns Site (or Group), Name, Addresses, Copies, or add them one by one. Several addresses in a cell are parted by semicolons.</Empty>
{/if}

<EntryModal bind:open={isEditing} entry={edited} />

<style>
  .wrapping :global(.bx--data-table td) { max-width: 24rem; }
  @media (min-width: 66rem) { .wrapping :global(.bx--data-table td:nth-child(3)), .wrapping :global(.bx--data-table td:nth-child(4)) { min-width: 15rem; } }
  .name { all: unset; cursor: pointer; color: var(--cds-link-01); text-decoration: underline; }
  .name:focus-visible { outline: 2px solid var(--cds-focus); }
  details { margin-top: 1rem; }
  .history { font-size: 0.875rem; display: grid; gap: 0.3rem; margin: 0.5rem 0; max-height: 20rem; overflow: auto; }
</style>
