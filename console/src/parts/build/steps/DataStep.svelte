<script lang="ts">
import { Button, Link, Select, SelectItem } from "carbon-components-svelte";
import type { Dataset } from "../../../lib/client";
import { plural, time } from "../../../lib/format";
import type { Known } from "../../../lib/report/choices";
import type { Draft } from "../../../lib/report/draft.svelte";
import { freeOf } from "../../../lib/report/new-report";
import type { Schema } from "../../../lib/report/schema";
import { link } from "../../../lib/router.svelte";
import HowRead from "../../data/HowRead.svelte";
import LoadFile from "../../data/LoadFile.svelte";
import Section from "../../form/Section.svelte";
import EditionPick from "../EditionPick.svelte";
import PartnerPicker from "../PartnerPicker.svelte";

/** The table a report is made from, and further lines beside it. */
let {
  draft,
  known,
  schema,
  dataset,
  onloaded,
}: { draft: Draft; known: Known; schema: Schema; dataset: Dataset | undefined; onloaded: () => void } = $props();
let isLoading = $state(false);
const name = $derived(String(draft.get(["data"]) ?? ""));
/** Lines are called as their dataset is, as far as marks can spell it. */
function addLines(other: string, column: string, partner: string): void {
  const called = other.replace(/[^a-z0-9_]+/g, "_").replace(/^[^a-z]+/, "") || "lines";
  const taken = Object.keys((draft.get(["lines"]) ?? {}) as object);
  draft.set(["lines", freeOf(called, taken).replaceAll("-", "_")], { data: other, match: { [column]: partner } });
}
const edition = $derived(dataset?.newest ?? undefined);
</script>

<h2>The table</h2>
<Select size="sm" labelText="Dataset" selected={name} on:update={({ detail }) => { if (detail !== name) { draft.edition = undefined; draft.set(["data"], String(detail)); } }}>
  {#if !known.datasets.includes(name)}<SelectItem value={name} text={name === "" ? "choose …" : `${name} (not there)`} />{/if}
  {#each known.datasets as one (one)}<SelectItem value={one} text={one} />{/each}
</Select>
{#if edition}
  <EditionPick {name} newest={edition.number} chosen={draft.edition} onchange={(number) => draft.lookAt(number)} />
  <p class="soft">Edition {edition.number}: {plural(edition.rowCount, ["# row", "# rows"])} and {plural(edition.columns.length, ["# column", "# columns"])} from {edition.origin}, loaded {time(edition.createdAt)}. <Link href={link("data", name)}>Look at its rows</Link></p>
{/if}
{#if edition}{#key `${name} ${draft.edition}`}<HowRead {name} number={draft.edition ?? edition.number} />{/key}{/if}
{#if isLoading}<LoadFile dataset={name || undefined} dropped={undefined} onloaded={() => { isLoading = false; onloaded(); draft.refresh(); }} oncancel={() => { isLoading = false; }} />
{:else}<Button size="small" kind="tertiary" on:click={() => { isLoading = true; }}>Load a newer file</Button>{/if}

<h2>Further lines of a group</h2>
<p class="soft">Rows of other datasets that belong to a group by a column both have, such as the costs of a site beside its visits.</p>
{#if known.datasets.some((one) => one !== name)}<PartnerPicker data={name} datasets={known.datasets} label="Lines of another dataset" onchosen={addLines} />{/if}
<Section {draft} {known} {schema} only={["lines"]} />
