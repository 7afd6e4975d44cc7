<script lang="ts">
import { Select, SelectItem, TextArea, TextInput } from "carbon-components-svelte";
import { insertable, insertableInLine } from "../../lib/message";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";

/** A text with marks, which are chosen by what they stand for and put in where the cursor is. */
let { draft, path, label, rows = 1 }: { draft: Draft; path: Path; label: string; rows?: number } = $props();

const value = $derived(String(draft.get(path) ?? ""));
const id = $derived(`text-${path.join("-")}`);
const marks = $derived.by(() => {
  const columns = draft.look?.columns ?? [];
  const hasPeriod = draft.get(["period"]) !== undefined;
  return rows > 1 ? insertable(columns, hasPeriod) : insertableInLine(columns, hasPeriod);
});

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
    {#each marks as { name, mark }}<SelectItem value={mark} text={name} />{/each}
  </Select>
</div>

<style>
  .text { display: grid; grid-template-columns: minmax(0, 1fr) 11rem; gap: 0.5rem; align-items: end; }
</style>
