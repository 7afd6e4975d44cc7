<script lang="ts">
import { Checkbox, Select, SelectItem, TextInput, Toggle } from "carbon-components-svelte";
import type { Draft } from "../../lib/report/draft.svelte";

/** Whether new data start a report: of one dataset or of several, and not before an hour. */
let { draft, datasets }: { draft: Draft; datasets: readonly string[] } = $props();
interface OnData {
  all?: string[] | undefined;
  notBefore?: string | undefined;
  zone?: string | undefined;
}
const field = $derived(draft.get(["startOnData"]) as boolean | OnData | undefined);
const isOn = $derived(field !== undefined && field !== false);
const told = $derived<OnData>(typeof field === "object" ? field : {});
const data = $derived(String(draft.get(["data"]) ?? ""));
const chosen = $derived(told.all ?? [data]);

function set(next: OnData): void {
  const { all, ...rest } = next;
  const isUsual = all === undefined || (all.length === 1 && all[0] === data);
  const whole = { ...(isUsual ? {} : { all }), ...rest };
  const plain = Object.fromEntries(Object.entries(whole).filter(([, value]) => value !== undefined));
  draft.set(["startOnData"], Object.keys(plain).length === 0 ? true : plain);
}
</script>

<Toggle size="sm" labelText="Start when data arrives" labelA="No" labelB="Yes" toggled={isOn} on:toggle={({ detail }) => { if (detail.toggled !== isOn) draft.set(["startOnData"], detail.toggled || undefined); }} />
{#if isOn}
  <fieldset>
    <legend>Once these are newer than the last run</legend>
    <div class="days">
      {#each datasets as name (name)}
        <Checkbox labelText={name} checked={chosen.includes(name)} on:check={({ detail }) => { if (chosen.includes(name) === detail) return; const next = detail ? [...chosen, name] : chosen.filter((one) => one !== name); if (next.length > 0) set({ ...told, all: next }); }} />
      {/each}
    </div>
    <div class="pair">
    <TextInput size="sm" type="time" labelText="Not before" value={told.notBefore ?? ""} on:change={(event) => { const at = String((event as CustomEvent).detail ?? "") || undefined; if (at !== told.notBefore) set({ ...told, notBefore: at }); }} />
    {#if told.notBefore || told.zone}
      <Select size="sm" labelText="By the clock of" selected={told.zone ?? ""} on:update={({ detail }) => { if (detail !== (told.zone ?? "")) set({ ...told, zone: String(detail) || undefined }); }}>
        <SelectItem value="" text="the schedule, or this service" />
        {#each [...new Set([...(told.zone ? [told.zone] : []), "UTC", ...Intl.supportedValuesOf("timeZone")])] as zone (zone)}<SelectItem value={zone} text={zone} />{/each}
      </Select>
    {/if}
    </div>
  </fieldset>
{/if}

<style>
  fieldset { border: 0; padding: 0; margin: 0.25rem 0 0.75rem; max-width: 30rem; }
  legend { font-size: 0.75rem; color: var(--cds-text-02); margin-bottom: 0.2rem; }
  .pair { display: grid; grid-template-columns: 1fr 1fr; gap: 0.75rem; }
  .days { display: flex; flex-wrap: wrap; gap: 0 0.75rem; }
  .days :global(.bx--form-item) { flex: 0 1 auto; }
</style>
