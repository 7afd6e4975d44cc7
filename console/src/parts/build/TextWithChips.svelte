<script lang="ts">
import { TextArea } from "carbon-components-svelte";
import { insertable, insertableInLine } from "../../lib/message";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import ChipLine from "../write/ChipLine.svelte";
import PutIn from "../write/PutIn.svelte";

/** A text of the definition in which a group's own values stand: a line with chips, or source of several lines with their marks. */
let { draft, path, label, rows = 1 }: { draft: Draft; path: Path; label: string; rows?: number } = $props();

const value = $derived(String(draft.get(path) ?? ""));
const id = $derived(`text-${path.join("-")}`);
const columns = $derived(draft.look?.columns ?? []);
const hasPeriod = $derived(draft.get(["period"]) !== undefined);
const line = $derived(insertableInLine(columns, hasPeriod));

function put(mark: string): void {
  const field = document.getElementById(id) as HTMLTextAreaElement | null;
  const from = field?.selectionStart ?? value.length;
  draft.set(path, `${value.slice(0, from)}${mark}${value.slice(field?.selectionEnd ?? from)}`);
}
const take = (text: string): void => {
  if (text !== value && text !== "") draft.set(path, text);
};
</script>

{#if rows === 1}<ChipLine {value} {label} insertions={line} onchange={take} />
{:else}
  <div class="text">
    <TextArea {id} {rows} labelText={label} {value} on:input={(event) => take((event.target as HTMLTextAreaElement).value)} />
    <PutIn {label} insertions={insertable(columns, hasPeriod)} onput={put} />
  </div>
{/if}

<style>
  .text { display: grid; grid-template-columns: minmax(0, 1fr) 10rem; gap: 0.5rem; align-items: end; }
</style>
