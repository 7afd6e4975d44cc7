<script lang="ts">
import { OverflowMenu, OverflowMenuItem } from "carbon-components-svelte";
import { Add } from "carbon-icons-svelte";
import type { Snippet } from "svelte";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import { wordsFor } from "../../lib/report/field-words";
import { beginning, type Schema } from "../../lib/report/schema";
import type { Inner } from "./inner";

/** Fields with names known beforehand: those that are there or needed, and a menu of the others. `only` are those a step has. */
let {
  draft,
  path,
  schema,
  inner,
  name,
  only,
}: {
  draft: Draft;
  path: Path;
  schema: Schema;
  name?: string | undefined;
  only?: readonly string[] | undefined;
  inner: Snippet<[Inner]>;
} = $props();

const all = $derived(Object.entries(schema.properties ?? {}).filter(([key]) => !only || only.includes(key)));
const value = $derived((draft.get(path) ?? {}) as Record<string, unknown>);
const isNeeded = (key: string): boolean => schema.required?.includes(key) ?? false;
const shown = $derived(all.filter(([key]) => key in value || isNeeded(key)));
const others = $derived(all.filter(([key]) => !(key in value) && !isNeeded(key)));
</script>

<fieldset>
  {#if name}<legend>{name}</legend>{/if}
  {#each shown as [key, one] (key)}
    {@render inner({ path: [...path, key], schema: one, onremove: isNeeded(key) ? undefined : () => draft.set([...path, key], undefined) })}
  {/each}
  {#if others.length > 0}
    <div class="more">
      <OverflowMenu icon={Add} iconDescription={`Add to ${name ?? "this"}`} size="sm">
        {#each others as [key, one] (key)}<OverflowMenuItem text={wordsFor(key)} on:click={() => draft.set([...path, key], beginning(one))} />{/each}
      </OverflowMenu>
      <span class="soft">{others.map(([key]) => wordsFor(key)).join(", ")}</span>
    </div>
  {/if}
</fieldset>

<style>
  fieldset { display: grid; gap: 0.75rem; border: 0; min-width: 0; }
  fieldset :global(fieldset) { border-left: 2px solid var(--cds-ui-03); padding-left: 0.75rem; }
  legend { font-size: 0.75rem; color: var(--corbix-soft); padding-bottom: 0.4rem; }
  .more { display: grid; grid-template-columns: auto minmax(0, 1fr); gap: 0.5rem; align-items: center; }
  .more span { font-size: 0.75rem; line-height: 1rem; }
</style>
