<script lang="ts">
import { Button, DataTable, Link } from "carbon-components-svelte";
import { get, type OutboxEntry, Problem, send } from "../lib/api";
import { people, time } from "../lib/format";
import { whenever } from "../lib/live";
import { link } from "../lib/router.svelte";
import Empty from "../parts/Empty.svelte";
import StateTag from "../parts/StateTag.svelte";
import Trouble from "../parts/Trouble.svelte";

let entries = $state<OutboxEntry[]>();
let problem = $state<Problem>();
const load = async (): Promise<void> => {
  entries = await get("/api/outbox");
};
$effect(() => whenever((event) => event.kind === "run", load));

async function decide(id: string, as: "arrived" | "again"): Promise<void> {
  problem = undefined;
  try {
    await send("POST", `/api/messages/${id}/decide`, { as });
    await load();
  } catch (error) {
    problem = error as Problem;
  }
}

const rows = $derived(
  (entries ?? []).map((one) => ({
    ...one,
    to: one.rehearsalTo ?? people(one.envelope.to),
    at: time(one.sentAt ?? one.touchedAt),
    decide: "",
  })),
);
</script>

<h1>Outbox</h1>
<Trouble {problem} />
{#if rows.length === 0 && entries}
  <Empty title="Nothing has gone out yet">Messages appear here when a run is released.</Empty>
{:else if entries}
  <div class="wrapping">
  <DataTable size="short" headers={[{ key: "label", value: "Group" }, { key: "to", value: "To" }, { key: "state", value: "State" }, { key: "response", value: "What the server said" }, { key: "at", value: "When" }, { key: "decide", value: "" }]} {rows}>
    <svelte:fragment slot="cell" let:row let:cell>
      {#if cell.key === "label"}<Link href={link("runs", row.runId, row.parcel)}>{cell.value}</Link>
      {:else if cell.key === "state"}<StateTag state={cell.value} />
      {:else if cell.key === "decide"}
        {#if row.state === "unsure"}<Button size="small" kind="ghost" on:click={() => decide(row.id, "arrived")}>It arrived</Button>{/if}
        {#if row.state === "unsure" || row.state === "refused"}<Button size="small" kind="ghost" on:click={() => decide(row.id, "again")}>Send again</Button>{/if}
      {:else}{cell.value ?? ""}{/if}
    </svelte:fragment>
  </DataTable>
  </div>
{/if}
