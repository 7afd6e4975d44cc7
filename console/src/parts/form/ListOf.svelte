<script lang="ts">
import { Button } from "carbon-components-svelte";
import { Add, ArrowDown, ArrowUp } from "carbon-icons-svelte";
import type { Snippet } from "svelte";
import { Reorder } from "../../lib/reorder.svelte";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import { beginning, helpOf, type Schema } from "../../lib/report/schema";
import DragHandle from "../common/DragHandle.svelte";
import type { Inner } from "./inner";

/** A list: its entries in their order, which can be changed, and one more. */
let {
  draft,
  path,
  schema,
  name,
  inner,
}: { draft: Draft; path: Path; schema: Schema; name: string; inner: Snippet<[Inner]> } = $props();

const items = $derived.by(() => {
  const value = draft.get(path);
  return Array.isArray(value) ? value : [];
});
const item = $derived(schema.items ?? {});
const order = new Reorder(
  (from, to) => draft.move([...path, from], to),
  () => items.length,
);
</script>

<fieldset>
  <legend>{name}</legend>
  {#if schema.description}<p class="soft">{helpOf(schema)}</p>{/if}
  {#each items as _, at}
    <div class="item" class:over={order.over === at} role="listitem" {...order.onto(at)}>
      <div class="handle"><DragHandle label={`Drag ${name} ${at + 1}`} {...order.handle(at)} /></div>
      {@render inner({ path: [...path, at], schema: item, label: `${name}, ${at + 1}`, onremove: () => draft.set([...path, at], undefined) })}
      <div class="moves">
        <Button size="small" kind="ghost" icon={ArrowUp} iconDescription={`Move ${name} ${at + 1} up`} disabled={at === 0} on:click={() => draft.move([...path, at], at - 1)} />
        <Button size="small" kind="ghost" icon={ArrowDown} iconDescription={`Move ${name} ${at + 1} down`} disabled={at === items.length - 1} on:click={() => draft.move([...path, at], at + 1)} />
      </div>
    </div>
  {/each}
  <div><Button size="small" kind="ghost" icon={Add} on:click={() => draft.set([...path, items.length], beginning(item))}>Add to {name.toLowerCase()}</Button></div>
</fieldset>

<style>
  fieldset { display: grid; gap: 0.5rem; border: 0; min-width: 0; }
  legend { font-size: 0.75rem; color: var(--corbix-soft); padding-bottom: 0.25rem; }
  .item { display: grid; grid-template-columns: auto minmax(0, 1fr) auto; gap: 0.25rem; align-items: start; }
  .item.over { box-shadow: 0 -2px 0 #d0782f; }
  .handle { padding-top: 1.5rem; }
  .moves { display: flex; padding-top: 1.2rem; }
</style>
