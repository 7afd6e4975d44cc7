<script lang="ts">
import {
  Button,
  RadioButton,
  RadioButtonGroup,
  Select,
  SelectItem,
  TextArea,
  TextInput,
} from "carbon-components-svelte";
import { onMount } from "svelte";
import { allOf, api, type Dataset, once, Problem, type ReportSummary } from "../lib/client";
import { Definition } from "../lib/report/definition";
import { keepDraft } from "../lib/report/kept-drafts";
import { freeName, newReport } from "../lib/report/new-report";
import { go, link } from "../lib/router.svelte";
import Trouble from "../parts/common/Trouble.svelte";
import LoadFile from "../parts/data/LoadFile.svelte";

/** A new report: from a dataset, from a file that is dropped, or from a copy of another. */
let datasets = $state<Dataset[]>([]);
let reports = $state<ReportSummary[]>([]);
let way = $state("data");
let data = $state("");
let copied = $state("");
let title = $state("");
let text = $state("");
let dropped = $state<File>();
let isOver = $state(false);
let problem = $state<Problem>();

onMount(async () => {
  try {
    [datasets, reports] = await Promise.all([allOf(api.all("/datasets")), allOf(api.all("/reports"))]);
    data = datasets[0]?.name ?? "";
    copied = reports[0]?.name ?? "";
    if (datasets.length === 0) way = "file";
  } catch (error) {
    problem = error as Problem;
  }
});

async function begin(dataset: string): Promise<void> {
  problem = undefined;
  try {
    const { newest } = await api.get("/datasets/{name}", { path: { name: dataset } });
    if (!newest) return;
    const columns = newest.columns;
    const figures = await api.post("/datasets/{name}/editions/{number}/profile", {
      path: { name: dataset, number: newest.number },
      body: { columns: columns.map((one) => one.name) },
    });
    const people = await api.get("/recipients", { query: { limit: 1_000 } });
    const called = title.trim() || `Report of ${dataset}`;
    const name = freeName(
      called,
      reports.map((one) => one.name),
    );
    keepDraft(name, {
      text: newReport(
        name,
        called,
        dataset,
        columns,
        figures.columns,
        people.items.map(({ group }) => group),
      ),
      version: 0,
    });
    go("reports", name, "rows");
  } catch (error) {
    problem = error as Problem;
  }
}

async function copy(): Promise<void> {
  problem = undefined;
  try {
    const called = title.trim() || `Copy of ${reports.find((one) => one.name === copied)?.title ?? copied}`;
    const to = freeName(
      called,
      reports.map((one) => one.name),
    );
    const made = await api.post("/library/{kind}/{name}/copy", {
      path: { kind: "reports", name: copied },
      body: { to, title: called },
      ...once(),
    });
    go("reports", made.name, "data");
  } catch (error) {
    problem = error as Problem;
  }
}

/** A definition from elsewhere: what it is called here is its own name, or one that is free. */
function fromText(): void {
  const definition = new Definition(text);
  if (definition.problem) {
    const { what, line, column } = definition.problem;
    problem = new Problem(`The text cannot be read: ${what}`, 0, "BAD_DEFINITION", {
      where: `line ${line}, column ${column}`,
    });
    return;
  }
  const own = definition.get(["report"]);
  const called = title.trim() || String(definition.get(["title"]) ?? own ?? "Report");
  const taken = reports.map((one) => one.name);
  const name = typeof own === "string" && own !== "" && !taken.includes(own) ? own : freeName(called, taken);
  keepDraft(name, { text: definition.with(["report"], name).with(["title"], called).text, version: 0 });
  go("reports", name, "check");
}

function drop(event: DragEvent): void {
  event.preventDefault();
  isOver = false;
  dropped = event.dataTransfer?.files[0] ?? undefined;
}
</script>

<h1><a href={link("reports")}>Reports</a> / New report</h1>
<Trouble {problem} />
<div class="fields">
  <TextInput size="sm" labelText="Title" placeholder="Monthly statement" bind:value={title} />
  <RadioButtonGroup legendText="It is made from" bind:selected={way}>
    <RadioButton labelText="a file" value="file" /><RadioButton labelText="a dataset that is there" value="data" disabled={datasets.length === 0} /><RadioButton labelText="a copy of another report" value="copy" disabled={reports.length === 0} /><RadioButton labelText="a text" value="text" />
  </RadioButtonGroup>
  {#if way === "data"}
    <Select size="sm" labelText="Dataset" bind:selected={data}>{#each datasets as one (one.name)}<SelectItem value={one.name} text={one.name} />{/each}</Select>
    <Button size="field" disabled={data === ""} on:click={() => begin(data)}>Make the report</Button>
  {:else if way === "copy"}
    <Select size="sm" labelText="Report" bind:selected={copied}>{#each reports as one (one.name)}<SelectItem value={one.name} text={one.title} />{/each}</Select>
    <p class="soft">The copy has its own message, and starts nothing by itself until you say when.</p>
    <Button size="field" disabled={copied === ""} on:click={copy}>Make the copy</Button>
  {:else if way === "text"}
    <TextArea labelText="Its definition, YAML or JSON" placeholder="report: monthly-statement" rows={10} bind:value={text} />
    <Button size="field" disabled={text.trim() === ""} on:click={fromText}>Make the report</Button>
  {/if}
</div>
{#if way === "file"}
  <div class="drop" class:over={isOver} role="region" aria-label="Drop a file" ondragover={(event) => { event.preventDefault(); isOver = true; }} ondragleave={() => { isOver = false; }} ondrop={drop}>
    <p class="soft">Drop the master table here, or choose it below. It is shown first; nothing is kept until you load it.</p>
    <LoadFile dataset={undefined} {dropped} onloaded={(edition) => void begin(edition.dataset)} oncancel={() => go("reports")} />
  </div>
{/if}

<style>
  .fields { display: grid; gap: 1rem; max-width: 32rem; margin: 0.75rem 0 1.25rem; justify-items: start; }
  .fields > :global(*) { width: 100%; }
  .fields :global(.bx--btn) { width: auto; }
  .drop { border: 1px dashed var(--cds-ui-03); padding: 0.75rem; }
  .over { border-color: #d0782f; background: var(--cds-highlight); }
</style>
