<script lang="ts">
import { Button, DataTable, Link, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { allOf, api, at, type Identity, type OutboxEntry, once, type Problem, type WayOut } from "../lib/client";
import { duration, people, plural, time } from "../lib/format";
import { whenever } from "../lib/live";
import { Pages } from "../lib/pages.svelte";
import { may } from "../lib/rights.svelte";
import { link } from "../lib/router.svelte";
import { stateWord } from "../lib/states";
import Empty from "../parts/common/Empty.svelte";
import More from "../parts/common/More.svelte";
import ReasonModal from "../parts/common/ReasonModal.svelte";
import StateTag from "../parts/common/StateTag.svelte";
import Trouble from "../parts/common/Trouble.svelte";
import CorrectAddress from "../parts/mail/CorrectAddress.svelte";

const STATES = ["queued", "sending", "sent", "returned", "refused", "unsure", "skipped"];
const entries = new Pages<OutboxEntry>((wish) => api.get("/outbox", { query: { ...wish, ...filled() } }));
let identities = $state<Identity[]>([]);
let ways = $state<WayOut[]>([]);
let problem = $state<Problem>();
let asked = $state({ person: "", group: "", file: "", period: "", state: "" as OutboxEntry["state"] | "" });
let deciding = $state<{ id: string; as: "arrived" | "again"; label: string }>();
let isDeciding = $state(false);
let correcting = $state<Pick<OutboxEntry, "id" | "results" | "label">>();

/** Whether an address refused it, or sent it back, and nothing goes there any more by itself. */
const isWrong = ({ state, results }: Pick<OutboxEntry, "state" | "results">): boolean =>
  ["sent", "refused", "returned"].includes(state) &&
  Object.values(results).some((one) => one.state === "refused" || one.state === "returned");

const filled = (): Partial<typeof asked> & { state?: OutboxEntry["state"] } =>
  Object.fromEntries(Object.entries(asked).filter(([, value]) => value.trim() !== ""));
const load = async (): Promise<void> => {
  try {
    [, identities, ways] = await Promise.all([
      entries.reload(),
      allOf(api.all("/identities")),
      allOf(api.all("/ways-out")),
    ]);
    problem = undefined;
  } catch (error) {
    problem = error as Problem;
  }
};
$effect(() => whenever((event) => event.kind === "run", load, "page"));

let timer: ReturnType<typeof setTimeout> | undefined;
function search(): void {
  clearTimeout(timer);
  timer = setTimeout(load, 250);
}

async function act(work: () => Promise<unknown>): Promise<void> {
  problem = undefined;
  try {
    await work();
    await load();
  } catch (error) {
    problem = error as Problem;
  }
}

const isAsked = $derived(Object.values(asked).some((value) => value.trim() !== ""));
const busy = $derived(
  identities.filter((one) => one.paused || one.restWhy || one.waiting + one.sending + one.held > 0),
);
const busyWays = $derived(ways.filter((one) => one.paused || one.restWhy || one.waiting + one.sending > 0));
const rows = $derived(
  (entries.items ?? []).map((one) => ({
    ...one,
    to: one.rehearsalTo ?? people(one.envelope.to),
    places: one.way === null ? [] : one.envelope.to.map(({ address }) => address),
    at: time(one.sentAt ?? one.touchedAt),
    said:
      one.state === "queued" && one.notBefore
        ? `${one.response ?? ""} – again ${time(one.notBefore)}`
        : (one.response ?? ""),
    decide: "",
  })),
);
</script>

<div class="split">
  <h1>Outbox</h1>
  <Link href={link("settings")}>Sending identities</Link>
</div>
<Trouble {problem} />
{#each busy as one}
  <p class="identity panel">
    <strong>{one.name}</strong>
    {#if one.paused}is paused; {plural(one.waiting, ["# message", "# messages"])} wait.
    {:else if one.restWhy}waits for its server, and tries again {time(one.restUntil)}: {one.restWhy} {plural(one.waiting, ["# message", "# messages"])} wait.
    {:else}{plural(one.waiting + one.sending, ["# message", "# messages"])} to go, done in about {duration(one.secondsLeft ?? 0)} at {one.settings.perMinute} a minute.{/if}
    {#if one.held > 0}{plural(one.held, ["# message", "# messages"])} of paused runs wait.{/if}
    {#if may("pauseIdentity")}{#if one.paused || one.restWhy}<Button size="small" kind="ghost" on:click={() => act(() => api.post("/identities/{name}/resume", { path: { name: one.name } }))}>Go on now</Button>
    {:else}<Button size="small" kind="ghost" on:click={() => act(() => api.post("/identities/{name}/pause", { path: { name: one.name } }))}>Pause</Button>{/if}{/if}
  </p>
{/each}
{#each busyWays as one}
  <p class="identity panel">
    <strong><a href={link("ways-out", one.name)}>{one.name}</a></strong>
    {#if one.paused}is paused; files of {plural(one.waiting, ["# group", "# groups"])} wait.
    {:else if one.restWhy}is left alone, and tried again {time(one.restUntil)}: {one.restWhy} Files of {plural(one.waiting, ["# group", "# groups"])} wait.
    {:else}takes files of {plural(one.waiting + one.sending, ["# group", "# groups"])}.{/if}
    {#if may("pauseWayOut")}{#if one.paused || one.restWhy}<Button size="small" kind="ghost" on:click={() => act(() => api.post("/ways-out/{name}/resume", { path: { name: one.name } }))}>Go on now</Button>
    {:else}<Button size="small" kind="ghost" on:click={() => act(() => api.post("/ways-out/{name}/pause", { path: { name: one.name } }))}>Pause</Button>{/if}{/if}
  </p>
{/each}
<div class="search" role="search">
  <TextInput size="sm" labelText="Person or address" bind:value={asked.person} on:input={search} />
  <TextInput size="sm" labelText="Group" bind:value={asked.group} on:input={search} />
  <TextInput size="sm" labelText="File" bind:value={asked.file} on:input={search} />
  <TextInput size="sm" labelText="Period" placeholder="2026-10" bind:value={asked.period} on:input={search} />
  <Select size="sm" labelText="State" bind:selected={asked.state} on:change={search}>
    <SelectItem value="" text="any" />
    {#each STATES as state (state)}<SelectItem value={state} text={stateWord(state)} />{/each}
  </Select>
</div>
{#if rows.length === 0 && entries.items}
  {#if isAsked}<Empty title="Nothing was sent like that">Ask for less: a part of a name is enough.</Empty>
  {:else}<Empty title="Nothing has gone out yet">Messages appear here when a run is released.</Empty>{/if}
{:else if entries.items}
  <div class="wrapping">
  <DataTable size="short" headers={[{ key: "label", value: "Group" }, { key: "to", value: "To" }, { key: "period", value: "Period" }, { key: "state", value: "State" }, { key: "said", value: "What the server said" }, { key: "at", value: "When" }, { key: "decide", value: "" }]} {rows}>
    <div class="contents" slot="cell" let:row let:cell>
      {#if cell.key === "label"}<div class="group"><Link href={link("runs", row.runId, row.parcel)}>{cell.value}</Link></div>{#if row.againReason}<span class="soft">again: {row.againReason}</span>{/if}
      {:else if cell.key === "said"}<div class="said">{cell.value}</div>
      {:else if cell.key === "to"}<div class="to">{#if row.way !== null}<a href={link("ways-out", row.way)}>{row.way}</a>{#each row.places as place}<br />{place}{/each}{:else}{cell.value}{/if}</div>
      {:else if cell.key === "at"}<div class="when">{cell.value}</div>
      {:else if cell.key === "period"}<span class="period">{cell.value}</span>
      {:else if cell.key === "state"}<StateTag state={cell.value} />
      {:else if cell.key === "decide"}<div class="decisions">
        {#if row.state === "unsure" && may("decideMessage", row.report)}<Button size="small" kind="ghost" on:click={() => { deciding = { id: row.id, as: "arrived", label: row.label }; isDeciding = true; }}>It arrived</Button>{/if}
        {#if (row.state === "unsure" || row.state === "refused") && may("sendAgain", row.report)}<Button size="small" kind="ghost" on:click={() => { deciding = { id: row.id, as: "again", label: row.label }; isDeciding = true; }}>Send again</Button>{/if}
        {#if row.way === null && isWrong(row) && may("sendAgain", row.report)}<Button size="small" kind="ghost" on:click={() => { correcting = row; }}>Correct the address</Button>{/if}
        {#if row.way === null && (row.state === "sent" || row.state === "returned")}<Link href={at(`/messages/${row.id}/raw`)}>.eml</Link>{/if}
      </div>{:else}{cell.value ?? ""}{/if}
    </div>
  </DataTable>
  </div>
  <More pages={entries} what="messages" />
{/if}

<ReasonModal
  bind:open={isDeciding}
  heading={deciding?.as === "arrived" ? `Did it arrive at ${deciding?.label}?` : `Send to ${deciding?.label} again?`}
  text={deciding?.as === "arrived" ? "Ask a receiver, or look into the server's log. It counts as sent from then on." : "If it did arrive after all, it arrives twice. It keeps its Message-ID, by which many servers tell doubles."}
  button={deciding?.as === "arrived" ? "It arrived" : "Send again"}
  ondone={(reason) => { const one = deciding; if (one) act(() => api.post("/messages/{id}/decide", { path: { id: one.id }, body: { as: one.as, reason }, ...once() })); }}
/>

{#if correcting}<CorrectAddress message={correcting} label={correcting.label} onclose={() => { correcting = undefined; }} ondone={load} />{/if}

<style>
  .said { min-width: 9.5rem; }
  .when { min-width: 5rem; }
  .group { min-width: 7rem; }
  .to { min-width: 9.5rem; overflow-wrap: anywhere; }
  @media (min-width: 76rem) { .to { min-width: 13rem; } .when { white-space: nowrap; } .period { min-width: 4rem; } }
  .decisions { display: grid; justify-items: start; }
  .decisions :global(.bx--btn) { padding-inline: 0; min-height: 1.75rem; text-align: left; white-space: normal; min-width: 6rem; }
  .wrapping :global(.bx--data-table td), .wrapping :global(.bx--data-table th) { padding-inline: 0.75rem; }
  .period { white-space: nowrap; }
  .wrapping :global(.bx--data-table td:last-child .bx--link) { white-space: nowrap; overflow-wrap: normal; }
  .wrapping :global(.bx--data-table td) { max-width: 26rem; }
  .search { display: grid; grid-template-columns: repeat(auto-fit, minmax(9rem, 1fr)); gap: 0.75rem; margin: 0.75rem 0; max-width: 60rem; }
  .identity { margin: 0.5rem 0; font-size: 0.875rem; padding: 0.4rem 0.9rem; }
</style>
