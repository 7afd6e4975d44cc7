<script lang="ts">
import { Select, SelectItem } from "carbon-components-svelte";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import ColumnTicks from "./ColumnTicks.svelte";
import NameField from "./NameField.svelte";

/** Columns under each other: each row becomes one for each of them, with its name and its value. */
let { draft, path, names }: { draft: Draft; path: Path; names: readonly string[] } = $props();
const columns = $derived([draft.get([...path, "columns"]) ?? []].flat().map(String));
const blanks = $derived(String(draft.get([...path, "blanks"]) ?? "left-out"));
</script>

<ColumnTicks label="Columns" {names} chosen={columns} onchange={(next) => draft.set([...path, "columns"], next)} />
<div class="pair">
  <NameField {draft} path={[...path, "name"]} label="New column for their names" isNeeded />
  <NameField {draft} path={[...path, "value"]} label="New column for their values" isNeeded />
  <Select size="sm" labelText="Where a value is blank" selected={blanks} on:update={({ detail }) => { if (detail !== blanks) draft.set([...path, "blanks"], detail === "left-out" ? undefined : String(detail)); }}>
    <SelectItem value="left-out" text="no row is made" /><SelectItem value="kept" text="a row is made, blank" />
  </Select>
</div>
