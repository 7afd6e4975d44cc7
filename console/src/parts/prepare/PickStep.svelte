<script lang="ts">
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import SortRows from "../build/SortRows.svelte";
import ColumnTicks from "./ColumnTicks.svelte";

/** Of rows with the same values one stays: which columns say that they are the same, and which of them comes first or last. */
let { draft, path, names }: { draft: Draft; path: Path; names: readonly string[] } = $props();
const per = $derived([draft.get([...path, "per"]) ?? []].flat().map(String));
</script>

<ColumnTicks label="One row for each different value of" {names} chosen={per} onchange={(next) => draft.set([...path, "per"], next)} />
<p class="soft">In this order, {path.at(-1) === "last" ? "the last" : "the first"} stays</p>
<SortRows {draft} path={[...path, "by"]} {names} />
