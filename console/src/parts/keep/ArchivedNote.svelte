<script lang="ts">
import { Button, InlineNotification } from "carbon-components-svelte";
import { api, type Problem } from "../../lib/client";
import { time } from "../../lib/format";
import { type Kept, type Kind, ONE } from "../../lib/keep";
import { whenever } from "../../lib/live";
import { may } from "../../lib/rights.svelte";
import Trouble from "../common/Trouble.svelte";

/** Says of what is archived that it is, and leads back. */
let { kind, name }: { kind: Kind; name: string } = $props();
let kept = $state<Kept>();
let problem = $state<Problem>();

$effect(() => {
  const path = { kind, name };
  return whenever(
    (event) => event.kind === ONE[kind],
    async () => {
      kept = await api.get("/library/{kind}/{name}", { path }).catch(() => undefined);
    },
  );
});

async function bringBack(): Promise<void> {
  try {
    kept = await api.post("/library/{kind}/{name}/bring-back", { path: { kind, name } });
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

{#if kept?.archivedAt}
  <InlineNotification lowContrast hideCloseButton kind="info" title={`Archived ${time(kept.archivedAt)} by ${kept.archivedBy}.`} subtitle="It can be looked at; nothing is made with it until it is brought back.">
    <div class="contents" slot="actions">{#if may("bringBackKept", kind === "reports" ? name : undefined)}<Button size="small" kind="ghost" on:click={bringBack}>Bring back</Button>{/if}</div>
  </InlineNotification>
{/if}
<Trouble {problem} />
