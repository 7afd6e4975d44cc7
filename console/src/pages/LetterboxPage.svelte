<script lang="ts">
import { Button, Link } from "carbon-components-svelte";
import { api, at, type Letter, type LetterSummary, type Problem } from "../lib/client";
import { bytes, plural, time } from "../lib/format";
import { whenever } from "../lib/live";
import { Pages } from "../lib/pages.svelte";
import { may } from "../lib/rights.svelte";
import { link } from "../lib/router.svelte";
import Empty from "../parts/common/Empty.svelte";
import More from "../parts/common/More.svelte";
import Trouble from "../parts/common/Trouble.svelte";
import LetterboxRules from "../parts/mail/LetterboxRules.svelte";
import MailView from "../parts/mail/MailView.svelte";

let { id }: { id: string | undefined } = $props();
const letters = new Pages<LetterSummary>((wish) => api.get("/letters", { query: wish }));
let count = $state<number>();
let letter = $state<Letter>();
let problem = $state<Problem>();

$effect(() =>
  whenever(
    (event) => event.kind === "letter",
    async () => {
      [count] = await Promise.all([api.get("/overview").then((all) => all.letters), letters.reload()]);
    },
    "page",
  ),
);
$effect(() => {
  problem = undefined;
  if (id)
    api.get("/letters/{id}", { path: { id } }).then(
      (found) => {
        letter = found;
      },
      (error: Problem) => {
        problem = error;
      },
    );
  else letter = undefined;
});
</script>

<h1>Letterbox</h1>
<p class="soft">The simulated mail server: it keeps what it gets and delivers nothing. {count === undefined ? "" : plural(count, ["# letter", "# letters"])}</p>
<Trouble {problem} />
{#if may("listLetterboxRules")}<LetterboxRules />{/if}
{#if letters.items?.length === 0}
  <Empty title="The letterbox is empty">Release a run, or rehearse one to yourself; what would reach its readers arrives here.</Empty>
{:else if letters.items}
  <div class="columns">
    <ul class="letters">
      {#each letters.items as one}
        <li class:chosen={one.id === id}>
          <a href={link("letterbox", one.id)}>
            <strong>{one.subject}</strong>
            <span class="soft">{one.rcptTo.join(", ")}</span>
            <span class="soft">{time(one.receivedAt)}, {bytes(one.size)}, {plural(one.attachments, ["# attachment", "# attachments"])}</span>
          </a>
        </li>
      {/each}
      {#if letters.next !== null}<li class="foot"><More pages={letters} what="letters" /></li>{/if}
    </ul>
    {#if letter}
      <section class="panel" aria-label="Letter">
        <h2>{letter.subject}</h2>
        <p class="soft">From {letter.mailFrom} to {letter.rcptTo.join(", ")}, {time(letter.receivedAt)}</p>
        <ul class="attachments">{#each letter.attachments as attachment}<li><Link href={at(`/letters/${letter.id}/attachments/${attachment.index}`)}>{attachment.filename}</Link> <span class="soft">{bytes(attachment.size)}</span></li>{/each}</ul>
        <MailView html={letter.html} text={letter.text} />
        <details><summary>Headers</summary><pre>{letter.headers.join("\n")}</pre></details>
        <Button size="small" kind="ghost" href={at(`/letters/${letter.id}/raw`)}>Save as .eml</Button>
      </section>
    {:else}
      <Empty title="No letter is open">Choose one on the left to read it as its receiver does.</Empty>
    {/if}
  </div>
{/if}

<style>
  .columns { display: grid; grid-template-columns: minmax(18rem, 0.8fr) minmax(0, 1.6fr); gap: 1.25rem; margin-top: 0.75rem; align-items: start; }
  .letters { background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); max-height: 76vh; overflow: auto; }
  .letters li + li { border-top: 1px solid var(--cds-ui-03); }
  .letters a { display: grid; gap: 0.15rem; line-height: 1.25rem; padding: 0.6rem 0.8rem; text-decoration: none; color: inherit; font-size: 0.875rem; overflow-wrap: anywhere; }
  .letters .chosen { background: var(--cds-highlight); }
  .foot { padding: 0 0.8rem; }
  h2 { margin-top: 0; }
  .attachments { margin: 0.5rem 0 0.75rem; font-size: 0.875rem; display: grid; gap: 0.2rem; }
  details { margin: 0.75rem 0; font-size: 0.875rem; }
  /* One below the other where there is no room beside: the list as a strip, the letter under it. */
  @media (max-width: 56rem) {
    .columns { grid-template-columns: minmax(0, 1fr); }
    .letters { max-height: 40vh; }
  }
</style>
