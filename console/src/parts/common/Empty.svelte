<script lang="ts">
import type { Snippet } from "svelte";

let { title, children }: { title: string; children: Snippet } = $props();
</script>

<div class="empty">
  <svg viewBox="0 0 32 32" width="40" height="40" aria-hidden="true"><rect x="2" y="4" width="13" height="24" rx="2" /><rect x="17" y="4" width="13" height="11" rx="2" /><rect x="19" y="18" width="11" height="10" rx="2" transform="rotate(8 24 23)" /></svg>
  <div>
    <p class="title">{title}</p>
    <p class="soft">{@render children()}</p>
  </div>
</div>

<style>
  .empty { display: flex; gap: 1rem; align-items: center; padding: 2rem 1.5rem; border: 1px dashed var(--cds-ui-03); background: var(--cds-ui-02); }
  rect { fill: none; stroke: var(--corbix-soft); stroke-width: 1; }
  .title { font-weight: 600; }
</style>
