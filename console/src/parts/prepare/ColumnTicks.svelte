<script lang="ts">
import { Checkbox } from "carbon-components-svelte";
import { meant } from "../../lib/report/choices";

/** Columns picked by ticking them; one that is not there any more stays until it is taken out. */
let {
  label,
  names,
  chosen,
  onchange,
}: {
  label: string;
  names: readonly string[];
  chosen: readonly string[];
  onchange: (chosen: string[]) => void;
} = $props();

const shown = $derived([...names, ...chosen.filter((one) => meant(one, names) === undefined)]);
const isOn = (name: string): boolean => meant(name, chosen) !== undefined;

function tick(name: string, on: boolean): void {
  if (on !== isOn(name)) onchange(on ? [...chosen, name] : chosen.filter((one) => one !== meant(name, chosen)));
}
</script>

<div class="ticks" role="group" aria-label={label}>
  <span class="soft">{label}</span>
  {#each shown as name (name)}<Checkbox labelText={name} checked={isOn(name)} on:check={({ detail }) => tick(name, detail)} />{/each}
</div>

<style>
  .ticks { display: grid; grid-template-columns: repeat(auto-fill, minmax(10rem, 1fr)); gap: 0 1rem; max-height: 11rem; overflow: auto; }
  .ticks > span { grid-column: 1 / -1; }
  .ticks :global(.bx--checkbox-wrapper) { margin: 0; }
  .ticks :global(.bx--checkbox-label-text) { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
</style>
