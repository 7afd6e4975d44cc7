<script lang="ts">
import type { Answer } from "@corbix/api/client";
import { Button } from "carbon-components-svelte";
import { api, type Problem } from "../../lib/client";
import { time } from "../../lib/format";
import { Pages } from "../../lib/pages.svelte";
import { changesBetween } from "../../lib/report/changes";
import { Definition } from "../../lib/report/definition";
import type { Draft } from "../../lib/report/draft.svelte";
import More from "../common/More.svelte";
import Trouble from "../common/Trouble.svelte";
import Changes from "./Changes.svelte";

/** Earlier versions of a report: why each was saved, what it said otherwise, and taking it back. */
let { draft, name, newest }: { draft: Draft; name: string; newest: number } = $props();
type Version = Answer<"get", "/reports/{name}/versions">["items"][number];
const versions = new Pages<Version>((wish) => api.get("/reports/{name}/versions", { path: { name }, query: wish }));
let compared = $state<{ number: number; source: string }>();
let problem = $state<Problem>();

$effect(() => {
  void newest;
  void versions.reload();
});

async function compare(number: number): Promise<void> {
  if (compared?.number === number) {
    compared = undefined;
    return;
  }
  problem = undefined;
  try {
    const { source } = await api.get("/reports/{name}/versions/{number}", { path: { name, number } });
    compared = { number, source };
  } catch (error) {
    problem = error as Problem;
  }
}
const changes = $derived(compared ? changesBetween(new Definition(compared.source).value, draft.definition.value) : []);
</script>

<Trouble {problem} />
<ul aria-label="Versions">
  {#each versions.items ?? [] as one (one.number)}
    <li>
      <div class="line">
        <span><strong>Version {one.number}</strong> <span class="soft">{time(one.createdAt)}, {one.createdBy}</span>{#if one.note}<br />{one.note}{/if}</span>
        <Button size="small" kind="ghost" on:click={() => compare(one.number)}>{compared?.number === one.number ? "Close" : "Compare"}</Button>
      </div>
      {#if compared?.number === one.number}
        {#if changes.length === 0}<p class="soft">It says the same as what stands here now.</p>
        {:else}
          <p class="soft">From it to what stands here now:</p>
          <Changes {changes} report={name} />
          <Button size="small" kind="tertiary" on:click={() => { if (compared) draft.write(compared.source); }}>Take version {one.number} back</Button>
        {/if}
      {/if}
    </li>
  {/each}
</ul>
<More pages={versions} what="versions" />

<style>
  li { border-top: 1px solid var(--cds-ui-03); padding: 0.35rem 0; font-size: 0.875rem; }
  .line { display: flex; justify-content: space-between; gap: 1rem; align-items: start; }
</style>
