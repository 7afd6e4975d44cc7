<script lang="ts">
import { Search, Select, SelectItem } from "carbon-components-svelte";
import { untrack } from "svelte";
import { api, type ParcelSummary, type Run } from "../../lib/client";
import { count } from "../../lib/format";
import { LongList } from "../../lib/long-list.svelte";
import { go } from "../../lib/router.svelte";
import { stateWord } from "../../lib/states";
import ParcelTable from "./ParcelTable.svelte";
import ParcelView from "./ParcelView.svelte";
import SinceBefore from "./SinceBefore.svelte";

/** The parcels of a run: searched, narrowed, sorted, gone through by keys, and one of them opened beside. */
let {
  id,
  run,
  parcel,
}: {
  id: string;
  /** Its parcels are there before all of it is known. */
  run: Run | undefined;
  parcel: number | undefined;
} = $props();

type Sort = "number" | "label" | "rowCount" | "bytes" | "moved";
const STATES = ["held", "queued", "sending", "sent", "returned", "refused", "unsure", "skipped"] as const;
let search = $state("");
let only = $state<(typeof STATES)[number] | "none" | "">("");
let since = $state<"new" | "moved" | "resized" | "">("");
let sort = $state<Sort | `-${Sort}`>("number");
const isAsked = $derived(search.trim() !== "" || only !== "" || since !== "");
const list = new LongList<ParcelSummary>((wish) =>
  api.get("/runs/{id}/parcels", {
    path: { id },
    query: {
      ...wish,
      sort,
      ...(search.trim() === "" ? {} : { search: search.trim() }),
      ...(only === "" ? {} : { message: only }),
      ...(since === "" ? {} : { since }),
    },
  }),
);
let table = $state<ParcelTable>();
/** Where the open parcel stands in the list, while that is known. */
let place = $state<number>();

// The run is read anew with every event that concerns it, and what is in sight of its parcels with it.
let seen: Run | undefined;
$effect(() => {
  if (seen !== undefined && run !== seen) untrack(() => void list.reload().catch(() => {}));
  seen = run;
});

let timer: ReturnType<typeof setTimeout> | undefined;
function find(): void {
  clearTimeout(timer);
  place = undefined;
  timer = setTimeout(() => void list.begin().catch(() => {}), 150);
}

/** As the whole list stands in the order of its numbers, a parcel's place is known by that. */
const at = $derived(place ?? (parcel !== undefined && !isAsked && sort === "number" ? parcel - 1 : undefined));
const total = $derived(list.total ?? 0);

async function step(by: 1 | -1): Promise<void> {
  if (at === undefined || at + by < 0 || at + by >= total) return;
  const next = at + by;
  await list.look(next, next + 1);
  const found = list.at(next);
  if (!found) return;
  place = next;
  go("runs", id, found.number);
}

function press(event: KeyboardEvent): void {
  if (parcel === undefined) return;
  if (event.altKey && (event.key === "ArrowDown" || event.key === "ArrowUp")) {
    event.preventDefault();
    void step(event.key === "ArrowDown" ? 1 : -1);
  } else if (
    event.key === "Escape" &&
    !(event.target instanceof HTMLInputElement) &&
    !document.querySelector(".bx--modal.is-visible")
  )
    close();
}

function close(): void {
  const back = at;
  go("runs", id);
  if (back !== undefined) requestAnimationFrame(() => void table?.focusOn(back));
}
</script>

<svelte:window onkeydown={press} />
{#if run?.since}<SinceBefore since={run.since} chosen={since} onchoose={(kind) => { since = kind; find(); }} />{/if}
<div class="split head">
  <h2>Parcels{#if list.total !== undefined}<span class="soft counted">{count(list.total)}{#if isAsked && run && run.parcelCount > list.total}{" "}of {count(run.parcelCount)}{/if}</span>{/if}</h2>
  {#if isAsked || total > 12}
    <div class="find" role="search">
      <Search closeButtonLabelText="Clear what is searched for" size="sm" labelText="Group, address or file" placeholder="Group, address or file" bind:value={search} on:input={find} on:clear={find} />
      <Select size="sm" inline labelText="Message" bind:selected={only} on:change={find}><SelectItem value="" text="any" />{#each STATES as state (state)}<SelectItem value={state} text={stateWord(state)} />{/each}<SelectItem value="none" text="none" /></Select>
    </div>
  {/if}
</div>
{#if list.total === 0 && isAsked}<p class="soft">No parcel meets all of this.</p>{/if}
<div class="columns" class:open={parcel !== undefined}>
  <ParcelTable bind:this={table} run={id} {list} {parcel} {sort} before={run?.since?.periodLabel} onopen={(where) => { place = where; }} onsort={(field, isDown) => { sort = isDown ? `-${field}` : field; find(); }} />
  {#if parcel !== undefined}{#key parcel}<ParcelView {id} report={run?.report} number={parcel} at={at === undefined ? undefined : { place: at, total }} onstep={step} onclose={close} />{/key}{/if}
</div>
<p class="soft keys">Arrow keys go through the list, Enter opens, Alt with an arrow the next one, Escape closes.{run?.state === "held" ? " Ctrl with Enter releases the run." : ""}</p>

<style>
  .head { margin-top: 1.25rem; align-items: end; }
  .counted { font-weight: 400; margin-left: 0.5rem; }
  .find { display: flex; flex-wrap: wrap; gap: 0.75rem; align-items: center; }
  .find :global(.bx--search) { width: 16rem; }
  .columns { display: grid; grid-template-columns: minmax(0, 1fr); gap: 1.25rem; align-items: start; }
  .columns.open { grid-template-columns: minmax(22rem, 0.85fr) minmax(0, 1.15fr); }
  .keys { font-size: 0.75rem; margin-top: 0.4rem; }
  @media (max-width: 1100px) { .columns.open { grid-template-columns: 1fr; } }
  @media (max-width: 40rem) { .keys { display: none; } }
</style>
