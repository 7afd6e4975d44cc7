<script lang="ts">
import { Button, TextArea } from "carbon-components-svelte";
import { type Insertion, wrapped } from "../../lib/message";
import { writingOf } from "../../lib/rich-text/choose";
import PutIn from "./PutIn.svelte";
import RichText from "./RichText.svelte";

/** A message's words: formatted where that changes nothing of what they say, as they are kept where somebody wants it or they hold more. */
let {
  kind,
  value,
  label,
  insertions,
  columns,
  pictures,
  onchange,
}: {
  kind: "html" | "markdown" | "text";
  value: string;
  label: string;
  insertions: readonly Insertion[];
  columns: readonly { name: string; type: string }[];
  pictures: readonly string[];
  onchange: (text: string) => void;
} = $props();

const writing = $derived(writingOf(kind, value));
let wantsSource = $state(false);
let field = $state<HTMLTextAreaElement | null>(null);

/** Puts a text where the cursor is; what is selected stands inside it. */
function put(before: string, after = ""): void {
  const from = field?.selectionStart ?? value.length;
  const until = field?.selectionEnd ?? from;
  onchange(value.slice(0, from) + before + value.slice(from, until) + after + value.slice(until));
  requestAnimationFrame(() => {
    field?.focus();
    field?.setSelectionRange(from + before.length, until + before.length);
  });
}
</script>

<div class="words">
  {#if writing && !wantsSource}
    {#key writing}<RichText {writing} {value} {label} {insertions} {columns} {pictures} {onchange} />{/key}
  {:else}
    {#if kind !== "text" && !writing}<p class="soft">These words hold more than can be shown formatted, such as {kind === "html" ? "marks between the rows of a table" : "a table written by signs"}; here they are as they are kept.</p>{/if}
    <div class="tools" role="toolbar" aria-label={`Tools for ${label.toLowerCase()}`}>
      <span><PutIn {label} {insertions} onput={put} /></span>
      {#if kind !== "text"}
        {#each [["bold", "Bold"], ["heading", "Heading"], ["list", "List"], ["link", "Link"]] as const as [what, name]}
          <Button size="small" kind="ghost" on:click={() => put(...wrapped(kind, what))}>{name}</Button>
        {/each}
      {/if}
    </div>
    <TextArea labelText={label} hideLabel rows={16} spellcheck="false" {value} bind:ref={field} on:input={(event) => onchange((event.target as HTMLTextAreaElement).value)} />
  {/if}
  {#if writing}<Button size="small" kind="ghost" on:click={() => { wantsSource = !wantsSource; }}>{wantsSource ? "Show it formatted" : "Show its source"}</Button>{/if}
</div>

<style>
  .words { display: grid; grid-template-columns: minmax(0, 1fr); gap: 0.25rem; justify-items: stretch; }
  .words > :global(.bx--btn) { justify-self: start; }
  .words > :global(.bx--form-item textarea) { font-family: "IBM Plex Mono", ui-monospace, monospace; font-size: 0.8125rem; line-height: 1.25rem; }
  .tools { display: flex; flex-wrap: wrap; align-items: center; }
  .tools > span { flex: 0 1 9rem; }
  .tools :global(.bx--btn) { padding-inline: 0.75rem; }
</style>
