<script lang="ts">
import { Modal, SkeletonText, TextInput } from "carbon-components-svelte";
import { onMount } from "svelte";
import { api, once, type Problem } from "../../lib/client";
import { type Deed, hangingWords, type Kept, type Kind, outcomeWords, wayOut } from "../../lib/keep";
import { keepDraft } from "../../lib/report/kept-drafts";
import { moveDraft } from "../../lib/report/move-draft";
import { freeName } from "../../lib/report/new-report";
import Trouble from "../common/Trouble.svelte";

/** One deed: what hangs on the thing first, then what it does, then it is done. */
let {
  kind,
  name,
  title,
  deed,
  label,
  onclose,
  ondone,
}: {
  kind: Kind;
  name: string;
  title: string;
  deed: Deed;
  label: string;
  onclose: () => void;
  ondone?: ((deed: Deed, name: string | undefined) => void) | undefined;
} = $props();

let isOpen = $state(true);
let kept = $state<Kept>();
let problem = $state<Problem>();
let busy = $state(false);
let to = $state("");
let newTitle = $state("");

const HEADING: Readonly<Record<Deed, string>> = {
  rename: "Rename",
  copy: "Copy",
  archive: "Archive",
  delete: "Delete",
};
const DONE: Readonly<Record<Deed, string>> = {
  rename: "Renaming …",
  copy: "Copying …",
  archive: "Archiving …",
  delete: "Deleting …",
};
const isNaming = $derived(deed === "rename" || deed === "copy");
const stops = $derived(
  deed === "copy" ? [] : (kept?.hanging ?? []).filter((one) => one.stops.some((stopped) => stopped === deed)),
);
// Another title goes without another name.
const isHeldUp = $derived(stops.length > 0 && !(deed === "rename" && kind === "reports" && to === name));
const isSame = $derived(deed === "rename" && to === name && (kind !== "reports" || newTitle.trim() === title));

onMount(async () => {
  to = deed === "copy" ? copyName() : name;
  newTitle = deed === "copy" ? `${title} (copy)` : title;
  try {
    kept = await api.get("/library/{kind}/{name}", { path: { kind, name } });
  } catch (error) {
    problem = error as Problem;
  }
});

function copyName(): string {
  if (kind !== "templates") return freeName(`${name}-copy`, [name], "copy");
  const dot = name.lastIndexOf(".");
  return `${name.slice(0, dot)} copy${name.slice(dot)}`;
}

async function act(): Promise<void> {
  [problem, busy] = [undefined, true];
  const path = { kind, name };
  const body = { to: to.trim(), ...(kind === "reports" ? { title: newTitle.trim() } : {}) };
  try {
    if (deed === "rename") {
      const renamed = await api.post("/library/{kind}/{name}/rename", { path, body });
      if (kind === "reports") moveDraft(name, renamed.name);
      finish(renamed.name);
    } else if (deed === "copy") finish((await api.post("/library/{kind}/{name}/copy", { path, body, ...once() })).name);
    else if (deed === "archive") {
      await api.post("/library/{kind}/{name}/archive", { path });
      finish(undefined);
    } else {
      await api.delete("/library/{kind}/{name}", { path });
      if (kind === "reports") keepDraft(name, undefined);
      finish(undefined);
    }
  } catch (error) {
    problem = error as Problem;
    busy = false;
  }
}

function finish(called: string | undefined): void {
  isOpen = false;
  onclose();
  ondone?.(deed, called);
}
</script>

<Modal iconDescription="Close the dialog" bind:open={isOpen} hasForm={isNaming} hasScrollingContent={!isNaming} danger={deed === "delete"} size="sm" modalHeading={`${HEADING[deed]} the ${label} ${title}`} primaryButtonText={busy ? DONE[deed] : HEADING[deed]} primaryButtonDisabled={busy || !kept || isHeldUp || (isNaming && (to.trim() === "" || isSame))} secondaryButtonText="Close" on:click:button--secondary={() => { isOpen = false; }} on:close={onclose} on:submit={act}>
  <div class="fields">
    {#if isNaming}
      {#if kind === "reports"}<TextInput labelText="Title" bind:value={newTitle} />{/if}
      <TextInput labelText={kind === "templates" ? "File name" : "Name"} helperText={kind === "templates" ? "With its ending, as before." : "Small letters, digits and hyphens; it stands in addresses and file names."} bind:value={to} />
    {/if}
    {#if kept}
      {#if deed !== "copy"}
        <div>
          <h3>What hangs on it</h3>
          <ul>{#each kept.hanging as one (one.what)}<li>{hangingWords(one)}</li>{:else}<li>Nothing.</li>{/each}</ul>
        </div>
      {/if}
      {#if isHeldUp}
        <div class="held" role="alert"><p><strong>It cannot be done yet.</strong></p>{#each stops as one (one.what)}<p>{wayOut(one)}</p>{/each}</div>
      {:else}<p>{outcomeWords(deed, kept)}</p>{/if}
    {:else if !problem}<SkeletonText paragraph lines={3} />{/if}
    <Trouble {problem} />
  </div>
</Modal>

<style>
  .fields { display: grid; grid-template-columns: minmax(0, 1fr); gap: 1rem; }
  .fields p { font-size: 0.875rem; line-height: 1.4rem; }
  h3 { font-size: 0.875rem; font-weight: 600; margin-bottom: 0.25rem; }
  ul { list-style: disc; padding-left: 1.1rem; overflow-wrap: anywhere; line-height: 1.4rem; }
  .held { border-left: 3px solid var(--corbix-amber); padding-left: 0.75rem; line-height: 1.4rem; }
</style>
