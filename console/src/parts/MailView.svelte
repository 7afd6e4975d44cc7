<script lang="ts">
import { ContentSwitcher, Switch } from "carbon-components-svelte";

/** A mail's body as its receiver sees it, without any power over this page. */
let { html, text }: { html: string | null; text: string } = $props();
let chosen = $state(0);
</script>

<ContentSwitcher size="sm" bind:selectedIndex={chosen}>
  <Switch text="As HTML" />
  <Switch text="As text" />
</ContentSwitcher>
{#if chosen === 0 && html}
  <iframe sandbox="" title="Message as HTML" srcdoc={html}></iframe>
{:else}
  <pre>{text}</pre>
{/if}

<style>
  iframe { width: 100%; height: 26rem; border: 1px solid var(--cds-ui-03); background: #fff; margin-top: 0.5rem; }
  pre { margin-top: 0.5rem; white-space: pre-wrap; min-height: 10rem; }
</style>
