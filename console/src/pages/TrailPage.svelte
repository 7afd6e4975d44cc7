<script lang="ts">
import { Button, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { untrack } from "svelte";
import { allOf, api, type Problem, type TrailEntry } from "../lib/client";
import { wholeTime, word } from "../lib/format";
import { Pages } from "../lib/pages.svelte";
import { go } from "../lib/router.svelte";
import { scrollable } from "../lib/scrollable";
import Empty from "../parts/common/Empty.svelte";
import More from "../parts/common/More.svelte";
import Trouble from "../parts/common/Trouble.svelte";

/** What was done by whom, when and from where. The address says of what, or `by` whom. */
let { subject: asked }: { subject: string | undefined } = $props();
let who = $state("");
let what = $state("");
let subject = $state("");
let since = $state("");
let until = $state("");
let people = $state<string[]>([]);
let words = $state<string[]>([]);
let problem = $state<Problem>();

const filter = () => ({
  ...(who === "" ? {} : { who }),
  ...(what === "" ? {} : { what }),
  ...(subject.trim() === "" ? {} : { subject: subject.trim() }),
  ...(since === "" ? {} : { since }),
  ...(until === "" ? {} : { until }),
});
const entries = new Pages<TrailEntry>((wish) => api.get("/trail", { query: { ...filter(), ...wish } }));

async function look(): Promise<void> {
  problem = undefined;
  try {
    await entries.begin();
  } catch (error) {
    problem = error as Problem;
  }
}
$effect(() => {
  const wanted = asked ?? "";
  untrack(() => {
    who = wanted.startsWith("by ") ? wanted.slice(3) : "";
    subject = wanted.startsWith("by ") ? "" : wanted;
    void look();
  });
});
$effect(() => {
  Promise.all([api.get("/trail-words"), allOf(api.all("/people"))]).then(
    ([found, all]) => {
      words = found.words;
      people = all.map(({ name }) => name);
    },
    () => {},
  );
});

/** The facts of an entry, field by field: of a change what was before and what is now. */
function facts({
  facts: told,
}: TrailEntry): { readonly field: string; readonly before?: string; readonly text: string }[] {
  const said = (value: unknown): string =>
    Array.isArray(value)
      ? value.map(said).join(", ")
      : typeof value === "string"
        ? value
        : value === null || value === undefined
          ? word("none")
          : JSON.stringify(value);
  const { before, after, ...rest } = told as { before?: Record<string, unknown>; after?: Record<string, unknown> };
  const changed = Object.entries(after ?? {}).map(([field, value]) => ({
    field,
    before: said(before?.[field]),
    text: said(value),
  }));
  const others = Object.entries(rest).map(([field, value]) => ({ field, text: said(value) }));
  return [...changed, ...others];
}
</script>

<div class="split">
  <h1>Trail</h1>
  <Button size="field" kind="tertiary" href="/api/v1/trail.jsonl">Save all of it</Button>
</div>
<p class="soft">What was done, by whom, when and from where. It is added to and never changed: each entry carries the digest of the one before, and <code>corbix verify</code> goes through them.</p>
<Trouble {problem} />
<form onsubmit={(event) => { event.preventDefault(); if (asked) go("trail"); void look(); }}>
  <Select size="sm" labelText="By" bind:selected={who}>
    <SelectItem value="" text="anybody" />
    {#if who !== "" && !people.includes(who)}<SelectItem value={who} text={who} />{/if}
    {#each people as one (one)}<SelectItem value={one} text={one} />{/each}
  </Select>
  <Select size="sm" labelText="What" bind:selected={what}>
    <SelectItem value="" text="anything" />
    {#each words as one (one)}<SelectItem value={one} text={one} />{/each}
  </Select>
  <TextInput size="sm" labelText="Of" placeholder="a report, a run, a person" bind:value={subject} />
  <TextInput size="sm" type="date" labelText="From" bind:value={since} />
  <TextInput size="sm" type="date" labelText="Until" bind:value={until} />
  <Button size="small" type="submit">Look</Button>
</form>
{#if entries.items && entries.items.length > 0}
  <div class="lines" use:scrollable data-scrolls="Trail"><table>
    <thead><tr><th>When</th><th>Who</th><th>What</th><th>Of</th><th>More</th><th>From</th></tr></thead>
    <tbody>
      {#each entries.items as one (one.id)}
        <tr>
          <td class="when">{wholeTime(one.at)}</td><td>{one.who}</td><td>{one.what}{#if one.isErased}<span class="soft">{" "}names nobody any more</span>{/if}</td><td>{one.subject}</td>
          <td>{#each facts(one) as { field, before, text }, at (field)}{at > 0 ? "; " : ""}<code>{field}</code>{" "}{#if text.startsWith("{") || before?.startsWith("{")}<code>{before === undefined ? text : `${before} → ${text}`}</code>{:else}{before === undefined ? text : `${before} → ${text}`}{/if}{/each}</td>
          <td>{one.from ?? "the service itself"}</td>
        </tr>
      {/each}
    </tbody>
  </table></div>
  <More pages={entries} what="entries" />
{:else if entries.items}<Empty title="Nothing of that">Nothing was done that meets all of this.</Empty>{/if}

<style>
  form { display: grid; grid-template-columns: repeat(auto-fill, minmax(10rem, 1fr)); gap: 0.75rem; align-items: end; margin: 0.75rem 0 1rem; }
  td { overflow-wrap: anywhere; vertical-align: top; }
  .when { white-space: nowrap; }
</style>
