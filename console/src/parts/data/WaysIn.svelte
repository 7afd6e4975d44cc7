<script lang="ts">
import { Button, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { api, type DatasetSettings, matching, type Problem } from "../../lib/client";
import Trouble from "../common/Trouble.svelte";

/** What a new file does to a dataset, and who may send one by mail. */
let {
  name,
  settings,
  etag,
  onchange,
}: {
  name: string;
  settings: DatasetSettings;
  etag: string | undefined;
  onchange: (settings: DatasetSettings) => void;
} = $props();
const initial = (): DatasetSettings => $state.snapshot(settings) as DatasetSettings;
const start = initial();
let mode = $state(start.mode);
let key = $state(start.key.join(", "));
let box = $state(start.mailbox?.name ?? "");
let senders = $state(start.mailbox?.senders.join(", ") ?? "");
let months = $state(start.keepMonths === null ? "" : String(start.keepMonths));
let problem = $state<Problem>();
let saved = $state(false);

const list = (text: string): string[] =>
  text
    .split(",")
    .map((one) => one.trim())
    .filter((one) => one !== "");

async function keep(): Promise<void> {
  problem = undefined;
  saved = false;
  try {
    onchange(
      await api.put("/datasets/{name}/settings", {
        path: { name },
        body: {
          mode,
          key: list(key),
          keepMonths: months.trim() === "" ? null : Number(months),
          mailbox: box.trim() === "" ? null : { name: box.trim(), senders: list(senders) },
        },
        ...matching(etag),
      }),
    );
    saved = true;
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<Trouble {problem} />
{#if settings.folder}<p class="soft folder">A file put into <code>{settings.folder}</code> is taken by itself.</p>{/if}
<form onsubmit={(event) => { event.preventDefault(); void keep(); }}>
  <div class="fields">
    <Select size="sm" labelText="A new file" bind:selected={mode}><SelectItem value="replace" text="replaces what is shown" /><SelectItem value="append" text="adds to the edition before" /></Select>
    <TextInput size="sm" labelText="Key columns" placeholder="Visit no" helperText="They tell rows apart, also where editions are compared." bind:value={key} />
    <TextInput size="sm" labelText="Mail address, before the @" placeholder={name} helperText={settings.address ? `Files are taken at ${settings.address}.` : "Blank: no files by mail."} bind:value={box} />
    <TextInput size="sm" labelText="Who may send" placeholder="system@lifts.example, @office.example" bind:value={senders} />
    <TextInput size="sm" labelText="Months that older editions are kept" placeholder="for ever" helperText="Then their rows and files are deleted; what went out of them stays." bind:value={months} />
  </div>
  <div class="row"><Button size="small" kind="tertiary" type="submit">Keep</Button>{#if saved}<span class="soft" role="status">Kept.</span>{/if}</div>
</form>

<style>
  .folder { margin-bottom: 0.75rem; overflow-wrap: anywhere; }
  form { display: grid; gap: 0.75rem; justify-items: start; }
  .fields { display: grid; grid-template-columns: repeat(auto-fill, minmax(14rem, 1fr)); gap: 0.75rem 1rem; width: 100%; align-items: start; }
</style>
