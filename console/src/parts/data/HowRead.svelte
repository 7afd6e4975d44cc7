<script lang="ts">
import { untrack } from "svelte";
import { api, type DatasetSettings, type Edition, type Problem } from "../../lib/client";
import Findings from "../common/Findings.svelte";
import Trouble from "../common/Trouble.svelte";
import Decisions from "../run/Decisions.svelte";
import NextFiles from "./NextFiles.svelte";

/** How the newest file of a dataset was read, with the reason of each decision, and corrections for the next ones. */
let { name, number }: { name: string; number: number } = $props();
let isOpen = $state(false);
let edition = $state<Edition>();
let settings = $state<DatasetSettings>();
let etag = $state<string>();
let problem = $state<Problem>();

async function read(dataset: string, edited: number): Promise<void> {
  problem = undefined;
  try {
    const [found, set] = await Promise.all([
      api.get("/datasets/{name}/editions/{number}", { path: { name: dataset, number: edited } }),
      api.read("/datasets/{name}/settings", { path: { name: dataset } }),
    ]);
    [edition, settings, etag] = [found, set.data, set.etag];
  } catch (error) {
    problem = error as Problem;
  }
}
$effect(() => {
  const [dataset, edited] = [name, number];
  if (isOpen) untrack(() => void read(dataset, edited));
});
</script>

<details ontoggle={(event) => { isOpen = event.currentTarget.open; }}>
  <summary>How it was read, and corrections</summary>
  <Trouble {problem} />
  {#if edition}
    <Findings findings={edition.findings} />
    <Decisions reading={edition} />
  {/if}
  <!-- What was kept is read again, so that the next change is one of that. -->
  {#if edition && settings}<NextFiles {name} {settings} {etag} columns={edition.columns} onchange={() => void read(name, number)} />{/if}
</details>

<style>
  details { margin: 0.5rem 0; font-size: 0.875rem; }
  details :global(.account) { margin: 0.75rem 0; font-size: 0.875rem; }
</style>
