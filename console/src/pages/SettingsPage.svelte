<script lang="ts">
import { Button, NumberInput, PasswordInput, Select, SelectItem, TextArea, TextInput } from "carbon-components-svelte";
import { allOf, api, type Identity, matching, type Problem } from "../lib/client";
import { bytes, duration, plural, time } from "../lib/format";
import { may } from "../lib/rights.svelte";
import { go, link } from "../lib/router.svelte";
import { scrollable } from "../lib/scrollable";
import Trouble from "../parts/common/Trouble.svelte";

let { name }: { name: string | undefined } = $props();
let identities = $state<Identity[]>([]);
let problem = $state<Problem>();
let etag = $state<string>();
let saved = $state(false);
let newName = $state("");
const blank = {
  from: "",
  host: "",
  port: 587,
  security: "starttls" as Identity["settings"]["security"],
  user: "",
  password: "",
  senders: "",
  domains: "",
  perMinute: 60,
  perHour: "",
  connections: 4,
  patienceHours: 24,
  maxMegabytes: 25,
  tooLarge: "stop" as Identity["settings"]["tooLarge"],
  dkimDomain: "",
  dkimSelector: "",
  dkimKey: "",
};
let form = $state({ ...blank });

const load = async (): Promise<void> => {
  try {
    identities = await allOf(api.all("/identities"));
    etag =
      name === undefined || !identities.some((one) => one.name === name)
        ? undefined
        : (await api.read("/identities/{name}", { path: { name } })).etag;
  } catch (error) {
    problem = error as Problem;
  }
};
$effect(() => {
  void name;
  load();
});
const chosen = $derived(identities.find((one) => one.name === name));
$effect(() => {
  saved = false;
  if (!chosen) {
    form = { ...blank };
    return;
  }
  const { settings } = chosen;
  form = {
    ...blank,
    from: settings.from,
    host: settings.host ?? "",
    port: settings.port,
    security: settings.security,
    user: settings.user ?? "",
    senders: settings.senders.join(", "),
    domains: settings.domains.join(", "),
    perMinute: settings.perMinute,
    perHour: settings.perHour === undefined ? "" : String(settings.perHour),
    connections: settings.connections,
    patienceHours: settings.patienceHours,
    maxMegabytes: settings.maxBytes / 1_000_000,
    tooLarge: settings.tooLarge,
    dkimDomain: settings.dkim?.domain ?? "",
    dkimSelector: settings.dkim?.selector ?? "",
  };
});

const listed = (text: string): string[] => text.split(/[\s,;]+/).filter((one) => one !== "");

async function save(): Promise<void> {
  problem = undefined;
  saved = false;
  const settings = {
    from: form.from,
    ...(form.host.trim() === "" ? {} : { host: form.host.trim() }),
    port: Number(form.port),
    security: form.security,
    ...(form.user.trim() === "" ? {} : { user: form.user.trim() }),
    senders: listed(form.senders),
    domains: listed(form.domains),
    perMinute: Number(form.perMinute),
    ...(form.perHour.trim() === "" ? {} : { perHour: Number(form.perHour) }),
    connections: Number(form.connections),
    patienceHours: Number(form.patienceHours),
    maxBytes: Math.round(Number(form.maxMegabytes) * 1_000_000),
    tooLarge: form.tooLarge,
    ...(form.dkimDomain.trim() === ""
      ? {}
      : { dkim: { domain: form.dkimDomain.trim(), selector: form.dkimSelector.trim() } }),
  };
  const secret = {
    ...(form.password === "" ? {} : { password: form.password }),
    ...(form.dkimKey.trim() === "" ? {} : { dkimKey: form.dkimKey }),
  };
  try {
    await api.put("/identities/{name}", { path: { name: name ?? "" }, body: { settings, secret }, ...matching(etag) });
    await load();
    saved = true;
  } catch (error) {
    problem = error as Problem;
  }
}

async function turn(one: Identity): Promise<void> {
  try {
    await api.post(`/identities/{name}/${one.paused ? "resume" : "pause"}`, { path: { name: one.name } });
    await load();
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<h1>{#if name}<a href={link("settings")}>Sending identities</a> / {name}{:else}Sending identities{/if}</h1>
<Trouble {problem} />
{#if !name}
  <p class="soft">Whose name messages bear, through which server they go, how fast, and to whom at all. A report names one in its delivery.</p>
  <div class="wide" use:scrollable data-scrolls="Identities"><table>
    <thead><tr><th>Name</th><th>From</th><th>Server</th><th>Pace</th><th>Waiting</th><th></th></tr></thead>
    <tbody>
      {#each identities as one}
        <tr>
          <td><a href={link("settings", one.name)}>{one.name}</a></td>
          <td>{one.settings.from}</td>
          <td>{one.settings.host ? `${one.settings.host}:${one.settings.port}, ${one.settings.security === "none" ? "not encrypted" : "encrypted"}` : "that of the settings, or the letterbox"}</td>
          <td>{one.settings.perMinute} a minute{one.settings.perHour ? `, ${one.settings.perHour} an hour` : ""}</td>
          <td>{one.paused ? "paused; " : ""}{plural(one.waiting + one.sending, ["# message", "# messages"])}{one.secondsLeft ? `, about ${duration(one.secondsLeft)}` : ""}{#if one.restWhy}<br /><span class="trouble">rests until {time(one.restUntil)}: {one.restWhy}</span>{/if}</td>
          <td>{#if may("pauseIdentity")}<Button size="small" kind="ghost" on:click={() => turn(one)}>{one.paused ? "Resume" : "Pause"}</Button>{/if}</td>
        </tr>
      {/each}
    </tbody>
  </table></div>
  {#if may("saveIdentity")}<div class="row add">
    <TextInput size="sm" labelText="A new identity" placeholder="billing" bind:value={newName} />
    <Button size="small" kind="tertiary" disabled={!/^[a-z][a-z0-9-]*$/.test(newName)} on:click={() => go("settings", newName)}>Set it up</Button>
  </div>{/if}
{:else}
  <div class="form">
    <TextInput labelText="From" helperText="Aldmoor Lift Inspection Office <office@lifts.example>" bind:value={form.from} />
    <TextInput labelText="Other addresses a report may send as" bind:value={form.senders} />
    <h2>Server</h2>
    <div class="three">
      <TextInput labelText="Host" placeholder="the one of the settings, or the letterbox" bind:value={form.host} />
      <NumberInput labelText="Port" hideSteppers bind:value={form.port} />
      <Select labelText="Encryption" bind:selected={form.security}>
        <SelectItem value="starttls" text="STARTTLS, required" />
        <SelectItem value="tls" text="TLS from the start" />
        <SelectItem value="none" text="none" />
      </Select>
      <TextInput labelText="User" bind:value={form.user} />
      <PasswordInput showPasswordLabel="Show the password" hidePasswordLabel="Hide the password" labelText={chosen?.hasPassword ? "Password (one is kept)" : "Password"} bind:value={form.password} />
    </div>
    {#if form.host.trim() !== "" && form.security === "none"}<p class="trouble">Without encryption messages and password can be read on their way. Only for a server on this machine.</p>{/if}
    <h2>Pace and limits</h2>
    <div class="three">
      <NumberInput labelText="Messages a minute" hideSteppers min={0.1} bind:value={form.perMinute} />
      <TextInput labelText="Messages an hour" placeholder="no limit" bind:value={form.perHour} />
      <NumberInput labelText="Connections at once" hideSteppers min={1} max={20} bind:value={form.connections} />
      <NumberInput labelText="Hours of patience with refusals for now" hideSteppers min={0} bind:value={form.patienceHours} />
      <NumberInput labelText="Largest message, MB" hideSteppers min={0.01} bind:value={form.maxMegabytes} />
      <Select labelText="A larger one" bind:selected={form.tooLarge}>
        <SelectItem value="stop" text="stops the release" />
        <SelectItem value="zip" text="has its attachments zipped" />
        <SelectItem value="link" text="gets links in place of them" />
      </Select>
    </div>
    <TextInput labelText="Domains messages may go to" placeholder="all" helperText="With those below them; parted by commas." bind:value={form.domains} />
    <h2>Signature of the domain (DKIM)</h2>
    <div class="three">
      <TextInput labelText="Domain" bind:value={form.dkimDomain} />
      <TextInput labelText="Selector" bind:value={form.dkimSelector} />
    </div>
    <TextArea labelText={chosen?.hasDkimKey ? "Private key as PEM (one is kept)" : "Private key as PEM"} rows={3} bind:value={form.dkimKey} />
    {#if may("saveIdentity")}<div class="row"><Button size="field" on:click={save}>Save</Button>{#if saved}<span class="soft">Saved. Messages that wait use it at once; the largest is {bytes(form.maxMegabytes * 1_000_000)}.</span>{/if}</div>{/if}
  </div>
{/if}

<style>
  .wide { overflow-x: auto; }
  table { width: 100%; border-collapse: collapse; font-size: 0.875rem; background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); margin: 0.75rem 0; }
  th { text-align: left; background: var(--cds-ui-01); padding: 0.4rem 0.7rem; }
  td { border-top: 1px solid var(--cds-ui-03); padding: 0.3rem 0.7rem; vertical-align: top; overflow-wrap: anywhere; min-width: 7rem; }
  td:nth-child(4), td:nth-child(5), td:last-child { white-space: nowrap; }
  .add { align-items: flex-end; max-width: 26rem; }
  .form { display: grid; gap: 0.9rem; max-width: 58rem; margin-top: 0.75rem; }
  .three { display: grid; grid-template-columns: repeat(auto-fit, minmax(15rem, 1fr)); gap: 0.9rem; }
  h2 { margin: 0.6rem 0 0; }
  .trouble { color: var(--corbix-stop); font-size: 0.8125rem; }
</style>
