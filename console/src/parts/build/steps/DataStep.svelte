<script lang="ts">
import { Button, Link, Select, SelectItem } from "carbon-components-svelte";
import type { Dataset } from "../../../lib/client";
import { plural, time } from "../../../lib/format";
import type { Known } from "../../../lib/report/choices";
import type { Draft } from "../../../lib/report/draft.svelte";
import type { Schema } from "../../../lib/report/schema";
import { link } from "../../../lib/router.svelte";
import LoadFile from "../../data/LoadFile.svelte";
import Section from "../../form/Section.svelte";

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
const edition = $derived(dataset?.newest ?? undefined);
</script>

<h2>The table</h2>
<Select size="sm" labelText="Dataset" selected={name} on:update={({ detail }) => { if (detail !== name) draft.set(["data"], String(detail)); }}>
  {#if !known.datasets.includes(name)}<SelectItem value={name} text={name === "" ? "choose …" : `${name} (not there)`} />{/if}
  {#each known.datasets as one (one)}<SelectItem value={one} text={one} />{/each}
</Select>
{#if edition}
  <p class="soft">Edition {edition.number}: {plural(edition.rowCount, "row")} and {plural(edition.columns.length, "column")} from {edition.origin}, loaded {time(edition.createdAt)}. <Link href={link("data", name)}>Look at its rows</Link></p>
{/if}
{#if isLoading}<LoadFile dataset={name || undefined} dropped={undefined} onloaded={() => { isLoading = false; onloaded(); draft.refresh(); }} oncancel={() => { isLoading = false; }} />
{:else}<Button size="small" kind="tertiary" on:click={() => { isLoading = true; }}>Load a newer file</Button>{/if}

<h2>Further lines of a group</h2>
<p class="soft">Rows of other datasets that belong to a group by a column both have, such as the costs of a site beside its visits.</p>
<Section {draft} {known} {schema} only={["lines"]} />
