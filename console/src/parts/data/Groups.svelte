<script lang="ts">
import { Select, SelectItem, Tag } from "carbon-components-svelte";
import { allOf, api, type Edition, type GroupPage, type Problem } from "../../lib/client";
import { count, plural } from "../../lib/format";
import Findings from "../common/Findings.svelte";
import Trouble from "../common/Trouble.svelte";
import NearDoubles from "./NearDoubles.svelte";

/** The distinct keys of a column with everything about them that wants a look; near doubles can be merged for good. */
let { edition, onjump }: { edition: Edition; onjump: (row: number, column: string | undefined) => void } = $props();
let by = $state("");
let list = $state<GroupPage>();
let groups = $state<GroupPage["items"]>([]);
let problem = $state<Problem>();

const path = $derived({ name: edition.dataset });

async function read(): Promise<void> {
  problem = undefined;
  try {
    const call = {
      path: { ...path, number: edition.number },
      query: { limit: 1_000, ...(by === "" ? {} : { by }) },
    };
    const [first, all] = await Promise.all([
      api.get("/datasets/{name}/editions/{number}/groups", call),
      allOf(api.all("/datasets/{name}/editions/{number}/groups", call)),
    ]);
    list = first;
    groups = all;
    by = first.by.join(",");
  } catch (error) {
    problem = error as Problem;
  }
}
$effect(() => {
  void [path.name, edition.number, by];
  void read();
});

const most = $derived(Math.max(1, ...groups.map((group) => group.count)));
const findings = $derived((list?.findings ?? []).filter((one) => one.code !== "near-double"));
</script>

<Trouble {problem} />
{#if list}
  <div class="row head">
    <Select size="sm" inline labelText="Groups by" bind:selected={by}>{#each edition.columns as column (column.name)}<SelectItem value={column.name} text={column.name} />{/each}{#if by.includes(",")}<SelectItem value={by} text={list.by.join(", ")} />{/if}</Select>
    <span class="soft">{plural(list.total, ["# group", "# groups"])}, {plural(list.blank.count, ["# row", "# rows"])} without one</span>
  </div>
  <NearDoubles {edition} {by} onchange={() => void read()} />
  <div class="halves">
    <table>
      <thead><tr><th scope="col">Group</th><th scope="col" class="right">Rows</th><th scope="col"></th></tr></thead>
      <tbody>
        {#each groups as group}
          <tr>
            <td>{group.label}{#if group.spellings.length > 1}<span class="soft also">also {group.spellings.slice(1).map((one) => `“${one}”`).join(", ")}</span>{/if}</td>
            <td class="right"><span class="fill" style:width="{(group.count / most) * 3}rem"></span>{count(group.count)}</td>
            <td>{#if group.isNew}<Tag size="sm" type="teal">new</Tag>{/if}{#if group.hasRecipients === false}<Tag size="sm" type="outline">nobody to receive</Tag>{/if}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    <div>{#if findings.length > 0}<Findings {findings} {onjump} />{:else}<p class="soft">Nothing about the groups wants a look.</p>{/if}</div>
  </div>
{/if}

<style>
  .head { margin-bottom: 0.75rem; }
  .halves { display: grid; grid-template-columns: minmax(0, 3fr) minmax(16rem, 2fr); gap: 1.5rem; align-items: start; }
  table { border-collapse: collapse; font-size: 0.8125rem; font-variant-numeric: tabular-nums; background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); width: 100%; }
  th { text-align: left; background: var(--cds-ui-01); font-weight: 600; }
  th, td { padding: 0.2rem 0.75rem; border-bottom: 1px solid var(--cds-ui-03); }
  td:first-child { overflow-wrap: anywhere; }
  .right { text-align: right; white-space: nowrap; }
  .fill { display: inline-block; height: 0.6rem; background: var(--cds-highlight); margin-right: 0.5rem; }
  .also { margin-left: 0.5rem; font-size: 0.75rem; }
</style>
