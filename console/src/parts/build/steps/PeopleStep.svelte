<script lang="ts">
import { Link, RadioButton, RadioButtonGroup, Select, SelectItem, Toggle } from "carbon-components-svelte";
import type { Report } from "../../../lib/client";
import { count, plural } from "../../../lib/format";
import { type Known, meant } from "../../../lib/report/choices";
import type { Draft } from "../../../lib/report/draft.svelte";
import { type Schema, schemaAt } from "../../../lib/report/schema";
import { link } from "../../../lib/router.svelte";
import Section from "../../form/Section.svelte";
import WhoReceives from "../../report/WhoReceives.svelte";

/** Who receives: the people of the shared list, or the addresses that the rows carry. */
let { draft, known, schema, saved }: { draft: Draft; known: Known; schema: Schema; saved: Report | undefined } =
  $props();

const to = $derived(draft.get(["delivery", "to"]));
const isColumn = $derived(typeof to === "object" && to !== null);
const column = $derived((isColumn ? to : {}) as { column?: string; name?: string; besides?: boolean });
const address = $derived(meant(column.column ?? "", known.columns) ?? column.column ?? "");
const called = $derived(meant(column.name ?? "", known.columns) ?? column.name ?? "");
const delivery = $derived(schemaAt(schema, ["delivery"]) ?? {});
const groups = $derived(draft.look?.groups ?? []);
/** How many of all groups; only some of a long list are shown. */
const without = $derived(draft.look?.groupsWithoutPeople ?? 0);
const shown = $derived(groups.filter(({ people }) => people === 0).slice(0, 20));
/** A column whose name or values look like addresses is suggested first. */
const suggested = $derived(known.columns.find((name) => /mail|address|adresse/i.test(name)) ?? known.columns[0] ?? "");
</script>

<h2>Who gets it</h2>
<RadioButtonGroup legendText="Addresses come from" selected={isColumn ? "column" : "list"} orientation="vertical" on:change={({ detail }) => { if ((detail === "column") !== isColumn) draft.set(["delivery", "to"], detail === "column" ? { column: suggested } : undefined); }}>
  <RadioButton labelText="the shared list of recipients, by the group" value="list" />
  <RadioButton labelText="a column of the rows" value="column" />
</RadioButtonGroup>
{#if isColumn}
  <div class="pair">
    <Select size="sm" labelText="Column of addresses" selected={address} on:update={({ detail }) => { if (detail !== address) draft.set(["delivery", "to", "column"], String(detail)); }}>
      {#each [...new Set([address, ...known.columns])] as one}<SelectItem value={one} text={one} />{/each}
    </Select>
    <Select size="sm" labelText="Column of names" selected={called} on:update={({ detail }) => { if (detail !== called) draft.set(["delivery", "to", "name"], detail === "" ? undefined : String(detail)); }}>
      <SelectItem value="" text="none" />{#each known.columns as one}<SelectItem value={one} text={one} />{/each}
    </Select>
  </div>
  <Toggle size="sm" labelText="The people of the list get it as well" labelA="No" labelB="Yes" toggled={column.besides ?? false} on:toggle={({ detail }) => { if (detail.toggled !== (column.besides ?? false)) draft.set(["delivery", "to", "besides"], detail.toggled || undefined); }} />
{/if}

{#if draft.look}
  {#if without > 0}
    <p class="none">Nobody receives for {plural(without, "group")} of {count(draft.look.groupCount)}.</p>
    <ul>{#each shown as group}<li><strong>{group.label}</strong> <span class="soft">{group.nobody ?? ""}</span></li>{/each}</ul>
    {#if without > shown.length}<p class="soft">and {count(without - shown.length)} more</p>{/if}
    <p><Link href={link("recipients")}>Add them to the list</Link></p>
  {:else if draft.look.groupCount > 0}<p class="soft">Every group has somebody who receives for it.</p>{/if}
{/if}

{#if saved?.hasMessage}<h2>Who receives what</h2>
  {#key saved.number}<WhoReceives report={saved.name} />{/key}{/if}

<h2>Fewer, others, copies</h2>
<Section {draft} {known} schema={delivery} path={["delivery"]} only={["narrow", "instead", "copies", "blindCopies"]} />

<style>
  .pair { display: grid; grid-template-columns: 1fr 1fr; gap: 1rem; margin: 0.75rem 0; }
  .none { color: var(--corbix-amber); font-weight: 600; margin-top: 0.75rem; }
  ul { font-size: 0.875rem; }
</style>
