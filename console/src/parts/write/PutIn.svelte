<script lang="ts">
import { Select, SelectItem } from "carbon-components-svelte";
import type { Insertion } from "../../lib/message";

/** What can be put into words, by what it stands for. */
let { label, insertions, onput }: { label: string; insertions: readonly Insertion[]; onput: (mark: string) => void } =
  $props();
let chosen = $state("");
</script>

<Select size="sm" hideLabel labelText={`Put into ${label.toLowerCase()}`} bind:selected={chosen} on:update={({ detail }) => { if (detail === "") return; onput(String(detail)); chosen = ""; }}>
  <SelectItem value="" text="Put in …" />
  {#each insertions as { name, mark } (name)}<SelectItem value={mark} text={name} />{/each}
</Select>
