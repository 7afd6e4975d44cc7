<script lang="ts">
import { Select, SelectItem } from "carbon-components-svelte";
import { untrack } from "svelte";
import { api, type EditionSummary } from "../../lib/client";
import { plural, time } from "../../lib/format";

/** Which edition of the data is looked at. A report uses the newest; a run can be told another. */
let {
  name,
  newest,
  chosen,
  onchange,
}: {
  name: string;
  newest: number;
  /** Nothing for the newest. */
  chosen: number | undefined;
  onchange: (edition: number | undefined) => void;
} = $props();

/** Older ones are found on the page of the data. */
const LISTED = 50;
let editions = $state<readonly EditionSummary[]>([]);
$effect(() => {
  void newest;
  const dataset = name;
  api.get("/datasets/{name}/editions", { path: { name: dataset }, query: { limit: LISTED } }).then(
    ({ items }) => {
      if (dataset === untrack(() => name)) editions = items;
    },
    // The newest can be used without the list.
    () => {},
  );
});
const wanted = $derived(String(chosen ?? newest));
const older = $derived(editions.filter(({ number }) => number !== newest));
</script>

{#if older.length > 0}
  <Select size="sm" labelText="Edition" selected={wanted} on:update={({ detail }) => { if (detail !== wanted) onchange(Number(detail) === newest ? undefined : Number(detail)); }}>
    <SelectItem value={String(newest)} text={`${newest}, the newest`} />
    {#each older as one (one.number)}<SelectItem value={String(one.number)} text={`${one.number}: ${plural(one.rowCount, ["# row", "# rows"])} from ${one.origin}, ${time(one.createdAt)}`} />{/each}
  </Select>
  {#if chosen !== undefined}<p class="soft" role="status">What one group gets is shown of edition {chosen}, and a run that is started here is of it. By itself the report uses the newest.</p>{/if}
{/if}
