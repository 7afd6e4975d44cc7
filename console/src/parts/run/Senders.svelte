<script lang="ts">
import { Button, CopyButton, NumberInput, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { allOf, api, type Problem, type Schemas } from "../../lib/client";
import { count, steppers, time } from "../../lib/format";
import { scrollable } from "../../lib/scrollable";
import Trouble from "../common/Trouble.svelte";

/** Other systems that may send records for a report, and nothing else. */
let { report }: { report: string } = $props();
type Sender = Schemas["Sender"];
let all = $state<Sender[]>([]);
let problem = $state<Problem>();
let told = $state<{ name: string; secret: string; way: Sender["way"] }>();
let name = $state("");
let way = $state<Sender["way"]>("token");
let header = $state("X-Signature");
let perMinute = $state(120);

async function act(work: () => Promise<unknown>): Promise<void> {
  problem = undefined;
  try {
    await work();
    all = await allOf(api.all("/reports/{name}/senders", { path: { name: report } }));
  } catch (error) {
    problem = error as Problem;
  }
}
$effect(() => {
  void report;
  void act(async () => {});
});

const add = () =>
  act(async () => {
    const body = { way, perMinute: Number(perMinute), ...(way === "signature" ? { header } : {}) };
    const { secret } = await api.put("/reports/{name}/senders/{sender}", {
      path: { name: report, sender: name },
      body,
    });
    told = { name, secret, way };
    name = "";
  });
const remove = (sender: string) =>
  act(async () => {
    await api.delete("/reports/{name}/senders/{sender}", { path: { name: report, sender } });
    if (told?.name === sender) told = undefined;
  });
</script>

<p class="soft">Another system may send records for this report, and do nothing else: it shows a token, or signs what it sends. The address is <code>/api/v1/reports/{report}/occasions</code>.</p>
<Trouble {problem} />
{#if told}
  <p class="told" role="status">{told.way === "token" ? `The token of ${told.name}; it is not shown again:` : `What ${told.name} signs with; it is not shown again:`} <code>{told.secret}</code> <CopyButton text={told.secret} feedback="Copied" iconDescription="Copy it" /></p>
{/if}
{#if all.length > 0}
  <div class="lines" use:scrollable data-scrolls="Senders"><table>
    <thead><tr><th>Sender</th><th>How it is known</th><th class="right">A minute</th><th>Sent last</th><th></th></tr></thead>
    <tbody>
      {#each all as one (one.name)}
        <tr>
          <td>{one.name}</td><td>{one.way === "token" ? "a token" : `a signature in ${one.header}`}</td><td class="right">{count(one.perMinute)}</td><td>{one.usedAt ? time(one.usedAt) : "not yet"}</td>
          <td><Button size="small" kind="ghost" on:click={() => remove(one.name)}>Take out</Button></td>
        </tr>
      {/each}
    </tbody>
  </table></div>
{/if}
<form aria-label="A new sender" onsubmit={(event) => { event.preventDefault(); void add(); }}>
  <TextInput size="sm" labelText="Name of the sender" placeholder="training-desk" bind:value={name} />
  <Select size="sm" labelText="It is known by" selected={way} on:update={({ detail }) => { way = detail as Sender["way"]; }}>
    <SelectItem value="token" text="a token that it shows" /><SelectItem value="signature" text="a signature of what it sends" />
  </Select>
  {#if way === "signature"}<TextInput size="sm" labelText="Header of the signature" bind:value={header} />{/if}
  <NumberInput size="sm" labelText="Calls a minute" min={1} translateWithId={steppers} bind:value={perMinute} />
  <Button size="small" kind="tertiary" type="submit" disabled={!/^[a-z0-9][a-z0-9-]*$/.test(name)}>Let it send</Button>
</form>

<style>
  form { display: grid; grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr)); gap: 0.75rem; align-items: end; }
  .told { font-size: 0.875rem; overflow-wrap: anywhere; display: flex; flex-wrap: wrap; align-items: center; gap: 0.4rem; margin: 0.5rem 0; }
</style>
