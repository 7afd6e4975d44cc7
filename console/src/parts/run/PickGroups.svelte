<script lang="ts">
import { Checkbox, InlineLoading, Search } from "carbon-components-svelte";
import { api, type GroupProspect } from "../../lib/client";
import { plural } from "../../lib/format";
import { Pages } from "../../lib/pages.svelte";
import More from "../common/More.svelte";

/** Some of a report's groups, ticked in a list that is searched. */
let {
  report,
  of,
  chosen,
  onchange,
}: {
  report: string;
  /** Which rows a run would be of. */
  of: { readonly period?: string; readonly edition?: number };
  chosen: readonly string[];
  onchange: (groups: string[]) => void;
} = $props();

let search = $state("");
const groups = new Pages<GroupProspect>((wish) => {
  const wanted = search.trim() === "" ? {} : { search: search.trim() };
  return api.get("/reports/{name}/prospect", { path: { name: report }, query: { ...of, ...wanted, ...wish } });
});
$effect(() => {
  void [of, search];
  const timer = setTimeout(() => void groups.begin().catch(() => {}), 200);
  return () => clearTimeout(timer);
});
/** A group that is chosen is seen whatever is searched for. */
const hidden = $derived(chosen.filter((name) => !groups.items?.some(({ group }) => group === name)));

function tick(name: string, isOn: boolean): void {
  if (isOn !== chosen.includes(name)) onchange(isOn ? [...chosen, name] : chosen.filter((one) => one !== name));
}
</script>

<Search closeButtonLabelText="Clear what is searched for" size="sm" labelText="Look for a group" placeholder="Look for a group" bind:value={search} />
<div class="groups" role="group" aria-label="Groups">
  {#if !groups.items}<InlineLoading description="Looking …" />{/if}
  {#each hidden as name (name)}<Checkbox labelText={name} checked on:check={({ detail }) => tick(name, detail)} />{/each}
  {#each groups.items ?? [] as one (one.key)}
    <Checkbox labelText={`${one.group} (${plural(one.rows, ["# row", "# rows"])}${one.says === "none" ? ", nobody" : one.says === "had" ? ", has it" : ""})`} checked={chosen.includes(one.group)} on:check={({ detail }) => tick(one.group, detail)} />
  {/each}
  <More pages={groups} what="groups" />
</div>

<style>
  .groups { max-height: 12rem; overflow: auto; border: 1px solid var(--cds-ui-03); padding: 0.25rem 0.75rem; }
  .groups :global(.bx--checkbox-wrapper) { margin: 0.1rem 0; }
</style>
