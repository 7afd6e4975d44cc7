<script lang="ts">
import { Checkbox, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { Reorder } from "../../lib/reorder.svelte";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import { FORMATS } from "../../lib/report/formats";
import DragHandle from "../common/DragHandle.svelte";
import TextWithChips from "./TextWithChips.svelte";

/** A table of the rows: which columns in which order, how they are called and shown, and what is added up. */
let { draft, path, all }: { draft: Draft; path: Path; all: readonly string[] } = $props();

interface Shown {
  column: string;
  heading?: string;
  format?: string;
  total?: string;
}
const named = $derived(draft.get([...path, "columns"]) as (string | Shown)[] | undefined);
const shown = $derived<Shown[]>((named ?? all).map((one) => (typeof one === "string" ? { column: one } : one)));
const left = $derived(all.filter((name) => !shown.some(({ column }) => column === name)));
const colour = $derived(String(draft.get([...path, "colour"]) ?? "2f6b57"));

const order = new Reorder(move, () => shown.length);

function write(columns: readonly Shown[]): void {
  const plain = columns.map((one) => (Object.keys(one).length === 1 ? one.column : one));
  draft.set([...path, "columns"], columns.length === 0 ? undefined : plain);
}

function change(at: number, more: Partial<Shown>): void {
  write(
    shown.map((one, index) =>
      index === at
        ? (Object.fromEntries(
            Object.entries({ ...one, ...more }).filter(([, value]) => value !== undefined && value !== ""),
          ) as unknown as Shown)
        : one,
    ),
  );
}

function move(at: number, to: number): void {
  const next = [...shown];
  const [one] = next.splice(at, 1);
  if (one) next.splice(to, 0, one);
  write(next);
}
</script>

<TextWithChips {draft} path={[...path, "title"]} label="Line above the table" />
<table>
  <thead><tr><th scope="col">Column</th><th scope="col">Heading</th><th scope="col">Shown as</th><th scope="col">Below</th></tr></thead>
  <tbody>
    {#each shown as one, at (one.column)}
      <tr class:over={order.over === at} {...order.onto(at)}>
        <td class="name"><DragHandle label={`Drag ${one.column}`} {...order.handle(at)} /><Checkbox labelText={one.column} checked on:check={({ detail }) => { if (!detail) write(shown.filter((_, index) => index !== at)); }} /></td>
        <td><TextInput size="sm" hideLabel labelText={`Heading of ${one.column}`} placeholder={one.column} value={one.heading ?? ""} on:change={(event) => change(at, { heading: String((event as CustomEvent).detail ?? "") })} /></td>
        <td><Select size="sm" hideLabel labelText={`Format of ${one.column}`} selected={one.format ?? ""} on:update={({ detail }) => { if (detail !== (one.format ?? "")) change(at, { format: String(detail) }); }}>{#if one.format && !FORMATS.some(([code]) => code === one.format)}<SelectItem value={one.format} text={one.format} />{/if}{#each FORMATS as [code, text] (code)}<SelectItem value={code} {text} />{/each}</Select></td>
        <td><Select size="sm" hideLabel labelText={`Total of ${one.column}`} selected={one.total ?? ""} on:update={({ detail }) => { if (detail !== (one.total ?? "")) change(at, { total: String(detail) }); }}><SelectItem value="" text="none" /><SelectItem value="sum" text="sum" /><SelectItem value="count" text="count" /><SelectItem value="average" text="average" /></Select></td>
      </tr>
    {/each}
    {#each left as name (name)}<tr><td colspan="4"><Checkbox labelText={name} on:check={({ detail }) => { if (detail) write([...shown, { column: name }]); }} /></td></tr>{/each}
  </tbody>
</table>
<label class="colour">Colour of the headings <input type="color" value={`#${colour}`} onchange={(event) => draft.set([...path, "colour"], event.currentTarget.value.slice(1))} /></label>

<style>
  table { width: 100%; table-layout: fixed; border-collapse: collapse; font-size: 0.8125rem; }
  th:nth-child(1) { width: 31%; }
  td :global(select) { padding-right: 1.6rem; padding-left: 0.5rem; min-width: 0; width: 100%; }
  td :global(input[type="text"]) { padding-inline: 0.5rem; }
  th { text-align: left; font-weight: 600; padding: 0.2rem 0.4rem; }
  td { padding: 0.1rem 0.4rem; border-top: 1px solid var(--cds-ui-03); vertical-align: middle; }
  .over { box-shadow: inset 0 2px 0 #d0782f; }
  .name { display: flex; gap: 0.25rem; align-items: center; }
  .colour { display: flex; gap: 0.5rem; align-items: center; font-size: 0.75rem; color: var(--corbix-soft); }
</style>
