<script lang="ts">
import { Button, Checkbox } from "carbon-components-svelte";
import { untrack } from "svelte";
import { api, type Problem, type Schemas } from "../../lib/client";
import { plural, time, wholeTime } from "../../lib/format";
import { Pages } from "../../lib/pages.svelte";
import { may } from "../../lib/rights.svelte";
import { link } from "../../lib/router.svelte";
import { scrollable } from "../../lib/scrollable";
import { stateWord } from "../../lib/states";
import More from "../common/More.svelte";
import Trouble from "../common/Trouble.svelte";

/** One halt: why nothing leaves, and what was found to have left that the database did not know of. */
let { halt, onchanged }: { halt: Schemas["Halt"]; onchanged: () => void } = $props();
let isOnlyOpen = $state(false);
let problem = $state<Problem>();
const found = new Pages<Schemas["FoundMessage"]>((wish) =>
  api.get("/halts/{id}/messages", { path: { id: halt.id }, query: { ...wish, ...(isOnlyOpen ? { open: true } : {}) } }),
);
const has = $derived(halt.sent + halt.unsure > 0);
$effect(() => {
  if (!has || halt.open < 0) return;
  void isOnlyOpen;
  untrack(
    () =>
      void found.reload().catch((error: Problem) => {
        problem = error;
      }),
  );
});

async function decide(id: string, as: "arrived" | "due"): Promise<void> {
  problem = undefined;
  try {
    await api.post("/found-messages/{id}/decide", { path: { id }, body: { as } });
    onchanged();
    await found.reload();
  } catch (error) {
    problem = error as Problem;
  }
}

/** What became of a message, as it stands now. */
function became(one: Schemas["FoundMessage"]): string {
  if (one.decided === "arrived") return `Arrived, says ${one.decidedBy}`;
  if (one.decided === "due") return `Due again, says ${one.decidedBy}`;
  if (one.state !== null) return stateWord(one.state);
  return one.became === "sent" ? "Sent; only the journal knows of it" : "Nobody knows whether it arrived";
}
</script>

<section class="panel" aria-label="Why nothing is sent">
  <p>{halt.what}</p>
  <p class="soft">Since {wholeTime(halt.at)}{#if halt.by !== "corbix"}, by {halt.by}{/if}</p>
  <Trouble {problem} />
  {#if has}
    <div class="row facts">
      <span>{plural(halt.sent, ["# message was sent", "# messages were sent"])}</span>
      {#if halt.unsure > 0}<span>{plural(halt.unsure, ["# is unsure", "# are unsure"])}</span>{/if}
      {#if halt.open > 0}<span>{plural(halt.open, ["# waits for your word", "# wait for your word"])}</span><Checkbox labelText="Only those" bind:checked={isOnlyOpen} />{/if}
    </div>
    {#if found.items}
      <div class="lines" use:scrollable data-scrolls="Found messages"><table>
        <thead><tr><th>When</th><th>Report</th><th>For</th><th>Group</th><th>To</th><th>What became of it</th></tr></thead>
        <tbody>
          {#each found.items as one (one.id)}
            <tr>
              <td>{time(one.at)}</td><td>{one.report}</td><td>{one.occasion}</td><td>{one.label}</td><td>{one.addresses.join(", ")}</td>
              <td>{became(one)}
                {#if one.message !== null}<a href={`${link("runs", one.run)}`}>The run</a>{/if}
                {#if one.message === null && one.became === "unsure" && one.decided === null && may("decideFoundMessage")}
                  <span class="row"><Button size="small" kind="ghost" on:click={() => decide(one.id, "arrived")}>It arrived</Button><Button size="small" kind="ghost" on:click={() => decide(one.id, "due")}>It is due again</Button></span>
                {/if}
              </td>
            </tr>
          {/each}
        </tbody>
      </table></div>
      <More pages={found} what="messages" />
    {/if}
    {#if halt.unsure > 0}<p class="soft">Those that are in the outbox are decided there or on their run's page.</p>{/if}
  {/if}
</section>

<style>
  section { margin-bottom: 0.75rem; overflow-wrap: anywhere; }
  .facts { margin-top: 0.5rem; }
  .facts :global(.bx--form-item) { flex: none; }
</style>
