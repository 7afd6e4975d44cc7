<script lang="ts">
import { Button, Tag } from "carbon-components-svelte";
import { api, type Problem, type Schemas } from "../lib/client";
import { bytes, count, lasting, plural, wholeTime } from "../lib/format";
import { whenever } from "../lib/live";
import { may } from "../lib/rights.svelte";
import { link } from "../lib/router.svelte";
import { scrollable } from "../lib/scrollable";
import ReasonModal from "../parts/common/ReasonModal.svelte";
import Trouble from "../parts/common/Trouble.svelte";
import OpenHalt from "../parts/operations/OpenHalt.svelte";

/** What an operator looks at: whether everything is there, what waits, what was slow, how much room there is; and halts. */
let facts = $state<Schemas["Operations"]>();
let open = $state<Schemas["Halt"][]>([]);
let over = $state<Schemas["Halt"][]>([]);
let problem = $state<Problem>();
let isHalting = $state(false);
let isGoingOn = $state(false);
/** It is looked at again so often, while somebody looks on. */
const AGAIN_MS = 5_000;

async function readHalts(): Promise<void> {
  const all = (await api.get("/halts", { query: { limit: 20 } })).items;
  open = all.filter(({ endedAt }) => endedAt === null);
  over = all.filter(({ endedAt }) => endedAt !== null);
}
async function read(): Promise<void> {
  const [found] = await Promise.all([may("showOperations") ? api.get("/operations") : undefined, readHalts()]);
  facts = found;
}
$effect(() => whenever(() => false, read, "page"));
$effect(() => {
  const timer = setInterval(() => {
    if (document.visibilityState === "visible") void read().catch(() => {});
  }, AGAIN_MS);
  return () => clearInterval(timer);
});

async function act(work: () => Promise<unknown>): Promise<void> {
  problem = undefined;
  try {
    await work();
    await readHalts();
  } catch (error) {
    problem = error as Problem;
  }
}

const CHECKS: Readonly<Record<Schemas["Operations"]["checks"][number]["name"], string>> = {
  database: "Database",
  store: "File store",
  journal: "Journal of what left",
  workers: "Workers",
  outbox: "Outbox",
  clock: "Clock",
  room: "Room on the disk",
  sending: "Sending",
};
const STATES = { ok: "Well", warn: "Worth a look", fail: "Not well" } as const;
const COLOURS = { ok: "green", warn: "warm-gray", fail: "red" } as const;
const QUEUES: Readonly<Record<Schemas["Operations"]["queues"][number]["queue"], string>> = {
  plan: "Runs to plan",
  make: "Groups to make",
  prove: "Runs to prove",
  messages: "Messages to send",
  notices: "Notices to pass on",
  callbacks: "Calls to other systems",
};
const kindOf = (kind: string | null): string =>
  kind === "worker" ? "Worker" : kind === "outbox" ? "Outbox" : "Unknown";
</script>

<div class="split">
  <h1>Operations</h1>
  {#if open.length === 0 && may("haltSending")}<Button size="field" kind="danger-tertiary" on:click={() => { isHalting = true; }}>Halt sending</Button>{/if}
</div>
<Trouble {problem} />
{#if open.length > 0}
  <h2>Nothing is sent until somebody goes on</h2>
  {#each open as halt (halt.id)}<OpenHalt {halt} onchanged={() => void readHalts()} />{/each}
  {#if may("goOnSending")}<Button size="small" on:click={() => { isGoingOn = true; }}>Go on sending</Button>{/if}
{/if}

{#if facts}
  <h2>What it needs</h2>
  <div class="lines" use:scrollable data-scrolls="What it needs"><table>
    <tbody>
      {#each facts.checks as one (one.name)}
        <tr><th scope="row">{CHECKS[one.name]}</th><td><Tag size="sm" type={COLOURS[one.state]}>{STATES[one.state]}</Tag></td><td>{one.what}{#if one.advice}{" "}<span class="soft">{one.advice}</span>{/if}</td></tr>
      {/each}
    </tbody>
  </table></div>

  <div class="two">
    <section>
      <h2>What waits</h2>
      <div class="lines" use:scrollable data-scrolls="What waits"><table>
        <thead><tr><th>Queue</th><th class="right">Waiting</th><th class="right">The longest</th></tr></thead>
        <tbody>{#each facts.queues as one (one.queue)}<tr><td>{QUEUES[one.queue]}</td><td class="right">{count(one.waiting)}</td><td class="right">{one.waiting === 0 ? "–" : lasting(one.oldest)}</td></tr>{/each}</tbody>
      </table></div>
    </section>
    <section>
      <h2>Room</h2>
      <div class="lines" use:scrollable data-scrolls="Room"><table>
        <tbody>
          <tr><th scope="row">Free on the disk</th><td class="right">{bytes(facts.room.free)}</td><td class="soft">of {bytes(facts.room.total)}</td></tr>
          <tr><th scope="row">File store</th><td class="right">{bytes(facts.room.fileBytes)}</td><td class="soft">{plural(facts.room.files, ["# file", "# files"])}</td></tr>
          <tr><th scope="row">Database</th><td class="right">{bytes(facts.room.database)}</td><td class="soft">most of it {facts.room.tables.slice(0, 3).map(({ name, bytes: size }) => `${name} ${bytes(size)}`).join(", ")}</td></tr>
          <tr><th scope="row">Connections</th><td class="right">{count(facts.room.connections)}</td><td class="soft">of {count(facts.room.mostConnections)}</td></tr>
        </tbody>
      </table></div>
    </section>
  </div>

  <h2>Processes</h2>
  <div class="lines" use:scrollable data-scrolls="Processes"><table>
    <thead><tr><th>Kind</th><th>Where</th><th>Version</th><th class="right">Memory</th><th>Since</th><th>Seen last</th></tr></thead>
    <tbody>
      {#each facts.processes as one (one.id)}
        <tr class:soft={one.endedAt !== null}><td>{kindOf(one.kind)}</td><td>{one.host ?? ""}{#if one.pid !== null}{" "}{one.pid}{/if}</td><td>{one.version ?? ""}</td><td class="right">{one.memory === null ? "" : bytes(one.memory)}</td><td>{wholeTime(one.startedAt)}</td><td>{one.endedAt === null ? wholeTime(one.seenAt) : `ended ${wholeTime(one.endedAt)}`}</td></tr>
      {:else}<tr><td colspan="6">No process has shown itself.</td></tr>{/each}
    </tbody>
  </table></div>

  <h2>What took longest within a week</h2>
  {#if facts.slow.length > 0}
    <div class="lines" use:scrollable data-scrolls="What took longest"><table>
      <thead><tr><th>Run</th><th>Report</th><th>Step</th><th class="right">Took</th><th>When</th></tr></thead>
      <tbody>{#each facts.slow as one (`${one.run} ${one.step}`)}<tr><td><a href={link("runs", one.run)}>{one.run}</a></td><td>{one.report}</td><td><code>{one.step}</code></td><td class="right">{lasting(one.seconds)}</td><td>{wholeTime(one.at)}</td></tr>{/each}</tbody>
    </table></div>
  {:else}<p class="soft">No run was made.</p>{/if}

  <h2>Versions</h2>
  <p>Corbix {facts.versions.corbix}, Node.js {facts.versions.node}, PostgreSQL {facts.versions.database}; structure of the database <code>{facts.versions.structure}</code></p>
{/if}

{#if over.length > 0}
  <h2>Halts before</h2>
  {#each over as one (one.id)}
    <div class="panel before"><p>{one.what}</p><p class="soft">From {wholeTime(one.at)} until {wholeTime(one.endedAt ?? one.at)}; {one.endedBy} went on: {one.words}</p></div>
  {/each}
{/if}

<ReasonModal bind:open={isHalting} heading="Halt all sending" text="No message begins, no schedule starts and nobody is told of anything, until somebody goes on. What is on its way ends." button="Halt" ondone={(reason) => void act(() => api.post("/halts", { body: { reason } }))} />
<ReasonModal bind:open={isGoingOn} heading="Go on sending" text="What was released and did not leave goes now, and so does what was due meanwhile. What was found to have left does not go again." button="Go on" ondone={(reason) => void act(() => api.post("/halts/end", { body: { reason } }))} />

<style>
  h2 { margin: 1.25rem 0 0.5rem; }
  .two { display: grid; grid-template-columns: repeat(auto-fit, minmax(min(22rem, 100%), 1fr)); gap: 0 1.5rem; }
  .before { margin-bottom: 0.5rem; overflow-wrap: anywhere; }
  th[scope="row"] { background: none; font-weight: 400; white-space: nowrap; border-top: 1px solid var(--cds-ui-03); vertical-align: top; padding: 0.3rem 0.7rem; line-height: 1.25rem; width: 14rem; }
  td:has(> :global(.bx--tag)) { width: 9rem; padding-block: 0.1rem; }
</style>
