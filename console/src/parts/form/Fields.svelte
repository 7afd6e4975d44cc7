<script lang="ts">
import { Add } from "carbon-icons-svelte";
import type { Snippet } from "svelte";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import { wordsFor } from "../../lib/report/field-words";
import { beginning, helpOf, type Schema } from "../../lib/report/schema";
import type { Inner } from "./inner";

/** Fields with names known beforehand: those that are there or needed, and a button for each of the others. `only` are those a step has. */
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
      {#each others as [key, one] (key)}<button type="button" title={helpOf(one)} onclick={() => draft.set([...path, key], beginning(one))}><Add size={16} />{wordsFor(key, path)}</button>{/each}
    </div>
  {/if}
</fieldset>

<style>
  fieldset { display: grid; gap: 0.75rem; border: 0; min-width: 0; }
  fieldset :global(fieldset) { border-left: 2px solid var(--cds-ui-03); padding-left: 0.75rem; }
  legend { font-size: 0.75rem; color: var(--corbix-soft); padding-bottom: 0.4rem; }
  .more { display: flex; flex-wrap: wrap; gap: 0.15rem 0.6rem; }
  .more button { display: inline-flex; gap: 0.25rem; align-items: center; background: none; border: 0; padding: 0.25rem 0.1rem; font: inherit; font-size: 0.8125rem; color: var(--cds-link-01); cursor: pointer; }
  .more button:hover { text-decoration: underline; }
</style>
