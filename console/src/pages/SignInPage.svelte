<script lang="ts">
import { Button, Form, PasswordInput, TextInput } from "carbon-components-svelte";
import { api, type Problem } from "../lib/client";
import Trouble from "../parts/common/Trouble.svelte";

let { onsignedin }: { onsignedin: () => void } = $props();
let name = $state("");
let password = $state("");
let problem = $state<Problem>();

async function signIn(event: Event): Promise<void> {
  event.preventDefault();
  problem = undefined;
  try {
    await api.post("/session", { body: { name, password } });
    onsignedin();
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<main>
  <div class="panel">
    <h1>Sign in</h1>
    <p class="soft">Name and password of the first start are printed by npm start.</p>
    <Form on:submit={signIn}>
      <TextInput labelText="Name" bind:value={name} autocomplete="username" required />
      <PasswordInput showPasswordLabel="Show the password" hidePasswordLabel="Hide the password" labelText="Password" bind:value={password} autocomplete="current-password" required />
      <Trouble {problem} />
      <Button type="submit" size="field">Sign in</Button>
    </Form>
  </div>
</main>

<style>
  main { padding: 8rem 1rem; display: flex; justify-content: center; }
  .panel { width: 24rem; padding: 1.5rem; }
  .panel :global(form) { display: grid; gap: 1rem; margin-top: 1.25rem; }
</style>
