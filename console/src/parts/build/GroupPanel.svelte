<script lang="ts">
import { Button, InlineLoading, Search, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { untrack } from "svelte";
import { api, at, type DraftLook, type Problem, type Trial } from "../../lib/client";
import { cell, count, plural } from "../../lib/format";
import type { Draft } from "../../lib/report/draft.svelte";
import { scrollable } from "../../lib/scrollable";
import PdfPages from "../common/PdfPages.svelte";
import TabRow from "../common/TabRow.svelte";
import Trouble from "../common/Trouble.svelte";
import MailView from "../mail/MailView.svelte";
import AllGroups from "./AllGroups.svelte";
import MessageSize from "./MessageSize.svelte";

/** What one group gets: its rows, pages, message and people, as the report stands now; or all groups. */
let { draft, step, version }: { draft: Draft; step: string; version: number | undefined } = $props();
type View = "rows" | "pages" | "message" | "people" | "all";
const VIEWS = [
  { key: "rows", title: "Rows" },
  { key: "pages", title: "Pages" },
  { key: "message", title: "Message" },
  { key: "people", title: "People" },
  { key: "all", title: "All groups" },
] as const;
let view = $state<View>("rows");
/** What a step changes is looked at beside it. */
const BESIDE: Readonly<Record<string, View>> = {
  rows: "rows",
  groups: "all",
  files: "pages",
  people: "people",
  message: "message",
};
$effect(() => {
  view = BESIDE[step] ?? untrack(() => view);
});
let trial = $state<Trial>();
/** What the pages that are shown or on their way were asked for. */
let made = "";
let asked = 0;
let problem = $state<Problem>();
let isMaking = $state(false);

/** What the version that was saved gives the same group, to be set beside what stands here now. */
let earlier = $state<DraftLook>();
let isEarlier = $state(false);
const hasEarlier = $derived(draft.saved !== undefined && draft.isChanged);
const look = $derived(isEarlier && hasEarlier ? earlier : draft.look);
const text = $derived(isEarlier && hasEarlier ? (draft.saved ?? "") : draft.text);
$effect(() => {
  if (!isEarlier || !hasEarlier || draft.isLooking) return;
  const wish = { definition: draft.saved ?? "", ...draft.wish, group: draft.look?.parcel?.label };
  api.post("/drafts/look", { body: wish }).then(
    (found) => {
      earlier = found;
    },
    (error: Problem) => {
      problem = error;
    },
  );
});

const parcel = $derived(look?.parcel ?? undefined);
const files = $derived(Object.keys((draft.get(["files"]) ?? {}) as object));
let file = $state("");
const wanted = $derived(files.includes(file) ? file : (files[0] ?? ""));
/** Groups worth a look: the first, the largest, the smallest, and the one that nobody receives for. */
const notable = $derived.by(() => {
  const groups = look?.groups ?? [];
  // Of a part of a long list nobody can say which is the largest of all.
  if (groups.length < (look?.groupCount ?? 0)) return [];
  const bySize = [...groups].sort((a, b) => a.rows - b.rows);
  const named = [
    ["the first", groups[0]],
    ["the largest", bySize.at(-1)],
    ["the smallest", bySize[0]],
    ["the first new", groups.find((one) => one.isNew)],
    ["the first without people", groups.find((one) => one.people === 0)],
  ] as const;
  return named.flatMap(([what, group]) => (group ? [{ what, group }] : []));
});

async function pages(): Promise<void> {
  const key = `${text}\n${parcel?.key}\n${wanted}\n${JSON.stringify(draft.rows)}`;
  if (key === made || wanted === "" || !parcel) return;
  made = key;
  const mine = ++asked;
  isMaking = true;
  problem = undefined;
  try {
    const found = await api.post("/drafts/try", {
      body: {
        definition: text,
        file: wanted,
        group: parcel.key,
        ...draft.rows,
      },
    });
    // Only the newest question's answer is shown: an older one may come later.
    if (mine === asked) trial = found;
  } catch (error) {
    if (mine !== asked) return;
    problem = error as Problem;
    trial = undefined;
  } finally {
    if (mine === asked) isMaking = false;
  }
}
$effect(() => {
  // Made when they are looked at, for what the look was for.
  if (view === "pages" && look && !draft.isLooking) void pages();
});
const attach = $derived(
  [draft.get(["message", "attach"]) ?? []].flat().filter((one): one is string => typeof one === "string"),
);
const nameOf = (path: string): string => path.slice(path.lastIndexOf("/") + 1);
const own = $derived(trial?.files.find((one) => one.kind !== "pdf"));
</script>

<aside aria-label="What one group gets">
  <div class="head">
    <h2>What {parcel ? parcel.label : "a group"} gets</h2>
    {#if draft.isLooking}<InlineLoading description="" />{/if}
  </div>
  {#if look && look.groupCount > 0}
    <Select size="sm" labelText={`Group (${count(look.groupCount)})`} selected={parcel?.key ?? ""} on:update={({ detail }) => { if (detail !== parcel?.key) draft.choose(String(detail)); }}>
      {#each notable as { what, group } (`${what} ${group.key}`)}<SelectItem value={group.key} text={`${group.label}, ${what} (${plural(group.rows, ["# row", "# rows"])})`} />{/each}
      {#each look.groups as group (group.key)}<SelectItem value={group.key} text={`${group.label} (${plural(group.rows, ["# row", "# rows"])})`} />{/each}
    </Select>
    {#if look.groupCount > look.groups.length}<Search closeButtonLabelText="Clear what is searched for" size="sm" labelText="Look for a group" placeholder="Look for a group" bind:value={draft.search} on:change={() => draft.refresh()} />{/if}
  {/if}
  {#if draft.get(["period"])}
    <form onsubmit={(event) => { event.preventDefault(); draft.refresh(); }}><TextInput size="sm" inline labelText="Period" placeholder={look?.period ?? "the last with rows"} bind:value={draft.period} on:change={() => draft.refresh()} /></form>
  {/if}
  {#if hasEarlier}
    <div class="versions" role="group" aria-label="Version that is shown">
      <button type="button" aria-pressed={!isEarlier} onclick={() => { isEarlier = false; }}>As it is now</button>
      <button type="button" aria-pressed={isEarlier} onclick={() => { isEarlier = true; }}>As in version {version}</button>
    </div>
  {/if}
  <TabRow label="What is shown" tabs={VIEWS} chosen={view} onchoose={(key) => { view = key; }} />
  {#if draft.problem && look}<p class="soft" role="status">As it was before: what stands in the way now is told at its place.</p>{/if}
  <div class="view" class:stale={draft.problem !== undefined && look !== undefined} role="tabpanel" aria-label={VIEWS.find(({ key }) => key === view)?.title}>
    {#if !look}<p class="soft">{draft.problem ? "Nothing can be shown yet." : "Looking …"}</p>
    {:else if view === "all"}<AllGroups {look} onchoose={(key) => { view = "rows"; draft.choose(key); }} />
    {:else if !parcel}<p class="soft">No rows are left, so there is no group. Look at the period and at the rows left out.</p>
    {:else if view === "rows"}
      <p class="soft">{plural(parcel.rows, ["# row", "# rows"])}{#if parcel.rows > parcel.cells.length}, the first {parcel.cells.length} shown{/if}</p>
      <div class="rows" use:scrollable data-scrolls={`Rows of ${parcel.label}`}>
        <table>
          <thead><tr>{#each look.columns as column}<th scope="col">{column.name}</th>{/each}</tr></thead>
          <tbody>{#each parcel.cells as line}<tr>{#each line as value, index}<td class:right={look.columns[index].type === "number"}>{cell(value, look.columns[index])}</td>{/each}</tr>{/each}</tbody>
        </table>
      </div>
    {:else if view === "pages"}
      {#if files.length === 0}<p class="soft">The report makes no file yet.</p>
      {:else}
        {#if files.length > 1}<Select size="sm" labelText="File" selected={wanted} on:update={({ detail }) => { file = String(detail); }}>{#each files as one (one)}<SelectItem value={one} text={one} />{/each}</Select>{/if}
        <ul>{#each parcel.files as one}<li>{nameOf(one.path)}</li>{/each}</ul>
        <Trouble {problem} />
        {#if isMaking}<InlineLoading description="Making the pages …" />{/if}
        {#if trial && trial.group === parcel.key}
          {#if own}<Button size="small" kind="ghost" href={at(`/made/${trial.id}/${own.kind}`)}>Save this file</Button>{/if}
          {#key trial.id}<PdfPages source={at(`/made/${trial.id}/pdf`)} label={`${wanted} for ${parcel.label}`} />{/key}
        {/if}
      {/if}
    {:else if view === "message"}
      {#if parcel.messages.length === 0}<p class="soft">The report sends no message yet.</p>{/if}
      {#each parcel.messages as message}
        <p><strong>{message.subject}</strong></p>
        <p class="soft">{#if message.language}in {message.language}, {/if}{message.people.length > 0 ? `to ${message.people.join(", ")}` : "to nobody yet"}{#if parcel.attachments.length > 0}, with {parcel.attachments.map(nameOf).join(", ")}{/if}</p>
        <MailView html={message.html} text={message.text} />
        <MessageSize definition={text} group={parcel.key} rows={draft.rows} {attach} words={message.size} />
      {/each}
    {:else}
      {#if parcel.recipients.length === 0}<p class="soft">Nobody{parcel.nobody ? `: ${parcel.nobody}` : " receives for this group"}.</p>{/if}
      <ul class="people">{#each parcel.recipients as person}<li><strong>{person.name || person.to.map((one) => one.address).join(", ")}</strong> {person.to.map((one) => one.address).join(", ")}<br /><span class="soft">{person.why}</span></li>{/each}</ul>
    {/if}
  </div>
</aside>

<style>
  aside > :global(*) { min-width: 0; }
  aside { position: sticky; align-self: start; top: 4rem; display: grid; gap: 0.5rem; align-content: start; min-width: 0; max-height: calc(100vh - 5rem); overflow: auto; background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); padding: 0.75rem; }
  .head { display: flex; justify-content: space-between; gap: 0.5rem; }
  h2 { margin: 0; overflow-wrap: anywhere; }
  .head :global(.bx--inline-loading) { width: auto; min-height: 0; }
  .versions { display: flex; border: 1px solid var(--cds-ui-04); }
  .versions button { flex: 1; background: none; border: 0; padding: 0.3rem; font: inherit; font-size: 0.8125rem; color: var(--cds-text-01); cursor: pointer; }
  .versions button[aria-pressed="true"] { background: var(--cds-selected-ui); font-weight: 600; }
  .rows { overflow: auto; max-height: 26rem; border: 1px solid var(--cds-ui-03); }
  table { border-collapse: collapse; font-size: 0.75rem; font-variant-numeric: tabular-nums; }
  th { position: sticky; top: 0; background: var(--cds-ui-01); text-align: left; padding: 0.2rem 0.5rem; white-space: nowrap; font-weight: 600; }
  td { padding: 0.3rem 0.5rem; line-height: 1.1rem; border-top: 1px solid var(--cds-ui-03); white-space: nowrap; max-width: 12rem; overflow: hidden; text-overflow: ellipsis; }
  ul { font-size: 0.8125rem; line-height: 1.15rem; overflow-wrap: anywhere; }
  .stale { opacity: 0.5; }
  .people li { padding: 0.35rem 0; border-top: 1px solid var(--cds-ui-03); }
</style>
