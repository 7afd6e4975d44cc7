<script lang="ts">
import { Button, InlineNotification, Link, TextInput } from "carbon-components-svelte";
import { count, plural } from "../../../lib/format";
import { changesBetween } from "../../../lib/report/changes";
import { Definition } from "../../../lib/report/definition";
import type { Draft } from "../../../lib/report/draft.svelte";
import { STEPS, stepOf } from "../../../lib/report/steps";
import { differenceOf } from "../../../lib/report/text-difference";
import { link } from "../../../lib/router.svelte";
import Findings from "../../common/Findings.svelte";
import Changes from "../Changes.svelte";
import Versions from "../Versions.svelte";

/** What wants a look before the report is saved, what has changed, and saving it. */
let {
  draft,
  name,
  savedAs,
  isSaving,
  mayChange,
  mayStart,
  onsave,
  onrun,
  ondiscard,
}: {
  draft: Draft;
  name: string;
  /** The version that was saved last. */
  savedAs: number | undefined;
  isSaving: boolean;
  /** Whether who is signed in may save it, and run it. */
  mayChange: boolean;
  mayStart: boolean;
  onsave: (note: string) => void;
  onrun: (rehearsal: boolean) => void;
  /** Throws away what is not saved. */
  ondiscard: () => void;
} = $props();
let note = $state("");
const inWords = $derived(
  draft.saved === undefined ? [] : changesBetween(new Definition(draft.saved).value, draft.definition.value),
);
const changes = $derived(draft.saved === undefined ? [] : differenceOf(draft.saved, draft.text));
/** Groups without people are told once, with the way to add them. */
const findings = $derived((draft.look?.findings ?? []).filter(({ code }) => code !== "group-without-recipient"));
const without = $derived(draft.look?.groupsWithoutPeople ?? 0);
const isAsked = $derived(draft.get(["enquiry"]) !== undefined);
const titleOf = (where: string): string => STEPS.find(({ key }) => key === stepOf(where))?.title ?? "";
</script>

<TextInput size="sm" labelText="Title" helperText="What people call the report." value={String(draft.get(["title"]) ?? "")} on:input={(event) => { const text = String((event as CustomEvent).detail ?? ""); if (text !== "" && text !== draft.get(["title"])) draft.set(["title"], text); }} />

<h2>What stands in the way</h2>
{#if draft.problems.length === 0}<p class="soft">Nothing: every name in it was found in the data and the templates.</p>{/if}
<ul aria-label="What stands in the way">
  {#each draft.problems as problem}
    <li><strong>{problem.what}</strong> <span class="soft">{problem.where}{problem.advice ? `. ${problem.advice}` : ""}</span> <Link href={link("reports", name, problem.where === "text" ? "text" : stepOf(problem.where))}>{problem.where === "text" ? "Mend it in the text" : `Mend it under ${titleOf(problem.where)}`}</Link></li>
  {/each}
</ul>
{#if findings.length > 0 || without > 0}
  <h2>What wants a look</h2>
  {#if without > 0}<p class="without">Nobody receives for {plural(without, ["# group", "# groups"])} of {count(draft.look?.groupCount ?? 0)}: their files are made, but nothing is sent. <Link href={link("reports", name, "people")}>Add people</Link></p>{/if}
  <Findings {findings} />
{/if}

{#if draft.saved !== undefined && draft.isChanged}
  <h2>What has changed since version {savedAs}</h2>
  {#if inWords.length === 0}<p class="soft">Only how it is written.</p>{:else}<Changes changes={inWords} report={name} />{/if}
  <details><summary>The changed lines of its text</summary><pre aria-label="Changed lines">{#each changes as line}<span class={line.kind}>{line.kind === "gone" ? "- " : "+ "}{line.text}{"\n"}</span>{/each}</pre></details>
{/if}
{#if draft.isChanged && savedAs !== undefined}<div class="note"><TextInput size="sm" labelText="Why, in a few words" placeholder="fees are rounded now" bind:value={note} /></div>{/if}
<div class="row">
  {#if mayChange}<Button size="field" disabled={isSaving || draft.problems.length > 0 || !draft.isChanged} on:click={() => { onsave(note); note = ""; }}>{savedAs === undefined ? "Save the report" : `Save as version ${savedAs + 1}`}</Button>{/if}
  {#if draft.isChanged}<Button size="field" kind="danger-ghost" on:click={ondiscard}>{savedAs === undefined ? "Throw this report away" : `Back to version ${savedAs}`}</Button>{/if}
  {#if savedAs !== undefined && !draft.isChanged}
    {#if isAsked}<Button size="field" kind="tertiary" href={link("enquiries", name)}>Ask</Button>
    {:else if mayStart}
      <Button size="field" kind="tertiary" on:click={() => onrun(true)}>Rehearse to me</Button>
      <Button size="field" kind="tertiary" on:click={() => onrun(false)}>Run</Button>
    {/if}
  {/if}
</div>
{#if savedAs !== undefined && !draft.isChanged}<InlineNotification lowContrast kind="success" hideCloseButton title={`Version ${savedAs} is saved.`} subtitle={isAsked ? "Whoever may ask finds it under Enquiries." : "Rehearse it: everything is sent for real, but only to you."} />{/if}
{#if savedAs !== undefined}
  <h2>Its versions</h2>
  <Versions {draft} {name} newest={savedAs} />
{/if}

<style>
  li { padding: 0.3rem 0; border-top: 1px solid var(--cds-ui-03); font-size: 0.875rem; overflow-wrap: anywhere; }
  .without { color: var(--corbix-amber); font-size: 0.875rem; margin-bottom: 0.5rem; }
  strong { color: var(--corbix-stop); }
  .row { margin-top: 1rem; }
  .note { max-width: 28rem; margin-top: 1rem; }
  details { font-size: 0.875rem; margin-top: 0.4rem; }
  pre { max-height: 16rem; }
  .gone { color: var(--corbix-stop); }
  .added { color: var(--cds-link-01); }
</style>
