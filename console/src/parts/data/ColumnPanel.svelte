<script lang="ts">
import { Button, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { api, type Cell, type Comparison, type Filter, type Problem, type Profile, type Query, type Sight } from "../../lib/client";
import { cell, count, exact } from "../../lib/format";
import Trouble from "../common/Trouble.svelte";

/** A column in figures over the rows found, and a filter on it. */
let {
  sight,
  query,
  column,
  onclose,
  onfilter,
}: { sight: Sight; query: Query; column: string; onclose: () => void; onfilter: (filter: Filter) => void } = $props();
let profile = $state<Profile>();
let problem = $state<Problem>();
let is = $state<Comparison>("containing");
let value = $state("");

$effect(() => {
  const { dataset, edition, report, step } = sight;
  const body = {
    query,
    columns: [column],
    ...(report === undefined ? {} : { report }),
    ...(step === undefined ? {} : { step }),
  };
  api.post("/datasets/{name}/editions/{number}/profile", { path: { name: dataset, number: edition }, body }).then(
    ({ columns: [found] }) => {
      profile = found;
    },
    (error) => {
      problem = error;
    },
  );
});

const isNumeric = $derived(profile !== undefined && profile.histogram.length > 0);
const show = (one: Cell): string => (profile ? cell(one, profile) : "");
const most = $derived(Math.max(1, ...(profile?.histogram ?? []).map((bar) => bar.count)));
const mostFrequent = $derived(Math.max(1, ...(profile?.frequent ?? []).map((one) => one.count)));
const isDate = $derived(profile?.type === "date" || profile?.type === "datetime");
const facts = $derived(
  profile
    ? ([
        ["Type", profile.unit ? `${profile.type}, ${profile.unit}` : profile.type],
        ["Filled", count(profile.count - profile.blanks)],
        ["Blank", count(profile.blanks)],
        ["Distinct", count(profile.distinct)],
        ["Lowest", show(profile.min)],
        ["Highest", show(profile.max)],
        ...(profile.sum === null ? [] : [["Sum", exact(profile.sum)]]),
      ] as [string, string][])
    : [],
);

function apply(): void {
  onfilter({ column, is, value: is === "blank" || is === "filled" ? "" : value });
}
</script>

<aside aria-label="Column {column}">
  <div class="split"><h2>{column}</h2><button class="close" onclick={onclose} aria-label="Close">✕</button></div>
  <Trouble {problem} />
  {#if profile}
    <dl>{#each facts as [what, is]}<dt>{what}</dt><dd>{is}</dd>{/each}</dl>
    {#if isNumeric}
      <svg viewBox="0 0 200 60" role="img" aria-label="How the values spread from {show(profile.min)} to {show(profile.max)}">
        {#each profile.histogram as bar, at}
          {@const width = 200 / profile.histogram.length}
          {@const tall = bar.count === 0 ? 0 : Math.max(1.5, (bar.count / most) * 58)}
          <rect x={at * width + 0.5} y={60 - tall} width={Math.max(1, width - 1)} height={tall}><title>{count(bar.count)}</title></rect>
        {/each}
      </svg>
    {:else}
      <ul>
        {#each profile.frequent as one}
          <li><button onclick={() => onfilter({ column, is: "equal", value: show(one.value) })} title="Only these rows"><span class="fill" style:width="{(one.count / mostFrequent) * 100}%"></span><span class="value">{show(one.value)}</span><span class="count">{count(one.count)}</span></button></li>
        {/each}
        {#if profile.distinct > profile.frequent.length}<li class="soft">and {count(profile.distinct - profile.frequent.length)} more</li>{/if}
      </ul>
    {/if}
    <form onsubmit={(event) => { event.preventDefault(); apply(); }}>
      <Select size="sm" labelText="Only rows where it" bind:selected={is}>
        <SelectItem value="equal" text="is" /><SelectItem value="not-equal" text="is-not" />
        <SelectItem value="containing" text="has" /><SelectItem value="beginning" text="begins with" />
        <SelectItem value="at-least" text="is at least" /><SelectItem value="at-most" text="is at most" />
        <SelectItem value="blank" text="is-blank" /><SelectItem value="filled" text="is-filled" />
      </Select>
      {#if is !== "blank" && is !== "filled"}<TextInput size="sm" labelText="Value" placeholder={isDate ? "2026-10-31" : ""} bind:value />{/if}
      <Button size="small" type="submit" kind="tertiary">Filter</Button>
    </form>
  {/if}
</aside>

<style>
  aside { border: 1px solid var(--cds-ui-03); background: var(--cds-ui-02); padding: 0.5rem 0.9rem 0.9rem; max-height: min(62vh, 40rem); overflow: auto; }
  .close { background: none; border: 0; cursor: pointer; color: var(--corbix-soft); font-size: 1rem; padding: 0.7rem 0.2rem; }
  h2 { overflow-wrap: anywhere; margin: 0.5rem 0; }
  dl { display: grid; grid-template-columns: auto 1fr; gap: 0.15rem 1rem; font-size: 0.8125rem; font-variant-numeric: tabular-nums; margin-bottom: 0.75rem; }
  dt { color: var(--corbix-soft); }
  dd { text-align: right; overflow-wrap: anywhere; }
  svg { width: 100%; height: auto; border-bottom: 1px solid var(--corbix-soft); }
  rect { fill: var(--cds-interactive-04); }
  li { font-size: 0.8125rem; }
  li button { position: relative; display: flex; justify-content: space-between; gap: 0.5rem; width: 100%; background: none; border: 0; padding: 0.15rem 0.3rem; min-height: 1.5rem; cursor: pointer; font: inherit; color: inherit; text-align: left; }
  li button:hover .value { text-decoration: underline; }
  .fill { position: absolute; inset: 1px auto 1px 0; background: var(--cds-highlight); }
  .value, .count { position: relative; }
  .value { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  .count { font-variant-numeric: tabular-nums; color: var(--corbix-soft); }
  form { display: grid; gap: 0.6rem; margin-top: 1rem; }
</style>
