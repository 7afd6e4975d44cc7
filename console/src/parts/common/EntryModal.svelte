<script lang="ts">
import { Checkbox, Modal, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { api, matching, type Problem, type Recipient } from "../../lib/client";
import { people } from "../../lib/format";
import Trouble from "./Trouble.svelte";

/** One entry of the recipient list, new or known. */
let {
  open = $bindable(false),
  entry,
  group = "",
}: {
  open: boolean;
  entry: Recipient | undefined;
  /** Whom a new entry is to receive for. */
  group?: string;
} = $props();
let etag = $state<string>();
let problem = $state<Problem>();
let form = $state({
  group: "",
  name: "",
  addresses: "",
  copies: "",
  blindCopies: "",
  role: "to" as Recipient["role"],
  dataset: "",
  language: "",
  activeFrom: "",
  activeUntil: "",
  neverSend: false,
});

$effect(() => {
  if (!open) return;
  problem = undefined;
  form = {
    group: entry?.group ?? group,
    name: entry?.name ?? "",
    addresses: people(entry?.to ?? []).replaceAll(", ", "; "),
    copies: people(entry?.copies ?? []).replaceAll(", ", "; "),
    blindCopies: people(entry?.blindCopies ?? []).replaceAll(", ", "; "),
    role: entry?.role ?? "to",
    dataset: entry?.dataset ?? "",
    language: entry?.language ?? "",
    activeFrom: entry?.activeFrom ?? "",
    activeUntil: entry?.activeUntil ?? "",
    neverSend: entry?.neverSend ?? false,
  };
  if (entry) void readRow(entry.row);
});

/** One row of a file may stand for several groups; all of them are changed together, as they are now. */
async function readRow(row: number): Promise<void> {
  try {
    const found = await api.read("/recipients/entries/{row}", { path: { row } });
    form.group = found.data.entries.map((one) => one.group).join("; ");
    etag = found.etag;
  } catch (error) {
    problem = error as Problem;
  }
}

async function save(): Promise<void> {
  problem = undefined;
  try {
    const body = { ...form, fields: entry?.fields ?? {} };
    if (entry) await api.put("/recipients/entries/{row}", { path: { row: entry.row }, body, ...matching(etag) });
    else await api.post("/recipients/entries", { body });
    open = false;
  } catch (error) {
    problem = error as Problem;
  }
}

async function remove(): Promise<void> {
  problem = undefined;
  try {
    if (entry) await api.delete("/recipients/entries/{row}", { path: { row: entry.row }, ...matching(etag) });
    open = false;
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<Modal iconDescription="Close the dialog"
  bind:open
  modalHeading={entry ? `Row ${entry.row}` : "A new recipient"}
  primaryButtonText="Save"
  primaryButtonDisabled={form.group.trim() === "" || form.addresses.trim() === ""}
  {...entry ? { secondaryButtons: [{ text: "Take out" }, { text: "Cancel" }] as [{ text: string }, { text: string }] } : { secondaryButtonText: "Cancel" }}
  on:click:button--secondary={({ detail }) => { if (detail.text === "Take out") remove(); else open = false; }}
  on:submit={save}
>
  <Trouble {problem} />
  <div class="form">
    <TextInput labelText="Groups" helperText="Parted by semicolons; * for all" bind:value={form.group} />
    <TextInput labelText="Name" bind:value={form.name} />
    <TextInput labelText="Addresses" helperText="Parted by semicolons" bind:value={form.addresses} />
    <Select labelText="Receives as" bind:selected={form.role}>
      <SelectItem value="to" text="receiver" /><SelectItem value="copy" text="copy" /><SelectItem value="blind" text="blind copy" />
    </Select>
    <TextInput labelText="Copies to" bind:value={form.copies} />
    <TextInput labelText="Blind copies to" bind:value={form.blindCopies} />
    <TextInput labelText="Language" placeholder="the report's own" bind:value={form.language} />
    <TextInput labelText="Only for the dataset" placeholder="all" bind:value={form.dataset} />
    <TextInput labelText="Active from" placeholder="2026-11-02" bind:value={form.activeFrom} />
    <TextInput labelText="Active until" placeholder="2027-03-31" bind:value={form.activeUntil} />
    <Checkbox labelText="Never send anything" bind:checked={form.neverSend} />
  </div>
</Modal>

<style>
  .form { display: grid; grid-template-columns: 1fr 1fr; gap: 0.9rem 1rem; }
</style>
