<script lang="ts">
import type { Prospect } from "../../lib/client";
import { count, day, plural, word } from "../../lib/format";
import { scrollable } from "../../lib/scrollable";

/** What a run would do, in sentences, with the groups that get nothing and why. */
let { prospect, rehearses, isAgain }: { prospect: Prospect; rehearses: boolean; isAgain: boolean } = $props();

const counts = $derived(prospect.counts);
const left = $derived(prospect.leftOut.reduce((sum, one) => sum + one.count, 0));
/** Nobody has had a rehearsal, and what is sent again goes to all. */
const skipped = $derived(rehearses || isAgain ? 0 : counts.had);
const receiving = $derived(counts.groups - counts.none - skipped);
const named = $derived(
  prospect.items.filter(
    ({ says }) => says === "none" || (!rehearses && !isAgain && (says === "had" || says === "some")),
  ),
);
const outcome = $derived.by(() => {
  if (receiving === 0) return "Nobody would get anything.";
  if (rehearses)
    return plural(receiving, [
      "What # group would get comes to you alone.",
      "What # groups would get comes to you alone.",
    ]);
  return prospect.holds
    ? plural(receiving, ["# group gets its part once you release it.", "# groups get theirs once you release it."])
    : plural(receiving, [
        "# group gets its part, as soon as the proof holds.",
        "# groups get theirs, as soon as the proof holds.",
      ]);
});
</script>

<div class="note" role="status">
  <p>{count(prospect.rows)} rows in {plural(counts.groups, ["# group", "# groups"])}{#if left > 0}; {plural(left, ["# row", "# rows"])} left out: {prospect.leftOut.map((one) => `${count(one.count)} ${one.reason}`).join(", ")}{/if}.</p>
  {#if prospect.madeUpFor.length > 0}<p>{prospect.madeUpFor.slice(0, 6).join(", ")}{#if prospect.madeUpFor.length > 6}{" "}and {count(prospect.madeUpFor.length - 6)} more{/if} come along: the files that grow do not have them yet.</p>{/if}
  {#if !prospect.sends}<p><strong>The files of {plural(counts.groups, ["# group", "# groups"])} are made; the report sends no message.</strong></p>
  {:else}
    <p><strong>{outcome}</strong>
      {#if skipped > 0}{plural(skipped, ["# group has it already and is skipped.", "# groups have it already and are skipped."])}{/if}
      {#if counts.some > 0 && !rehearses && !isAgain}{plural(counts.some, ["# group gets it only where it did not arrive.", "# groups get it only where it did not arrive."])}{/if}
      {#if counts.none > 0}{plural(counts.none, ["For # group there is nobody.", "For # groups there is nobody."])}{/if}
      {#if !rehearses}<span class="soft">{prospect.onceSentence}</span>{/if}
    </p>
  {/if}
  {#if prospect.sends && named.length > 0}
    <details>
      <summary>Which, and why</summary>
      <ul use:scrollable data-scrolls="Groups that stand out">{#each named as one (one.key)}<li><strong>{one.group}</strong> {#if one.says === "none"}nobody: {one.why ?? word("no people")}{:else if one.says === "had"}{one.day ? `has had it on ${day(one.day)}` : "has had it"}{:else}{one.day ? `has had it in part, last on ${day(one.day)}` : "has had it in part"}{/if}</li>{/each}</ul>
      {#if named.length < counts.none + (rehearses || isAgain ? 0 : counts.had + counts.some)}<p class="soft">The first of them; all are told with the run.</p>{/if}
    </details>
  {/if}
</div>

<style>
  .note { display: grid; gap: 0.4rem; font-size: 0.875rem; line-height: 1.25rem; border-left: 3px solid var(--cds-interactive-01); padding: 0.25rem 0 0.25rem 0.75rem; }
  .note p { font-size: inherit; line-height: inherit; }
  .note :global(.soft) { font-size: inherit; }
  ul { max-height: 9rem; overflow: auto; }
  li { padding: 0.2rem 0; line-height: 1.2rem; }
  summary { cursor: pointer; color: var(--cds-link-01); }
</style>
