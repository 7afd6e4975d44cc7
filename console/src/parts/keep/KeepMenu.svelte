<script lang="ts">
import { OverflowMenu, OverflowMenuItem } from "carbon-components-svelte";
import { type Deed, type Kind, ONE } from "../../lib/keep";
import { type Call, may } from "../../lib/rights.svelte";

/** What can be done to a report, a dataset or a template after it was made. `ondone` is told what it is called then; nothing if it is gone. */
let {
  kind,
  name,
  title = name,
  ondone,
}: { kind: Kind; name: string; title?: string; ondone?: (deed: Deed, name: string | undefined) => void } = $props();
let deed = $state<Deed>();
const CALLS: Readonly<Record<Deed, Call>> = {
  rename: "renameKept",
  copy: "copyKept",
  archive: "archiveKept",
  delete: "deleteKept",
};
const report = $derived(kind === "reports" ? name : undefined);
const own = $derived((Object.keys(CALLS) as Deed[]).filter((one) => may(CALLS[one], report)));
</script>

{#if own.length > 0}<OverflowMenu flipped portalMenu size="sm" iconDescription="More" aria-label={`More for ${title}`}>
  {#if own.includes("rename")}<OverflowMenuItem text="Rename" on:click={() => { deed = "rename"; }} />{/if}
  {#if own.includes("copy")}<OverflowMenuItem text="Copy" on:click={() => { deed = "copy"; }} />{/if}
  {#if own.includes("archive")}<OverflowMenuItem text="Archive" on:click={() => { deed = "archive"; }} />{/if}
  {#if own.includes("delete")}<OverflowMenuItem danger text="Delete" on:click={() => { deed = "delete"; }} />{/if}
</OverflowMenu>{/if}
{#if deed}
  {#await import("./KeepDialog.svelte") then { default: KeepDialog }}<KeepDialog {kind} {name} {title} {deed} label={ONE[kind]} onclose={() => { deed = undefined; }} {ondone} />{/await}
{/if}
