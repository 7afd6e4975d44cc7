<script lang="ts">
import { Button, Checkbox, CopyButton, NumberInput, PasswordInput, TextInput } from "carbon-components-svelte";
import { allOf, api, type Problem, type Self, type SignInSession, type Token } from "../lib/client";
import { setZone, time, word } from "../lib/format";
import { whenever } from "../lib/live";
import { has, may, session } from "../lib/rights.svelte";
import { go } from "../lib/router.svelte";
import { scrollable } from "../lib/scrollable";
import Trouble from "../parts/common/Trouble.svelte";
import FactorsPart from "../parts/people/FactorsPart.svelte";
import RolesField from "../parts/people/RolesField.svelte";

/** One's own account: what one is called, the password, where one is signed in, tokens for scripts. */
let shownName = $state(session.self?.shownName ?? "");
let language = $state(session.self?.language ?? "");
let zone = $state(session.self?.zone ?? "");
let old = $state("");
let wanted = $state("");
let sessions = $state<SignInSession[]>();
let tokens = $state<Token[]>();
let tokenName = $state("");
let days = $state(366);
let isNarrow = $state(false);
let narrow = $state<Self["roles"]>({ look: "all" });
let reports = $state<{ name: string; title: string }[]>([]);
let told = $state<{ name: string; secret: string }>();
let said = $state("");
let problem = $state<Problem>();

async function load(): Promise<void> {
  if (session.self?.mustAddFactor) return;
  [sessions, tokens] = await Promise.all([allOf(api.all("/self/sessions")), allOf(api.all("/tokens"))]);
}
$effect(() => whenever(({ kind }) => kind === "access", load, "page"));
$effect(() => {
  if (!isNarrow || reports.length > 0 || !may("listReports")) return;
  allOf(api.all("/reports")).then(
    (all) => {
      reports = all;
    },
    () => {},
  );
});

async function act(work: () => Promise<unknown>, done = ""): Promise<void> {
  problem = undefined;
  said = "";
  try {
    await work();
    await load();
    said = done;
  } catch (error) {
    problem = error as Problem;
  }
}

const saveFacts = () =>
  act(async () => {
    const body = { shownName: shownName.trim(), language: language.trim() || null, zone: zone.trim() || null };
    const self = await api.put("/self", { body });
    setZone(self.zone);
    session.self = self;
  }, "Saved.");
const savePassword = () =>
  act(async () => {
    await api.put("/self/password", { body: { old, new: wanted } });
    [old, wanted] = ["", ""];
  }, "The password is changed, and you are signed out everywhere else.");
const makeToken = () =>
  act(async () => {
    const roles = isNarrow ? { roles: $state.snapshot(narrow) } : {};
    const { token, secret } = await api.post("/tokens", { body: { name: tokenName.trim(), days, ...roles } });
    told = { name: token.name, secret };
    tokenName = "";
  });
const rotate = (one: Token) =>
  act(async () => {
    const { token, secret } = await api.post("/tokens/{id}/rotate", { path: { id: one.id }, body: { keepHours: 0 } });
    told = { name: token.name, secret };
  });
const revoke = (one: Token) =>
  act(async () => {
    await api.delete("/tokens/{id}", { path: { id: one.id } });
    if (told?.name === one.name) told = undefined;
  });

// Wherever somebody wanted to go: they stay here until they go on, with the codes that are told once.
if (session.self?.mustAddFactor) go("account");

/** A first second factor may open everything else. */
async function lookAgain(): Promise<void> {
  if (!session.self?.mustAddFactor) return;
  session.self = await api.get("/self");
  await load();
}
const WAYS: Readonly<Record<NonNullable<SignInSession["way"]>, string>> = {
  password: word("password"),
  code: word("password and second factor"),
  passkey: word("passkey"),
  provider: word("the office's provider"),
};

/** A browser by what it calls itself, in a few words. */
function browserOf(agent: string | null): string {
  if (agent === null) return word("unknown");
  const name = /(Firefox|Edg|OPR|Chrome|Safari)\/[\d.]+/.exec(agent)?.[1] ?? agent.slice(0, 40);
  const system = /(Windows|Mac OS X|Android|iPhone|Linux)/.exec(agent)?.[1];
  return system === undefined ? name : `${name}, ${system}`;
}
</script>

<h1>Your account</h1>
{#if session.self?.mustAddFactor}<p class="must" role="alert">This office asks for a second factor: add an authenticator or a passkey below, then you can go on.</p>{/if}
<Trouble {problem} />
<p class="soft" role="status">{said}</p>
{#if !session.self?.mustAddFactor}<div class="both">
  <form onsubmit={(event) => { event.preventDefault(); void saveFacts(); }}>
    <h2>You</h2>
    <p class="soft">You sign in as {session.self?.name}{session.self?.address ? `, your address is ${session.self.address}` : ""}.</p>
    <TextInput size="sm" labelText="Name as it is shown" bind:value={shownName} required />
    <TextInput size="sm" labelText="Language" placeholder="en" helperText="In which the service answers, such as en or de; blank for the browser's." bind:value={language} />
    <TextInput size="sm" labelText="Time zone" placeholder="Europe/Berlin" helperText="Blank for the browser's." bind:value={zone} />
    <div><Button size="field" type="submit" disabled={shownName.trim() === ""}>Save</Button></div>
  </form>
  <form onsubmit={(event) => { event.preventDefault(); void savePassword(); }}>
    <h2>Password</h2>
    <p class="soft">At least fifteen characters, such as some words that have nothing to do with each other. It need not be changed unless somebody else may know it.</p>
    <PasswordInput size="sm" tooltipAlignment="end" showPasswordLabel="Show the password" hidePasswordLabel="Hide the password" labelText="Password until now" bind:value={old} autocomplete="current-password" required />
    <PasswordInput size="sm" tooltipAlignment="end" showPasswordLabel="Show the password" hidePasswordLabel="Hide the password" labelText="New password" bind:value={wanted} autocomplete="new-password" required />
    <div><Button size="field" type="submit" disabled={old === "" || wanted === ""}>Change it</Button></div>
  </form>
</div>{/if}
<FactorsPart onchanged={() => void lookAgain()} />
{#if !session.self?.mustAddFactor}<section>
  <h2>Where you are signed in</h2>
  {#if sessions && sessions.length > 0}
    <div class="lines" use:scrollable data-scrolls="Sessions"><table>
      <thead><tr><th>Browser</th><th>By</th><th>From</th><th>Since</th><th>Used last</th><th></th></tr></thead>
      <tbody>
        {#each sessions as one (one.id)}
          <tr>
            <td>{one.isThis ? `${browserOf(one.agent)} (this one)` : browserOf(one.agent)}</td><td>{one.way ? WAYS[one.way] : ""}</td><td>{one.from ?? ""}</td><td>{time(one.createdAt)}</td><td>{one.usedAt ? time(one.usedAt) : "not yet"}</td>
            <td>{#if !one.isThis}<Button size="small" kind="ghost" on:click={() => act(() => api.delete("/self/sessions/{id}", { path: { id: one.id } }))}>Sign out</Button>{/if}</td>
          </tr>
        {/each}
      </tbody>
    </table></div>
    {#if sessions.length > 1}<Button size="small" kind="tertiary" on:click={() => act(() => api.delete("/self/sessions"))}>Sign out everywhere else</Button>{/if}
  {:else if sessions}<p class="soft">Nowhere: this call came with a token.</p>{/if}
</section>
<section>
  <h2>Tokens for scripts</h2>
  <p class="soft">A token may do what you may, or less{has("operate") ? "; those of everybody are listed" : ""}.</p>
  {#if told}<p class="told" role="status">The token {told.name}, not shown again: <code>{told.secret}</code> <CopyButton text={told.secret} feedback="Copied" iconDescription="Copy the token" /></p>{/if}
  {#if tokens && tokens.length > 0}
    <div class="lines" use:scrollable data-scrolls="Tokens"><table>
      <thead><tr><th>Name</th><th>Whose</th><th>Ends</th><th>Used last</th><th>Calls a minute</th><th></th></tr></thead>
      <tbody>
        {#each tokens as one (one.id)}
          <tr>
            <td>{one.name || word("unnamed")}</td><td>{one.person}</td><td>{one.expiresAt ? time(one.expiresAt) : word("never")}</td>
            <td>{one.usedAt ? time(one.usedAt) : "not yet"}{#if one.usedFrom} <span class="soft">{one.usedFrom}</span>{/if}</td><td>{one.perMinute ?? word("any")}</td>
            <td><Button size="small" kind="ghost" on:click={() => rotate(one)}>New secret</Button><Button size="small" kind="ghost" on:click={() => revoke(one)}>Revoke</Button></td>
          </tr>
        {/each}
      </tbody>
    </table></div>
  {/if}
  <form class="line" onsubmit={(event) => { event.preventDefault(); void makeToken(); }}>
    <TextInput size="sm" labelText="Name of a new token" placeholder="nightly load" bind:value={tokenName} />
    <NumberInput size="sm" hideSteppers labelText="Days that it works" min={1} max={3660} bind:value={days} />
    <Button size="small" kind="tertiary" type="submit" disabled={tokenName.trim() === ""}>Make it</Button>
    <Checkbox labelText="It may do less than you" bind:checked={isNarrow} />
  </form>
  {#if isNarrow}<div class="narrow"><RolesField bind:roles={narrow} {reports} idPrefix="token" /></div>{/if}
</section>{/if}

<style>
  .both { display: grid; grid-template-columns: repeat(auto-fit, minmax(18rem, 1fr)); gap: 2rem; align-items: start; max-width: 60rem; }
  form { display: grid; gap: 0.75rem; }
  section { margin-top: 2rem; }
  .must { margin: 0.5rem 0; font-weight: 600; }
  .line { grid-template-columns: minmax(12rem, 20rem) 10rem max-content; align-items: end; margin-top: 0.75rem; }
  .narrow { max-width: 34rem; margin-top: 0.75rem; }
  .told { font-size: 0.875rem; overflow-wrap: anywhere; display: flex; flex-wrap: wrap; align-items: center; gap: 0.4rem; margin: 0.5rem 0; }
  @media (max-width: 42rem) { .line { grid-template-columns: minmax(0, 1fr); } }
</style>
