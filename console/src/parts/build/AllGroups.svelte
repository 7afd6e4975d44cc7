<script lang="ts">
import type { DraftLook } from "../../lib/client";
import { count } from "../../lib/format";
import { scrollable } from "../../lib/scrollable";

/** All groups as a table with their totals; the last line is what they add up to. */
let { look, onchoose }: { look: DraftLook; onchoose: (key: string) => void } = $props();
const names = $derived(look.totals.map(({ name }) => name));
</script>

<p class="soft">{count(look.groupCount)} groups{#if look.groupCount > look.groups.length}, the first {count(look.groups.length)} shown{/if}. {count(look.rows.master)} rows came in, {count(look.rows.inGroups)} are in groups{#if look.rows.leftOut.length > 0}; left out: {look.rows.leftOut.map((one) => `${count(one.count)} ${one.reason}`).join(", ")}{/if}.</p>
<div class="rows" use:scrollable data-scrolls="All groups">
  <table>
    <thead><tr><th scope="col">Group</th><th scope="col" class="right">Rows</th><th scope="col" class="right">People</th>{#each names as name}<th scope="col" class="right">{name}</th>{/each}</tr></thead>
    <tbody>
      {#each look.groups as group}
        <tr><td><button onclick={() => onchoose(group.key)}>{group.label}</button>{#if group.isNew}<span class="soft"> new</span>{/if}</td><td class="right">{count(group.rows)}</td><td class="right" class:none={group.people === 0} title={group.nobody ?? ""}>{count(group.people)}</td>{#each names as name}<td class="right">{group.totals[name] ?? ""}</td>{/each}</tr>
      {/each}
    </tbody>
    <tfoot><tr><th scope="row">All groups</th><td class="right">{count(look.rows.inGroups)}</td><td></td>{#each look.totals as total}<td class="right">{total.parcels ?? total.master}</td>{/each}</tr></tfoot>
  </table>
</div>

<style>
  .rows { overflow: auto; max-height: 26rem; border: 1px solid var(--cds-ui-03); }
  table { border-collapse: collapse; width: 100%; font-size: 0.8125rem; font-variant-numeric: tabular-nums; }
  thead th { position: sticky; top: 0; background: var(--cds-ui-01); }
  th { text-align: left; padding: 0.2rem 0.5rem; font-weight: 600; white-space: nowrap; }
  td { padding: 0.15rem 0.5rem; border-top: 1px solid var(--cds-ui-03); }
  .right { text-align: right; }
  .none { color: var(--corbix-amber); font-weight: 600; }
  tfoot td, tfoot th { border-top: 2px solid var(--cds-ui-03); font-weight: 600; }
  button { background: none; border: 0; padding: 0; font: inherit; color: var(--cds-link-01); text-decoration: underline; cursor: pointer; text-align: left; }
</style>
