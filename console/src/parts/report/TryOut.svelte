<script lang="ts">
import { InlineLoading, Link, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { untrack } from "svelte";
import { api, at, type Problem, type Rows, type TemplateUsed, type Trial } from "../../lib/client";
import { bytes, plural } from "../../lib/format";
import Findings from "../common/Findings.svelte";
import PdfPages from "../common/PdfPages.svelte";
import TabRow from "../common/TabRow.svelte";
import Trouble from "../common/Trouble.svelte";
import RowGrid from "../data/RowGrid.svelte";
import Marks from "./Marks.svelte";

/** A template filled for any group, beside the group's rows and the template's marks. Nothing is kept, nothing is sent. */
let { template }: { template: TemplateUsed } = $props();
const uses = $derived(template.uses);
let chosen = $state(0);
let group = $state("");
let period = $state("");
let trial = $state<Trial>();
let problem = $state<Problem>();
let busy = $state(false);
let view = $state("filled");
let side = $state<"marks" | "rows">("marks");
const use = $derived(uses[chosen]);

async function make(): Promise<void> {
  const wanted = use;
  if (!wanted) return;
  busy = true;
  problem = undefined;
  try {
    trial = await api.post("/reports/{name}/try", {
      path: { name: wanted.report },
      body: { file: wanted.file, ...(group === "" ? {} : { group }), ...(period === "" ? {} : { period }) },
    });
    group = trial.group;
    if (period === "") period = trial.period ?? "";
  } catch (error) {
    problem = error as Problem;
    trial = undefined;
  } finally {
    busy = false;
  }
}
$effect(() => {
  void [use?.report, use?.file, template.number];
  // Group and period are looked at when they are chosen, not when filling sets them.
  untrack(() => void make());
});

const loadRows = async (): Promise<Rows> => ({
  columns: trial?.columns ?? [],
  rowNumbers: trial?.rowNumbers ?? [],
  rows: trial?.rows ?? [],
  total: trial?.rows.length ?? 0,
  next: null,
});
const own = $derived(trial?.files.find((file) => file.kind !== "pdf"));
const pages = $derived(trial?.files.find((file) => file.kind === "pdf"));
const label = $derived(trial?.groups.find((one) => one.key === trial?.group)?.label ?? "");
</script>

<div class="choose">
  <Select size="sm" labelText="Show" bind:selected={view}>
    <SelectItem value="filled" text="Filled for a group" disabled={uses.length === 0} />
    <SelectItem value="template" text="The template as it stands" />
  </Select>
  {#if view === "filled" && use}
    {#if uses.length > 1}
      <Select size="sm" labelText="Report and file" bind:selected={chosen}>{#each uses as one, at (at)}<SelectItem value={at} text={`${one.report}, ${one.file}`} />{/each}</Select>
    {/if}
    {#if trial}
      <Select size="sm" labelText={`Group (${trial.groups.length})`} selected={trial.group} on:update={({ detail }) => { if (String(detail) !== trial?.group) { group = String(detail); void make(); } }}>
        {#each trial.groups as one (one.key)}<SelectItem value={one.key} text={`${one.label} (${plural(one.rows, ["# row", "# rows"])})`} />{/each}
      </Select>
    {/if}
    <form onsubmit={(event) => { event.preventDefault(); void make(); }}><TextInput size="sm" labelText="Period" placeholder="the last with rows" bind:value={period} /></form>
  {/if}
  {#if busy}<InlineLoading description="Filling …" />{/if}
</div>
<Trouble {problem} />
<div class="columns">
  <section aria-label="Pages">
    {#if view === "template" || !use}
      {#if !use}<p class="soft">No report uses this template yet: name it in a report's files to try it with a group.</p>{/if}
      <PdfPages source={at(`/templates/${encodeURIComponent(template.name)}/pages.pdf`)} label={template.name} />
    {:else if trial && pages}
      <p class="soft">{label}, {plural(pages.pages ?? 0, ["# page", "# pages"])}{#if own}. <Link href={at(`/made/${trial.id}/${own.kind}`)}>Save the filled file</Link> ({bytes(own.size)}){/if}</p>
      <Findings findings={trial.findings} />
      {#key trial.id}<PdfPages source={at(`/made/${trial.id}/pdf`)} label={`${template.name} for ${label}`} />{/key}
    {/if}
  </section>
  <section aria-label="Marks and rows">
    <TabRow label="Marks and rows" tabs={[{ key: "marks", title: "Marks" }, ...(trial ? [{ key: "rows" as const, title: `Rows (${trial.rows.length})` }] : [])]} chosen={side} onchoose={(key) => { side = key; }} />
    <div role="tabpanel" aria-label={side === "rows" ? "Rows" : "Marks"}>
      {#if side === "rows" && trial}{#key trial.id}<RowGrid load={loadRows} label={`Rows of ${label}`} />{/key}{:else}<Marks template={template.name} report={use?.report} />{/if}
    </div>
  </section>
</div>

<style>
  .choose { display: flex; flex-wrap: wrap; gap: 1rem; align-items: end; margin: 0.75rem 0; }
  .choose :global(.bx--form-item) { flex: 0 1 auto; max-width: 22rem; }
  .columns { display: grid; grid-template-columns: minmax(0, 1.35fr) minmax(20rem, 1fr); gap: 1.5rem; }
  @media (max-width: 66rem) { .columns { grid-template-columns: minmax(0, 1fr); } }
</style>
