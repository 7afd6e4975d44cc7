<script lang="ts">
import type { Difference } from "../../lib/client";
import { count, exact, plural } from "../../lib/format";

let { difference }: { difference: Difference } = $props();
const names = (list: string[]): string => list.slice(0, 12).join(", ") + (list.length > 12 ? ", …" : "");
const changedIn = $derived(
  Object.entries(difference.changed?.columns ?? {})
    .map(([column, rows]) => `${column} ${count(rows)}`)
    .join(", "),
);
</script>

<ul>
  <li>{count(difference.rows.before)} → {plural(difference.rows.after, ["# row", "# rows"])}: {count(difference.added.count)} added, {count(difference.gone.count)} gone{#if difference.changed}, {count(difference.changed.count)} changed{changedIn ? ` (${changedIn})` : ""}{/if}, {count(difference.same)} the same.</li>
  {#if difference.columns.added.length > 0}<li>New columns: {names(difference.columns.added)}.</li>{/if}
  {#if difference.columns.gone.length > 0}<li>Columns gone: {names(difference.columns.gone)}.</li>{/if}
  {#each difference.groups as group}
    <li>Groups by {group.column}: {count(group.before)} → {count(group.after)}{#if group.added.length > 0}; new: {names(group.added)}{/if}{#if group.gone.length > 0}; gone: {names(group.gone)}{/if}.</li>
  {/each}
</ul>
{#if difference.totals.length > 0}
  <table>
    <thead><tr><th scope="col">Total</th><th scope="col" class="right">Before</th><th scope="col" class="right">After</th><th scope="col" class="right">Difference</th></tr></thead>
    <tbody>{#each difference.totals as one}<tr><td>{one.column}</td><td class="right">{exact(one.before)}</td><td class="right">{exact(one.after)}</td><td class="right" class:other={one.difference !== "0"}>{one.difference === "0" ? "none" : exact(one.difference)}</td></tr>{/each}</tbody>
  </table>
{/if}
{#if difference.changed && difference.changed.examples.length > 0}
  <table>
    <thead><tr><th scope="col">Key</th><th scope="col">Column</th><th scope="col">Before</th><th scope="col">After</th></tr></thead>
    <tbody>{#each difference.changed.examples as one}<tr><td>{one.key}</td><td>{one.column}</td><td>{one.before ?? ""}</td><td>{one.after ?? ""}</td></tr>{/each}</tbody>
  </table>
{/if}

<style>
  ul { display: grid; gap: 0.25rem; font-size: 0.875rem; margin-bottom: 0.75rem; }
  table { border-collapse: collapse; font-size: 0.8125rem; font-variant-numeric: tabular-nums; background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); margin-bottom: 0.75rem; }
  th { text-align: left; background: var(--cds-ui-01); font-weight: 600; }
  th, td { padding: 0.2rem 0.75rem; border-bottom: 1px solid var(--cds-ui-03); }
  .right { text-align: right; }
  .other { color: var(--corbix-amber); font-weight: 600; }
</style>
