<script lang="ts">
import { TextInput } from "carbon-components-svelte";
import type { Path } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";

/** A short text of the definition, taken when it is left; `isNeeded` keeps what it was where nothing is written. */
let {
  draft,
  path,
  label,
  isNeeded = false,
  standing = "",
  placeholder = "",
}: {
  draft: Draft;
  path: Path;
  label: string;
  isNeeded?: boolean;
  /** What holds where nothing is said. */
  standing?: string;
  placeholder?: string;
} = $props();
const value = $derived(String(draft.get(path) ?? standing));

function take(text: string): void {
  if (text === value || (isNeeded && text.trim() === "")) return;
  draft.set(path, text === standing || (standing === "" && text === "") ? undefined : text);
}
</script>

<TextInput size="sm" labelText={label} {placeholder} {value} on:change={(event) => take(String((event as CustomEvent).detail ?? ""))} />
