<script lang="ts">
import { TextInput } from "carbon-components-svelte";
import type { Draft } from "../../lib/report/draft.svelte";

/** The same people for every group: their addresses, parted by commas or semicolons, and how they are addressed. */
let {
  draft,
  addresses,
  name,
  onwritten,
}: { draft: Draft; addresses: readonly string[]; name: string; onwritten: () => void } = $props();

const listOf = (text: string): string[] => text.split(/[;,\s]+/).filter((one) => one !== "");
let typed = $state("");
const wrong = $derived(listOf(typed).find((one) => !/^[^@\s]+@[^@\s]+\.[^@\s]+$/.test(one)));

function write(text: string): void {
  typed = text;
  const found = listOf(text);
  if (found.length === 0 || wrong !== undefined) return;
  draft.set(["delivery", "to"], { addresses: found, ...(name === "" ? {} : { name }) });
  onwritten();
}
</script>

<div class="pair">
  <TextInput size="sm" labelText="Addresses" placeholder="chief@lifts.example" invalid={wrong !== undefined} invalidText={`“${wrong ?? ""}” is no address.`} value={addresses.join(", ")} on:change={(event) => write(String((event as CustomEvent).detail ?? ""))} />
  <TextInput size="sm" labelText="Name" placeholder="as the message addresses them" disabled={addresses.length === 0} value={name} on:change={(event) => { const text = String((event as CustomEvent).detail ?? "").trim(); if (text !== name) draft.set(["delivery", "to", "name"], text || undefined); }} />
</div>

<style>
  .pair { display: grid; grid-template-columns: 1fr 1fr; gap: 1rem; margin: 0.75rem 0; }
</style>
