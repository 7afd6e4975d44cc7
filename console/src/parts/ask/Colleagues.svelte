<script lang="ts">
import { Button, Checkbox, CopyButton, TextInput } from "carbon-components-svelte";
import { allOf, api, type Colleague, type Problem } from "../../lib/client";
import { time } from "../../lib/format";
import { scrollable } from "../../lib/scrollable";
import Trouble from "../common/Trouble.svelte";

/** Who may ask and change nothing: each by an address of their own. */
let { enquiries }: { enquiries: readonly { name: string; title: string }[] } = $props();
let all = $state<Colleague[]>([]);
let problem = $state<Problem>();
let name = $state("");
let chosen = $state<string[]>([]);
let told = $state<{ name: string; address: string }>();

async function act(work: () => Promise<unknown>): Promise<void> {
  problem = undefined;
  try {
    await work();
    all = await allOf(api.all("/colleagues"));
  } catch (error) {
    problem = error as Problem;
  }
}
$effect(() => {
  void act(async () => {});
});

const add = (wanted: string, reports: string[] | null) =>
  act(async () => {
    const { address } = await api.put("/colleagues/{colleague}", { path: { colleague: wanted }, body: { reports } });
    told = { name: wanted, address };
    name = "";
    chosen = [];
  });
const remove = (one: Colleague) =>
  act(async () => {
    await api.delete("/colleagues/{colleague}", { path: { colleague: one.name } });
    if (told?.name === one.name) told = undefined;
  });
const titleOf = (report: string): string => enquiries.find((one) => one.name === report)?.title ?? report;
</script>

<p class="soft">Each opens an address of their own, without a sign-in, and finds a plain page there: what they ask is kept under their name, and they can change nothing.</p>
<Trouble {problem} />
{#if told}
  <p class="told" role="status">Send this address to {told.name}; it is not shown again: <code>{told.address}</code> <CopyButton text={told.address} feedback="Copied" iconDescription="Copy the address" /></p>
{/if}
{#if all.length > 0}
  <div class="lines" use:scrollable data-scrolls="Colleagues"><table>
    <thead><tr><th>Name</th><th>May ask</th><th>Asked last</th><th></th></tr></thead>
    <tbody>
      {#each all as one (one.name)}
        <tr>
          <td>{one.name}</td><td>{one.reports ? one.reports.map(titleOf).join(", ") : "everything there is to ask"}</td><td>{one.usedAt ? time(one.usedAt) : "not yet"}</td>
          <td><Button size="small" kind="ghost" on:click={() => add(one.name, one.reports)}>New address</Button><Button size="small" kind="ghost" on:click={() => remove(one)}>Take out</Button></td>
        </tr>
      {/each}
    </tbody>
  </table></div>
{/if}
<form onsubmit={(event) => { event.preventDefault(); void add(name.trim(), chosen.length === 0 ? null : chosen); }}>
  <TextInput size="sm" labelText="Name of a colleague" placeholder="Mara Lindqvist" bind:value={name} />
  <div class="ticks" role="group" aria-label="What they may ask, everything if nothing is ticked">
    <span class="soft">What they may ask, everything if nothing is ticked</span>
    {#each enquiries as one (one.name)}<Checkbox labelText={one.title} checked={chosen.includes(one.name)} on:check={({ detail }) => { if (detail !== chosen.includes(one.name)) chosen = detail ? [...chosen, one.name] : chosen.filter((each) => each !== one.name); }} />{/each}
  </div>
  <Button size="small" kind="tertiary" type="submit" disabled={name.trim() === ""}>Let them ask</Button>
</form>

<style>
  form { display: grid; gap: 0.5rem; max-width: 30rem; margin-top: 0.75rem; }
  .ticks :global(.bx--checkbox-wrapper) { margin: 0; }
  .told { font-size: 0.875rem; overflow-wrap: anywhere; display: flex; flex-wrap: wrap; align-items: center; gap: 0.4rem; margin: 0.5rem 0; }
</style>
