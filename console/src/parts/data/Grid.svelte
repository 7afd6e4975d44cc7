<script lang="ts">
import { Button, Search, Tag } from "carbon-components-svelte";
import { tick } from "svelte";
import { SvelteSet } from "svelte/reactivity";
import { api, type Column, type Look, type Problem, type Query, type Sight } from "../../lib/client";
import { cell, count, plural } from "../../lib/format";
import ColumnPanel from "./ColumnPanel.svelte";
import GridHead from "./GridHead.svelte";
import Trouble from "../common/Trouble.svelte";

/** A table of any length: only the rows in sight are fetched and drawn. `row` is a row number of the origin to begin at. */
let {
  sight,
  label,
  row,
  mark,
  onuse,
}: {
  sight: Sight;
  label: string;
  row?: number | undefined;
  mark?: string | undefined;
  onuse?: ((rows: Query | { numbers: number[] }, total: number) => void) | undefined;
} = $props();

const ROW_PX = 26;
const HEAD_PX = 31;
const PAGE = 200;
/** Browsers draw no element higher than some 33 million pixels; longer tables scroll faster than their rows are high. */
const MAX_PX = 24_000_000;

let query = $state<Query>({ search: "", filters: [], sort: [] });
let search = $state("");
let columns = $state<Column[]>([]);
let total = $state<number>();
let of = $state(0);
let pages = $state<Record<number, { rowNumbers: number[]; rows: Look["rows"] }>>({});
let scroller = $state<HTMLElement>();
let top = $state(0);
let height = $state(500);
let opened = $state<string>();
let problem = $state<Problem>();
let asked = 0;
const fetching = new Set<number>();
/** Rows that somebody ticked, by their number in the origin: they stay ticked whatever is searched for. */
const ticked = new SvelteSet<number>();
function tickRow(number: number, isOn: boolean): void {
  if (isOn) ticked.add(number);
  else ticked.delete(number);
}

const path = $derived({ name: sight.dataset, number: sight.edition });
const shape = $derived({
  ...(sight.report === undefined ? {} : { report: sight.report }),
  ...(sight.step === undefined ? {} : { step: sight.step }),
});
const full = $derived((total ?? 0) * ROW_PX);
const spacer = $derived(Math.min(full, MAX_PX) + HEAD_PX);
/** Rows that fit below the heading; the table stays in sight and its rows change as the reader scrolls. */
const visible = $derived(Math.max(1, Math.floor((height - HEAD_PX) / ROW_PX)));
const most = $derived(Math.max(0, (total ?? 0) - visible));
const first = $derived(Math.min(most, Math.round((top / Math.max(1, spacer - height)) * most)));
const shown = $derived(
  Array.from({ length: Math.max(0, Math.min(visible, (total ?? 0) - first)) }, (_, at) => {
    const index = first + at;
    const page = pages[Math.floor(index / PAGE)];
    return { index, number: page?.rowNumbers[index % PAGE], cells: page?.rows[index % PAGE] };
  }),
);

function lookAt(wish: { limit: number; first?: number; rowNumber?: number }): Promise<Look> {
  return api.post("/datasets/{name}/editions/{number}/look", { path, body: { ...shape, query, ...wish } });
}

/** Begins anew: what is looked at, or the query, has changed. */
async function begin(from: number | undefined): Promise<void> {
  const turn = ++asked;
  fetching.clear();
  problem = undefined;
  try {
    const look = await lookAt({ limit: PAGE, ...(from === undefined ? {} : { rowNumber: from }) });
    if (turn !== asked) return;
    columns = look.columns;
    of = look.of;
    total = look.total;
    // A page begins at a multiple of its length; where it began at a row, that page is fetched by itself.
    pages = look.first === 0 ? { 0: look } : {};
    await tick();
    if (look.first > 0) scrollTo(look.first);
    if (mark !== undefined)
      scroller?.querySelector("th.marked")?.scrollIntoView({ inline: "center", block: "nearest" });
  } catch (error) {
    if (turn === asked) problem = error as Problem;
  }
}

function scrollTo(index: number): void {
  if (!scroller) return;
  // A few rows before it stay in sight.
  scroller.scrollTop = (Math.max(0, index - 3) / Math.max(1, most)) * (spacer - height);
}

$effect(() => {
  // Tracked on purpose: a new query or another table begins anew.
  void [path.name, path.number, shape, JSON.stringify(query)];
  void begin(row);
});

$effect(() => {
  if (total === undefined) return;
  for (const page of new Set([Math.floor(first / PAGE), Math.floor((first + visible) / PAGE)])) {
    if (pages[page] || fetching.has(page) || page * PAGE >= total) continue;
    void fetchPage(page);
  }
});

async function fetchPage(page: number): Promise<void> {
  const turn = asked;
  fetching.add(page);
  try {
    const look = await lookAt({ first: page * PAGE, limit: PAGE });
    if (turn === asked) pages[page] = look;
  } catch (error) {
    problem = error as Problem;
  } finally {
    fetching.delete(page);
  }
}

function sortBy(name: string): void {
  const at = query.sort[0];
  query.sort = at === name ? [`-${name}`] : at === `-${name}` ? [] : [name];
}

const WORDS = {
  equal: "is",
  "not-equal": "is not",
  containing: "has",
  beginning: "begins with",
  "at-least": "from",
  "at-most": "up to",
  blank: "is blank",
  filled: "is filled",
} as const;
const isNarrowed = $derived(query.search !== "" || query.filters.length > 0);
const amount = $derived(
  total === undefined ? "" : total === of ? `${count(of)} rows` : `${count(total)} of ${count(of)} rows`,
);
const order = (name: string): "ascending" | "descending" | "none" =>
  query.sort[0] === name ? "ascending" : query.sort[0] === `-${name}` ? "descending" : "none";
const isRight = (column: Column): boolean => column.type === "number";
</script>

<div class="bar">
  <div class="search"><Search closeButtonLabelText="Clear what is searched for" size="sm" labelText="Search" placeholder="Search in all columns" bind:value={search} on:change={() => { query.search = search; }} on:clear={() => { query.search = ""; }} /></div>
  <span class="state" role="status">{amount}</span>
  {#each query.filters as filter, at}
    <Tag filter type="teal" size="sm" title="Remove this filter" on:close={() => { query.filters = query.filters.filter((_, index) => index !== at); }}>{filter.column} {WORDS[filter.is]} {filter.value}</Tag>
  {/each}
  {#if onuse && ticked.size > 0}
    <Button size="small" on:click={() => onuse?.({ numbers: [...ticked].sort((a, b) => a - b) }, ticked.size)}>{plural(ticked.size, ["Use # ticked row for a run", "Use # ticked rows for a run"])}</Button>
    <Button size="small" kind="ghost" on:click={() => ticked.clear()}>Untick them</Button>
  {:else if onuse && isNarrowed && total}<Button size="small" kind="tertiary" on:click={() => onuse?.(query, total ?? 0)}>Use these rows for a run</Button>{/if}
</div>
<Trouble {problem} />
<div class="sheet" class:open={opened !== undefined}>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div class="grid" tabindex="0" role="region" aria-label={label} bind:this={scroller} bind:clientHeight={height} onscroll={() => { top = scroller?.scrollTop ?? 0; }}>
    <div style:height="{spacer}px">
      <table>
        <thead>
          <GridHead {columns} {order} {mark} {opened} onsort={sortBy} onopen={(name) => { opened = opened === name ? undefined : name; }} />
        </thead>
        <tbody>
          {#each shown as line (line.index)}
            <tr class:jumped={row !== undefined && line.number === row} class:ticked={line.number !== undefined && ticked.has(line.number)}>
              <td class="number">{#if onuse && line.number !== undefined}<label><input type="checkbox" aria-label={`Tick row ${line.number}`} checked={ticked.has(line.number)} onchange={(event) => tickRow(line.number ?? 0, event.currentTarget.checked)} />{line.number}</label>{:else}{line.number ?? "…"}{/if}</td>
              {#each columns as column, at}
                {@const value = line.cells?.[at] ?? null}
                <td class:right={isRight(column)} class:marked={column.name === mark && line.number === row} title={typeof value === "string" && value.length > 36 ? value : undefined}>{line.cells ? cell(value, column) : ""}</td>
              {/each}
            </tr>
          {/each}
        </tbody>
      </table>
      {#if total === 0}<p class="none soft">No row is like that.</p>{/if}
    </div>
  </div>
  {#if opened !== undefined}
    {#key opened}<ColumnPanel {sight} {query} column={opened} onclose={() => { opened = undefined; }} onfilter={(filter) => { query.filters = [...query.filters, filter]; }} />{/key}
  {/if}
</div>

<style>
  .bar { display: flex; gap: 0.75rem; align-items: center; flex-wrap: wrap; margin-bottom: 0.5rem; }
  .search { width: 19rem; }
  .state { font-size: 0.875rem; font-variant-numeric: tabular-nums; color: var(--corbix-soft); }
  .sheet { display: grid; grid-template-columns: minmax(0, 1fr); gap: 0.75rem; }
  .sheet.open { grid-template-columns: minmax(0, 1fr) 18rem; }
  .grid { overflow: auto; height: min(62vh, 40rem); border: 1px solid var(--cds-ui-03); background: var(--cds-ui-02); position: relative; }
  table { border-collapse: separate; border-spacing: 0; font-size: 0.8125rem; font-variant-numeric: tabular-nums; min-width: 100%; position: sticky; top: 0; }
  td { padding: 0 0.6rem; height: 26px; vertical-align: middle; line-height: 1.1rem; border-bottom: 1px solid var(--cds-ui-03); white-space: nowrap; max-width: 20rem; overflow: hidden; text-overflow: ellipsis; }
  .grid:focus-visible { outline: 2px solid var(--cds-focus); outline-offset: -2px; }
  td.right { text-align: right; }
  .number { color: var(--corbix-soft); text-align: right; padding-right: 0.6rem; }
  .ticked td { background: var(--cds-highlight); }
  .number label { display: inline-flex; align-items: center; gap: 0.4rem; cursor: pointer; }
  .number input { width: 0.9rem; height: 0.9rem; accent-color: var(--cds-interactive-04); }
  .jumped td { background: var(--cds-highlight); }
  td.marked { box-shadow: inset 0 0 0 2px var(--corbix-amber); }
  .none { padding: 1.5rem; }
</style>
