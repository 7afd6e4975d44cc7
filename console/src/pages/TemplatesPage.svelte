<script lang="ts">
import { DataTable, FileUploaderButton, Link } from "carbon-components-svelte";
import { allOf, api, at, type Font, type Problem, type Template, type TemplateUsed } from "../lib/client";
import { bytes, time } from "../lib/format";
import type { Deed } from "../lib/keep";
import { whenever } from "../lib/live";
import { may } from "../lib/rights.svelte";
import { go, link } from "../lib/router.svelte";
import Empty from "../parts/common/Empty.svelte";
import Trouble from "../parts/common/Trouble.svelte";
import Archived from "../parts/keep/Archived.svelte";
import ArchivedNote from "../parts/keep/ArchivedNote.svelte";
import KeepMenu from "../parts/keep/KeepMenu.svelte";
import TryOut from "../parts/report/TryOut.svelte";

let { name }: { name: string | undefined } = $props();
let templates = $state<Template[]>();
let one = $state<TemplateUsed>();
let files = $state<File[]>([]);
let problem = $state<Problem>();
let fonts = $state<Font[]>([]);
let fontFiles = $state<File[]>([]);

$effect(() => {
  const wanted = name;
  return whenever(
    (event) => event.kind === "template",
    async () => {
      if (wanted) {
        one = await api.get("/templates/{file}", { path: { file: wanted } });
        if (one.name !== wanted) go("templates", one.name);
      } else {
        templates = await allOf(api.all("/templates", { query: { limit: 1_000 } }));
        fonts = await allOf(api.all("/fonts"));
      }
    },
    "page",
  );
});
$effect(() => {
  const [file] = files;
  if (file) add(file);
});

$effect(() => {
  const [file] = fontFiles;
  if (file) add(file, "fonts");
});

async function add(file: File, kind: "templates" | "fonts" = "templates"): Promise<void> {
  files = [];
  fontFiles = [];
  problem = undefined;
  try {
    const call = { path: { file: file.name }, body: file };
    await (kind === "fonts" ? api.put("/fonts/{file}", call) : api.put("/templates/{file}", call));
  } catch (error) {
    problem = error as Problem;
  }
}

function left(_: Deed, called: string | undefined): void {
  if (called === undefined) go("templates");
  else go("templates", called);
}

const rows = $derived(
  (templates ?? []).map((template) => ({
    id: template.name,
    name: template.name,
    number: template.number,
    size: bytes(template.size),
    added: time(template.createdAt),
    by: template.createdBy,
    more: "",
  })),
);
</script>

<div class="split">
  <h1>{#if name}<a href={link("templates")}>Templates</a> / {name}{:else}Templates{/if}</h1>
  <div class="row">{#if name && one}<KeepMenu kind="templates" {name} ondone={left} />{/if}{#if may("saveTemplate")}<FileUploaderButton size="field" kind="primary" labelText="Add a file" disableLabelChanges accept={[".xlsx", ".xlsm", ".docx", ".pptx", ".html", ".md", ".txt", ".png", ".jpg", ".jpeg", ".pdf", ".csv", ".ics", ".zip"]} bind:files />{/if}</div>
</div>
<Trouble {problem} />
{#if name && one}
  <ArchivedNote kind="templates" {name} />
  <p class="soft">Version {one.number}, {bytes(one.size)}, added {time(one.createdAt)} by {one.createdBy}. <Link href={at(`/templates/${encodeURIComponent(one.name)}/content`)}>Save the file</Link></p>
  {#if one.name.endsWith(".html")}
    <p class="soft">The body of a mail; see it filled in a run. Its marks:</p>
    <ul class="panel marks">{#each one.marks ?? [] as mark}<li><code>{`{{ ${mark} }}`}</code></li>{/each}</ul>
  {:else if /\.(png|jpe?g)$/.test(one.name)}
    <p class="soft">A picture; it takes the place of a document's picture whose alternative text is a mark that gives <code>{one.name}</code>.</p>
    <img class="panel picture" src={at(`/templates/${encodeURIComponent(one.name)}/content`)} alt={one.name} />
  {:else}
    {#key one.name}<TryOut template={one} />{/key}
  {/if}
{:else if !name && templates}
  {#if rows.length === 0}
    <Empty title="No templates yet">Add a workbook, a document or a slide deck with marks such as <code>{"{{ site }}"}</code>, or the HTML body of a mail.</Empty>
  {:else}
    <DataTable size="short" headers={[{ key: "name", value: "Template" }, { key: "number", value: "Version" }, { key: "size", value: "Size" }, { key: "added", value: "Added" }, { key: "by", value: "By" }, { key: "more", empty: true }]} {rows}>
      <div class="contents" slot="cell" let:row let:cell>{#if cell.key === "more"}<KeepMenu kind="templates" name={row.id} />{:else if cell.key === "name"}<Link href={link("templates", row.id)}>{cell.value}</Link>{:else}{cell.value}{/if}</div>
    </DataTable>
  {/if}
  <Archived kind="templates" />
  <div class="split fonts">
    <h2>Fonts</h2>
    {#if may("addFont")}<FileUploaderButton size="small" kind="tertiary" labelText="Add a font" disableLabelChanges accept={[".ttf", ".woff"]} bind:files={fontFiles} />{/if}
  </div>
  <p class="soft">What PDFs are set in. Calibri, Cambria, Arial, Times New Roman and Courier New have stand-ins of the same widths here; for others bring the font.</p>
  <p>{#each fonts as font, at}{at > 0 ? ", " : ""}{font.family}{#if font.own}&nbsp;<span class="soft">(brought)</span>{/if}{/each}</p>
{/if}

<style>
  .marks { display: grid; gap: 0.35rem; overflow-wrap: anywhere; }
  .fonts { margin-top: 2rem; }
  .picture { max-width: 24rem; }
</style>
