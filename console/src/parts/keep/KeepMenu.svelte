<script lang="ts">
import { OverflowMenu, OverflowMenuItem } from "carbon-components-svelte";
import { type Deed, type Kind, ONE } from "../../lib/keep";

/** What can be done to a report, a dataset or a template after it was made. `ondone` is told what it is called then; nothing if it is gone. */
let {
  kind,
  name,
  title = name,
  ondone,
}: { kind: Kind; name: string; title?: string; ondone?: (deed: Deed, name: string | undefined) => void } = $props();
let deed = $state<Deed>();
</script>

<OverflowMenu flipped portalMenu size="sm" iconDescription="More" aria-label={`More for ${title}`}>
  <OverflowMenuItem text="Rename" on:click={() => { deed = "rename"; }} />
  <OverflowMenuItem text="Copy" on:click={() => { deed = "copy"; }} />
  <OverflowMenuItem text="Archive" on:click={() => { deed = "archive"; }} />
  <OverflowMenuItem danger text="Delete" on:click={() => { deed = "delete"; }} />
</OverflowMenu>
{#if deed}
  {#await import("./KeepDialog.svelte") then { default: KeepDialog }}<KeepDialog {kind} {name} {title} {deed} label={ONE[kind]} onclose={() => { deed = undefined; }} {ondone} />{/await}
{/if}
