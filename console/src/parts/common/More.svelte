<script lang="ts" generics="Item">
import { Button } from "carbon-components-svelte";
import { count } from "../../lib/format";
import type { Pages } from "../../lib/pages.svelte";

/** The foot of a list that has more than is shown. */
let { pages, what }: { pages: Pages<Item>; what: string } = $props();
const shown = $derived(pages.items?.length ?? 0);
let busy = $state(false);

async function more(): Promise<void> {
  busy = true;
  await pages.more().finally(() => {
    busy = false;
  });
}
</script>

{#if pages.next !== null}
  <p class="more">
    <span class="soft">{count(shown)}{pages.total === undefined ? "" : ` of ${count(pages.total)}`} {what} shown.</span>
    <Button size="small" kind="tertiary" disabled={busy} on:click={more}>Show more</Button>
  </p>
{/if}

<style>
  .more { display: flex; align-items: center; gap: 1rem; padding: 0.75rem 0; }
</style>
