<script lang="ts">
import { Button, Link, RadioButton, RadioButtonGroup, Select, SelectItem, Toggle } from "carbon-components-svelte";
import { Add } from "carbon-icons-svelte";
import type { Problem, Report } from "../../../lib/client";
import { count, plural } from "../../../lib/format";
import { type Known, meant } from "../../../lib/report/choices";
import type { Draft } from "../../../lib/report/draft.svelte";
import { type Schema, schemaAt } from "../../../lib/report/schema";
import { link } from "../../../lib/router.svelte";
import EntryModal from "../../common/EntryModal.svelte";
import Trouble from "../../common/Trouble.svelte";
import Section from "../../form/Section.svelte";
import ImportList from "../../people/ImportList.svelte";
import WhoReceives from "../../report/WhoReceives.svelte";
import FixedPeople from "../FixedPeople.svelte";

/** Who receives: the people of the shared list, or the addresses that the rows carry. */
let { draft, known, schema, saved }: { draft: Draft; known: Known; schema: Schema; saved: Report | undefined } =
  $props();

interface To {
  column?: string;
  name?: string;
  besides?: boolean;
  by?: string;
  addresses?: string[];
}
type Way = "list" | "by" | "column" | "addresses";
const said = $derived(draft.get(["delivery", "to"]));
const to = $derived((typeof said === "object" && said !== null ? said : {}) as To);
const way = $derived<Way>((["by", "column", "addresses"] as const).find((one) => to[one] !== undefined) ?? "list");
const asKnown = (name: string | undefined): string => meant(name ?? "", known.columns) ?? name ?? "";
const address = $derived(asKnown(to.column));
const called = $derived(asKnown(to.name));
const by = $derived(asKnown(to.by));
const delivery = $derived(schemaAt(schema, ["delivery"]) ?? {});
const groups = $derived(draft.look?.groups ?? []);
/** How many of all groups; only some of a long list are shown. */
const without = $derived(draft.look?.groupsWithoutPeople ?? 0);
const shown = $derived(groups.filter(({ people }) => people === 0).slice(0, 20));
/** A column whose name or values look like addresses is suggested first. */
const suggested = $derived(known.columns.find((name) => /mail|address|adresse/i.test(name)) ?? known.columns[0] ?? "");

function choose(next: Way): void {
  const usual: Record<Way, unknown> = {
    list: undefined,
    by: { by: known.columns[0] ?? "" },
    column: { column: suggested },
    addresses: { addresses: [] },
  };
  // Fixed people are written once there is an address.
  if (next === "addresses") isFixed = true;
  else {
    isFixed = false;
    draft.set(["delivery", "to"], usual[next]);
  }
}
let isFixed = $state(false);
const shownWay = $derived<Way>(isFixed ? "addresses" : way);
let problem = $state<Problem>();
let isAdding = $state(false);
let addedFor = $state("");
let wasAdding = false;
$effect(() => {
  if (wasAdding && !isAdding) draft.refresh();
  wasAdding = isAdding;
});
</script>

<h2>Who gets it</h2>
<RadioButtonGroup legendText="Addresses come from" selected={shownWay} orientation="vertical" on:change={({ detail }) => { if (detail !== shownWay) choose(detail as Way); }}>
  <RadioButton labelText="the shared list of recipients, by the group" value="list" />
  <RadioButton labelText="the shared list of recipients, by another column of the rows" value="by" />
  <RadioButton labelText="a column of the rows" value="column" />
  <RadioButton labelText="here: the same people for every group" value="addresses" />
</RadioButtonGroup>
{#if shownWay === "column"}
  <div class="pair">
    <Select size="sm" labelText="Column of addresses" selected={address} on:update={({ detail }) => { if (detail !== address) draft.set(["delivery", "to", "column"], String(detail)); }}>
      {#each [...new Set([address, ...known.columns])] as one (one)}<SelectItem value={one} text={one} />{/each}
    </Select>
    <Select size="sm" labelText="Column of names" selected={called} on:update={({ detail }) => { if (detail !== called) draft.set(["delivery", "to", "name"], detail === "" ? undefined : String(detail)); }}>
      <SelectItem value="" text="none" />{#each [...new Set([called, ...known.columns])].filter(Boolean) as one (one)}<SelectItem value={one} text={one} />{/each}
    </Select>
  </div>
  <Toggle size="sm" labelText="The people of the list get it as well" labelA="No" labelB="Yes" toggled={to.besides ?? false} on:toggle={({ detail }) => { if (detail.toggled !== (to.besides ?? false)) draft.set(["delivery", "to", "besides"], detail.toggled || undefined); }} />
{:else if shownWay === "by"}
  <div class="pair">
    <Select size="sm" labelText="Column that the list is asked for" helperText="All rows of a group need the same value there." selected={by} on:update={({ detail }) => { if (detail !== by) draft.set(["delivery", "to", "by"], String(detail)); }}>
      {#each [...new Set([by, ...known.columns])] as one (one)}<SelectItem value={one} text={one} />{/each}
    </Select>
  </div>
{:else if shownWay === "addresses"}<FixedPeople {draft} addresses={to.addresses ?? []} name={to.name ?? ""} onwritten={() => { isFixed = false; }} />{/if}

{#if draft.look && shownWay === way}
  {#if without > 0}
    <p class="none">Nobody receives for {plural(without, ["# group", "# groups"])} of {count(draft.look.groupCount)}.</p>
    <ul>{#each shown as group}<li><strong>{group.label}</strong> <span class="soft">{group.nobody ?? ""}</span> <Button size="small" kind="ghost" icon={Add} on:click={() => { addedFor = way === "list" ? group.label : ""; isAdding = true; }}>Add somebody</Button></li>{/each}</ul>
    {#if without > shown.length}<p class="soft">and {count(without - shown.length)} more</p>{/if}
    <div class="row"><ImportList kind="tertiary" size="small" ontaken={() => draft.refresh()} onproblem={(one) => { problem = one; }} /><Link href={link("recipients")}>The whole list</Link></div>
    <Trouble {problem} />
  {:else if draft.look.groupCount > 0}<p class="soft">Every group has somebody who receives for it.</p>{/if}
{/if}

{#if saved?.hasMessage}<h2>Who receives what</h2>
  {#key saved.number}<WhoReceives report={saved.name} />{/key}{/if}

<h2>Fewer, others, copies</h2>
<Section {draft} {known} schema={delivery} path={["delivery"]} only={["narrow", "instead", "copies", "blindCopies"]} />

<EntryModal bind:open={isAdding} entry={undefined} group={addedFor} />

<style>
  .pair { display: grid; grid-template-columns: 1fr 1fr; gap: 1rem; margin: 0.75rem 0; }
  .none { color: var(--corbix-amber); font-weight: 600; margin-top: 0.75rem; }
  ul { font-size: 0.875rem; }
</style>
