<script lang="ts">
import { TextArea } from "carbon-components-svelte";
import { cell } from "../../lib/format";
import { conditionOf, writeCondition } from "../../lib/report/conditions";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import ConditionRows from "./ConditionRows.svelte";

/** A condition over rows as they are at a later step, new columns among them: clicked, or as a formula where it says more. */
let { draft, path, label }: { draft: Draft; path: Path; label: string } = $props();

const source = $derived(String(draft.get(path) ?? ""));
const columns = $derived(draft.look?.columns ?? []);
const types = $derived(Object.fromEntries(columns.map(({ name, type }) => [name, type])));
const condition = $derived(
  conditionOf(
    source,
    columns.map(({ name }) => name),
  ),
);

/** Values of the group that is looked at: of a later step nothing else is known. */
function valuesOf(column: string): string[] {
  const at = columns.findIndex(({ name }) => name === column);
  const own = columns[at];
  if (!own) return [];
  return [
    ...new Set(
      (draft.look?.parcel?.cells ?? []).map((line) =>
        own.type === "date" ? String(line[at] ?? "") : cell(line[at], own),
      ),
    ),
  ];
}
</script>

{#if condition && columns.length > 0}
  <p class="soft">{label}</p>
  <ConditionRows {condition} columns={[...columns]} {valuesOf} countOf={() => undefined} loaded={[]} onchange={(next) => draft.set(path, next.clauses.length === 0 ? "" : writeCondition(next, types))} />
{:else}
  <TextArea labelText={label} rows={2} value={source} on:change={(event) => draft.set(path, (event.target as HTMLTextAreaElement).value)} />
{/if}
