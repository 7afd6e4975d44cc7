<script lang="ts">
import { Button, FileUploaderButton, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { TrashCan } from "carbon-icons-svelte";
import { untrack } from "svelte";
import { allOf, api, type Problem, type TemplatePlace } from "../../../lib/client";
import { word } from "../../../lib/format";
import type { Known } from "../../../lib/report/choices";
import { writeName } from "../../../lib/report/conditions";
import type { Draft } from "../../../lib/report/draft.svelte";
import { formWords } from "../../../lib/report/list-forms";
import { freeName } from "../../../lib/report/new-report";
import type { Schema } from "../../../lib/report/schema";
import { schemaAt } from "../../../lib/report/schema";
import Trouble from "../../common/Trouble.svelte";
import Section from "../../form/Section.svelte";
import ListOfRows from "../ListOfRows.svelte";
import MarksOfFile from "../MarksOfFile.svelte";
import TableOfRows from "../TableOfRows.svelte";
import TextWithChips from "../TextWithChips.svelte";

/** The files of a report: each a template that is filled, a table of the rows, or slides made of them. */
let {
  draft,
  known,
  schema,
  ontemplate,
}: { draft: Draft; known: Known; schema: Schema; ontemplate: () => Promise<void> } = $props();

const files = $derived(
  Object.entries(
    (draft.get(["files"]) ?? {}) as Record<
      string,
      { template?: string; table?: object; slides?: object; list?: { form?: string }; pdf?: string; name?: string }
    >,
  ),
);
const fileSchema = $derived(schemaAt(schema, ["files", "file"]) ?? {});
const slidesSchema = $derived(schemaAt(schema, ["files", "file", "slides"]) ?? {});
const listSchema = $derived(schemaAt(schema, ["files", "file", "list"]) ?? {});
const tableSchema = $derived(schemaAt(schema, ["files", "file", "table"]) ?? {});
let uploaded = $state<File[]>([]);
let there = $state("");

function takeThere(template: string): void {
  draft.set(["files", nameFor(template)], { template, name: usualName });
  there = "";
}
let problem = $state<Problem>();
/** What can be named in each template that a file is made from. */
let places = $state<Readonly<Record<string, readonly TemplatePlace[]>>>({});
$effect(() => {
  for (const [, { template }] of files) {
    if (template === undefined || !known.templates.includes(template) || untrack(() => template in places)) continue;
    places = { ...untrack(() => places), [template]: [] };
    allOf(api.all("/templates/{file}/places", { path: { file: template }, query: { limit: 1_000 } })).then(
      (found) => {
        places = { ...places, [template]: found };
      },
      (error: Problem) => {
        problem = error;
      },
    );
  }
});

/** What a new file is called in the report, by the words of its template. */
function nameFor(words: string): string {
  return freeName(
    words.replace(/\.[^.]+$/, ""),
    files.map(([name]) => name),
    "file",
  );
}

const usualName = $derived(
  draft.get(["period"]) === undefined ? "{{ group.key }}" : "{{ group.key }} – {{ period.label }}",
);

function addTable(): void {
  draft.set(["files", nameFor("rows")], { table: { title: "{{ group.key }}" }, name: usualName });
}

function addList(): void {
  draft.set(["files", nameFor("list")], { list: { form: "delimited" }, name: usualName });
}

/** A cover, and the rows: what each deck begins with. */
function addSlides(): void {
  const columns = known.columns.slice(0, 8).map(writeName);
  const rows = columns.length === 0 ? {} : { table: columns.join(", ") };
  const list = [
    { title: "{{ group.key }}", cover: true, text: word("{{ count(line) }} rows") },
    { title: "{{ group.key }}", ...rows },
  ];
  draft.set(["files", nameFor("slides")], { slides: { list }, name: usualName });
}

$effect(() => {
  const [file] = uploaded;
  if (file) void addTemplate(file);
});

async function addTemplate(file: File): Promise<void> {
  uploaded = [];
  problem = undefined;
  try {
    await api.put("/templates/{file}", { path: { file: file.name }, body: file });
    await ontemplate();
    draft.set(["files", nameFor(file.name)], { template: file.name, name: usualName });
  } catch (error) {
    problem = error as Problem;
  }
}
</script>

<Trouble {problem} />
{#if files.length === 0}<p class="soft">A report can send a message alone. With files, each group gets its own: a table of its rows to sort and filter, slides, a plain list such as delimited text or calendar entries, or a template of yours filled with them.</p>{/if}
{#each files as [name, file] (name)}
  <section class="panel" aria-label={`File ${name}`}>
    <div class="split">
      <h2>{file.template ?? (file.slides ? word("Slides") : file.list ? formWords(file.list.form) : word("A table of the rows"))}</h2>
      <Button size="small" kind="ghost" icon={TrashCan} iconDescription={`Take out the file ${name}`} on:click={() => draft.set(["files", name], undefined)} />
    </div>
    <TextWithChips {draft} path={["files", name, "name"]} label="Name of the file" />
    <div class="pair">
      {#if !file.list || file.pdf}<Select size="sm" labelText="PDF" selected={file.pdf ?? "no"} on:update={({ detail }) => { if (detail !== (file.pdf ?? "no")) draft.set(["files", name, "pdf"], detail === "no" ? undefined : String(detail)); }}>
        <SelectItem value="no" text="no PDF" /><SelectItem value="too" text="a PDF as well" /><SelectItem value="only" text="the PDF only" />
      </Select>{/if}
      <TextInput size="sm" labelText="Called in the report" value={name} on:change={(event) => { const to = String((event as CustomEvent).detail ?? "").trim(); if (to !== "" && to !== name) draft.rename(["files", name], to); }} />
    </div>
    {#if file.template}<MarksOfFile {draft} file={name} template={file.template} />{:else if file.slides}
      <Section {draft} {known} schema={slidesSchema} path={["files", name, "slides"]} />
    {:else if file.list}
      <ListOfRows {draft} {known} schema={listSchema} path={["files", name, "list"]} />
    {:else}
      <TableOfRows {draft} path={["files", name, "table"]} all={known.columns} />
      <Section {draft} {known} schema={tableSchema} path={["files", name, "table"]} only={["lines", "sheet", "style", "bands", "totalColour", "lineTotal"]} />
    {/if}
    <details><summary>More about this file</summary>
      <Section {draft} known={{ ...known, places: places[file.template ?? ""] ?? [] }} schema={fileSchema} path={["files", name]} only={Object.keys(fileSchema.properties ?? {}).filter((key) => !["name", "pdf", "table", "slides", "list"].includes(key))} />
    </details>
  </section>
{/each}
<div class="row">
  <Button size="small" kind="tertiary" on:click={addTable}>Add a table of the rows</Button>
  <Button size="small" kind="tertiary" on:click={addSlides}>Add slides</Button>
  <Button size="small" kind="tertiary" on:click={addList}>Add a plain list</Button>
  <FileUploaderButton size="small" kind="tertiary" labelText="Add a template" accept={[".xlsx", ".xlsm", ".docx", ".pptx"]} bind:files={uploaded} disableLabelChanges />
  {#if known.templates.some((one) => /\.(?:xls[xm]|docx|pptx)$/.test(one))}
    <Select size="sm" labelText="One that is there" hideLabel bind:selected={there} on:update={({ detail }) => { if (detail !== "") takeThere(String(detail)); }}>
      <SelectItem value="" text="or one that is there …" />
      {#each known.templates.filter((one) => /\.(?:xls[xm]|docx|pptx)$/.test(one)) as one (one)}<SelectItem value={one} text={one} />{/each}
    </Select>
  {/if}
</div>
<h2>For all files</h2>
<Section {draft} {known} {schema} only={["locale", "sealed"]} />

<style>
  section { display: grid; grid-template-columns: minmax(0, 1fr); gap: 0.6rem; margin-bottom: 0.75rem; }
  h2 { margin: 0; }
  .pair { display: grid; grid-template-columns: 1fr 1fr; gap: 1rem; }
  .row :global(.bx--form-item) { flex: 0 1 auto; }
</style>
