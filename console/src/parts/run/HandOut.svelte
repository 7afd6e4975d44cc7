<script lang="ts">
import { Checkbox, Modal, PasswordInput, RadioButton, RadioButtonGroup, TextInput } from "carbon-components-svelte";
import { api, type Problem } from "../../lib/client";
import { plural } from "../../lib/format";
import Trouble from "../common/Trouble.svelte";

/** A run's files into a folder of the machine, or into a folder on a WebDAV server. Nothing that is there is written over. */
let { isOpen = $bindable(), run, period }: { isOpen: boolean; run: string; period: string } = $props();

let way = $state("folder");
let folder = $state("");
let perGroup = $state(false);
let url = $state("");
let user = $state("");
let password = $state("");
let problem = $state<Problem>();
let done = $state("");
let busy = $state(false);
$effect(() => {
  if (isOpen) [problem, done] = [undefined, ""];
});

async function hand(): Promise<void> {
  [problem, done, busy] = [undefined, "", true];
  const path = { id: run };
  try {
    if (way === "folder") {
      const {
        folder: into,
        written,
        same,
      } = await api.post("/runs/{id}/folder", { path, body: { folder: folder.trim(), perGroup } });
      done = `${plural(written, ["# file", "# files"])} written to ${into}${same > 0 ? `; ${plural(same, ["# file was there already", "# files were there already"])}` : ""}.`;
    } else {
      const body = { url: url.trim(), ...(user === "" ? {} : { user }), ...(password === "" ? {} : { password }) };
      const { put } = await api.post("/runs/{id}/web-folder", { path, body });
      done = `${plural(put, ["# file", "# files"])} put there.`;
    }
  } catch (error) {
    problem = error as Problem;
  } finally {
    busy = false;
  }
}
</script>

<Modal iconDescription="Close the dialog" bind:open={isOpen} hasForm size="sm" modalHeading="Hand the files out" primaryButtonText={busy ? "Handing out …" : "Hand out"} primaryButtonDisabled={busy || (way === "web" && url.trim() === "")} secondaryButtonText="Close" on:click:button--secondary={() => { isOpen = false; }} on:submit={hand}>
  <div class="fields">
    <RadioButtonGroup legendText="Into" selected={way} on:change={({ detail }) => { way = String(detail); }}>
      <RadioButton labelText="a folder of this machine" value="folder" /><RadioButton labelText="a folder on a server (WebDAV)" value="web" />
    </RadioButtonGroup>
    {#if way === "folder"}
      <TextInput labelText="Folder" placeholder={period} helperText="Under the outgoing folder; left blank, that itself." bind:value={folder} />
      <Checkbox labelText="A folder for each group" bind:checked={perGroup} />
    {:else}
      <TextInput labelText="Address of the folder" placeholder="https://files.lifts.example/statements/" bind:value={url} />
      <TextInput labelText="Name" bind:value={user} />
      <PasswordInput showPasswordLabel="Show the password" hidePasswordLabel="Hide the password" labelText="Password" autocomplete="off" bind:value={password} />
    {/if}
    <p class="soft">Nothing that is there is written over.</p>
    <Trouble {problem} />
    {#if done}<p role="status">{done}</p>{/if}
  </div>
</Modal>

<style>
  .fields { display: grid; grid-template-columns: minmax(0, 1fr); gap: 1rem; }
</style>
