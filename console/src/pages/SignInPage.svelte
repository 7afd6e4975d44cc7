<script lang="ts">
import { Button, Form, PasswordInput, TextInput } from "carbon-components-svelte";
import { type Answer, api, Problem } from "../lib/client";
import Trouble from "../parts/common/Trouble.svelte";

/** By name and password, a second factor where one is asked for; by passkey; by the office's own provider. */
let { onsignedin }: { onsignedin: () => void } = $props();
let name = $state("");
let password = $state("");
let code = $state("");
let isAsked = $state(false);
let problem = $state<Problem>();
let said = $state("");
let ways = $state<Answer<"get", "/session/ways">>();

$effect(() => {
  api.get("/session/ways").then(
    (found) => {
      ways = found;
    },
    () => {},
  );
});

async function signIn(event: Event): Promise<void> {
  event.preventDefault();
  problem = undefined;
  try {
    await api.post("/session", { body: { name, password, ...(isAsked ? { code } : {}) } });
    onsignedin();
  } catch (error) {
    const told = error as Problem;
    if (told.code === "SECOND_FACTOR_NEEDED") isAsked = true;
    else problem = told;
  }
}

async function byPasskey(): Promise<void> {
  [problem, said] = [undefined, ""];
  try {
    const { signInByPasskey } = await import("../lib/passkeys");
    await signInByPasskey();
    onsignedin();
  } catch (error) {
    if (error instanceof Problem) problem = error;
    else said = "The browser gave no passkey.";
  }
}
</script>

<main>
  <div class="panel">
    <h1>Sign in</h1>
    {#if isAsked}
      <p>Now the code that your authenticator shows, or one of your recovery codes{ways?.passkeys ? "; or sign in by passkey" : ""}.</p>
    {:else}<p class="soft">Name and password of the first start are printed by npm start.</p>{/if}
    <Form on:submit={signIn}>
      {#if isAsked}
        <TextInput labelText="Code" bind:value={code} autocomplete="one-time-code" inputmode="text" required />
      {:else}
        <TextInput labelText="Name" bind:value={name} autocomplete="username" required />
        <PasswordInput showPasswordLabel="Show the password" hidePasswordLabel="Hide the password" labelText="Password" bind:value={password} autocomplete="current-password" required />
      {/if}
      <Trouble {problem} />
      <Button type="submit" size="field">Sign in</Button>
      {#if isAsked}<Button size="field" kind="ghost" on:click={() => { isAsked = false; code = ""; problem = undefined; }}>Another name</Button>{/if}
    </Form>
    {#if ways?.passkeys || ways?.provider}
      <div class="others">
        {#if ways.provider && !isAsked}<Button size="field" kind="tertiary" href={ways.provider.address}>Sign in by {ways.provider.title}</Button>{/if}
        {#if ways.passkeys}<Button size="field" kind="tertiary" on:click={byPasskey}>Sign in by passkey</Button>{/if}
        <p class="soft" role="status">{said}</p>
      </div>
    {/if}
  </div>
</main>

<style>
  main { padding: 8rem 1rem; display: flex; justify-content: center; }
  .panel { width: 24rem; max-width: 100%; padding: 1.5rem; }
  .panel :global(form) { display: grid; gap: 1rem; margin-top: 1.25rem; }
  .others { display: grid; gap: 0.75rem; justify-items: start; margin-top: 1.5rem; border-top: 1px solid var(--cds-ui-03); padding-top: 1.25rem; }
</style>
