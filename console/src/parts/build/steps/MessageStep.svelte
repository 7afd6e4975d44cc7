<script lang="ts">
import { Button, Checkbox, Select, SelectItem } from "carbon-components-svelte";
import type { Report } from "../../../lib/client";
import { tableMark } from "../../../lib/message";
import type { Known } from "../../../lib/report/choices";
import type { Draft } from "../../../lib/report/draft.svelte";
import { type Schema, schemaAt } from "../../../lib/report/schema";
import Section from "../../form/Section.svelte";
import MessageEditor from "../../report/MessageEditor.svelte";
import TextWithChips from "../TextWithChips.svelte";

/** The message each group gets: its subject, its words, and which files go with it. */
let { draft, known, schema, saved }: { draft: Draft; known: Known; schema: Schema; saved: Report | undefined } =
  $props();

type Body = { template?: string; html?: string; markdown?: string; text?: string };
const message = $derived(draft.get(["message"]) as { subject?: string; body?: Body; attach?: unknown[] } | undefined);
const own = $derived(schemaAt(schema, ["message"]) ?? {});
const files = $derived(Object.entries((draft.get(["files"]) ?? {}) as Record<string, { pdf?: string }>));
/** Files as a message names them: as they are kept, and their PDF where that is made too. */
const attachable = $derived(files.flatMap(([name, { pdf }]) => (pdf === "too" ? [name, `${name}.pdf`] : [name])));
const attached = $derived(message?.attach ?? []);
const way = $derived((Object.keys(message?.body ?? {})[0] ?? "markdown") as keyof Body);
const bodies = $derived(known.templates.filter((one) => /\.(?:html|md|txt)$/.test(one)));
const columns = $derived(draft.look?.columns ?? []);
const table = $derived(columns.length === 0 ? "" : tableMark(columns));

function begin(): void {
  const hello = "Dear {{ recipient.name }},\n\nhere are the rows of {{ group.key }}.\n\n";
  draft.set(["message"], {
    subject: `${String(draft.get(["title"]) ?? "Report")}: {{ group.key }}`,
    body: { markdown: `${hello}${files.length === 0 ? `${table}\n\n` : ""}Kind regards\n` },
    ...(files.length > 0 ? { attach: files.map(([name]) => name) } : {}),
  });
}

function attach(name: string, isOn: boolean): void {
  const next = isOn ? [...attached, name] : attached.filter((one) => one !== name);
  draft.set(["message", "attach"], next.length === 0 ? undefined : next);
}
</script>

{#if !message}
  <p class="soft">The report makes files and sends nothing. With a message, each group's people get theirs.</p>
  <Button size="small" on:click={begin}>Write a message</Button>
{:else}
  <TextWithChips {draft} path={["message", "subject"]} label="Subject" />
  <div class="pair">
    <Select size="sm" labelText="The words are" selected={way} on:update={({ detail }) => { if (detail !== way) draft.set(["message", "body"], detail === "template" ? { template: bodies[0] ?? "" } : { [String(detail)]: String(Object.values(message?.body ?? {})[0] ?? "") }); }}>
      <SelectItem value="markdown" text="formatted by signs (# heading, **bold**, - list)" /><SelectItem value="text" text="plain text" /><SelectItem value="html" text="HTML" />
      {#if bodies.length > 0 || way === "template"}<SelectItem value="template" text="those of a template" />{/if}
    </Select>
    {#if way === "template"}
      <Select size="sm" labelText="Template" selected={message.body?.template ?? ""} on:update={({ detail }) => { if (detail !== message?.body?.template) draft.set(["message", "body", "template"], String(detail)); }}>
        {#each [...new Set([message.body?.template ?? "", ...bodies])] as one}<SelectItem value={one} text={one} />{/each}
      </Select>
    {/if}
  </div>
  {#if way !== "template"}
    <TextWithChips {draft} path={["message", "body", way]} label="Words" rows={14} />
    <Button size="small" kind="ghost" disabled={table === ""} on:click={() => draft.set(["message", "body", way], `${String(message?.body?.[way] ?? "")}\n\n${table}\n`)}>Put a table of the rows at the end</Button>
  {/if}
  {#if saved}{#key saved.name}<MessageEditor report={saved.name} />{/key}
  {:else if way === "template"}<p class="soft">The words stand in {message.body?.template ?? "a template"}. Save the report, then write them here.</p>{/if}
  {#if attachable.length > 0}
    <h2>Files that go with it</h2>
    <div role="group" aria-label="Attached files">
      {#each attachable as name}<Checkbox labelText={name} checked={attached.includes(name)} on:check={({ detail }) => { if (detail !== attached.includes(name)) attach(name, detail); }} />{/each}
    </div>
  {/if}
  <h2>More</h2>
  <Section {draft} {known} schema={own} path={["message"]} only={["text", "languages", "each"]} />
  <details>
    <summary>Other attachments: the same file for all, or files found by their name</summary>
    <Section {draft} {known} schema={own} path={["message"]} only={["attach"]} />
  </details>
  <Button size="small" kind="danger-ghost" on:click={() => draft.set(["message"], undefined)}>Send no message</Button>
{/if}

<style>
  details { margin: 0.5rem 0; font-size: 0.875rem; }
  .pair { display: grid; grid-template-columns: 1fr 1fr; gap: 1rem; margin: 0.75rem 0; }
</style>
