<script lang="ts">
import { Button } from "carbon-components-svelte";
import { api, type Edition, type Problem } from "../../lib/client";
import { count, plural } from "../../lib/format";
import Empty from "../common/Empty.svelte";
import Trouble from "../common/Trouble.svelte";

/** Cells that stand otherwise than in the file, with what stood there. */
let { edition, onjump }: { edition: Edition; onjump: (row: number, column: string | undefined) => void } = $props();
type Kind = "blanks" | "read-as" | "unreadable" | "ambiguous" | "error";
type Changed = { column: string; kind: string; row: number; raw: string };
const WORDS: Record<string, string> = {
  blanks: "blanks folded",
  "read-as": "read as its column's type",
  unreadable: "unreadable, taken as blank",
  ambiguous: "ambiguous, taken as blank",
  error: "an error value, taken as blank",
};
let chosen = $state<{ column: string; kind: Kind }>();
let next = $state<string | null>(null);
let cells = $state<Changed[]>([]);
let total = $state(0);
let problem = $state<Problem>();

async function read(more: boolean): Promise<void> {
  try {
    const found = await api.get("/datasets/{name}/editions/{number}/changes", {
      path: { name: edition.dataset, number: edition.number },
      query: { limit: 200, ...(more && next !== null ? { cursor: next } : {}), ...(chosen ?? {}) },
    });
    cells = more ? [...cells, ...found.items] : found.items;
    total = found.total;
    next = found.next;
  } catch (error) {
    problem = error as Problem;
  }
}
$effect(() => {
  void [edition.number, chosen];
  void read(false);
});
</script>

<Trouble {problem} />
{#if edition.changes.length === 0}
  <Empty title="No cell was changed">Every cell stands as in the file.</Empty>
{:else}
  <div class="row kinds">
    <button class:on={chosen === undefined} onclick={() => { chosen = undefined; }}>all</button>
    {#each edition.changes as change}<button class:on={chosen?.column === change.column && chosen.kind === change.kind} onclick={() => { chosen = { column: change.column, kind: change.kind as Kind }; }}>{change.column}: {count(change.count)} {WORDS[change.kind] ?? change.kind}</button>{/each}
  </div>
  <table>
    <thead><tr><th scope="col">Row</th><th scope="col">Column</th><th scope="col">Stood there</th><th scope="col">What was done</th></tr></thead>
    <tbody>{#each cells as one}<tr><td><button onclick={() => onjump(one.row, one.column)}>{one.row}</button></td><td>{one.column}</td><td><code>{JSON.stringify(one.raw)}</code></td><td>{WORDS[one.kind] ?? one.kind}</td></tr>{/each}</tbody>
  </table>
  {#if cells.length < total}<Button size="small" kind="ghost" on:click={() => void read(true)}>{plural(total - cells.length, ["# more cell", "# more cells"])}</Button>{/if}
{/if}

<style>
  .kinds { margin-bottom: 0.75rem; gap: 0.5rem; }
  .kinds button { border: 1px solid var(--cds-ui-03); background: var(--cds-ui-02); color: inherit; padding: 0.2rem 0.7rem; font: inherit; font-size: 0.8125rem; cursor: pointer; }
  .kinds button.on { border-color: var(--cds-interactive-04); box-shadow: inset 0 -2px 0 var(--cds-interactive-04); }
  table { border-collapse: collapse; font-size: 0.8125rem; background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); width: 100%; }
  th { text-align: left; background: var(--cds-ui-01); font-weight: 600; }
  th, td { padding: 0.2rem 0.75rem; border-bottom: 1px solid var(--cds-ui-03); }
  td button { background: none; border: 0; color: var(--cds-link-01); cursor: pointer; font: inherit; text-decoration: underline; min-width: 1.5rem; min-height: 1.5rem; }
  code { white-space: pre-wrap; }
</style>
