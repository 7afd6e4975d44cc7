<script lang="ts">
import { Modal, TextInput } from "carbon-components-svelte";
import { api, once, type Problem } from "../../lib/client";
import { go } from "../../lib/router.svelte";
import Trouble from "../common/Trouble.svelte";

/** Starting a run of a saved report, or a rehearsal that goes to one address alone. */
let {
  isOpen = $bindable(),
  report,
  rehearses,
  edition,
}: {
  isOpen: boolean;
  report: string;
  rehearses: boolean;
  /** Chosen with the data; the newest without one. */
  edition: number | undefined;
} = $props();
const KEY = "corbix-rehearsal-address";
let period = $state("");
let address = $state(localStorage.getItem(KEY) ?? "");
let problem = $state<Problem>();

async function start(): Promise<void> {
  problem = undefined;
  if (rehearses) localStorage.setItem(KEY, address);
  try {
    const run = await api.post("/runs", {
      body: {
        report,
        ...(period === "" ? {} : { period }),
        ...(rehearses ? { rehearsalTo: address } : {}),
        ...(edition === undefined ? {} : { edition }),
      },
      ...once(),
    });
    isOpen = false;
    go("runs", run.id);
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<Modal bind:open={isOpen} modalHeading={rehearses ? "Rehearse this report" : "Run this report"} primaryButtonText={rehearses ? "Rehearse" : "Run"} primaryButtonDisabled={rehearses && address.trim() === ""} secondaryButtonText="Cancel" on:click:button--secondary={() => { isOpen = false; }} on:submit={start}>
  <div class="fields">
    <Trouble {problem} />
    {#if rehearses}<TextInput labelText="Rehearse to" placeholder="me@lifts.example" helperText="Everything is sent for real, but only there." bind:value={address} />{/if}
    <TextInput labelText="Period" placeholder="2026-10" helperText="Blank: the last one that is over." bind:value={period} />
    {#if edition !== undefined}<p>Of edition {edition}, as it is chosen under Data: not the newest.</p>{/if}
  </div>
</Modal>

<style>
  .fields { display: grid; gap: 1rem; }
</style>
