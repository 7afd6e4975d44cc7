<script lang="ts">
import type { Answer } from "@corbix/api/client";
import { Button, OverflowMenu, OverflowMenuItem } from "carbon-components-svelte";
import { allOf, api, type Problem } from "../../lib/client";
import { time } from "../../lib/format";
import { archivedWords, type Kind, ONE } from "../../lib/keep";
import { whenever } from "../../lib/live";
import { may } from "../../lib/rights.svelte";
import Trouble from "../common/Trouble.svelte";

/** What of a kind is archived, and the way back. */
let { kind }: { kind: Kind } = $props();
type Archived = Answer<"get", "/library/{kind}">["items"][number];
let all = $state<Archived[]>([]);
let problem = $state<Problem>();
let leaving = $state<Archived>();

const read = async (): Promise<void> => {
  if (may("listArchived")) all = await allOf(api.all("/library/{kind}", { path: { kind }, query: { limit: 1_000 } }));
};
$effect(() =>
  whenever(
    (event) => event.kind === ONE[kind],
    () =>
      read().catch((error: Problem) => {
        problem = error;
      }),
  ),
);

async function bringBack(name: string): Promise<void> {
  problem = undefined;
  try {
    await api.post("/library/{kind}/{name}/bring-back", { path: { kind, name } });
    await read();
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<Trouble {problem} />
{#if all.length > 0}
  <details class="archived">
    <summary>{archivedWords(kind, all.length)}</summary>
    <ul>
      {#each all as one (one.name)}
        <li><span><strong>{one.title}</strong>{one.title === one.name ? "" : ` ${one.name}`}</span><span class="soft">{time(one.archivedAt)} by {one.archivedBy}</span>{#if may("bringBackKept", kind === "reports" ? one.name : undefined)}<Button size="small" kind="ghost" on:click={() => bringBack(one.name)}>Bring back</Button><OverflowMenu flipped portalMenu size="sm" iconDescription="More" aria-label={`More for ${one.title}`}><OverflowMenuItem danger text="Delete" on:click={() => { leaving = one; }} /></OverflowMenu>{/if}</li>
      {/each}
    </ul>
  </details>
{/if}
{#if leaving}{#await import("./KeepDialog.svelte") then { default: KeepDialog }}<KeepDialog {kind} name={leaving.name} title={leaving.title} deed="delete" label={ONE[kind]} onclose={() => { leaving = undefined; }} ondone={read} />{/await}{/if}

<style>
  .archived { margin-top: 1.25rem; }
  li { display: grid; grid-template-columns: minmax(0, 1fr) auto auto auto; gap: 1rem; align-items: center; padding: 0.25rem 0.5rem; border-top: 1px solid var(--cds-ui-03); font-size: 0.875rem; overflow-wrap: anywhere; }
  @media (max-width: 42rem) { li { grid-template-columns: minmax(0, 1fr) auto auto; } li .soft { display: none; } }
</style>
