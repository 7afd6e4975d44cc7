<script lang="ts">
import { Button, FileUploaderButton } from "carbon-components-svelte";
import { Close } from "carbon-icons-svelte";
import { api, type Problem } from "../../lib/client";
import type { Draft } from "../../lib/report/draft.svelte";
import Trouble from "../common/Trouble.svelte";

/** Files that go to everybody as they are, such as a leaflet: uploaded here, kept among the templates. */
let { draft, onuploaded }: { draft: Draft; onuploaded: () => Promise<void> } = $props();

const attached = $derived([draft.get(["message", "attach"]) ?? []].flat() as (string | { fixed?: string })[]);
const fixed = $derived(
  attached.flatMap((one, at) => (typeof one === "object" && one.fixed !== undefined ? [{ name: one.fixed, at }] : [])),
);
let chosen = $state<File[]>([]);
let problem = $state<Problem>();
$effect(() => {
  const files = chosen;
  if (files.length > 0) void add(files);
});

async function add(files: readonly File[]): Promise<void> {
  chosen = [];
  problem = undefined;
  try {
    for (const file of files) await api.put("/templates/{file}", { path: { file: file.name }, body: file });
    await onuploaded();
    const known = new Set(fixed.map(({ name }) => name));
    const more = files.filter(({ name }) => !known.has(name)).map(({ name }) => ({ fixed: name }));
    if (more.length > 0) draft.set(["message", "attach"], [...attached, ...more]);
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<Trouble {problem} />
{#if fixed.length > 0}
  <ul aria-label="Files that go to everybody">
    {#each fixed as { name, at } (name)}<li>{name} <Button size="small" kind="ghost" icon={Close} iconDescription={`Do not attach ${name}`} on:click={() => draft.set(["message", "attach", at], undefined)} /></li>{/each}
  </ul>
{/if}
<FileUploaderButton size="small" kind="ghost" multiple labelText="The same file for everybody" accept={[".pdf", ".docx", ".xlsx", ".pptx", ".csv", ".txt", ".ics", ".zip", ".png", ".jpg", ".jpeg"]} bind:files={chosen} disableLabelChanges />

<style>
  li { display: flex; align-items: center; gap: 0.5rem; font-size: 0.875rem; }
</style>
