<script lang="ts">
import { Checkbox, Select, SelectItem, Tag, TextInput } from "carbon-components-svelte";
import type { AskForm } from "../../lib/asking";
import type { Enquiry } from "../../lib/client";
import { cell, count, word } from "../../lib/format";

/** What an enquiry asks, to be filled in: values to choose, two ends, words. */
let {
  fields,
  form = $bindable(),
  wrong,
}: { fields: Enquiry["fields"]; form: AskForm; wrong: { where: string; what: string } | undefined } = $props();

/** Up to so many values are ticked; of more one is picked after the other. */
const TICKED = 12;
type Field = Enquiry["fields"][number];
const valueOf = (value: unknown): string => (value === null ? "" : String(value));
const shown = (field: Field, value: Field["choices"][number]["value"]): string =>
  value === null ? "(blank)" : cell(value, { type: field.type });
const labelOf = (field: Field): string => (field.needed ? `${field.label} (needed)` : field.label);
const isDate = (field: Field): boolean => field.type === "date" || field.type === "datetime";

function tick(name: string, value: string, isOn: boolean): void {
  const own = form[name];
  if (own && isOn !== own.chosen.includes(value))
    own.chosen = isOn ? [...own.chosen, value] : own.chosen.filter((one) => one !== value);
}
</script>

{#each fields as field (field.name)}
  {@const own = form[field.name]}
  {#if own}
    <div class="field" role="group" aria-label={labelOf(field)}>
      <span class="label">{labelOf(field)}</span>
      {#if field.kind === "search"}
        <TextInput size="sm" hideLabel labelText={labelOf(field)} placeholder={`Words in ${field.columns.join(", ")}`} bind:value={own.text} />
      {:else if field.kind === "between"}
        <div class="ends">
          <TextInput size="sm" labelText={isDate(field) ? "From the day" : "From"} placeholder={isDate(field) ? "2026-10-01" : "0"} bind:value={own.from} />
          <TextInput size="sm" labelText={isDate(field) ? "Until the day" : "Up to"} placeholder={isDate(field) ? "2026-10-31" : ""} bind:value={own.to} />
        </div>
      {:else if field.choiceCount <= TICKED}
        <div class="ticks">
          {#each field.choices as choice (choice.value)}
            <Checkbox labelText={`${shown(field, choice.value)} (${count(choice.count)})`} checked={own.chosen.includes(valueOf(choice.value))} on:check={({ detail }) => tick(field.name, valueOf(choice.value), detail)} />
          {/each}
        </div>
      {:else}
        {#if own.chosen.length > 0}
          <div class="chosen">{#each own.chosen as value (value)}<Tag filter type="teal" size="sm" title={`Take out ${value}`} on:close={() => tick(field.name, value, false)}>{value === "" ? "(blank)" : value}</Tag>{/each}</div>
        {/if}
        {#if field.choices.length < field.choiceCount}
          <TextInput size="sm" hideLabel labelText={labelOf(field)} placeholder={`One of ${count(field.choiceCount)} values`} value={own.chosen[0] ?? ""} on:change={(event) => { const text = String((event as CustomEvent).detail ?? "").trim(); own.chosen = text === "" ? [] : [text]; }} />
        {:else}
          {#key own.chosen.length}
            <Select size="sm" hideLabel labelText={labelOf(field)} selected="" on:update={({ detail }) => { if (detail !== "") tick(field.name, field.choices[Number(detail)] ? valueOf(field.choices[Number(detail)]?.value) : "", true); }}>
              <SelectItem value="" text={own.chosen.length === 0 ? word("any") : "or another …"} />
              {#each field.choices as choice, at (at)}{#if !own.chosen.includes(valueOf(choice.value))}<SelectItem value={String(at)} text={`${shown(field, choice.value)} (${count(choice.count)})`} />{/if}{/each}
            </Select>
          {/key}
        {/if}
      {/if}
      {#if wrong?.where === field.name}<p class="wrong" role="alert">{wrong.what}</p>{/if}
    </div>
  {/if}
{/each}

<style>
  .field { display: grid; gap: 0.3rem; }
  .label { font-size: 0.875rem; font-weight: 600; }
  .ends { display: grid; grid-template-columns: 1fr 1fr; gap: 0.5rem; }
  .ticks { display: grid; grid-template-columns: repeat(auto-fill, minmax(9rem, 1fr)); }
  .ticks :global(.bx--checkbox-wrapper) { margin: 0; }
  .chosen { display: flex; flex-wrap: wrap; gap: 0.25rem; }
  .wrong { color: var(--corbix-stop); font-size: 0.8125rem; }
</style>
