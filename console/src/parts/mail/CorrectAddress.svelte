<script lang="ts">
import { Checkbox, Modal, TextInput } from "carbon-components-svelte";
import { api, type OutboxEntry, once, type Problem } from "../../lib/client";
import { plural } from "../../lib/format";
import Trouble from "../common/Trouble.svelte";

/** Addresses that refused a message, or sent it back, are corrected where that is seen, and it goes there. */
let {
  message,
  label,
  onclose,
  ondone = () => {},
}: {
  message: Pick<OutboxEntry, "id" | "results">;
  label: string;
  onclose: () => void;
  ondone?: () => void;
} = $props();

let isOpen = $state(true);
let problem = $state<Problem>();
let busy = $state(false);
let inList = $state(true);
let reason = $state("The address was wrong");
let rows = $state<{ address: string; to: string; said: string }[]>([]);
$effect.pre(() => {
  if (rows.length > 0) return;
  rows = Object.entries(message.results)
    .filter(([, one]) => one.state === "refused" || one.state === "returned")
    .map(([address, { response }]) => ({ address, to: address, said: response }));
});
const corrections = $derived(
  rows
    .filter(({ address, to }) => to.trim() !== "" && to.trim() !== address)
    .map(({ address, to }) => ({ address, to: to.trim() })),
);

async function send(): Promise<void> {
  [problem, busy] = [undefined, true];
  try {
    await api.post("/messages/{id}/again", {
      path: { id: message.id },
      body: { reason: reason.trim(), corrections, inList },
      ...once(),
    });
    isOpen = false;
    onclose();
    ondone();
  } catch (error) {
    problem = error as Problem;
  } finally {
    busy = false;
  }
}
</script>

<Modal iconDescription="Close the dialog" bind:open={isOpen} hasForm size="sm" modalHeading={`Correct the address of ${label}`} primaryButtonText={busy ? "Sending …" : "Correct and send"} primaryButtonDisabled={busy || corrections.length === 0 || reason.trim().length < 3} secondaryButtonText="Close" on:click:button--secondary={() => { isOpen = false; }} on:close={onclose} on:submit={send}>
  <div class="fields">
    {#each rows as row, at (row.address)}
      <TextInput labelText={rows.length > 1 ? `Address ${at + 1}` : "Address"} helperText={row.said} bind:value={row.to} />
    {/each}
    <TextInput labelText="Reason" helperText="It is kept with your name." bind:value={reason} />
    <Checkbox labelText="Also in the recipient list, for the next times" bind:checked={inList} />
    <p class="soft">{corrections.length === 0 ? "Write the right address over the wrong one." : `${plural(corrections.length, ["# address", "# addresses"])} will get it as a first time; nobody else gets anything.`}</p>
    <Trouble {problem} />
  </div>
</Modal>

<style>
  .fields { display: grid; grid-template-columns: minmax(0, 1fr); gap: 1rem; }
</style>
