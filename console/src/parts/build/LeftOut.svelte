<script lang="ts">
import type { Column, DraftLook } from "../../lib/client";
import { cell, plural, count as shown } from "../../lib/format";
import { scrollable } from "../../lib/scrollable";

/** How many rows a condition leaves out by itself, and which. */
let {
  count,
  loaded,
  isOneOf,
}: {
  count: DraftLook["conditions"][number] | undefined;
  loaded: readonly Column[];
  /** Whether it is enough that this one is true: then it lets rows in, and leaves none out by itself. */
  isOneOf: boolean;
} = $props();
</script>

{#if count?.trouble}<p class="wrong">{count.trouble}</p>
{:else if count}
  {#if count.leavesOut === 0}<p class="soft">true of all {plural(count.holds, ["# row", "# rows"])}</p>
  {:else}
    <details>
      <summary>{isOneOf ? `true of ${shown(count.holds)} of ${plural(count.holds + count.leavesOut, ["# row", "# rows"])}` : `leaves out ${shown(count.leavesOut)} of ${plural(count.holds + count.leavesOut, ["# row", "# rows"])}`}</summary>
      <div class="rows" use:scrollable data-scrolls="Rows that are left out">
        <table>
          <thead><tr><th scope="col">Row</th>{#each loaded as column}<th scope="col">{column.name}</th>{/each}</tr></thead>
          <tbody>{#each count.cells as line, at}<tr><td class="number">{count.rowNumbers[at]}</td>{#each line as value, index}<td>{cell(value, loaded[index])}</td>{/each}</tr>{/each}</tbody>
        </table>
      </div>
      {#if count.leavesOut > count.cells.length}<p class="soft">the first {count.cells.length} of {shown(count.leavesOut)}</p>{/if}
    </details>
  {/if}
{/if}

<style>
  summary, p { font-size: 0.8125rem; color: var(--corbix-soft); }
  p { margin: 0; }
  .wrong { color: var(--corbix-stop); }
  .rows { overflow: auto; max-height: 14rem; border: 1px solid var(--cds-ui-03); margin-top: 0.25rem; }
  table { border-collapse: collapse; font-size: 0.75rem; font-variant-numeric: tabular-nums; }
  th { position: sticky; top: 0; background: var(--cds-ui-01); text-align: left; padding: 0.2rem 0.5rem; white-space: nowrap; font-weight: 600; }
  td { padding: 0.1rem 0.5rem; border-top: 1px solid var(--cds-ui-03); white-space: nowrap; max-width: 12rem; overflow: hidden; text-overflow: ellipsis; }
  .number { color: var(--corbix-soft); }
</style>
