<script lang="ts">
import { Button, NumberInput, Select, SelectItem, TextArea, TextInput, Toggle } from "carbon-components-svelte";
import { Close } from "carbon-icons-svelte";
import { steppers } from "../../lib/format";
import type { Known } from "../../lib/report/choices";
import { entryNames, isColumnField, meant, optionsFor, optionText, takesMarks } from "../../lib/report/choices";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import { wordsFor } from "../../lib/report/field-words";
import { helpOf, kindOf, type Schema, valuesOf } from "../../lib/report/schema";
import KeepField from "../build/KeepField.svelte";
import TextWithChips from "../build/TextWithChips.svelte";
import Choice from "./Choice.svelte";
import Entries from "./Entries.svelte";
import Field from "./Field.svelte";
import Fields from "./Fields.svelte";
import type { Inner } from "./inner";
import ListOf from "./ListOf.svelte";

/** One field of a definition with the control its schema asks for. What it holds and what the text says are the same thing. */
let {
  draft,
  path,
  schema,
  known,
  label,
  onremove,
}: {
  draft: Draft;
  path: Path;
  schema: Schema;
  known: Known;
  label?: string | undefined;
  onremove?: (() => void) | undefined;
} = $props();

const kind = $derived(kindOf(schema));
const value = $derived(draft.get(path));
const name = $derived(label ?? wordsFor(String(path[path.length - 1]), path.slice(0, -1)));
const help = $derived(helpOf(schema));
const options = $derived(optionsFor(path, known));
const chosen = $derived(
  isColumnField(path) ? meant(String(value ?? ""), options) : options.find((one) => one === value),
);
const id = $derived(`field-${path.join("-")}`);
const isLong = $derived((schema.maxLength ?? 0) >= 10_000);

function write(text: string): void {
  draft.set(path, text);
}
</script>

{#snippet inner(one: Inner)}<Field {draft} {known} {...one} />{/snippet}

<div class="field">
  <div class="control">
    {#if kind === "fixed"}<p>{String(schema.const)}</p>
    {:else if kind === "pick"}
      <Select size="sm" labelText={name} helperText={help} selected={String(value ?? schema.default ?? "")} on:update={({ detail }) => { if (String(detail) !== String(value ?? schema.default ?? "")) draft.set(path, valuesOf(schema).find((one) => String(one) === String(detail))); }}>
        {#each valuesOf(schema) as one (one)}<SelectItem value={String(one)} text={wordsFor(String(one))} />{/each}
      </Select>
    {:else if kind === "truth"}
      <Toggle size="sm" labelText={name} labelA="No" labelB="Yes" toggled={Boolean(value ?? schema.default ?? false)} on:toggle={({ detail }) => { if (detail.toggled !== Boolean(value ?? schema.default ?? false)) draft.set(path, detail.toggled); }} />
      {#if help}<p class="soft">{help}</p>{/if}
    {:else if kind === "number"}
      <NumberInput size="sm" translateWithId={steppers} labelText={name} helperText={help} value={Number(value ?? schema.default ?? 0)} min={schema.minimum ?? 0} max={schema.maximum ?? 100_000} on:change={({ detail }) => { if (typeof detail === "number" && detail !== value) draft.set(path, detail); }} />
    {:else if kind === "text" && options.length > 0}
      <Select size="sm" labelText={name} helperText={help} selected={chosen ?? String(value ?? "")} on:update={({ detail }) => { if (detail !== (chosen ?? value)) write(String(detail)); }}>
        {#if chosen === undefined}<SelectItem value={String(value ?? "")} text={value ? `${value} (not there)` : "choose …"} />{/if}
        {#each options as one (one)}<SelectItem value={one} text={optionText(path, one)} />{/each}
      </Select>
    {:else if kind === "text" && path[path.length - 1] === "keep"}<KeepField {draft} {path} label={name} />
    {:else if kind === "text" && takesMarks(path)}
      <TextWithChips {draft} {path} label={name} />
      {#if help}<p class="soft">{help}</p>{/if}
    {:else if kind === "text" && isLong}
      <TextArea {id} labelText={name} helperText={help} rows={2} value={String(value ?? "")} on:change={(event) => write((event.target as HTMLTextAreaElement).value)} />
    {:else if kind === "text"}
      <TextInput {id} size="sm" labelText={name} helperText={help} value={String(value ?? "")} on:change={(event) => write(String((event as CustomEvent).detail ?? ""))} />
    {:else if kind === "list"}<ListOf {draft} {path} {schema} {name} {inner} />
    {:else if kind === "entries"}<Entries {draft} {path} {schema} {name} {inner} names={entryNames(path, known)} />
    {:else if kind === "fields"}<Fields {draft} {path} {schema} {name} {inner} />
    {:else}<Choice {draft} {path} {schema} {name} {inner} />{/if}
  </div>
  {#if onremove}<Button size="small" kind="ghost" icon={Close} iconDescription={`Take out ${name}`} on:click={onremove} />{/if}
</div>

<style>
  .field { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 0.5rem; align-items: start; }
  .control { min-width: 0; }
</style>
