<script lang="ts">
import type { Column } from "../../lib/client";

/** The heading of a grid: each column's name sorts by it, and a mark beside it opens its figures and filter. */
let {
  columns,
  order,
  mark,
  opened,
  onsort,
  onopen,
}: {
  columns: readonly Column[];
  order: (name: string) => "ascending" | "descending" | "none" | undefined;
  mark: string | undefined;
  opened: string | undefined;
  onsort: (name: string) => void;
  onopen: (name: string) => void;
} = $props();
</script>

<tr>
  <th class="number" scope="col">Row</th>
  {#each columns as column}
    <th scope="col" class:right={column.type === "number"} class:marked={column.name === mark} aria-sort={order(column.name)}>
      <button class="name" onclick={() => onsort(column.name)} title="Sort by {column.name}">{column.name}<span class="arrow" aria-hidden="true">{order(column.name) === "ascending" ? "↑" : order(column.name) === "descending" ? "↓" : ""}</span></button>
      <button class="more" onclick={() => onopen(column.name)} aria-label="Figures and filter of {column.name}" aria-expanded={opened === column.name}>▾</button>
    </th>
  {/each}
</tr>

<style>
  th { vertical-align: middle; background: var(--cds-ui-01); text-align: left; padding: 0 0.25rem 0 0.6rem; font-weight: 600; white-space: nowrap; height: 30px; border-bottom: 1px solid var(--cds-ui-03); }
  th.right { text-align: right; }
  .name, .more { background: none; border: 0; padding: 0.2rem 0; font: inherit; color: inherit; cursor: pointer; }
  .more { color: var(--corbix-soft); min-width: 1.5rem; min-height: 1.5rem; }
  .name:hover, .more:hover { color: var(--cds-link-01); }
  .name:focus-visible, .more:focus-visible { outline: 2px solid var(--cds-focus); outline-offset: -2px; }
  .arrow { display: inline-block; width: 0.8rem; text-align: center; }
  th.marked { color: var(--corbix-amber); }
  .number { color: var(--corbix-soft); text-align: right; padding-right: 0.6rem; }
</style>
