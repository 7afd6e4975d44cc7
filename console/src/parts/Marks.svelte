<script lang="ts">
import { InlineNotification } from "carbon-components-svelte";
import { get, type Mark } from "../lib/api";
import { plural } from "../lib/format";

/** Every mark of a template: where it stands, what it is filled from, and what is wrong with it. */
let { template, report }: { template: string; report: string | undefined } = $props();
let marks = $state<Mark[]>();
let only = $state(false);

$effect(() => {
  const query = report === undefined ? "" : `?${new URLSearchParams({ report })}`;
  get<Mark[]>(`/api/templates/${encodeURIComponent(template)}/marks${query}`).then((found) => {
    marks = found;
  });
});
const wrong = $derived((marks ?? []).filter((mark) => mark.problem));
const shown = $derived(only ? wrong : (marks ?? []));
</script>

{#if marks}
  {#if wrong.length > 0}
    <InlineNotification lowContrast hideCloseButton kind="error" title={`${plural(wrong.length, "mark")} cannot be filled.`} subtitle="A run of the report would stop here." />
    <label class="soft"><input type="checkbox" bind:checked={only} /> only these</label>
  {:else if report !== undefined && marks.length > 0}
    <p class="soft">All {plural(marks.length, "mark")} find their value in <strong>{report}</strong>.</p>
  {/if}
  {#if marks.length === 0}
    <p class="soft">This template has no marks: each group gets it as it stands.</p>
  {:else}
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <div class="list" tabindex="0" role="region" aria-label="Marks">
      <table>
        <thead><tr><th scope="col">Place</th><th scope="col">Mark</th><th scope="col">Filled from</th></tr></thead>
        <tbody>
          {#each shown as mark}
            <tr class:wrong={mark.problem}>
              <td>{mark.where}</td>
              <td><code>{mark.mark}</code></td>
              <td>{#if mark.problem}<strong>{mark.problem.what}</strong> {mark.problem.advice ?? ""}{:else}{mark.from}{/if}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {/if}
{/if}

<style>
  .list { overflow: auto; max-height: 70vh; border: 1px solid var(--cds-ui-03); margin-top: 0.5rem; }
  table { border-collapse: collapse; width: 100%; font-size: 0.8125rem; }
  th { text-align: left; position: sticky; top: 0; background: var(--cds-ui-01); }
  th, td { padding: 0.3rem 0.5rem; border-bottom: 1px solid var(--cds-ui-03); vertical-align: top; }
  code { overflow-wrap: anywhere; }
  .wrong td { background: color-mix(in srgb, var(--cds-support-01) 12%, transparent); }
</style>
