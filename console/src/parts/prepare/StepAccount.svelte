<script lang="ts">
import type { DraftLook } from "../../lib/client";
import { count, plural } from "../../lib/format";

/** What a step did to the rows that are looked at. */
let { step }: { step: DraftLook["steps"][number] } = $props();
</script>

<p class="soft">{count(step.rowsIn)} rows in, {count(step.rowsOut)} out{#each step.leftOut as one}; {count(one.count)} {one.reason}{/each}{#if step.columnsAdded.length > 0}; adds {step.columnsAdded.join(", ")}{/if}{#if step.made > 0}; {plural(step.made, ["# row", "# rows"])} made{/if}</p>
{#each step.findings as { what }}<p class="soft">{what}</p>{/each}
