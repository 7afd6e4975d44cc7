<script lang="ts">
import { Select, SelectItem } from "carbon-components-svelte";
import type { Snippet } from "svelte";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import { wordsFor } from "../../lib/report/field-words";
import { beginning, helpOf, kindOf, type Schema, shapeOf, shapesOf, valuesOf } from "../../lib/report/schema";
import Fields from "./Fields.svelte";
import type { Inner } from "./inner";

/** A field that can have several shapes: which one, and what that holds. */
let {
  draft,
  path,
  schema,
  name,
  inner,
}: { draft: Draft; path: Path; schema: Schema; name: string; inner: Snippet<[Inner]> } = $props();

const shapes = $derived(shapesOf(schema));
const value = $derived(draft.get(path) ?? schema.default);
const at = $derived(Math.max(0, shapeOf(schema, value)));
const shape = $derived(shapes[at] ?? {});

/** What a shape is called: its only value, its needed field, or its kind. */
function called(one: Schema): string {
  switch (kindOf(one)) {
    case "fixed":
      return wordsFor(String(one.const));
    case "pick":
      return valuesOf(one)
        .map((each) => wordsFor(String(each)))
        .join(", ");
    case "fields":
      return (one.required ?? Object.keys(one.properties ?? {})).map((name) => wordsFor(name)).join(", ");
    case "list":
      return "Several";
    case "truth":
      return "Yes or no";
    default:
      return "One";
  }
}
</script>

<fieldset>
  <Select size="sm" labelText={name} helperText={helpOf(schema)} selected={String(at)} on:update={({ detail }) => { if (Number(detail) !== at) draft.set(path, beginning(shapes[Number(detail)] ?? {})); }}>
    {#each shapes as one, index (index)}<SelectItem value={String(index)} text={called(one)} />{/each}
  </Select>
  {#if kindOf(shape) === "fields"}<Fields {draft} {path} schema={shape} {inner} />
  {:else if kindOf(shape) !== "fixed"}{@render inner({ path, schema: shape, label: name })}{/if}
</fieldset>

<style>
  fieldset { display: grid; gap: 0.5rem; border: 0; min-width: 0; }
</style>
