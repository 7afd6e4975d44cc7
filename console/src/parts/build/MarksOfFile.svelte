<script lang="ts">
import { allOf, api, type Mark, type Problem } from "../../lib/client";
import type { Draft } from "../../lib/report/draft.svelte";
import Trouble from "../common/Trouble.svelte";

/** Every mark of a template; those that nothing fills are told by what stands in the way of the report. */
let { draft, file, template }: { draft: Draft; file: string; template: string } = $props();
let marks = $state<Mark[]>();
let problem = $state<Problem>();

$effect(() => {
  const wanted = template;
  allOf(api.all("/templates/{file}/marks", { path: { file: wanted }, query: { limit: 1_000 } })).then(
    (found) => {
      if (wanted === template) marks = found;
    },
    (error: Problem) => {
      problem = error;
    },
  );
});
const wrong = $derived(
  draft.problems.filter(({ where }) => where.includes(template) || where.split(/[,.]\s*/)[1] === file),
);
</script>

<Trouble {problem} />
{#each wrong as one}<p class="wrong">{one.what} <span class="soft">{one.where}. {one.advice ?? ""}</span></p>{/each}
{#if marks}
  <details>
    <summary>{marks.length} {marks.length === 1 ? "mark" : "marks"}</summary>
    <ul>{#each marks as mark}<li><code>{`{{ ${mark.mark} }}`}</code> <span class="soft">{mark.where}</span></li>{/each}</ul>
  </details>
{/if}

<style>
  .wrong { color: var(--corbix-stop); font-size: 0.875rem; }
  ul { max-height: 12rem; overflow: auto; font-size: 0.8125rem; }
</style>
