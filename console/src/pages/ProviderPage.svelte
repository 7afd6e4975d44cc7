<script lang="ts">
import { Button, Checkbox, CopyButton, NumberInput, PasswordInput, TextInput } from "carbon-components-svelte";
import { type Answer, allOf, api, Problem, type ReportSummary, type Self } from "../lib/client";
import { whenever } from "../lib/live";
import { link } from "../lib/router.svelte";
import Trouble from "../parts/common/Trouble.svelte";
import RolesField from "../parts/people/RolesField.svelte";

/** The office's own provider of sign-ins, and what each of its groups may do here. */
type Kept = Answer<"get", "/sign-in-provider">;
let kept = $state<Kept | null>();
let reports = $state<ReportSummary[]>([]);
let form = $state({
  title: "",
  issuer: "",
  clientId: "",
  secret: "",
  scope: "openid profile email groups",
  groupsClaim: "groups",
  trustsAddresses: false,
  sessionHours: 12,
});
let groups = $state<{ group: string; roles: Self["roles"] }[]>([]);
let problem = $state<Problem>();
let said = $state("");

async function load(): Promise<void> {
  reports = await allOf(api.all("/reports")).catch(() => []);
  try {
    kept = await api.get("/sign-in-provider");
  } catch (error) {
    if ((error as Problem).status !== 404) throw error;
    kept = null;
    return;
  }
  const { groups: given, ...settings } = kept.settings;
  form = { ...form, ...settings, secret: "" };
  groups = given.map(({ group, roles }) => ({ group, roles }));
}
$effect(() => whenever(() => false, load, "page"));

async function act(work: () => Promise<unknown>, done: string): Promise<void> {
  [problem, said] = [undefined, ""];
  try {
    await work();
    await load();
    said = done;
  } catch (error) {
    problem = error as Problem;
  }
}

const save = () =>
  act(async () => {
    const { secret, ...settings } = $state.snapshot(form);
    const given = $state.snapshot(groups) as typeof groups;
    const body = { settings: { ...settings, groups: given }, ...(secret === "" ? {} : { secret }) };
    await api.put("/sign-in-provider", { body });
  }, "Saved: the provider has answered.");
const drop = () => act(() => api.delete("/sign-in-provider"), "Nobody signs in by the provider any more.");
</script>

<h1><a href={link("people")}>People</a> / Sign-in by the office's provider</h1>
<p class="soft">People sign in where the office keeps its people already (OpenID Connect); what they may do here is as their groups there say, at each sign-in anew. Who is of none of the groups below does not come in.</p>
<Trouble {problem} />
<p class="soft" role="status">{said}</p>
{#if kept}
  <dl>
    <dt>To be known there for the way back</dt><dd><code>{kept.back}</code> <CopyButton text={kept.back} feedback="Copied" iconDescription="Copy the address back" /></dd>
    <dt>To be told there of who has signed out</dt><dd><code>{kept.ended}</code> <CopyButton text={kept.ended} feedback="Copied" iconDescription="Copy the address for sign-outs" /></dd>
  </dl>
{/if}
{#if kept !== undefined}
  <form onsubmit={(event) => { event.preventDefault(); void save(); }}>
    <TextInput size="sm" labelText="What it is called" helperText="Stands on the button of the sign-in page." placeholder="Aldmoor" bind:value={form.title} required />
    <TextInput size="sm" labelText="Issuer" placeholder="https://id.lifts.example" bind:value={form.issuer} required />
    <TextInput size="sm" labelText="Client" helperText="What Corbix is called there." placeholder="corbix" bind:value={form.clientId} required />
    <PasswordInput size="sm" tooltipAlignment="end" showPasswordLabel="Show the secret" hidePasswordLabel="Hide the secret" labelText={kept?.hasSecret ? "Secret (one is kept)" : "Secret"} bind:value={form.secret} autocomplete="off" />
    <TextInput size="sm" labelText="Scopes" bind:value={form.scope} required />
    <TextInput size="sm" labelText="Claim that tells groups" bind:value={form.groupsClaim} required />
    <NumberInput size="sm" hideSteppers labelText="Hours until somebody signs in there again" min={1} max={336} bind:value={form.sessionHours} />
    <Checkbox labelText="Who was invited here is known by the mail address that the provider has verified" bind:checked={form.trustsAddresses} />
    <h2>Groups</h2>
    {#each groups as one, at (at)}
      <fieldset>
        <legend>{one.group || "A group"}</legend>
        <TextInput size="sm" labelText="Group, as the provider calls it" placeholder="reporting" bind:value={one.group} required />
        <RolesField bind:roles={one.roles} {reports} idPrefix="group-{at}" />
        <div><Button size="small" kind="ghost" on:click={() => { groups = groups.filter((_, other) => other !== at); }}>Take the group out</Button></div>
      </fieldset>
    {/each}
    <div><Button size="small" kind="tertiary" on:click={() => { groups = [...groups, { group: "", roles: { look: "all" } }]; }}>Add a group</Button></div>
    <div class="row deeds">
      <Button size="field" type="submit">Save</Button>
      {#if kept}<Button size="field" kind="danger-tertiary" on:click={drop}>Take the provider out</Button>{/if}
    </div>
  </form>
{/if}

<style>
  form { display: grid; gap: 0.75rem; max-width: 34rem; margin-top: 0.75rem; }
  fieldset { display: grid; gap: 0.75rem; border: 1px solid var(--cds-ui-03); padding: 0.75rem 1rem; }
  legend { font-weight: 600; font-size: 0.875rem; padding: 0 0.3rem; }
  h2 { margin-top: 0.75rem; }
  dl { display: grid; grid-template-columns: minmax(8rem, max-content) 1fr; gap: 0.25rem 1rem; margin: 0.75rem 0; font-size: 0.875rem; overflow-wrap: anywhere; }
  dt { color: var(--cds-text-02); }
  .deeds { margin-top: 1rem; flex-wrap: wrap; }
</style>
