<script lang="ts">
import type { ParcelSummary } from "../../lib/client";
import { amount, count } from "../../lib/format";
import type { Pages } from "../../lib/pages.svelte";
import { link } from "../../lib/router.svelte";
import More from "../common/More.svelte";
import StateTag from "../common/StateTag.svelte";

/** A run's parcels, a page at a time: rows, totals, files, people, and what became of the message. */
let { run, pages, parcel }: { run: string; pages: Pages<ParcelSummary>; parcel: number | undefined } = $props();

const parcels = $derived(pages.items ?? []);
const allTotals = $derived(Object.keys(parcels[0]?.totals ?? {}));
// Beside an open parcel there is room for the first only.
const totals = $derived(parcel === undefined ? allTotals : allTotals.slice(0, 1));
const places = $derived(
  Object.fromEntries(
    allTotals.map((name) => [name, parcels.some((one) => !Number.isInteger(Number(one.totals[name]))) ? 2 : 0]),
  ),
);
</script>

<div class="list" class:open={parcel !== undefined}>
  <table>
    <thead><tr><th>Group</th><th class="right">Rows</th>{#each totals as name}<th class="right">{name}</th>{/each}{#if parcel === undefined}<th class="right">Files</th><th class="right">People</th>{/if}<th>State</th></tr></thead>
    <tbody>
      {#each parcels as one}
        <tr class:chosen={one.number === parcel}>
          <td class="label" title={one.label}><a href={link("runs", run, one.number)} aria-current={one.number === parcel ? "true" : undefined}>{one.label}</a></td>
          <td class="right">{count(one.rowCount)}</td>
          {#each totals as name}<td class="right">{amount(one.totals[name] ?? "", places[name] ?? 0)}</td>{/each}
          {#if parcel === undefined}
            <td class="right">{one.files.length}</td>
            <td class="right">{one.message ? one.message.envelope.to.length + one.message.envelope.cc.length + one.message.envelope.bcc.length : 0}</td>
          {/if}
          <td><StateTag state={one.message?.state ?? (one.state === "made" ? "no recipient" : one.state)} /></td>
        </tr>
      {/each}
    </tbody>
  </table>
  <More {pages} what="parcels" />
</div>

<style>
  .list { overflow-x: auto; background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); }
  table { width: 100%; border-collapse: collapse; font-size: 0.8125rem; font-variant-numeric: tabular-nums; }
  th { background: var(--cds-ui-01); text-align: left; font-weight: 600; padding: 0.35rem 0.6rem; }
  td { border-top: 1px solid var(--cds-ui-03); padding: 0.05rem 0.6rem; white-space: nowrap; }
  .label { max-width: 16rem; overflow: hidden; text-overflow: ellipsis; }
  .open .label { max-width: 11rem; }
  .chosen td { background: var(--cds-highlight); }
  th.right, td.right { text-align: right; }
</style>
