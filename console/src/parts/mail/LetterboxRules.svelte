<script lang="ts">
import { Button, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { allOf, api, type LetterboxRule, type Problem } from "../../lib/client";
import { plural } from "../../lib/format";
import { may } from "../../lib/rights.svelte";
import Trouble from "../common/Trouble.svelte";

/** What the letterbox does wrong on purpose, in words. */
const DOES: Record<string, string> = {
  refuse: "refuse the address: no such mailbox",
  defer: "refuse the address for now",
  full: "say that the mailbox is full",
  slow: "be slow to answer a sender",
  "slow-answer": "be slow to say that it has a message",
  throttle: "slow down whoever sends quickly",
  "break-before": "break the line before the message",
  "break-within": "break the line in the middle of it",
  "break-after": "break the line after it, and keep it",
  lose: "break the line after it, and lose it",
  bounce: "take it, and send it back as undeliverable",
  "refuse-data": "refuse the message",
  "defer-data": "refuse the message for now",
};
let rules = $state<LetterboxRule[]>([]);
let problem = $state<Problem>();
let added = $state({ does: "full", to: "", subject: "", percent: "100", times: "" });

const load = async (): Promise<void> => {
  rules = await allOf(api.all("/letterbox/rules"));
};
$effect(() => {
  load();
});

async function act(work: () => Promise<unknown>): Promise<void> {
  problem = undefined;
  try {
    await work();
    await load();
  } catch (error) {
    problem = error as Problem;
  }
}

const add = (): Promise<void> =>
  act(() =>
    api.post("/letterbox/rules", {
      body: {
        does: added.does as LetterboxRule["rule"]["does"],
        ...(added.to.trim() === "" ? {} : { to: added.to.trim() }),
        ...(added.subject.trim() === "" ? {} : { subject: added.subject.trim() }),
        share: Number(added.percent) / 100,
        ...(added.times.trim() === "" ? {} : { times: Number(added.times) }),
      },
    }),
  );

function words({ rule, used }: LetterboxRule): string {
  const about = [
    ...(rule.to ? [`addresses with "${rule.to}"`] : []),
    ...(rule.subject ? [`subjects with "${rule.subject}"`] : []),
    ...(rule.share < 1 ? [`${Math.round(rule.share * 100)} of 100`] : []),
  ];
  const often = rule.times === undefined ? "" : `, ${plural(rule.times, ["# time", "# times"])} at most`;
  return `${DOES[rule.does] ?? rule.does}${about.length > 0 ? `, for ${about.join(", ")}` : ""}${often} – done ${plural(used, ["# time", "# times"])}`;
}
</script>

<details open={rules.length > 0}>
  <summary>{rules.length === 0 ? "Let it do something wrong" : `It does ${plural(rules.length, ["# thing", "# things"])} wrong on purpose`}</summary>
  <Trouble {problem} />
  <ul>{#each rules as one}<li>{words(one)} <Button size="small" kind="ghost" on:click={() => act(() => api.delete("/letterbox/rules/{id}", { path: { id: one.id } }))}>Take away</Button></li>{/each}</ul>
  <div class="add">
    <Select size="sm" labelText="It shall" bind:selected={added.does}>{#each Object.entries(DOES) as [value, text] (value)}<SelectItem {value} {text} />{/each}</Select>
    <TextInput size="sm" labelText="For addresses with" placeholder="all" bind:value={added.to} />
    <TextInput size="sm" labelText="For subjects with" placeholder="all" bind:value={added.subject} />
    <TextInput size="sm" labelText="Of a hundred" bind:value={added.percent} />
    <TextInput size="sm" labelText="Times at most" placeholder="always" bind:value={added.times} />
    <Button size="small" kind="tertiary" on:click={add}>Add</Button>
  </div>
</details>

<style>
  details { margin: 0.5rem 0; }
  ul { margin: 0.3rem 0; font-size: 0.875rem; }
  li { display: flex; align-items: center; gap: 0.5rem; }
  .add { display: grid; grid-template-columns: minmax(14rem, 2fr) repeat(2, minmax(8rem, 1fr)) 6rem 7rem auto; gap: 0.75rem; align-items: end; max-width: 70rem; }
  @media (max-width: 1000px) { .add { grid-template-columns: 1fr 1fr; } }
</style>
