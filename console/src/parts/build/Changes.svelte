<script lang="ts">
import type { Change } from "../../lib/report/changes";
import { link } from "../../lib/router.svelte";

/** What was changed, in words, each at the step it belongs to. */
let { changes, report }: { changes: readonly Change[]; report: string } = $props();
</script>

<ul aria-label="What has changed">
  {#each changes as { step, title, what }}<li><a href={link("reports", report, step)}>{title}</a> <span>{what}</span></li>{/each}
</ul>

<style>
  li { display: grid; grid-template-columns: 8rem minmax(0, 1fr); gap: 0.75rem; padding: 0.2rem 0; font-size: 0.875rem; overflow-wrap: anywhere; }
</style>
