<script lang="ts">
import { InlineNotification } from "carbon-components-svelte";
import { allOf, api, type Mark } from "../../lib/client";
import { plural } from "../../lib/format";
import CellList from "../common/CellList.svelte";

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
const rows = $derived(
  shown.map(({ where, mark, from, problem }) => [
    where,
    `{{ ${mark} }}`,
    problem ? `${problem.what} ${problem.advice ?? ""}` : from,
  ]),
);
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
    <CellList label="Marks" headings={["Place", "Mark", "Filled from"]} {rows} marked={(at) => shown[at]?.problem !== undefined} />
  {/if}
{/if}
