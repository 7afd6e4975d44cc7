<script lang="ts">
import { Button, Checkbox, FileUploaderButton, InlineLoading, PasswordInput, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { api, type DatasetSettings, type Edition, type IntakeRules, type Preview, type Problem } from "../../lib/client";
import { cell, count, plural } from "../../lib/format";
import Corrections from "./Corrections.svelte";
import Decisions from "../run/Decisions.svelte";
import DifferenceView from "./DifferenceView.svelte";
import Findings from "../common/Findings.svelte";
import Trouble from "../common/Trouble.svelte";

/** Loading a file: it is put into the store, shown as it would be read, corrected if need be, and only then loaded. */
let {
  dataset,
  dropped,
  onloaded,
  oncancel,
}: {
  dataset: string | undefined;
  dropped: File | undefined;
  onloaded: (edition: Edition) => void;
  oncancel: () => void;
} = $props();

let target = $state("");
let file = $state<File>();
let files = $state<File[]>([]);
let stored = $state<string>();
let preview = $state<Preview>();
let rules = $state<IntakeRules>({});
let password = $state("");
let mode = $state<"replace" | "append">("replace");
let key = $state("");
let keep = $state(true);
let problem = $state<Problem>();
let busy = $state("");
let settings = $state<DatasetSettings>();

$effect(() => {
  target = dataset ?? "";
  if (!dataset) return;
  api.get("/datasets/{name}/settings", { path: { name: dataset } }).then(
    (found) => {
      settings = found;
      rules = found.rules;
      mode = found.mode;
      key = found.key.join(", ");
    },
    () => {},
  );
});
$effect(() => {
  if (dropped && dropped !== file) take(dropped);
});
$effect(() => {
  if (files[0] && files[0] !== file) take(files[0]);
});

function take(chosen: File): void {
  file = chosen;
  stored = undefined;
  preview = undefined;
  if (target === "") target = nameFrom(chosen.name);
  void read();
}

/** `Visits 2026-10.xlsx` suggests `visits`. */
function nameFrom(name: string): string {
  const plain = name
    .replace(/\.[^.]+$/, "")
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .toLowerCase();
  return (
    plain
      .replace(/[^a-z]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 40) || "data"
  );
}

const request = (upload: string) => ({
  upload,
  file: file?.name ?? "",
  rules,
  mode,
  ...(key.trim() === "" ? {} : { key: key.split(",").map((one) => one.trim()) }),
  ...(password === "" ? {} : { password }),
});

async function read(): Promise<void> {
  if (!file || target === "") return;
  problem = undefined;
  busy = "Reading the file …";
  try {
    stored ??= (await api.post("/uploads", { query: { file: file.name }, body: file })).upload;
    preview = await api.post("/datasets/{name}/preview", { path: { name: target }, body: request(stored) });
  } catch (error) {
    problem = error as Problem;
    preview = undefined;
  } finally {
    busy = "";
  }
}

async function load(): Promise<void> {
  if (!stored) return;
  problem = undefined;
  busy = "Loading …";
  try {
    const body = { ...request(stored), keep };
    onloaded(await api.post("/datasets/{name}/editions/from-upload", { path: { name: target }, body }));
  } catch (error) {
    problem = error as Problem;
  } finally {
    busy = "";
  }
}

const needsPassword = $derived(problem?.code === "PASSWORD_NEEDED");
const hasCorrections = $derived(
  Object.keys(rules).length > 0 || password !== "" || mode !== (settings?.mode ?? "replace"),
);
const stops = $derived((preview?.findings ?? []).filter((one) => one.severity === "stop").length);
</script>

<section aria-label="Load a file">
  <div class="panel top">
    <div class="fields">
      <TextInput size="sm" labelText="Dataset" helperText="A new name makes a new dataset." bind:value={target} on:change={() => void read()} />
      <div class="pick"><FileUploaderButton size="small" kind="tertiary" labelText={file?.name ?? "Choose a file"} accept={[".xlsx", ".xlsm", ".ods", ".csv", ".tsv", ".txt", ".json", ".jsonl", ".ndjson"]} bind:files disableLabelChanges /></div>
      <Select size="sm" labelText="The file" bind:selected={mode} on:update={() => void read()}>
        <SelectItem value="replace" text="replaces what is shown" /><SelectItem value="append" text="adds to the edition before" />
      </Select>
      {#if mode === "append"}<TextInput size="sm" labelText="Key columns" placeholder="Visit no" helperText="They tell rows apart." bind:value={key} on:change={() => void read()} />{/if}
      {#if needsPassword || password !== ""}<PasswordInput showPasswordLabel="Show the password" hidePasswordLabel="Hide the password" size="sm" labelText="Password of the workbook" bind:value={password} on:change={() => void read()} />{/if}
    </div>
    <div class="row">
      <Button size="small" disabled={!preview || busy !== ""} on:click={load}>Load{preview ? ` ${plural(preview.rowCount, ["# row", "# rows"])}` : ""}</Button>
      <Button size="small" kind="ghost" on:click={oncancel}>Cancel</Button>
      {#if hasCorrections}<Checkbox labelText="Keep the corrections for later files" bind:checked={keep} />{/if}
      {#if busy}<InlineLoading description={busy} />{/if}
    </div>
  </div>
  <Trouble {problem} />
  {#if !file}
    <p class="soft">A workbook (.xlsx), spreadsheet (.ods), text (.csv, .tsv) or JSON file. It is shown first; nothing is kept until you load it.</p>
  {/if}
  {#if preview}
    {#if stops > 0}<p class="stop">{plural(stops, ["# finding", "# findings"])} would stop the runs of reports that use what is missing.</p>{/if}
    <div class="halves">
      <div>
        <h2>First rows</h2>
        <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
        <div class="rows" tabindex="0" role="region" aria-label="First rows of the file">
          <table>
            <thead><tr><th scope="col">Row</th>{#each preview.columns as column}<th scope="col">{column.name}<span class="type">{column.unit ? `${column.type} ${column.unit}` : column.type}</span></th>{/each}</tr></thead>
            <tbody>{#each preview.preview.rows.slice(0, 60) as line, at}<tr><td class="soft">{preview.preview.rowNumbers[at]}</td>{#each line as value, index}<td class:right={preview.columns[index].type === "number"}>{cell(value, preview.columns[index])}</td>{/each}</tr>{/each}</tbody>
          </table>
        </div>
        {#if preview.rowCount > 60}<p class="soft">and {count(preview.rowCount - 60)} more</p>{/if}
        {#if preview.difference}<h2>Beside the edition before</h2><DifferenceView difference={preview.difference} />{/if}
      </div>
      <div>
        <h2>Findings ({preview.findings.length})</h2>
        {#if preview.findings.length > 0}<Findings findings={preview.findings} />{:else}<p class="soft">Nothing wants a look.</p>{/if}
      </div>
    </div>
    <h2>How it was read</h2>
    <Decisions reading={preview} />
  {/if}
  {#if stored && (preview || problem)}
    <h2>{preview ? "Correct it" : "Say how it is to be read"}</h2>
    {#key stored}<Corrections {rules} columns={preview?.columns ?? []} busy={busy !== ""} action="Read it again so" onapply={(next) => { rules = next; void read(); }} />{/key}
  {/if}
</section>

<style>
  .top { display: grid; gap: 0.75rem; margin-bottom: 0.75rem; }
  .fields { display: grid; grid-template-columns: repeat(auto-fill, minmax(13rem, 1fr)); gap: 0.75rem 1rem; align-items: start; }
  .pick { padding-top: 1.4rem; }
  .halves { display: grid; grid-template-columns: minmax(0, 3fr) minmax(18rem, 2fr); gap: 1.5rem; }
  .rows { overflow: auto; max-height: 22rem; border: 1px solid var(--cds-ui-03); background: var(--cds-ui-02); }
  .rows table { border-collapse: collapse; font-size: 0.8125rem; font-variant-numeric: tabular-nums; }
  .rows th { position: sticky; top: 0; background: var(--cds-ui-01); text-align: left; padding: 0.25rem 0.6rem; white-space: nowrap; font-weight: 600; }
  .rows td { padding: 0.15rem 0.6rem; border-top: 1px solid var(--cds-ui-03); white-space: nowrap; max-width: 16rem; overflow: hidden; text-overflow: ellipsis; }
  .rows td.soft { font-size: inherit; text-align: right; }
  .type { display: block; font-weight: 400; font-size: 0.75rem; color: var(--corbix-soft); }
  .stop { color: var(--corbix-stop); font-weight: 600; margin: 0.5rem 0; }
</style>
