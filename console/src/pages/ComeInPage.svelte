<script lang="ts">
import { Button, Form, PasswordInput } from "carbon-components-svelte";
import { api, type Problem } from "../lib/client";
import { time } from "../lib/format";
import Trouble from "../parts/common/Trouble.svelte";

/** Whoever was invited chooses a password, and is in. */
let { secret, oncame }: { secret: string; oncame: (isIn: boolean) => void } = $props();
let invited = $state<{ name: string; shownName: string; until: string }>();
let password = $state("");
let problem = $state<Problem>();
let isOver = $state(false);

$effect(() => {
  api.get("/invitations/{secret}", { path: { secret } }).then(
    (found) => {
      invited = found;
    },
    (error: Problem) => {
      problem = error;
      isOver = true;
    },
  );
});

async function comeIn(event: Event): Promise<void> {
  event.preventDefault();
  problem = undefined;
  try {
    const { isIn } = await api.post("/invitations/{secret}", { path: { secret }, body: { password } });
    // Where a second factor is asked for, the sign-in asks for it.
    oncame(isIn);
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<main>
  <div class="panel">
    <h1>Come in</h1>
    {#if invited}
      <p>{invited.shownName}, choose a password to sign in with as <strong>{invited.name}</strong>.</p>
      <p class="soft">At least fifteen characters: some words that have nothing to do with each other are easy to keep and hard to guess. The link works until {time(invited.until)}.</p>
    {/if}
    {#if invited && !isOver}
      <Form on:submit={comeIn}>
        <input class="name" type="text" autocomplete="username" value={invited.name} readonly tabindex="-1" aria-label="Name" />
        <PasswordInput showPasswordLabel="Show the password" hidePasswordLabel="Hide the password" labelText="Password" bind:value={password} autocomplete="new-password" required />
        <Trouble {problem} />
        <Button type="submit" size="field">Come in</Button>
      </Form>
    {:else}<Trouble {problem} />{/if}
  </div>
</main>

<style>
  main { padding: 8rem 1rem; display: flex; justify-content: center; }
  .panel { width: 26rem; max-width: 100%; padding: 1.5rem; display: grid; gap: 0.75rem; }
  .panel :global(form) { display: grid; gap: 1rem; margin-top: 0.5rem; }
  /* For keepers of passwords only. */
  .name { position: absolute; width: 1px; height: 1px; opacity: 0; }
</style>
