<script lang="ts">
import { Button, CopyButton, PasswordInput, TextInput } from "carbon-components-svelte";
import { encode } from "uqr";
import { type Answer, allOf, api, type Passkey, Problem } from "../../lib/client";
import { plural, time } from "../../lib/format";
import { whenever } from "../../lib/live";
import { scrollable } from "../../lib/scrollable";
import Trouble from "../common/Trouble.svelte";

/** A second factor beside the password: an authenticator, passkeys, recovery codes. */
let { onchanged }: { onchanged: () => void } = $props();
let factors = $state<Answer<"get", "/self/factors">>();
let passkeys = $state<Passkey[]>([]);
let password = $state("");
let begun = $state<{ secret: string; uri: string }>();
let code = $state("");
let passkeyName = $state("");
let codes = $state<readonly string[]>([]);
let said = $state("");
let problem = $state<Problem>();

async function load(): Promise<void> {
  [factors, passkeys] = await Promise.all([api.get("/self/factors"), allOf(api.all("/self/passkeys"))]);
}
$effect(() => whenever(({ kind }) => kind === "access", load, "page"));

const again = $derived(factors?.hasPassword ? { password } : {});
const mayGoOn = $derived(factors !== undefined && (!factors.hasPassword || password !== ""));

async function act(work: () => Promise<readonly string[] | undefined>, done: string): Promise<void> {
  [problem, said] = [undefined, ""];
  try {
    const told = await work();
    if (told && told.length > 0) codes = told;
    await load();
    said = done;
    onchanged();
  } catch (error) {
    if (error instanceof Problem) problem = error;
    else said = "The browser made no passkey.";
  }
}

const begin = () =>
  act(async () => {
    begun = await api.post("/self/authenticator", { body: again });
    code = "";
    return undefined;
  }, "");
const finish = () =>
  act(async () => {
    const { recoveryCodes } = await api.put("/self/authenticator", { body: { code } });
    begun = undefined;
    return recoveryCodes;
  }, "The authenticator is added: its code is asked for at each sign-in.");
const drop = () =>
  act(async () => {
    await api.post("/self/authenticator/off", { body: again });
    return undefined;
  }, "The authenticator is taken out.");
const newCodes = () =>
  act(
    async () => (await api.post("/self/recovery-codes", { body: again })).recoveryCodes,
    "The codes of before are good no more.",
  );
const add = () =>
  act(async () => {
    const { makePasskey } = await import("../../lib/passkeys");
    const told = await makePasskey(passkeyName.trim(), factors?.hasPassword ? password : undefined);
    passkeyName = "";
    return told;
  }, "The passkey is added.");
const dropPasskey = (one: Passkey) =>
  act(async () => {
    await api.post("/self/passkeys/{id}/off", { path: { id: one.id }, body: again });
    return undefined;
  }, "The passkey is taken out.");

/** The squares of a QR code (ISO/IEC 18004), with their place. */
function squares(text: string): { readonly size: number; readonly path: string } {
  const { data, size } = encode(text, { border: 4 });
  const path = data.flatMap((row, y) => row.flatMap((isDark, x) => (isDark ? [`M${x} ${y}h1v1h-1z`] : []))).join("");
  return { size, path };
}
</script>

<section>
  <h2>Second factor</h2>
  <p class="soft">Besides the password a code that an authenticator on your phone shows, or a passkey, which your device keeps and which stands for both.</p>
  <Trouble {problem} />
  <p class="soft" role="status">{said}</p>
  {#if codes.length > 0}
    <div class="told" role="status">
      <p>Keep these recovery codes where you find them without this device. Each lets you in once in place of a code; they are not shown again. <CopyButton text={codes.join("\n")} feedback="Copied" iconDescription="Copy the codes" /></p>
      <ul>{#each codes as one}<li><code>{one}</code></li>{/each}</ul>
      <Button size="small" kind="tertiary" on:click={() => { codes = []; }}>I have kept them</Button>
    </div>
  {/if}
  {#if factors}
    {#if factors.hasPassword}
      <div class="again"><PasswordInput size="sm" tooltipAlignment="end" showPasswordLabel="Show the password" hidePasswordLabel="Hide the password" labelText="Your password, to change what follows" bind:value={password} autocomplete="current-password" /></div>
    {/if}
    <h3>Authenticator</h3>
    {#if begun}
      {@const { size, path } = squares(begun.uri)}
      <div class="begun">
        <svg viewBox="0 0 {size} {size}" role="img" aria-label="The secret as a QR code"><rect width={size} height={size} fill="#fff" /><path d={path} fill="#000" /></svg>
        <form onsubmit={(event) => { event.preventDefault(); void finish(); }}>
          <p>Let your authenticator scan this, or type the secret: <code>{begun.secret}</code> <CopyButton text={begun.secret} feedback="Copied" iconDescription="Copy the secret" /></p>
          <TextInput size="sm" labelText="The code that it shows now" bind:value={code} autocomplete="one-time-code" inputmode="numeric" required />
          <div class="row"><Button size="small" type="submit" disabled={code.trim().length < 6}>Add it</Button><Button size="small" kind="ghost" on:click={() => { begun = undefined; }}>Leave it</Button></div>
        </form>
      </div>
    {:else if factors.authenticatorSince}
      <p>A code is asked for since {time(factors.authenticatorSince)}. <Button size="small" kind="ghost" disabled={!mayGoOn} on:click={drop}>Take it out</Button><Button size="small" kind="ghost" disabled={!mayGoOn} on:click={begin}>Another device</Button></p>
    {:else}
      <Button size="small" kind="tertiary" disabled={!mayGoOn} on:click={begin}>Add an authenticator</Button>
    {/if}
    <h3>Passkeys</h3>
    {#if passkeys.length > 0}
      <div class="lines" use:scrollable data-scrolls="Passkeys"><table>
        <thead><tr><th>Name</th><th>Since</th><th>Used last</th><th></th></tr></thead>
        <tbody>
          {#each passkeys as one (one.id)}
            <tr><td>{one.name}</td><td>{time(one.createdAt)}</td><td>{one.usedAt ? time(one.usedAt) : "not yet"}</td><td><Button size="small" kind="ghost" disabled={!mayGoOn} on:click={() => dropPasskey(one)}>Take it out</Button></td></tr>
          {/each}
        </tbody>
      </table></div>
    {/if}
    {#if factors.mayHavePasskeys}
      <form class="line" onsubmit={(event) => { event.preventDefault(); void add(); }}>
        <TextInput size="sm" labelText="Name of a new passkey" placeholder="office laptop" bind:value={passkeyName} />
        <Button size="small" kind="tertiary" type="submit" disabled={!mayGoOn || passkeyName.trim() === ""}>Add a passkey</Button>
      </form>
    {:else}<p class="soft">Passkeys are of a name with TLS: they can be had where Corbix is open under one, or as localhost.</p>{/if}
    {#if factors.authenticatorSince || factors.passkeys > 0}
      <h3>Recovery codes</h3>
      <p>{plural(factors.recoveryCodes, ["# code is left", "# codes are left"])}. <Button size="small" kind="ghost" disabled={!mayGoOn} on:click={newCodes}>Make others</Button></p>
    {/if}
  {/if}
</section>

<style>
  section { margin-top: 2rem; }
  section p { font-size: 0.875rem; }
  h3 { margin: 1rem 0 0.4rem; font-size: 0.875rem; }
  .again { max-width: 22rem; margin: 0.75rem 0; }
  .begun { display: flex; flex-wrap: wrap; gap: 1.5rem; align-items: flex-start; }
  .begun svg { width: 11rem; height: 11rem; }
  .begun form { display: grid; gap: 0.75rem; max-width: 24rem; overflow-wrap: anywhere; }
  .line { display: grid; gap: 0.75rem; grid-template-columns: minmax(12rem, 20rem) max-content; align-items: end; margin-top: 0.75rem; }
  .told { font-size: 0.875rem; margin: 0.75rem 0; }
  .told ul { columns: 2; max-width: 26rem; margin: 0.5rem 0; }
  @media (max-width: 42rem) { .line { grid-template-columns: minmax(0, 1fr); } }
</style>
