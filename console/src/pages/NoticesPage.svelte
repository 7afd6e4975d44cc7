<script lang="ts">
import { Button, Checkbox, PasswordInput, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { allOf, api, type Notice, type Problem, type Schemas } from "../lib/client";
import { plural, time } from "../lib/format";
import { whenever } from "../lib/live";
import { NOTICE_KINDS, NOTICE_WORDS, type NoticeKind } from "../lib/notice-words";
import { may } from "../lib/rights.svelte";
import { link } from "../lib/router.svelte";
import { scrollable } from "../lib/scrollable";
import Trouble from "../parts/common/Trouble.svelte";

/** What somebody should know, and who is told of what. */
type Watcher = Schemas["Watcher"];
let notices = $state<Notice[]>();
let watchers = $state<Watcher[]>([]);
let reports = $state<{ name: string; title: string }[]>([]);
let problem = $state<Problem>();
const SHOWN = 100;
const BLANK = {
  name: "",
  way: "mail" as Watcher["way"],
  address: "",
  kinds: [] as NoticeKind[],
  reports: [] as string[],
  morning: "",
  secret: "",
};
let form = $state({ ...BLANK });
let isOpen = $state(false);

async function read(): Promise<void> {
  try {
    const [found, all, known] = await Promise.all([
      api.get("/notices", { query: { limit: SHOWN } }),
      may("listWatchers") ? allOf(api.all("/watchers")) : [],
      allOf(api.all("/reports")),
    ]);
    notices = found.items;
    watchers = all;
    reports = known;
  } catch (error) {
    problem = error as Problem;
  }
}
$effect(() =>
  whenever(
    () => true,
    () => read(),
    "page",
  ),
);

function begin(one?: Watcher): void {
  form = one
    ? { ...BLANK, ...one, kinds: [...one.kinds], reports: [...(one.reports ?? [])], morning: one.morning ?? "" }
    : { ...BLANK, kinds: [...NOTICE_KINDS], reports: [] };
  isOpen = true;
}

async function save(): Promise<void> {
  problem = undefined;
  const { name, way, address, kinds, morning, secret } = form;
  const chosen = form.reports;
  const known = watchers.find((one) => one.name === name);
  try {
    await api.put("/watchers/{watcher}", {
      path: { watcher: name },
      body: {
        way,
        address,
        kinds,
        reports: chosen.length === 0 ? null : chosen,
        morning: morning === "" ? null : morning,
        zone: known?.zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone,
        ...(secret === "" ? {} : { secret }),
      },
    });
    isOpen = false;
    await read();
  } catch (error) {
    problem = error as Problem;
  }
}

async function remove(watcher: string): Promise<void> {
  try {
    await api.delete("/watchers/{watcher}", { path: { watcher } });
    await read();
  } catch (error) {
    problem = error as Problem;
  }
}
const mayBeSaved = $derived(/^[a-z][a-z0-9-]*$/.test(form.name) && form.address.trim() !== "" && form.kinds.length > 0);
</script>

<h1>Notices</h1>
<Trouble {problem} />
<h2>Who is told</h2>
{#if watchers.length === 0}<p class="soft">Nobody yet: what happens at night is seen here in the morning.</p>{/if}
{#each watchers as one (one.name)}
  <div class="panel entry">
    <div><strong>{one.name}</strong> <span class="soft">{one.address}{one.morning ? `, each morning at ${one.morning}` : ", at once"}</span><p class="soft">{one.kinds.map((kind) => NOTICE_WORDS[kind]).join(" · ")}{#if one.reports}; of {one.reports.join(", ")}{/if}</p></div>
    {#if may("saveWatcher")}<div class="row"><Button size="small" kind="ghost" on:click={() => begin(one)}>Change</Button><Button size="small" kind="ghost" on:click={() => remove(one.name)}>Tell no more</Button></div>{/if}
  </div>
{/each}
{#if isOpen}
  <section class="panel form" aria-label="Who is told of what">
    <div class="three">
      <TextInput size="sm" labelText="Name" placeholder="coordinator" bind:value={form.name} />
      <Select size="sm" labelText="How" bind:selected={form.way}><SelectItem value="mail" text="by mail" /><SelectItem value="callback" text="by a call to an address" /></Select>
      <TextInput size="sm" labelText={form.way === "mail" ? "Address" : "Address that is called"} placeholder={form.way === "mail" ? "me@lifts.example" : "https://…"} bind:value={form.address} />
      <TextInput size="sm" type="time" labelText="Each morning at; at once if blank" bind:value={form.morning} />
      {#if form.way === "callback"}<PasswordInput size="sm" showPasswordLabel="Show the secret" hidePasswordLabel="Hide the secret" labelText="What it is signed with" bind:value={form.secret} />{/if}
    </div>
    <fieldset><legend>Of what</legend>
      {#each NOTICE_KINDS as kind (kind)}
        <Checkbox labelText={NOTICE_WORDS[kind]} checked={form.kinds.includes(kind)} on:check={({ detail }) => { if (form.kinds.includes(kind) !== detail) form.kinds = detail ? [...form.kinds, kind] : form.kinds.filter((one) => one !== kind); }} />
      {/each}
    </fieldset>
    {#if reports.length > 0}
      <fieldset><legend>Only of these reports; of all if none is ticked</legend>
        {#each reports as { name, title } (name)}
          <Checkbox labelText={title} checked={form.reports.includes(name)} on:check={({ detail }) => { if (form.reports.includes(name) !== detail) form.reports = detail ? [...form.reports, name] : form.reports.filter((one) => one !== name); }} />
        {/each}
      </fieldset>
    {/if}
    <div class="row"><Button size="small" disabled={!mayBeSaved} on:click={save}>Save</Button><Button size="small" kind="ghost" on:click={() => { isOpen = false; }}>Cancel</Button></div>
  </section>
{:else if may("saveWatcher")}<Button size="small" kind="tertiary" on:click={() => begin()}>Tell somebody</Button>{/if}

<h2>What there was to tell</h2>
{#if notices && notices.length > 0}
  <p class="soft">{notices.length < SHOWN ? plural(notices.length, ["# notice", "# notices"]) : `the newest ${SHOWN}`}</p>
  <div class="lines" use:scrollable data-scrolls="Notices"><table>
    <thead><tr><th>When</th><th>Kind</th><th>What</th></tr></thead>
    <tbody>
      {#each notices as one (one.id)}
        <tr>
          <td>{time(one.at)}</td>
          <td>{NOTICE_WORDS[one.kind]}</td>
          <td>{one.what} {#if one.advice}<span class="soft">{one.advice}</span>{/if} {#if one.run}<a href={link("runs", one.run)}>The run</a>{:else if one.report}<a href={link("reports", one.report, "when")}>The report</a>{/if}</td>
        </tr>
      {/each}
    </tbody>
  </table></div>
{:else if notices}<p class="soft">Nothing so far.</p>{/if}

<style>
  h2 { margin: 1rem 0 0.5rem; }
  .entry { display: flex; justify-content: space-between; gap: 1rem; align-items: center; margin-bottom: 0.5rem; overflow-wrap: anywhere; }
  .entry p { font-size: 0.8125rem; line-height: 1.2rem; }
  .form { display: grid; gap: 0.75rem; max-width: 58rem; }
  .three { display: grid; grid-template-columns: repeat(auto-fit, minmax(15rem, 1fr)); gap: 0.75rem 1rem; }
  fieldset { border: 0; padding: 0; margin: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(17rem, 1fr)); }
  fieldset :global(.bx--checkbox-wrapper) { margin: 0; }
  legend { font-size: 0.75rem; color: var(--cds-text-02); }
  td:first-child, td:nth-child(2) { white-space: nowrap; }
  @media (max-width: 40rem) { .entry { display: grid; } td:nth-child(2) { white-space: normal; } }
</style>
