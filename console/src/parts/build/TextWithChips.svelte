<script lang="ts">
import { Select, SelectItem, TextArea, TextInput } from "carbon-components-svelte";
import { writeName } from "../../lib/report/conditions";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";

/** A text with marks, which are chosen by what they stand for and put in where the cursor is. */
let { draft, path, label, rows = 1 }: { draft: Draft; path: Path; label: string; rows?: number } = $props();

const value = $derived(String(draft.get(path) ?? ""));
const id = $derived(`text-${path.join("-")}`);
const columns = $derived(draft.look?.columns ?? []);
const hasPeriod = $derived(draft.get(["period"]) !== undefined);
const marks = $derived([
  ["Name of the group", "{{ group.key }}"],
  ["Name of the person", "{{ recipient.name }}"],
  ...(hasPeriod
    ? [
        ["Period", "{{ period.label }}"],
        ["Period as a key", "{{ period.key }}"],
      ]
    : []),
  ["Number of rows", "{{ count(line) }}"],
  ["Day of the run", "{{ run.date }}"],
  ...columns
    .filter(({ type }) => type === "number")
    .map(({ name }) => [`Sum of ${name}`, `{{ sum(line.${writeName(name)}) as "#,##0.00" }}`]),
  ...columns.map(({ name }) => [`${name}, the same in all rows`, `{{ ${writeName(name)} }}`]),
]);

function put(mark: string): void {
  const field = document.getElementById(id) as HTMLInputElement | HTMLTextAreaElement | null;
  const from = field?.selectionStart ?? value.length;
  draft.set(path, `${value.slice(0, from)}${mark}${value.slice(field?.selectionEnd ?? from)}`);
}
const take = (text: string): void => {
  if (text !== value && text !== "") draft.set(path, text);
};
</script>

<div class="text">
  {#if rows > 1}<TextArea {id} {rows} labelText={label} {value} on:input={(event) => take((event.target as HTMLTextAreaElement).value)} />
  {:else}<TextInput {id} size="sm" labelText={label} {value} on:input={(event) => take(String((event as CustomEvent).detail ?? ""))} />{/if}
  <Select size="sm" labelText={`Put into ${label.toLowerCase()}`} selected="" on:update={({ detail }) => { if (detail !== "") put(String(detail)); }}>
    <SelectItem value="" text="put in …" />
    {#each marks as [what, mark]}<SelectItem value={mark} text={what} />{/each}
  </Select>
</div>

<style>
  .text { display: grid; grid-template-columns: minmax(0, 1fr) 11rem; gap: 0.5rem; align-items: end; }
</style>
