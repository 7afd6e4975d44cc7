<script lang="ts">
import { Button, NumberInput, PasswordInput, Select, SelectItem, TextArea, TextInput } from "carbon-components-svelte";
import { untrack } from "svelte";
import { allOf, api, matching, Problem, type WayOut } from "../lib/client";
import { plural, time } from "../lib/format";
import { may } from "../lib/rights.svelte";
import { go, link } from "../lib/router.svelte";
import { scrollable } from "../lib/scrollable";
import { BLANK_WAY, formOfWay, KINDS, kindWords, type WayForm, wayAsSent } from "../lib/ways";
import Empty from "../parts/common/Empty.svelte";
import Trouble from "../parts/common/Trouble.svelte";

/** Where files go by themselves besides mail. */
let { name }: { name: string | undefined } = $props();
let all = $state<WayOut[]>();
let form = $state<WayForm>({ ...BLANK_WAY });
let etag = $state<string>();
let problem = $state<Problem>();
let told = $state("");
let newName = $state("");
const own = $derived(all?.find((one) => one.name === name));
const isNew = $derived(all !== undefined && name !== undefined && own === undefined);
const keeps = $derived(
  (secret: "password" | "privateKey" | "passphrase" | "token") => own?.secrets.includes(secret) ?? false,
);

async function load(): Promise<void> {
  try {
    all = await allOf(api.all("/ways-out"));
    if (name === undefined || !all.some((one) => one.name === name)) return;
    const found = await api.read("/ways-out/{name}", { path: { name } });
    etag = found.etag;
    form = formOfWay(found.data);
  } catch (error) {
    problem = error as Problem;
  }
}
$effect(() => {
  void name;
  untrack(() => {
    form = { ...BLANK_WAY };
    told = "";
    etag = undefined;
    void load();
  });
});

async function act(work: () => Promise<string>): Promise<void> {
  problem = undefined;
  told = "";
  try {
    told = await work();
  } catch (error) {
    problem = error as Problem;
  }
}

const save = () =>
  act(async () => {
    const body = wayAsSent($state.snapshot(form) as WayForm, own) as never;
    await api.put("/ways-out/{name}", { path: { name: name ?? "" }, body, ...matching(etag) });
    await load();
    return "Saved. What waits goes by it at once.";
  });
const attempt = () =>
  act(async () => {
    const { words } = await api.post("/ways-out/{name}/try", { path: { name: name ?? "" } });
    return `A small file could be put there and taken away again: ${words}`;
  });
const ask = () =>
  act(async () => {
    const { hostKey } = await api.post("/host-keys", { body: { host: form.host, port: Number(form.port) } });
    form.hostKey = hostKey;
    return "Compare this fingerprint with the one that the server's keeper tells you, then save.";
  });
const remove = () =>
  act(async () => {
    await api.delete("/ways-out/{name}", { path: { name: name ?? "" } });
    go("ways-out");
    return "";
  });
const turn = (one: WayOut) =>
  act(async () => {
    await api.post(`/ways-out/{name}/${one.paused ? "resume" : "pause"}`, { path: { name: one.name } });
    await load();
    return "";
  });
</script>

<h1>{#if name}<a href={link("ways-out")}>Ways out</a> / {name}{:else}Ways out{/if}</h1>
<Trouble {problem} />
{#if !name}
  <p class="soft">Where files go by themselves once a run is released, besides mail: folders, WebDAV, SFTP, web services. A report says which of its files go there, and under which names.</p>
  {#if all && all.length > 0}
    <div class="lines" use:scrollable data-scrolls="Ways out"><table>
      <thead><tr><th>Name</th><th>Leads to</th><th>Used by</th><th>Waiting</th><th></th></tr></thead>
      <tbody>
        {#each all as one (one.name)}
          <tr>
            <td><a href={link("ways-out", one.name)}>{one.name}</a></td>
            <td>{one.place}</td>
            <td>{#if one.reports.length === 0}<span class="soft">no report</span>{:else}{#each one.reports as report, index}{index > 0 ? ", " : ""}<a href={link("reports", report, "when")}>{report}</a>{/each}{/if}</td>
            <td>{one.paused ? "paused; " : ""}{plural(one.waiting + one.sending, ["# group", "# groups"])}{#if one.restWhy}<br /><span class="trouble">left alone until {time(one.restUntil)}: {one.restWhy}</span>{/if}</td>
            <td>{#if may("pauseWayOut")}<Button size="small" kind="ghost" on:click={() => turn(one)}>{one.paused || one.restWhy ? "Go on now" : "Pause"}</Button>{/if}</td>
          </tr>
        {/each}
      </tbody>
    </table></div>
  {:else if all}
    <Empty title="No way out is set up yet">Files leave by mail alone. Give one a name below, and say where it leads.</Empty>
  {/if}
  {#if may("saveWayOut")}<div class="row add">
    <TextInput size="sm" labelText="A new way out" placeholder="archive" bind:value={newName} />
    <Button size="small" kind="tertiary" disabled={!/^[a-z][a-z0-9-]*$/.test(newName)} on:click={() => go("ways-out", newName)}>Set it up</Button>
  </div>{/if}
{:else if all}
  <div class="form">
    <Select labelText="What it is" selected={form.kind} on:update={({ detail }) => { form.kind = detail as WayForm["kind"]; }}>
      {#each KINDS as kind (kind)}<SelectItem value={kind} text={kindWords(kind)} />{/each}
    </Select>
    {#if form.kind === "folder"}
      <TextInput labelText="Folder" placeholder="archive" helperText="Below the folder that the service may write to." bind:value={form.folder} />
    {:else if form.kind === "sftp"}
      <div class="three">
        <TextInput labelText="Host" bind:value={form.host} />
        <NumberInput labelText="Port" hideSteppers bind:value={form.port} />
        <TextInput labelText="User" bind:value={form.user} />
        <TextInput labelText="Folder" placeholder="the one after signing in" bind:value={form.folder} />
      </div>
      <div class="row key">
        <TextInput labelText="Fingerprint of the server's key" helperText="A server that shows another one is not spoken to." placeholder="SHA256:…" bind:value={form.hostKey} />
        <Button size="field" kind="tertiary" disabled={form.host.trim() === ""} on:click={ask}>Ask the server</Button>
      </div>
    {:else}
      <TextInput labelText="Address" placeholder="https://files.lifts.example/in/" bind:value={form.address} />
      {#if form.kind === "http"}
        <Select labelText="How files are handed over" bind:selected={form.method}>
          <SelectItem value="PUT" text="PUT: each to its own address below this one" />
          <SelectItem value="POST" text="POST: all to this address; of one whose answer is lost nobody knows" />
        </Select>
      {/if}
      <div class="three"><TextInput labelText="User" bind:value={form.user} /></div>
    {/if}
    {#if form.kind !== "folder"}
      <div class="three">
        <PasswordInput showPasswordLabel="Show the password" hidePasswordLabel="Hide the password" labelText={keeps("password") ? "Password (one is kept)" : "Password"} bind:value={form.password} />
        {#if form.kind === "http"}<PasswordInput showPasswordLabel="Show the token" hidePasswordLabel="Hide the token" labelText={keeps("token") ? "Or a bearer token (one is kept)" : "Or a bearer token"} bind:value={form.token} />{/if}
        {#if form.kind === "sftp"}<PasswordInput showPasswordLabel="Show the passphrase" hidePasswordLabel="Hide the passphrase" labelText={keeps("passphrase") ? "Passphrase of the key (one is kept)" : "Passphrase of the key"} bind:value={form.passphrase} />{/if}
      </div>
      {#if form.kind === "sftp"}<TextArea rows={3} labelText={keeps("privateKey") ? "Or a private key (one is kept)" : "Or a private key"} bind:value={form.privateKey} />{/if}
    {/if}
    <div class="three">
      <NumberInput labelText="Groups a minute" hideSteppers min={0.1} bind:value={form.perMinute} />
      <NumberInput labelText="Lines at once" hideSteppers min={1} max={20} bind:value={form.connections} />
      <NumberInput labelText="Hours of patience" hideSteppers min={0} bind:value={form.patienceHours} />
    </div>
    <div class="row">
      {#if may("saveWayOut")}<Button size="field" on:click={save}>Save</Button>{/if}
      {#if !isNew && may("tryWayOut")}<Button size="field" kind="tertiary" on:click={attempt}>Try it</Button><Button size="field" kind="ghost" on:click={remove}>Take it away</Button>{/if}
    </div>
    <p class="told" role="status">{told}</p>
  </div>
{/if}

<style>
  td { min-width: 7rem; }
  td:last-child { white-space: nowrap; }
  .add { align-items: flex-end; max-width: 26rem; margin-top: 0.75rem; }
  .form { display: grid; gap: 0.9rem; max-width: 58rem; margin-top: 0.75rem; }
  .three { display: grid; grid-template-columns: repeat(auto-fit, minmax(15rem, 1fr)); gap: 0.9rem; }
  .key { align-items: flex-start; }
  .key :global(.bx--form-item) { flex: 1; }
  .key :global(.bx--btn) { margin-top: 1.25rem; }
  .trouble { color: var(--corbix-stop); font-size: 0.8125rem; }
  .told { font-size: 0.875rem; overflow-wrap: anywhere; min-height: 1.25rem; }
</style>
