<script lang="ts">
import { Modal, TextInput } from "carbon-components-svelte";

/** Asks for a reason before something is done that has to be answered for later. */
let {
  open = $bindable(false),
  heading,
  text,
  button,
  ondone,
}: { open: boolean; heading: string; text: string; button: string; ondone: (reason: string) => void } = $props();
let reason = $state("");

function done(): void {
  open = false;
  ondone(reason.trim());
  reason = "";
}
</script>

<Modal iconDescription="Close the dialog" bind:open modalHeading={heading} primaryButtonText={button} primaryButtonDisabled={reason.trim().length < 3} secondaryButtonText="Cancel" on:click:button--secondary={() => { open = false; }} on:submit={done}>
  <p class="before">{text}</p>
  <TextInput labelText="Reason" helperText="It is kept with your name." bind:value={reason} />
</Modal>

<style>
  .before { margin-bottom: 1rem; }
</style>
