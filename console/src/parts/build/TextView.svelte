<script lang="ts">
import { TextArea } from "carbon-components-svelte";
import type { Draft } from "../../lib/draft.svelte";

/** The report as text: the same thing as the clicks, in step with them. */
let { draft }: { draft: Draft } = $props();
const trouble = $derived(draft.problems[0]);
</script>

<TextArea labelText="Definition" helperText="The fields are told in docs/definition.md. Comments stay, whatever is clicked." rows={32} spellcheck="false" value={draft.text} invalid={trouble !== undefined} invalidText={trouble ? `${trouble.what} ${trouble.where}` : ""} on:input={(event) => draft.write((event.target as HTMLTextAreaElement).value)} />

<style>
  :global(.bx--text-area) { font-family: "IBM Plex Mono", ui-monospace, monospace; font-size: 0.8125rem; line-height: 1.25rem; }
</style>
