<script lang="ts">
import { Button } from "carbon-components-svelte";
import type { Rows } from "../../lib/client";
import { cell, count } from "../../lib/format";

/** Rows are fetched a page at a time; `load` gives the first, or those behind a cursor. */
let { load, label }: { load: (cursor: string | undefined) => Promise<Rows>; label: string } = $props();
let rows = $state<Rows>();

$effect(() => {
  load(undefined).then((found) => {
    rows = found;
  });
});

async function more(): Promise<void> {
  if (!rows || rows.next === null) return;
  const found = await load(rows.next);
  rows = { ...found, rowNumbers: [...rows.rowNumbers, ...found.rowNumbers], rows: [...rows.rows, ...found.rows] };
}
</script>

{#if rows}
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div class="grid" tabindex="0" role="region" aria-label={label}>
    <table>
      <thead>
        <tr><th class="number" scope="col">Row</th>{#each rows.columns as column}<th scope="col" class:right={column.type === "number"}>{column.name}</th>{/each}</tr>
      </thead>
      <tbody>
        {#each rows.rows as line, index}
          <tr>
            <td class="number">{rows.rowNumbers[index]}</td>
            {#each line as value, at}<td class:right={rows.columns[at].type === "number"} title={typeof value === "string" && value.length > 40 ? value : undefined}>{cell(value, rows.columns[at])}</td>{/each}
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
  <p class="soft foot">{rows.next === null ? "" : `${count(rows.rows.length)} of `}{count(rows.total)} rows {#if rows.next !== null}<Button size="small" kind="ghost" on:click={more}>Show more</Button>{/if}</p>
{/if}

<style>
  .grid { overflow: auto; max-height: 68vh; border: 1px solid var(--cds-ui-03); background: var(--cds-ui-02); }
  table { border-collapse: collapse; font-size: 0.8125rem; font-variant-numeric: tabular-nums; min-width: 100%; }
  th { position: sticky; top: 0; background: var(--cds-ui-01); text-align: left; padding: 0.3rem 0.6rem; font-weight: 600; white-space: nowrap; }
  td { padding: 0.22rem 0.6rem; border-top: 1px solid var(--cds-ui-03); white-space: nowrap; max-width: 22rem; overflow: hidden; text-overflow: ellipsis; }
  th.right, td.right { text-align: right; }
  .number { color: var(--corbix-soft); text-align: right; }
  .foot { padding: 0.3rem 0; }
</style>
