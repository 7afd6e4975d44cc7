<script lang="ts">
import { Select, SelectItem } from "carbon-components-svelte";
import { insertable, isPicture } from "../../lib/message";
import type { Known } from "../../lib/report/choices";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import type { Schema } from "../../lib/report/schema";
import Section from "../form/Section.svelte";
import WordsField from "../write/WordsField.svelte";
import TextWithChips from "./TextWithChips.svelte";

/** A message's subject and words in one language: formatted, plain, as HTML, or those of a template. */
let { draft, known, schema, path }: { draft: Draft; known: Known; schema: Schema; path: Path } = $props();

type Body = { template?: string; html?: string; markdown?: string; text?: string };
const body = $derived((draft.get([...path, "body"]) ?? {}) as Body);
const way = $derived((Object.keys(body)[0] ?? "markdown") as keyof Body);
const words = $derived(String(body[way] ?? ""));
const bodies = $derived(known.templates.filter((one) => /\.(?:html|md|txt)$/.test(one)));
const pictures = $derived(known.templates.filter(isPicture));
const columns = $derived(draft.look?.columns ?? []);
function choose(next: keyof Body): void {
  draft.set(
    [...path, "body"],
    next === "template" ? { template: bodies[0] ?? "" } : { [next]: way === "template" ? "" : words },
  );
}
function take(text: string): void {
  if (text !== words && text.trim() !== "") draft.set([...path, "body", way], text);
}
</script>

<div class="words">
  <TextWithChips {draft} path={[...path, "subject"]} label="Subject" />
  {#if way !== "template"}
    {#key way}<WordsField kind={way} value={words} label="Words" insertions={insertable(columns, draft.get(["period"]) !== undefined)} {columns} {pictures} onchange={take} />{/key}
  {/if}
  <div class="row">
    <Select size="sm" labelText="The words are" inline selected={way} on:update={({ detail }) => { if (detail !== way) choose(detail as keyof Body); }}>
      <SelectItem value="markdown" text="formatted" /><SelectItem value="text" text="plain text" /><SelectItem value="html" text="HTML" />
      {#if bodies.length > 0 || way === "template"}<SelectItem value="template" text="those of a template" />{/if}
    </Select>
    {#if way === "template"}
      <Select size="sm" labelText="Template" inline selected={body.template ?? ""} on:update={({ detail }) => { if (detail !== body.template) draft.set([...path, "body", "template"], String(detail)); }}>
        {#each [...new Set([body.template ?? "", ...bodies])] as one (one)}<SelectItem value={one} text={one} />{/each}
      </Select>
    {/if}
  </div>
  <!-- The words for those who do not see formatting are the same in all languages' schemas. -->
  <Section {draft} {known} {schema} {path} only={["text"]} />
</div>

<style>
  .words { display: grid; gap: 0.75rem; min-width: 0; }
  .row :global(.bx--form-item) { flex: 0 1 auto; }
</style>
