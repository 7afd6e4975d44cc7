<script lang="ts">
import { InlineNotification } from "carbon-components-svelte";
import { allOf, api, type Mark } from "../../lib/client";
import { plural } from "../../lib/format";
import { scrollable } from "../../lib/scrollable";

/** Every mark of a template: where it stands, what it is filled from, and what is wrong with it. */
let { template, report }: { template: string; report: string | undefined } = $props();
let marks = $state<Mark[]>();
let only = $state(false);

$effect(() => {
  const query = { limit: 1_000, ...(report === undefined ? {} : { report }) };
  allOf(api.all("/templates/{file}/marks", { path: { file: template }, query })).then((found) => {
    marks = found;
  });
});
const wrong = $derived((marks ?? []).filter((mark) => mark.problem));
const shown = $derived(only ? wrong : (marks ?? []));
</script>

{#if marks}
  {#if wrong.length > 0}
    <InlineNotification lowContrast hideCloseButton kind="error" title={`${plural(wrong.length, ["# mark", "# marks"])} cannot be filled.`} subtitle="A run of the report would stop here." />
    <label class="soft"><input type="checkbox" bind:checked={only} /> only these</label>
  {:else if report !== undefined && marks.length > 0}
    <p class="soft">All {plural(marks.length, ["# mark", "# marks"])} find their value in <strong>{report}</strong>.</p>
  {/if}
  {#if marks.length === 0}
    <p class="soft">This template has no marks: each group gets it as it stands.</p>
  {:else}
    <ul class="marks" use:scrollable data-scrolls="Marks">
      {#each shown as { where, mark, from, problem }}
        <li class:wrong={problem !== undefined}><code>{`{{ ${mark} }}`}</code><span>{problem ? `${problem.what} ${problem.advice ?? ""}` : from}</span><span class="soft">{where}</span></li>
      {/each}
    </ul>
  {/if}
{/if}

<style>
  .marks { max-height: 65vh; overflow: auto; border: 1px solid var(--cds-ui-03); background: var(--cds-ui-02); margin-top: 0.5rem; }
  li { display: grid; gap: 0.15rem; padding: 0.45rem 0.6rem; border-top: 1px solid var(--cds-ui-03); border-left: 3px solid transparent; font-size: 0.8125rem; line-height: 1.2rem; overflow-wrap: anywhere; }
  li:first-child { border-top: 0; }
  .wrong { border-left-color: var(--corbix-stop); }
  li .soft { font-size: 0.75rem; }
</style>
