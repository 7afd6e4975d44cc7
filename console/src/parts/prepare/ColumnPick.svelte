<script lang="ts">
import { Select, SelectItem } from "carbon-components-svelte";
import { meant } from "../../lib/report/choices";

/** One column that is chosen; one that is not there is shown as that. */
let {
  label,
  names,
  value,
  onchange,
  isLabelHidden = false,
}: {
  label: string;
  names: readonly string[];
  value: string;
  onchange: (name: string) => void;
  isLabelHidden?: boolean;
} = $props();
const chosen = $derived(meant(value, names));
</script>

<Select size="sm" labelText={label} hideLabel={isLabelHidden} selected={chosen ?? value} on:update={({ detail }) => { if (detail !== (chosen ?? value)) onchange(String(detail)); }}>
  {#if chosen === undefined}<SelectItem {value} text={value === "" ? "choose …" : `${value} (not there)`} />{/if}
  {#each names as one (one)}<SelectItem value={one} text={one} />{/each}
</Select>
