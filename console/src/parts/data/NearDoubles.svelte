<script lang="ts">
import { Button } from "carbon-components-svelte";
import { api, type DatasetSettings, type Edition, type GroupPage, matching, type Problem } from "../../lib/client";
import Trouble from "../common/Trouble.svelte";

/** Groups that are probably one, to be merged for good or left; and merges that can be undone. */
let { edition, by, onchange }: { edition: Edition; by: string; onchange: () => void } = $props();
let near = $state<GroupPage["near"]>([]);
/** Since the edition before. */
let fresh = $state<string[]>([]);
let freshCount = $state(0);
let gone = $state<GroupPage["gone"]>();
let column = $state("");
let aliases = $state<DatasetSettings["aliases"]>([]);
let etag = $state<string>();
let problem = $state<Problem>();
const path = $derived({ name: edition.dataset });

async function read(): Promise<void> {
  problem = undefined;
  try {
    const query = { limit: 1, ...(by === "" ? {} : { by }) };
    const [groups, settings] = await Promise.all([
      api.get("/datasets/{name}/editions/{number}/groups", { path: { ...path, number: edition.number }, query }),
      api.read("/datasets/{name}/settings", { path }),
    ]);
    near = groups.near;
    gone = groups.gone;
    const isNew = { ...query, limit: 10, isNew: true };
    const found =
      edition.number > 1
        ? await api.get("/datasets/{name}/editions/{number}/groups", { path: { ...path, number: edition.number }, query: isNew })
        : undefined;
    fresh = (found?.items ?? []).map(({ label }) => label);
    freshCount = found?.total ?? 0;
    column = groups.by[0] ?? "";
    aliases = settings.data.aliases;
    etag = settings.etag;
  } catch (error) {
    problem = error as Problem;
  }
}
$effect(() => {
  void [path.name, edition.number, by];
  void read();
});

async function keep(next: DatasetSettings["aliases"]): Promise<void> {
  problem = undefined;
  try {
    await api.put("/datasets/{name}/settings", { path, body: { aliases: next }, ...matching(etag) });
    await read();
    onchange();
  } catch (error) {
    problem = error as Problem;
  }
}
const merge = (from: string, to: string): Promise<void> => keep([...aliases, { column, from, to }]);
</script>

<Trouble {problem} />
{#if freshCount > 0}<p class="soft">New since the edition before: {fresh.join(", ")}{freshCount > fresh.length ? ` and ${freshCount - fresh.length} more` : ""}.</p>{/if}
{#if gone && gone.count > 0}<p class="soft">No rows any more: {gone.labels.join(", ")}{gone.count > gone.labels.length ? ` and ${gone.count - gone.labels.length} more` : ""}.</p>{/if}
{#each near as pair}
  <div class="near" role="group" aria-label="Near doubles">
    <span>“{pair.from}” and “{pair.to}” are probably one: {pair.why}.</span>
    <Button size="small" kind="tertiary" on:click={() => merge(pair.from, pair.to)}>Merge into “{pair.to}”</Button>
    <Button size="small" kind="ghost" on:click={() => merge(pair.to, pair.from)}>Into “{pair.from}”</Button>
  </div>
{/each}
{#if aliases.length > 0}
  <ul class="aliases" aria-label="Merged spellings">
    {#each aliases as alias, at}<li>“{alias.from}” counts as “{alias.to}” in {alias.column}. <button onclick={() => keep(aliases.filter((_, index) => index !== at))}>Undo</button></li>{/each}
  </ul>
{/if}

<style>
  .near { display: flex; gap: 0.75rem; align-items: center; flex-wrap: wrap; padding: 0.4rem 0.75rem; background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); border-left: 3px solid var(--corbix-amber); margin-bottom: 0.5rem; font-size: 0.875rem; }
  .near :global(.bx--btn) { padding-right: 1rem; }
  .aliases { font-size: 0.875rem; margin-bottom: 0.75rem; }
  .aliases button { background: none; border: 0; color: var(--cds-link-01); cursor: pointer; font: inherit; text-decoration: underline; }
</style>
