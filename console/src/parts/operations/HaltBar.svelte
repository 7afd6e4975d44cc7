<script lang="ts">
import { api, type Schemas } from "../../lib/client";
import { whenever } from "../../lib/live";
import { may } from "../../lib/rights.svelte";
import { link } from "../../lib/router.svelte";

/** Above every page while nothing is sent: why, and where somebody goes on. */
let halts = $state<Schemas["Halt"][]>([]);

$effect(() =>
  whenever(
    () => false,
    async () => {
      // What cannot be read is told by the page itself.
      const found = await api.get("/halts", { query: { open: true, limit: 10 } }).catch(() => undefined);
      if (found) halts = found.items;
    },
  ),
);
</script>

{#if halts.length > 0}
  <div class="bar" role="status">
    <strong>Nothing is sent until somebody goes on.</strong>
    <span>{halts[0]?.what}{#if halts.length > 1}{" "}And more.{/if}</span>
    {#if may("goOnSending")}<a href={link("operations")}>Look and go on</a>{/if}
  </div>
{/if}

<style>
  .bar { display: flex; flex-wrap: wrap; gap: 0.5rem 1rem; align-items: baseline; margin-bottom: 1rem; padding: 0.75rem 1rem; border-left: 4px solid var(--cds-support-03); background: var(--cds-ui-01); line-height: 1.4; overflow-wrap: anywhere; }
</style>
