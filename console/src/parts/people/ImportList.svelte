<script lang="ts">
import { FileUploaderButton, Modal, RadioButton, RadioButtonGroup } from "carbon-components-svelte";
import { api, type ListPreview, matching, type Problem } from "../../lib/client";
import { scrollable } from "../../lib/scrollable";
import Findings from "../common/Findings.svelte";

/** Takes a file of recipients over into the shared list, once it was shown what that changes. */
let {
  kind = "primary",
  size = "field",
  etag,
  ontaken,
  onproblem,
}: {
  kind?: "primary" | "tertiary";
  size?: "field" | "small";
  /** The version of the list that is changed; the newest without it. */
  etag?: string | undefined;
  ontaken?: () => void;
  onproblem: (problem: Problem | undefined) => void;
} = $props();
let files = $state<File[]>([]);
let importing = $state<File>();
let preview = $state<ListPreview>();
let mode = $state<"replace" | "merge">("replace");
let isOpen = $state(false);
const words = { added: "new", changed: "changed", removed: "taken out" };

$effect(() => {
  const [file] = files;
  if (!file) return;
  files = [];
  importing = file;
  void look();
});

async function look(): Promise<void> {
  if (!importing) return;
  onproblem(undefined);
  try {
    preview = await api.post("/recipients/preview", { query: { file: importing.name, mode }, body: importing });
    isOpen = true;
  } catch (error) {
    isOpen = false;
    onproblem(error as Problem);
  }
}

async function take(): Promise<void> {
  isOpen = false;
  if (!importing) return;
  try {
    const query = { file: importing.name, mode };
    await api.put("/recipients", { query, body: importing, ...(etag === undefined ? {} : matching(etag)) });
    ontaken?.();
  } catch (error) {
    onproblem(error as Problem);
  }
}
</script>

<FileUploaderButton {size} {kind} labelText="Import a list" disableLabelChanges accept={[".csv", ".xlsx", ".ods", ".vcf"]} bind:files />
<Modal iconDescription="Close the dialog" bind:open={isOpen} modalHeading={`What ${importing?.name ?? "the file"} changes`} primaryButtonText="Take it over" primaryButtonDisabled={(preview?.changes.length ?? 0) === 0} secondaryButtonText="Leave the list as it is" on:click:button--secondary={() => { isOpen = false; }} on:submit={take}>
  <RadioButtonGroup legendText="People who are not in the file" bind:selected={mode} on:change={look}>
    <RadioButton value="replace" labelText="are taken out" />
    <RadioButton value="merge" labelText="stay as they are" />
  </RadioButtonGroup>
  {#if preview}
    <p class="counts">{preview.added} new, {preview.changed} changed, {preview.removed} taken out, {preview.unchanged} as before.</p>
    <ul class="changes" use:scrollable data-scrolls="What would change">{#each preview.changes.slice(0, 200) as one}<li><strong>{words[one.kind]}</strong> {one.group}: {one.name}{one.fields.length > 0 ? ` – ${one.fields.join(", ")}` : ""}</li>{/each}</ul>
    <Findings findings={preview.findings} />
  {/if}
</Modal>

<style>
  .changes { font-size: 0.875rem; display: grid; gap: 0.3rem; margin: 0.5rem 0; max-height: 20rem; overflow: auto; }
  .counts { margin: 0.75rem 0 0.25rem; }
</style>
