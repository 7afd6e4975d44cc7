<script lang="ts">
import { insertableInLine } from "../../lib/message";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import ChipLine from "../write/ChipLine.svelte";

/** A line of the definition in which a group's own values stand as chips. */
let { draft, path, label }: { draft: Draft; path: Path; label: string } = $props();

const value = $derived(String(draft.get(path) ?? ""));
const insertions = $derived(insertableInLine(draft.look?.columns ?? [], draft.get(["period"]) !== undefined));
const take = (text: string): void => {
  if (text !== value && text !== "") draft.set(path, text);
};
</script>

<ChipLine {value} {label} {insertions} onchange={take} />
