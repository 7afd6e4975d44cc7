<script lang="ts">
import { Button, Checkbox, InlineLoading, Modal, TextInput } from "carbon-components-svelte";
import { api, at, type PersonSearch, Problem } from "../lib/client";
import { count, plural, time } from "../lib/format";
import { go, link } from "../lib/router.svelte";
import { scrollable } from "../lib/scrollable";
import Trouble from "../parts/common/Trouble.svelte";

/** What is known of a person who asks: found, saved, erased. */
let { id }: { id: string | undefined } = $props();
let address = $state("");
let name = $state("");
let search = $state<PersonSearch>();
let left = $state<string[]>([]);
let reason = $state("");
let isErasing = $state(false);
let problem = $state<Problem>();
const PAUSE_MS = 400;

const isBusy = $derived(search?.state === "looking" || search?.state === "erasing");
const goes = $derived(
  (search?.places ?? []).reduce((sum, one) => sum + (left.includes(one.place) ? 0 : one.erasable), 0),
);

// A search is asked after as long as it goes on.
$effect(() => {
  const wanted = id;
  if (wanted === undefined) {
    search = undefined;
    return;
  }
  let isLeft = false;
  const look = async (): Promise<void> => {
    try {
      const found = await api.get("/person-searches/{id}", { path: { id: wanted } });
      if (isLeft) return;
      search = found;
      if (found.state === "looking" || found.state === "erasing") setTimeout(() => void look(), PAUSE_MS);
    } catch (error) {
      if (!isLeft) problem = error as Problem;
    }
  };
  void look();
  return () => {
    isLeft = true;
  };
});

async function begin(event: Event): Promise<void> {
  event.preventDefault();
  problem = undefined;
  try {
    const words = [address, name].map((one) => one.trim()).filter((one) => one !== "");
    const begun = await api.post("/person-searches", { body: { words } });
    left = [];
    go("known", begun.id);
  } catch (error) {
    problem = error as Problem;
  }
}

async function erase(): Promise<void> {
  isErasing = false;
  if (!search) return;
  problem = undefined;
  try {
    search = await api.post("/person-searches/{id}/erase", {
      path: { id: search.id },
      body: { reason: reason.trim(), leave: $state.snapshot(left) },
    });
    reason = "";
    void follow(search.id);
  } catch (error) {
    problem = error as Problem;
  }
}

async function follow(wanted: string): Promise<void> {
  const found = await api.get("/person-searches/{id}", { path: { id: wanted } });
  if (id !== wanted) return;
  search = found;
  if (found.state === "erasing") setTimeout(() => void follow(wanted).catch(() => {}), PAUSE_MS);
}

function leave(place: string, isLeft: boolean): void {
  left = isLeft ? [...left.filter((one) => one !== place), place] : left.filter((one) => one !== place);
}
</script>

<h1><a href={link("people")}>People</a> / What is known of somebody</h1>
<p class="soft">When somebody asks what is kept of them: it is looked for in the recipient list, in all rows, runs, files and messages, in what was asked, and in the trail. It can be saved for them, and erased where no duty to keep stands against it.</p>
<Trouble {problem} />
<form onsubmit={begin}>
  <TextInput size="sm" type="email" labelText="Mail address" placeholder="ruth.penhallow@canal.example" bind:value={address} />
  <TextInput size="sm" labelText="Name" placeholder="Ruth Penhallow" helperText="Whole, as it is written. A name that others have too finds theirs as well." bind:value={name} />
  <div><Button size="field" type="submit" disabled={address.trim().length < 3 && name.trim().length < 3}>Look through everything</Button></div>
</form>
{#if search}
  <section>
    <h2>{search.words.join(", ")}</h2>
    {#if isBusy}<InlineLoading description={search.state === "looking" ? "Everything is looked through" : "They are taken out"} />
    {:else if search.state === "failed"}<p>{search.error}</p>
    {:else}
      {#each search.before as one (one.at)}<p class="soft" role="status">Erased {time(one.at)} by {one.by}: {one.reason}</p>{/each}
      {#if search.places.length === 0}<p>Nothing that is kept names them.</p>
      {:else}
        <div class="lines" use:scrollable data-scrolls="Where they are named"><table>
          <thead><tr><th>Where</th><th>Things</th><th>Can be erased</th><th>What keeps others</th><th>Leave</th></tr></thead>
          <tbody>
            {#each search.places as one (one.place)}
              <tr>
                <td><details><summary>{one.title}</summary><ul>{#each one.examples as example}<li>{example}</li>{/each}</ul></details></td>
                <td>{count(one.count)}</td>
                <td>{count(one.erasable)}</td>
                <td>{#each one.kept as { why, count: of } (why)}<p>{#if one.kept.length > 1}{count(of)}:{" "}{/if}{why}</p>{/each}</td>
                <td>{#if one.erasable > 0}<Checkbox hideLabel labelText={`Leave ${one.title}`} checked={left.includes(one.place)} on:check={({ detail }) => leave(one.place, detail)} />{/if}</td>
              </tr>
            {/each}
          </tbody>
        </table></div>
        <div class="row deeds">
          <Button size="field" kind="tertiary" href={at(`/person-searches/${search.id}/export.zip`)}>Save all of it</Button>
          <Button size="field" kind="danger-tertiary" disabled={goes === 0} on:click={() => { isErasing = true; }}>Erase them</Button>
        </div>
      {/if}
    {/if}
  </section>
{/if}
<Modal danger iconDescription="Close the dialog" bind:open={isErasing} modalHeading="Erase them from what is kept?" primaryButtonText={plural(goes, ["Erase # thing", "Erase # things"])} primaryButtonDisabled={reason.trim() === ""} secondaryButtonText="Leave it" on:click:button--secondary={() => { isErasing = false; }} on:submit={erase}>
  <p>Names and addresses give way to a word that stands for nobody; words of messages, files and letters go whole. What was sent stays known by its digest, and nothing goes out twice. It cannot be taken back.</p>
  <TextInput labelText="Why" placeholder="asked by letter of 30 November" helperText="Stands in the trail; without their name." bind:value={reason} />
</Modal>

<style>
  form { display: grid; gap: 0.75rem; max-width: 34rem; margin-top: 0.75rem; }
  section { margin-top: 1.5rem; }
  details ul { margin: 0.3rem 0 0.3rem 1rem; font-size: 0.8125rem; overflow-wrap: anywhere; }
  td p { font-size: 0.875rem; }
  td :global(.bx--checkbox-wrapper) { margin: 0; }
  .deeds { margin-top: 1rem; flex-wrap: wrap; }
</style>
