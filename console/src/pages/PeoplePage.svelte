<script lang="ts">
import { Button, Checkbox, CopyButton, NumberInput, TextInput } from "carbon-components-svelte";
import { untrack } from "svelte";
import { allOf, api, type Invitation, Problem, type ReportSummary, type Self, type Staff } from "../lib/client";
import { plural, time, word } from "../lib/format";
import { whenever } from "../lib/live";
import { ROLE_WORDS, session } from "../lib/rights.svelte";
import { link } from "../lib/router.svelte";
import { scrollable } from "../lib/scrollable";
import Trouble from "../parts/common/Trouble.svelte";
import RolesField from "../parts/people/RolesField.svelte";

/** Who may sign in and what they may do: invited, changed, switched off. */
let { name }: { name: string | undefined } = $props();
let all = $state<Staff[]>();
let reports = $state<ReportSummary[]>([]);
let problem = $state<Problem>();
let told = $state<{ name: string; link: string; until: string; mail: string }>();
let isMailed = $state(true);
let wish = $state({ name: "", shownName: "", address: "", days: 7 });
let wanted = $state<Self["roles"]>({ look: "all" });
let roles = $state<Self["roles"]>({});
let facts = $state({ shownName: "", address: "" });
let isSaved = $state(false);

const own = $derived(all?.find((one) => one.name === name));
const isSelf = $derived(own?.name === session.self?.name);
const isChanged = $derived(
  own !== undefined &&
    (JSON.stringify(roles) !== JSON.stringify(own.roles) ||
      facts.shownName !== own.shownName ||
      facts.address !== (own.address ?? "")),
);

async function load(): Promise<void> {
  all = await allOf(api.all("/people"));
  if (reports.length === 0) reports = await allOf(api.all("/reports")).catch(() => []);
}
$effect(() => whenever(({ kind }) => kind === "access", load, "page"));
/** The form begins with the person as they are; when the list comes again, what is changed here stays. */
let begun: string | undefined;
$effect(() => {
  const person = own;
  untrack(() => {
    if (!person || begun === person.name) return;
    begun = person.name;
    roles = structuredClone($state.snapshot(person.roles)) as Self["roles"];
    facts = { shownName: person.shownName, address: person.address ?? "" };
  });
});

async function act(work: () => Promise<unknown>): Promise<void> {
  problem = undefined;
  isSaved = false;
  try {
    await work();
    await load();
  } catch (error) {
    problem = error as Problem;
  }
}

/** What is told of an invitation: where it went, or why it did not. */
function toldOf(invited: Invitation) {
  const { person, link, until } = invited;
  const mail = invited.isMailed
    ? `It went to ${person.address} by mail too.`
    : invited.mailTrouble
      ? `It did not go by mail: ${invited.mailTrouble}`
      : "";
  return { name: person.shownName, link, until, mail };
}

const invite = () =>
  act(async () => {
    const { name: sought, shownName, address, days } = wish;
    const body = {
      name: sought.trim(),
      ...(shownName.trim() === "" ? {} : { shownName: shownName.trim() }),
      ...(address.trim() === "" ? {} : { address: address.trim() }),
      roles: $state.snapshot(wanted),
      days,
      mail: isMailed && address.trim() !== "",
    };
    told = toldOf(await api.post("/people", { body }));
    wish = { name: "", shownName: "", address: "", days: 7 };
    wanted = { look: "all" };
  });
const inviteAgain = (person: string) =>
  act(async () => {
    const mail = isMailed && Boolean(own?.address);
    told = toldOf(await api.post("/people/{person}/invitation", { path: { person }, body: { days: 7, mail } }));
  });
const save = (person: string) =>
  act(async () => {
    const body = {
      shownName: facts.shownName.trim(),
      address: facts.address.trim() === "" ? null : facts.address.trim(),
      ...(isSelf ? {} : { roles: $state.snapshot(roles) }),
    };
    await api.put("/people/{person}", { path: { person }, body });
    isSaved = true;
  });
const turn = (person: string, isOff: boolean) =>
  act(() => api.post(isOff ? "/people/{person}/off" : "/people/{person}/on", { path: { person } }));
const endSessions = (person: string) => act(() => api.delete("/people/{person}/sessions", { path: { person } }));

const dropFactors = (person: string) => act(() => api.delete("/people/{person}/factors", { path: { person } }));
const waysOf = (one: Staff): string =>
  [
    one.provider ? word("the office's provider") : word("password"),
    ...(one.hasCodes ? [word("authenticator")] : []),
    ...(one.passkeys > 0 ? [plural(one.passkeys, ["# passkey", "# passkeys"])] : []),
  ].join(", ");

const STATES: Readonly<Record<Staff["state"], string>> = {
  invited: "Invited",
  active: "May sign in",
  off: "Switched off",
};

function said(held: Self["roles"]): string {
  const parts = ROLE_WORDS.flatMap(({ role, short }) => {
    const scope = held[role];
    if (scope === undefined) return [];
    return [Array.isArray(scope) ? `${short} (${plural(scope.length, ["# report", "# reports"])})` : short];
  });
  return parts.join(", ") || "nothing";
}
</script>

<h1>{#if name}<a href={link("people")}>People</a> / {own?.shownName ?? name}{:else}People{/if}</h1>
<Trouble {problem} />
{#if told}
  <div class="told" role="status">
    <p>Send this link to {told.name}. It works once, until {time(told.until)}, and is not shown again. {told.mail}</p>
    <p><code>{told.link}</code> <CopyButton text={told.link} feedback="Copied" iconDescription="Copy the link" /></p>
  </div>
{/if}
{#if !name}
  <p class="soft">Everybody comes in by a link that works once, and chooses a password of their own, or <a href={link("sign-in-provider")}>by the office's provider</a>. Who leaves is switched off: what they did stays under their name. Somebody may ask <a href={link("known")}>what is known of them</a>.</p>
  {#if all}
    <div class="lines" use:scrollable data-scrolls="People"><table>
      <thead><tr><th>Name</th><th>State</th><th>May</th><th>Signed in last</th><th>Signed in now</th><th>Tokens</th></tr></thead>
      <tbody>
        {#each all as one (one.name)}
          <tr>
            <td><a href={link("people", one.name)}>{one.shownName}</a>{#if one.shownName !== one.name}<span class="soft">{" "}{one.name}</span>{/if}</td>
            <td>{STATES[one.state]}</td>
            <td>{said(one.roles)}</td>
            <td>{one.signedInAt ? time(one.signedInAt) : "not yet"}</td>
            <td>{one.sessions === 0 ? "no" : plural(one.sessions, ["in # browser", "in # browsers"])}</td>
            <td>{one.tokens}</td>
          </tr>
        {/each}
      </tbody>
    </table></div>
  {/if}
  <section>
    <h2>Invite somebody</h2>
    <form onsubmit={(event) => { event.preventDefault(); void invite(); }}>
      <TextInput size="sm" labelText="Name to sign in with" placeholder="mara.lindqvist" bind:value={wish.name} required />
      <TextInput size="sm" labelText="Name as it is shown" placeholder="Mara Lindqvist" bind:value={wish.shownName} />
      <TextInput size="sm" type="email" labelText="Mail address" placeholder="mara.lindqvist@lifts.example" bind:value={wish.address} />
      <Checkbox labelText="The link goes to the address by mail too" bind:checked={isMailed} disabled={wish.address.trim() === ""} />
      <NumberInput size="sm" hideSteppers labelText="Days that the link works" min={1} max={60} bind:value={wish.days} />
      <RolesField bind:roles={wanted} {reports} idPrefix="invite" />
      <div><Button size="field" type="submit" disabled={wish.name.trim() === ""}>Invite</Button></div>
    </form>
  </section>
{:else if own}
  <dl>
    <dt>Signs in as</dt><dd>{own.name}</dd>
    <dt>State</dt><dd>{STATES[own.state]}</dd>
    <dt>Signed in last</dt><dd>{own.signedInAt ? time(own.signedInAt) : "not yet"}</dd>
    <dt>Signed in now</dt><dd>{own.sessions === 0 ? "no" : plural(own.sessions, ["in # browser", "in # browsers"])}{own.tokens > 0 ? `, ${plural(own.tokens, ["# token for scripts", "# tokens for scripts"])}` : ""}</dd>
    <dt>Signs in by</dt><dd>{waysOf(own)}</dd>
    {#if own.provider}<dt>What they may do</dt><dd>{own.rolesFrom === "groups" ? `as their groups at ${own.provider} say; what is said here stays` : "as is said here"}</dd>{/if}
    <dt>Did</dt><dd><a href={link("trail", `by ${own.name}`)}>What stands in the trail</a></dd>
    <dt>Added</dt><dd>{time(own.createdAt)}{own.createdBy ? ` by ${own.createdBy}` : ""}</dd>
  </dl>
  {#if isSelf}<p class="soft">This is you: what you may do is for somebody else to change. <a href={link("account")}>Your account</a></p>
  {:else}
    <form onsubmit={(event) => { event.preventDefault(); void save(own.name); }}>
      <TextInput size="sm" labelText="Name as it is shown" bind:value={facts.shownName} required />
      <TextInput size="sm" type="email" labelText="Mail address" bind:value={facts.address} />
      <RolesField bind:roles {reports} idPrefix="person" />
      <div class="row">
        <Button size="field" type="submit" disabled={!isChanged}>Save</Button>
        {#if isSaved && !isChanged}<span class="soft" role="status">Saved; it counts at once.</span>{/if}
      </div>
    </form>
    <div class="row deeds">
      {#if own.state === "off"}
        <Button size="field" kind="tertiary" on:click={() => turn(own.name, false)}>Switch on</Button>
      {:else}
        <Button size="field" kind="tertiary" on:click={() => inviteAgain(own.name)}>{own.state === "invited" ? "New link" : "Link for a new password"}</Button>
        {#if own.address}<Checkbox labelText="The link goes by mail too" bind:checked={isMailed} />{/if}
        {#if own.hasCodes || own.passkeys > 0}<Button size="field" kind="tertiary" on:click={() => dropFactors(own.name)}>Take second factors out</Button>{/if}
        {#if own.sessions > 0}<Button size="field" kind="tertiary" on:click={() => endSessions(own.name)}>Sign out everywhere</Button>{/if}
        <Button size="field" kind="danger-tertiary" on:click={() => turn(own.name, true)}>Switch off</Button>
      {/if}
    </div>
  {/if}
{:else if all}<p>There is nobody called {name}. <a href={link("people")}>Everybody there is</a></p>{/if}

<style>
  form { display: grid; gap: 0.75rem; max-width: 34rem; margin-top: 0.75rem; }
  section { margin-top: 2rem; }
  .told { margin: 0.75rem 0; font-size: 0.875rem; overflow-wrap: anywhere; }
  .told p:last-child { display: flex; flex-wrap: wrap; gap: 0.4rem; align-items: center; }
  .deeds { margin-top: 1.5rem; flex-wrap: wrap; }
  .row { align-items: center; }
  dl { display: grid; grid-template-columns: max-content 1fr; gap: 0.25rem 1rem; margin: 0.75rem 0; font-size: 0.875rem; }
  dt { color: var(--cds-text-02); }
</style>
