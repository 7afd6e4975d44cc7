<script lang="ts">
import { Toggle } from "carbon-components-svelte";
import { allOf, api, type WayOut } from "../../lib/client";
import type { Known } from "../../lib/report/choices";
import type { Draft } from "../../lib/report/draft.svelte";
import { beginning, type Schema, schemaAt } from "../../lib/report/schema";
import { link } from "../../lib/router.svelte";
import Section from "../form/Section.svelte";

/** Where a report's files go besides mail: the ways out there are, each turned on with what goes there. */
let { draft, known, schema }: { draft: Draft; known: Known; schema: Schema } = $props();
let all = $state<WayOut[]>();
$effect(() => {
  allOf(api.all("/ways-out")).then(
    (found) => {
      all = found;
    },
    () => {
      all = [];
    },
  );
});
const used = $derived((draft.get(["waysOut"]) ?? {}) as Record<string, object>);
const item = $derived(schemaAt(schema, ["waysOut", "way"]) ?? {});
/** Those there are, and those a report names that are gone. */
const names = $derived([...new Set([...(all ?? []).map((one) => one.name), ...Object.keys(used)])]);

function turn(name: string, isOn: boolean): void {
  if (isOn) draft.set(["waysOut", name], beginning(item));
  else if (Object.keys(used).length === 1) draft.set(["waysOut"], undefined);
  else draft.set(["waysOut", name], undefined);
}
</script>

{#if all && names.length === 0}
  <p class="soft">Files can also go into a folder, by WebDAV, by SFTP or to a web service. None of these is set up yet: <a href={link("ways-out")}>set up a way out</a>.</p>
{:else}
  {#each names as name (name)}
    {@const way = all?.find((one) => one.name === name)}
    <section class="panel" aria-label={`Way out ${name}`}>
      <Toggle size="sm" labelText={way ? `${name}: ${way.place}` : all ? `${name}: no such way out is set up` : name} labelA="Not by this" labelB="Files go here" toggled={name in used} on:toggle={({ detail }) => { if (detail.toggled !== name in used) turn(name, detail.toggled); }} />
      {#if name in used}<Section {draft} {known} schema={item} path={["waysOut", name]} />{/if}
    </section>
  {/each}
{/if}

<style>
  section { margin: 0 0 0.75rem; display: grid; gap: 0.75rem; }
</style>
