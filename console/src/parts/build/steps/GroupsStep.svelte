<script lang="ts">
import { Checkbox, InlineNotification, RadioButton, RadioButtonGroup, TextInput } from "carbon-components-svelte";
import type { Column, Edition, Profile } from "../../../lib/client";
import { count, plural } from "../../../lib/format";
import { writeName } from "../../../lib/report/conditions";
import type { Draft } from "../../../lib/report/draft.svelte";
import { asEnquiry } from "../../../lib/report/enquiry";
import { freeOf } from "../../../lib/report/new-report";
import { readSplit, type SplitKind, suggestedRowName, writeSplit } from "../../../lib/report/split";
import { go } from "../../../lib/router.svelte";
import Findings from "../../common/Findings.svelte";
import NearDoubles from "../../data/NearDoubles.svelte";
import Formulas from "../Formulas.svelte";

/** What the rows are put into groups by, and what has to add up. */
let {
  draft,
  name,
  columns,
  profiles,
  edition,
}: {
  draft: Draft;
  name: string;
  columns: readonly Column[];
  profiles: ReadonlyMap<string, Profile>;
  edition: Edition | undefined;
} = $props();

const choice = $derived(readSplit(draft.get(["split"]), String(draft.get(["title"]) ?? "") || undefined));
const split = $derived(choice.columns);
const all = $derived(draft.look?.columns ?? columns);
const isChosen = (name: string): boolean => split.some((one) => writeName(one) === writeName(name));
const chosen = $derived(split.flatMap((one) => all.find(({ name }) => writeName(name) === writeName(one))?.name ?? []));
/** Whether the rows are put into groups by columns of the file; columns that the report adds have no spellings there. */
const isLoaded = $derived(chosen.every((name) => columns.some((one) => one.name === name)));
const totals = $derived((draft.get(["totals"]) ?? {}) as Record<string, unknown>);
const numbers = $derived(all.filter(({ type }) => type === "number"));
const findings = $derived(
  (draft.look?.findings ?? []).filter(
    // Who receives is looked at under People; what is probably one stands above, where it can be merged.
    ({ code, where }) =>
      code !== "group-without-recipient" &&
      !(code === "near-double" && isLoaded) &&
      /^(?:group|rows|split)/.test(where),
  ),
);
const nobody = $derived(draft.look?.groupsWithoutPeople ?? 0);

function choose(name: string, isOn: boolean): void {
  const next = isOn ? [...split, name] : split.filter((one) => writeName(one) !== writeName(name));
  draft.set(["split"], writeSplit({ ...choice, columns: next }));
}

/** Columns that were ticked stay so, where they mean something. */
function chooseKind(kind: SplitKind): void {
  const named = kind === "row" ? suggestedRowName([...profiles.values()]) : columnsBefore;
  draft.set(
    ["split"],
    writeSplit({ ...choice, kind, columns: kind === "columns" && split.length > 0 ? split : named }),
  );
}
/** From here on it is no report that is run: what only a run needs is taken out, and can be taken back. */
function beAsked(): void {
  draft.write(asEnquiry(draft.definition, all));
  go("reports", name, "ask");
}
let columnsBefore = $state<readonly string[]>([]);
$effect(() => {
  if (choice.kind === "columns") columnsBefore = split;
});

function total(name: string, formula: string): void {
  const known = Object.entries(totals).find(([, one]) => one === formula)?.[0];
  // A total of somebody's own that is called so stays.
  draft.set(["totals", known ?? freeOf(name, Object.keys(totals))], known === undefined ? formula : undefined);
}
const sumOf = (name: string): string => `sum(line.${writeName(name)})`;
const usual = $derived(new Set(["count(line)", ...numbers.map(({ name }) => sumOf(name))]));
const isTotal = (formula: string): boolean => Object.values(totals).includes(formula);
</script>

<h2>What makes a group</h2>
<RadioButtonGroup legendText="Each group gets its own files and its own message" selected={choice.kind} orientation="vertical" on:change={({ detail }) => { if (String(detail) === "ask") beAsked(); else if (detail !== choice.kind) chooseKind(detail as SplitKind); }}>
  <RadioButton labelText="the rows that have the same value in a column, or in several" value="columns" />
  <RadioButton labelText="each row for itself, such as a letter for each" value="row" />
  <RadioButton labelText="all rows together: one file for everybody" value="one" />
  <RadioButton labelText="none: nothing is sent, people ask for the rows they want" value="ask" />
</RadioButtonGroup>
{#if choice.kind === "one"}
  <div class="name"><TextInput size="sm" labelText="What it is called" helperText={'Stands in names of files and in the message as {{ group.key }}.'} value={choice.name} on:input={(event) => { const name = String((event as CustomEvent).detail ?? ""); if (name.trim() !== "" && name !== choice.name) draft.set(["split"], writeSplit({ ...choice, name })); }} /></div>
{:else}
  <h2>{choice.kind === "row" ? "What a row is called by" : "Group the rows by"}</h2>
  <div class="ticks" role="group" aria-label={choice.kind === "row" ? "Columns that name a row" : "Columns of groups"}>
    {#each all as { name }}
      {@const profile = profiles.get(name)}
      <Checkbox labelText={profile ? `${name} (${count(profile.distinct)})` : name} checked={isChosen(name)} on:check={({ detail }) => { if (detail !== isChosen(name)) choose(name, detail); }} />
    {/each}
  </div>
  {#if split.length === 0}<InlineNotification lowContrast hideCloseButton kind="warning" title="Choose at least one column." subtitle="The figure behind a name says how many different values it has." />{/if}
{/if}
{#if draft.look}
  <p class="soft">{plural(draft.look.groupCount, ["# group", "# groups"])} from {count(draft.look.rows.inGroups)} rows{#if nobody > 0}; nobody receives for {plural(nobody, ["# of them", "# of them"])}{/if}.</p>
{/if}
{#if edition && choice.kind === "columns" && split.length > 0 && isLoaded}<NearDoubles {edition} by={chosen.join(",")} onchange={() => draft.refresh()} />{/if}
<Findings {findings} />

<h2>Control totals</h2>
<p class="soft">What a run proves to add up over all groups.</p>
<div class="ticks" role="group" aria-label="Totals">
  <Checkbox labelText="Number of rows" checked={isTotal("count(line)")} on:check={({ detail }) => { if (detail !== isTotal("count(line)")) total("rows", "count(line)"); }} />
  {#each numbers as { name }}
    <Checkbox labelText={`Sum of ${name}`} checked={isTotal(sumOf(name))} on:check={({ detail }) => { if (detail !== isTotal(sumOf(name))) total(name, sumOf(name)); }} />
  {/each}
</div>
<Formulas {draft} path={["totals"]} names={all.map(({ name }) => name)} what="total" example="sum(line.fee)" except={(formula) => usual.has(formula)} />

<style>
  .name { max-width: 24rem; margin-top: 0.75rem; }
  .ticks :global(.bx--checkbox-wrapper) { margin: 0; }
  .ticks { display: grid; grid-template-columns: repeat(auto-fill, minmax(12rem, 1fr)); gap: 0 1rem; max-height: 16rem; overflow: auto; }
</style>
