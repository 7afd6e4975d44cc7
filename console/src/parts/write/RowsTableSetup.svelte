<script lang="ts">
import { Button, Checkbox, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { Reorder } from "../../lib/reorder.svelte";
import { FORMATS } from "../../lib/report/formats";
import type { RowsTable, ShownColumn } from "../../lib/rich-text/rows-table";
import DragHandle from "../common/DragHandle.svelte";

/** Which columns a table of rows shows, in which order, how they are called and shown, and what is added up below. */
let {
  shown,
  columns,
  onchange,
  onclose,
}: {
  shown: RowsTable;
  columns: readonly { name: string; type: string }[];
  onchange: (table: RowsTable) => void;
  onclose: () => void;
} = $props();

const order = new Reorder(move, () => shown.columns.length);
const left = $derived(columns.filter(({ name }) => !shown.columns.some(({ column }) => column === name)));
const write = (next: readonly ShownColumn[]): void => {
  // A table without a column is none.
  if (next.length > 0) onchange({ ...shown, columns: next });
};
const change = (at: number, more: Partial<ShownColumn>): void =>
  write(shown.columns.map((one, index) => (index === at ? { ...one, ...more } : one)));

function move(at: number, to: number): void {
  const next = [...shown.columns];
  next.splice(to, 0, ...next.splice(at, 1));
  write(next);
}

function add(name: string, type: string): void {
  const format = type === "date" || type === "datetime" ? "dd/mm/yyyy" : "";
  write([...shown.columns, { column: name, heading: name, format, total: false }]);
}
</script>

<section aria-label="Table of the rows">
  <table>
    <thead><tr><th scope="col">Column</th><th scope="col">Heading</th><th scope="col">Shown as</th><th scope="col">Sum</th></tr></thead>
    <tbody>
      {#each shown.columns as one, at (one.column)}
        <tr class:over={order.over === at} {...order.onto(at)}>
          <td class="name"><DragHandle label={`Drag ${one.column}`} {...order.handle(at)} /><Checkbox labelText={one.column} checked on:check={({ detail }) => { if (!detail) write(shown.columns.filter((_, index) => index !== at)); }} /></td>
          <td><TextInput size="sm" hideLabel labelText={`Heading of ${one.column}`} placeholder={one.column} value={one.heading} on:change={(event) => change(at, { heading: String((event as CustomEvent).detail ?? "") })} /></td>
          <td><Select size="sm" hideLabel labelText={`Format of ${one.column}`} selected={one.format} on:update={({ detail }) => { if (detail !== one.format) change(at, { format: String(detail) }); }}>{#if one.format !== "" && !FORMATS.some(([code]) => code === one.format)}<SelectItem value={one.format} text={one.format} />{/if}{#each FORMATS as [code, text] (code)}<SelectItem value={code} {text} />{/each}</Select></td>
          <td><Checkbox hideLabel labelText={`Sum of ${one.column}`} checked={one.total} on:check={({ detail }) => { if (detail !== one.total) change(at, { total: detail }); }} /></td>
        </tr>
      {/each}
      {#each left as { name, type } (name)}<tr><td colspan="4"><Checkbox labelText={name} on:check={({ detail }) => { if (detail) add(name, type); }} /></td></tr>{/each}
    </tbody>
  </table>
  <Button size="small" kind="ghost" on:click={onclose}>Done</Button>
</section>

<style>
  section { border-top: 1px solid var(--cds-ui-03); padding: 0.5rem 0.75rem; background: var(--cds-ui-02); }
  table { width: 100%; table-layout: fixed; border-collapse: collapse; font-size: 0.8125rem; }
  th:nth-child(1), th:nth-child(2) { width: 27%; }
  th:nth-child(4) { width: 3.2rem; }
  td :global(select) { padding-right: 1.8rem; padding-left: 0.5rem; min-width: 0; }
  td :global(input[type="text"]) { padding-inline: 0.5rem; }
  .name { display: flex; gap: 0.25rem; align-items: center; }
  .over { box-shadow: inset 0 2px 0 #d0782f; }
  th { text-align: left; font-weight: 600; padding: 0.2rem 0.4rem; }
  td { padding: 0.1rem 0.4rem; border-top: 1px solid var(--cds-ui-03); vertical-align: middle; }
</style>
