<script lang="ts">
import { InlineNotification } from "carbon-components-svelte";
import type { Problem } from "../../lib/client";

let { problem }: { problem: Problem | undefined } = $props();
</script>

{#if problem}
  <InlineNotification hideCloseButton lowContrast kind="error" title={problem.message} subtitle={[problem.where, problem.advice].filter(Boolean).join(" – ")} />
{/if}
