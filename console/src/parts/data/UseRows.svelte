<script lang="ts">
import { Modal, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { api, type Edition, once, type Problem, type Query, type ReportSummary } from "../../lib/client";
import { plural } from "../../lib/format";
import { go } from "../../lib/router.svelte";
import Trouble from "../common/Trouble.svelte";

/** The rows of a search sent on for a run of their own. */
let {
  chosen,
  edition,
  reports,
  onclose,
}: {
  chosen: { query: Query; total: number } | undefined;
  edition: Edition | undefined;
  reports: readonly ReportSummary[];
  onclose: () => void;
} = $props();
let report = $state("");
let period = $state("");
let problem = $state<Problem>();

async function runRows(): Promise<void> {
  problem = undefined;
  try {
    const run = await api.post("/runs", {
      body: {
        report: report || (reports[0]?.name ?? ""),
        ...(edition ? { edition: edition.number } : {}),
        ...(chosen ? { rows: chosen.query } : {}),
        ...(period ? { period } : {}),
      },
      ...once(),
    });
    onclose();
    go("runs", run.id);
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<Modal iconDescription="Close the dialog" open={chosen !== undefined} modalHeading="Use these rows for a run" primaryButtonText="Run" secondaryButtonText="Cancel" on:close={() => { onclose(); }} on:click:button--secondary={() => { onclose(); }} on:submit={runRows}>
  <p class="soft">{plural(chosen?.total ?? 0, ["# row", "# rows"])} of edition {edition?.number}; all others are left out and counted. The run is one of its own: the period's delivery is still to come.</p>
  <Trouble {problem} />
  <div class="fields">
    <Select labelText="Report" bind:selected={report}>{#each reports as one (one.name)}<SelectItem value={one.name} text={one.title} />{/each}</Select>
    <TextInput labelText="Period" placeholder="2026-10" helperText="Blank: the last one that is over." bind:value={period} />
  </div>
</Modal>

<style>
  .fields { display: grid; gap: 1rem; margin-top: 1rem; }
</style>
