<script lang="ts">
import { Add } from "carbon-icons-svelte";
import type { Known } from "../../lib/report/choices";
import { writeName } from "../../lib/report/conditions";
import type { Draft } from "../../lib/report/draft.svelte";
import { wordsFor } from "../../lib/report/field-words";
import { beginning, helpOf, type Schema, schemaAt, shapesOf } from "../../lib/report/schema";
import Section from "../form/Section.svelte";

/** Further steps over the rows in their order, and one more of each kind there is. */
let { draft, known, schema }: { draft: Draft; known: Known; schema: Schema } = $props();

const count = $derived([draft.get(["prepare"]) ?? []].flat().length);
const kinds = $derived(shapesOf(schemaAt(schema, ["prepare", 0]) ?? {}));
const keyOf = (kind: Schema): string => kind.required?.[0] ?? Object.keys(kind.properties ?? {})[0] ?? "";

/** A condition begins with the newest column: what was made last is what somebody asks about. */
function add(key: string, kind: Schema): void {
  const newest = draft.look?.columns.at(-1)?.name;
  const begun = key === "keep" && newest !== undefined ? { keep: `${writeName(newest)} <> ""` } : beginning(kind);
  draft.set(["prepare", count], begun);
}
</script>

{#if count > 0}<Section {draft} {known} {schema} only={["prepare"]} />{/if}
<div class="kinds" role="group" aria-label="Steps to add">
  {#each kinds as kind (keyOf(kind))}{@const key = keyOf(kind)}<button type="button" title={helpOf(kind.properties?.[key] ?? {})} onclick={() => add(key, kind)}><Add size={16} />{wordsFor(key)}</button>{/each}
</div>

<style>
  .kinds { display: flex; flex-wrap: wrap; gap: 0.15rem 0.75rem; margin-top: 0.4rem; }
  button { display: inline-flex; gap: 0.25rem; align-items: center; background: none; border: 0; padding: 0.25rem 0.1rem; font: inherit; font-size: 0.8125rem; color: var(--cds-link-01); cursor: pointer; }
  button:hover { text-decoration: underline; }
</style>
