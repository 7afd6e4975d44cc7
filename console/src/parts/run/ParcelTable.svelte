<script lang="ts">
import { SkeletonText } from "carbon-components-svelte";
import { tick } from "svelte";
import type { ParcelSummary } from "../../lib/client";
import { amount, bytes, count } from "../../lib/format";
import type { LongList } from "../../lib/long-list.svelte";
import { link } from "../../lib/router.svelte";
import { sinceWords } from "../../lib/since";
import StateTag from "../common/StateTag.svelte";

/** A run's parcels, any number of them: only those in sight are drawn. Keys go through them, a heading sorts them. */
let {
  run,
  list,
  parcel,
  before,
  sort,
  onsort,
  onopen,
}: {
  run: string;
  list: LongList<ParcelSummary>;
  /** The one that is open. */
  parcel: number | undefined;
  /** The period it is set beside; nothing for a first run. */
  before: string | undefined;
  sort: string;
  onsort: (sort: "number" | "label" | "rowCount" | "bytes" | "moved", isDown: boolean) => void;
  onopen: (place: number) => void;
} = $props();

/** In pixels; rows are of one height, so that any place of the list is known without drawing it. */
const ROW = 32;
const ABOVE = 8;
let frame = $state<HTMLElement>();
let top = $state(0);
let height = $state(480);
let current = $state(0);
const total = $derived(list.total ?? 0);
/** So many are drawn at once, without looking who sees them. */
const FEW = 60;
const first = $derived(total <= FEW ? 0 : Math.max(0, Math.floor(top / ROW) - ABOVE));
const last = $derived(total <= FEW ? total : Math.min(total, Math.ceil((top + height) / ROW) + ABOVE));
const shown = $derived(Array.from({ length: Math.max(0, last - first) }, (_, at) => first + at));
/** Where Tab comes into the list: the row one was at, or where that is not drawn any more the first in sight. */
const stop = $derived(shown.includes(current) ? current : Math.min(Math.max(first, Math.ceil(top / ROW)), last - 1));
$effect(() => {
  void list.look(first, Math.max(last, first + 1)).catch(() => {});
});

const isOpen = $derived(parcel !== undefined);
const sample = $derived(shown.map((place) => list.at(place)).find(Boolean));
const names = $derived(Object.keys(sample?.totals ?? {}));
// Beside an open parcel there is room for one figure: what moved, or else the first.
const totals = $derived(isOpen ? names.slice(0, before === undefined ? 1 : 0) : names);
const places = $derived(
  Object.fromEntries(
    names.map((name) => [name, shown.some((at) => !Number.isInteger(Number(list.at(at)?.totals[name] ?? 0))) ? 2 : 0]),
  ),
);
const sizeOf = (one: ParcelSummary): number => one.files.reduce((sum, file) => sum + file.size, 0);
const peopleOf = ({ message }: ParcelSummary): number =>
  message ? message.envelope.to.length + message.envelope.cc.length + message.envelope.bcc.length : 0;
const stateOf = (one: ParcelSummary): string =>
  one.message?.state ?? one.ways[0]?.state ?? (one.state === "made" ? "no-recipient" : one.state);

function turn(field: "label" | "rowCount" | "bytes" | "moved"): void {
  // Names begin at A, figures with the greatest.
  const isDown = field === "label" ? sort === "label" : sort !== `-${field}`;
  onsort(field, isDown);
}
const direction = (field: string): "ascending" | "descending" | "none" =>
  sort === field ? "ascending" : sort === `-${field}` ? "descending" : "none";

/** Brings a row into sight and sets the focus there, once it is known and drawn. */
export async function focusOn(place: number): Promise<void> {
  current = Math.max(0, Math.min(total - 1, place));
  const wanted = current;
  if (!frame) return;
  const at = wanted * ROW;
  if (at < frame.scrollTop) frame.scrollTop = at;
  else if (at + ROW > frame.scrollTop + frame.clientHeight - ROW) frame.scrollTop = at + 2 * ROW - frame.clientHeight;
  top = frame.scrollTop;
  await list.look(wanted, wanted + 1).catch(() => {});
  await tick();
  // Somebody may have gone on meanwhile.
  if (wanted === current)
    frame.querySelector<HTMLElement>(`[data-place="${wanted}"] a`)?.focus({ preventScroll: true });
}

const STEPS: Readonly<Record<string, number>> = {
  ArrowDown: 1,
  ArrowUp: -1,
  PageDown: 12,
  PageUp: -12,
  Home: -Infinity,
  End: Infinity,
};
function press(event: KeyboardEvent): void {
  const step = STEPS[event.key];
  if (step === undefined || event.altKey || event.ctrlKey || event.metaKey) return;
  event.preventDefault();
  void focusOn(stop + step);
}
</script>

<div class="list" class:open={isOpen} role="region" aria-label="Parcels of this run" bind:this={frame} bind:clientHeight={height} onscroll={(event) => { top = event.currentTarget.scrollTop; }} style:height={`${Math.min(total + 1.5, 16) * ROW}px`}>
  <table aria-rowcount={total}>
    <thead>
      <tr>
        <th scope="col" aria-sort={direction("label")}><button type="button" onclick={() => turn("label")}>Group</button></th>
        <th scope="col" class="right" aria-sort={direction("rowCount")}><button type="button" onclick={() => turn("rowCount")}>Rows</button></th>
        {#each totals as name}<th scope="col" class="right">{name}</th>{/each}
        {#if !isOpen}<th scope="col" class="right">Files</th><th scope="col" class="right" aria-sort={direction("bytes")}><button type="button" onclick={() => turn("bytes")}>Size</button></th><th scope="col" class="right">People</th>{/if}
        {#if before !== undefined}<th scope="col" aria-sort={direction("moved")}><button type="button" onclick={() => turn("moved")} title={`Since ${before}`}>Since{isOpen ? "" : ` ${before}`}</button></th>{/if}
        <th scope="col">State</th>
      </tr>
    </thead>
    <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
    <tbody onkeydown={press}>
      {#if first > 0}<tr style:height={`${first * ROW}px`} aria-hidden="true"></tr>{/if}
      {#each shown as place (place)}
        {@const one = list.at(place)}
        <tr class:chosen={one !== undefined && one.number === parcel} data-place={place} aria-rowindex={place + 1}>
          {#if one}
            <td class="label" title={one.label}><a href={link("runs", run, one.number)} tabindex={place === stop ? 0 : -1} aria-current={one.number === parcel ? "true" : undefined} onfocus={() => { current = place; }} onclick={() => onopen(place)}>{one.label}</a></td>
            <td class="right">{count(one.rowCount)}</td>
            {#each totals as name}<td class="right">{amount(one.totals[name] ?? "", places[name] ?? 0)}</td>{/each}
            {#if !isOpen}<td class="right">{one.files.length}</td><td class="right">{bytes(sizeOf(one))}</td><td class="right">{peopleOf(one)}</td>{/if}
            {#if before !== undefined}<td class="since">{sinceWords(one)}</td>{/if}
            <td><StateTag state={stateOf(one)} /></td>
          {:else}<td colspan={99}><SkeletonText paragraph lines={1} /></td>{/if}
        </tr>
      {/each}
      {#if last < total}<tr style:height={`${(total - last) * ROW}px`} aria-hidden="true"></tr>{/if}
    </tbody>
  </table>
</div>

<style>
  .list { overflow: auto; max-height: calc(100vh - 12rem); background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); }
  table { width: 100%; border-collapse: separate; border-spacing: 0; font-size: 0.8125rem; font-variant-numeric: tabular-nums; }
  thead th { position: sticky; top: 0; z-index: 1; background: var(--cds-ui-01); text-align: left; font-weight: 600; padding: 0.4rem 0.6rem; white-space: nowrap; border-bottom: 1px solid var(--cds-ui-03); }
  th button { background: none; border: 0; padding: 0; font: inherit; color: inherit; cursor: pointer; }
  th button:hover { text-decoration: underline; }
  th[aria-sort="ascending"] button::after { content: " ↑"; }
  th[aria-sort="descending"] button::after { content: " ↓"; }
  td { height: 32px; vertical-align: middle; border-bottom: 1px solid var(--cds-ui-03); padding: 0 0.6rem; white-space: nowrap; }
  .label { max-width: 18rem; overflow: hidden; text-overflow: ellipsis; }
  .list.open { position: sticky; top: 4rem; }
  .open .label { max-width: 8rem; }
  .since { color: var(--corbix-soft); }
  .chosen td { background: var(--cds-highlight); }
  th.right, td.right { text-align: right; }
  td :global(.bx--tag) { margin: 0; }
</style>
