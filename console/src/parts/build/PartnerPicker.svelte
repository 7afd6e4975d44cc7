<script lang="ts">
import type { Answer } from "@corbix/api/client";
import { InlineLoading, Select, SelectItem } from "carbon-components-svelte";
import { api, type Problem } from "../../lib/client";
import { count } from "../../lib/format";
import Trouble from "../common/Trouble.svelte";

/** Another dataset, and the columns by which its rows are found: suggested by the values that both have. */
let {
  data,
  datasets,
  label,
  onchosen,
}: {
  /** The report's own dataset. */
  data: string;
  datasets: readonly string[];
  label: string;
  onchosen: (dataset: string, column: string, partner: string) => void;
} = $props();
type Found = Answer<"get", "/datasets/{name}/partners/{other}">["partners"];
let other = $state("");
let found = $state<Found>();
let problem = $state<Problem>();

async function look(dataset: string): Promise<void> {
  other = dataset;
  found = undefined;
  problem = undefined;
  if (dataset === "") return;
  try {
    const answer = await api.get("/datasets/{name}/partners/{other}", { path: { name: data, other: dataset } });
    // Only what was asked for last is shown.
    if (dataset === other) found = answer.partners;
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<div class="pick">
  <Select size="sm" labelText={label} selected={other} on:update={({ detail }) => { if (detail !== other) void look(String(detail)); }}>
    <SelectItem value="" text="a dataset …" />{#each datasets.filter((one) => one !== data) as one (one)}<SelectItem value={one} text={one} />{/each}
  </Select>
  <Trouble {problem} />
  {#if other !== "" && !found && !problem}<InlineLoading description="Looking what both have …" />{/if}
  {#if found}
    {#if found.length === 0}<p class="soft">No column of {other} has the values of one here; nothing would find its partner.</p>{/if}
    <ul aria-label={`Columns that ${data} and ${other} share`}>
      {#each found as one}
        <li><button type="button" onclick={() => { onchosen(other, one.column, one.partner); other = ""; found = undefined; }}>{one.column} = {one.partner} of {other}</button> <span class="soft">{count(one.found)} of {count(one.values)} values are there{one.isUnique ? ", each once" : ", some several times"}</span></li>
      {/each}
    </ul>
  {/if}
</div>

<style>
  .pick { max-width: 32rem; margin: 0.5rem 0; }
  li { padding: 0.25rem 0; font-size: 0.875rem; border-top: 1px solid var(--cds-ui-03); }
  button { background: none; border: 0; padding: 0; font: inherit; color: var(--cds-link-01); text-decoration: underline; cursor: pointer; text-align: left; }
</style>
