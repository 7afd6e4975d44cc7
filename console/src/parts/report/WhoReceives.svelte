<script lang="ts">
import { allOf, api, type GroupMatching, type Problem } from "../../lib/client";
import { count, people, plural } from "../../lib/format";
import { whenever } from "../../lib/live";
import Trouble from "../common/Trouble.svelte";

/** For each group of a report who would receive now, by which rule, or why nobody does. */
let { report }: { report: string } = $props();
let groups = $state<GroupMatching[]>();
let problem = $state<Problem>();
let isOpen = $state(false);

$effect(() => {
  if (!isOpen) return;
  const wanted = report;
  return whenever(
    (event) => ["recipients", "dataset", "report"].includes(event.kind),
    async () => {
      try {
        groups = await allOf(api.all("/reports/{name}/matching", { path: { name: wanted }, query: { limit: 1_000 } }));
        problem = undefined;
      } catch (error) {
        problem = error as Problem;
      }
    },
  );
});

const ROLES: Record<string, string> = { copy: ", as a copy", blind: ", as a blind copy" };
const without = $derived((groups ?? []).filter((one) => one.nobody !== null).length);
</script>

<details ontoggle={(event) => { isOpen = event.currentTarget.open; }}>
  <summary>Who would receive now</summary>
  <Trouble {problem} />
  {#if groups}
    <p class="soft">{plural(groups.length, ["# group", "# groups"])} for the last period that is over, {without === 0 ? "and somebody for each" : `${without} of them without anybody`}.</p>
    <table>
      <thead><tr><th>Group</th><th class="right">Rows</th><th>Who</th><th>By which rule</th></tr></thead>
      <tbody>
        {#each groups as one}
          {#each one.people as person, index}
            <tr><td>{index === 0 ? one.group : ""}</td><td class="right">{index === 0 ? count(one.rows) : ""}</td><td>{people(person.to)}{ROLES[person.role] ?? ""}{person.language ? `, ${person.language}` : ""}</td><td class="soft">{person.why}</td></tr>
          {/each}
          {#if one.nobody !== null}<tr class="nobody"><td>{one.group}</td><td class="right">{count(one.rows)}</td><td>nobody</td><td>{one.nobody}</td></tr>{/if}
        {/each}
      </tbody>
    </table>
  {/if}
</details>

<style>
  details { margin: 0.75rem 0; }
  table { width: 100%; border-collapse: collapse; font-size: 0.8125rem; background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); }
  th { text-align: left; background: var(--cds-ui-01); padding: 0.3rem 0.6rem; font-weight: 600; }
  td { border-top: 1px solid var(--cds-ui-03); padding: 0.25rem 0.6rem; vertical-align: top; overflow-wrap: anywhere; }
  th.right, td.right { text-align: right; }
  td.soft { font-size: inherit; }
  .nobody td { color: var(--corbix-amber); }
</style>
