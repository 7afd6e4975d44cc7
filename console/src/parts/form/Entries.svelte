<script lang="ts">
import { Button, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { Add, Close } from "carbon-icons-svelte";
import type { Snippet } from "svelte";
import type { Option } from "../../lib/report/choices";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import { beginning, helpOf, kindOf, type Schema } from "../../lib/report/schema";
import type { Inner } from "./inner";

/** Entries whose names are the writer's own: a name and what it stands for. */
let {
  draft,
  path,
  schema,
  name,
  names = [],
  inner,
}: {
  draft: Draft;
  path: Path;
  schema: Schema;
  name: string;
  /** Names that are known; any other can be written. */
  names?: readonly Option[];
  inner: Snippet<[Inner]>;
} = $props();

const entries = $derived(Object.keys((draft.get(path) ?? {}) as Record<string, unknown>));
const item = $derived(typeof schema.additionalProperties === "object" ? schema.additionalProperties : {});
const isSmall = $derived(kindOf(item) === "text");
let added = $state("");
const others = $derived(names.filter(({ value }) => !entries.includes(value)));

function add(wanted: string): void {
  const free = wanted.trim();
  if (free === "" || entries.includes(free)) return;
  draft.set([...path, free], beginning(item));
  added = "";
}
</script>

<fieldset>
  <legend>{name}</legend>
  {#if schema.description}<p class="soft">{helpOf(schema)}</p>{/if}
  {#each entries as entry (entry)}
    <div class="entry" class:small={isSmall}>
      <div class="name">
        <TextInput size="sm" labelText={`Name in ${name.toLowerCase()}`} value={entry} on:change={(event) => { const to = String((event as CustomEvent).detail ?? "").trim(); if (to !== "" && to !== entry && !entries.includes(to)) draft.rename([...path, entry], to); }} />
        <Button size="small" kind="ghost" icon={Close} iconDescription={`Take out ${entry}`} on:click={() => draft.set([...path, entry], undefined)} />
      </div>
      {@render inner({ path: [...path, entry], schema: item, label: entry })}
    </div>
  {/each}
  <form onsubmit={(event) => { event.preventDefault(); add(added); }}>
    {#if others.length > 0}
      {#key others.length}
        <Select size="sm" labelText={`Add to ${name.toLowerCase()}`} selected="" on:update={({ detail }) => { if (detail !== "") add(String(detail)); }}>
          <SelectItem value="" text="one the template has …" />{#each others as { value, text } (value)}<SelectItem {value} {text} />{/each}
        </Select>
      {/key}
    {/if}
    <TextInput size="sm" labelText={`New name in ${name.toLowerCase()}`} bind:value={added} />
    <Button size="small" kind="ghost" icon={Add} type="submit" disabled={added.trim() === "" || entries.includes(added.trim())}>Add</Button>
  </form>
</fieldset>

<style>
  fieldset { display: grid; gap: 0.75rem; border: 0; min-width: 0; }
  legend { font-size: 0.75rem; color: var(--corbix-soft); padding-bottom: 0.25rem; }
  .entry { display: grid; gap: 0.5rem; border-left: 2px solid var(--cds-ui-03); padding-left: 0.75rem; }
  .entry.small { grid-template-columns: minmax(8rem, 1fr) minmax(0, 2fr); align-items: end; border: 0; padding: 0; }
  .name { display: grid; grid-template-columns: minmax(0, 1fr) auto; align-items: end; }
  form { display: flex; flex-wrap: wrap; gap: 0.5rem; align-items: end; }
  form :global(.bx--form-item) { flex: 0 1 18rem; min-width: 0; }
  form :global(.bx--form-item:has(select)) { flex: 1 1 100%; }
  form :global(select) { width: 100%; min-width: 0; }
</style>
