<script lang="ts">
import { Button, Checkbox, TextInput } from "carbon-components-svelte";
import type { Report } from "../../../lib/client";
import { kindOfTemplate } from "../../../lib/format";
import { isPicture, tableMark } from "../../../lib/message";
import type { Known } from "../../../lib/report/choices";
import type { Path } from "../../../lib/report/definition";
import type { Draft } from "../../../lib/report/draft.svelte";
import { formWords } from "../../../lib/report/list-forms";
import { type Schema, schemaAt } from "../../../lib/report/schema";
import TabRow from "../../common/TabRow.svelte";
import Section from "../../form/Section.svelte";
import MessageEditor from "../../report/MessageEditor.svelte";
import FixedFiles from "../FixedFiles.svelte";
import MessageWords from "../MessageWords.svelte";

/** The message each group gets: its subject and words in each language, and which files go with it. */
let {
  draft,
  known,
  schema,
  saved,
  ontemplate,
}: {
  draft: Draft;
  known: Known;
  schema: Schema;
  saved: Report | undefined;
  /** A file was put among the templates. */
  ontemplate: () => Promise<void>;
} = $props();

interface Words {
  subject?: string;
  body?: Record<string, string>;
}
const message = $derived(
  draft.get(["message"]) as (Words & { languages?: Record<string, Words>; attach?: unknown[] }) | undefined,
);
const own = $derived(schemaAt(schema, ["message"]) ?? {});
const files = $derived(
  Object.entries(
    (draft.get(["files"]) ?? {}) as Record<
      string,
      { pdf?: string; template?: string; slides?: object; list?: { form?: string } }
    >,
  ),
);
/** Files as a message names them: as they are kept, and their PDF where that is made too. */
const attachable = $derived(
  files.flatMap(([name, { pdf, template, slides, list }]) => {
    const kind = list
      ? formWords(list.form)
      : pdf === "only"
        ? "PDF"
        : kindOfTemplate(template ?? (slides ? ".pptx" : ""));
    const own = { name, label: `${name} (${kind})` };
    return pdf === "too" ? [own, { name: `${name}.pdf`, label: `${name} (PDF)` }] : [own];
  }),
);
const attached = $derived(message?.attach ?? []);
const table = $derived(tableMark(draft.look?.columns ?? []));
const languages = $derived(Object.keys(message?.languages ?? {}));
let language = $state("");
let added = $state("");
const shown = $derived(languages.includes(language) ? language : "");
const path = $derived<Path>(shown === "" ? ["message"] : ["message", "languages", shown]);
/** Words that stand in a template are written there, for all reports that use it. */
const isOfTemplate = $derived([message, ...Object.values(message?.languages ?? {})].some((one) => one?.body?.template));

function begin(): void {
  const hello = "Dear {{ recipient.name }},\n\nhere are the rows of {{ group.key }}.\n\n";
  draft.set(["message"], {
    subject: `${String(draft.get(["title"]) ?? "Report")}: {{ group.key }}`,
    body: { markdown: `${hello}${files.length === 0 && table !== "" ? `${table}\n\n` : ""}Kind regards\n` },
    ...(files.length > 0 ? { attach: files.map(([name]) => name) } : {}),
  });
}

function attach(name: string, isOn: boolean): void {
  const next = isOn ? [...attached, name] : attached.filter((one) => one !== name);
  draft.set(["message", "attach"], next.length === 0 ? undefined : next);
}

/** Another language begins with the words there are. */
function addLanguage(): void {
  const tag = added.trim();
  if (!/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/.test(tag) || languages.includes(tag)) return;
  draft.set(["message", "languages", tag], { subject: message?.subject ?? "", body: { ...message?.body } });
  language = tag;
  added = "";
}
</script>

{#if !message}
  <p class="soft">The report makes files and sends nothing. With a message, each group's people get theirs.</p>
  <Button size="small" on:click={begin}>Write a message</Button>
{:else}
  <div class="languages">
    <TabRow label="Languages" tabs={["", ...languages].map((key) => ({ key, title: key !== "" ? key : languages.length === 0 ? "The message" : "For everybody else" }))} chosen={shown} onchoose={(key) => { language = key; }} />
    {#if shown !== ""}<Button size="small" kind="ghost" on:click={() => draft.set(["message", "languages", shown], undefined)}>Take {shown} out</Button>{/if}
    <form onsubmit={(event) => { event.preventDefault(); addLanguage(); }}><TextInput size="sm" hideLabel labelText="Another language" placeholder="another language: de" bind:value={added} /></form>
  </div>
  {#key shown}<MessageWords {draft} {known} schema={own} {path} />{/key}
  {#if isOfTemplate && saved}{#key saved.name}<MessageEditor report={saved.name} pictures={known.templates.filter(isPicture)} />{/key}
  {:else if isOfTemplate}<p class="soft">Words of a template are written once the report is saved.</p>{/if}
  <h2>Files that go with it</h2>
  {#if attachable.length > 0}
    <div role="group" aria-label="Attached files">
      {#each attachable as { name, label } (name)}<Checkbox labelText={label} checked={attached.includes(name)} on:check={({ detail }) => { if (detail !== attached.includes(name)) attach(name, detail); }} />{/each}
    </div>
  {/if}
  <FixedFiles {draft} onuploaded={ontemplate} />
  <h2>More</h2>
  <Section {draft} {known} schema={own} path={["message"]} only={["each"]} />
  <details>
    <summary>Files found by their name, and others</summary>
    <Section {draft} {known} schema={own} path={["message"]} only={["attach"]} />
  </details>
  <Button size="small" kind="danger-ghost" on:click={() => draft.set(["message"], undefined)}>Send no message</Button>
{/if}

<style>
  details { margin: 0.5rem 0; font-size: 0.875rem; }
  .languages { display: flex; flex-wrap: wrap; gap: 0.25rem; align-items: center; margin-bottom: 0.75rem; border-bottom: 1px solid var(--cds-ui-03); }
  .languages > :global([role="tablist"]) { border-bottom: 0; }
  .languages form { flex: 0 1 12rem; margin-left: auto; }
</style>
