<script lang="ts">
import type { Answer } from "@corbix/api/client";
import { Button, Checkbox, FileUploaderDropContainer, Link, TextInput } from "carbon-components-svelte";
import { api, at, type Finding, Problem } from "../lib/client";
import { count, plural, word } from "../lib/format";
import CellList from "../parts/common/CellList.svelte";
import Findings from "../parts/common/Findings.svelte";
import TabRow from "../parts/common/TabRow.svelte";
import Trouble from "../parts/common/Trouble.svelte";

type Replaced = Answer<"post", "/tools/replace">;
type Differing = Answer<"post", "/tools/differ">;

const DIFFERENCES: Readonly<Record<string, string>> = {
  value: word("value"),
  format: word("format"),
  formula: word("formula"),
  text: word("text"),
  place: word("place"),
  picture: word("picture"),
  chart: word("chart"),
  notes: word("notes"),
  hidden: word("hidden or shown"),
  "only-in-the-first": "only in the first",
  "only-in-the-second": "only in the second",
};
type Job = "sheets" | "words" | "compare";
const tabs: readonly { readonly key: Job; readonly title: string }[] = [
  { key: "sheets", title: "Sheets to files" },
  { key: "words", title: "Replace words" },
  { key: "compare", title: "Compare two files" },
];
let job = $state<Job>("sheets");
let problem = $state<Problem>();
let busy = $state(false);
let apart = $state<{ id: string; sheets: string[]; findings: Finding[]; name: string }>();
let words = $state([{ from: "", to: "" }]);
let whole = $state(true);
let anyCase = $state(false);
let books = $state<File[]>([]);
let replaced = $state<(Replaced & { name: string })[]>([]);
let together = $state<{ id: string; files: number }>();
let pair = $state<File[]>([]);
let compared = $state<Differing & { names: string[] }>();

/** Runs a job on files that were chosen; what goes wrong is shown in one place. */
async function work(job: () => Promise<void>): Promise<void> {
  problem = undefined;
  busy = true;
  try {
    await job();
  } catch (error) {
    problem = error instanceof Problem ? error : new Problem(String(error), 0, "FAILED");
  } finally {
    busy = false;
  }
}

const takeApart = ([file]: readonly File[]): Promise<void> =>
  work(async () => {
    apart = undefined;
    if (!file) return;
    const made = await api.post("/tools/sheets", { query: { name: file.name }, body: file });
    apart = { ...made, name: file.name };
  });
const replace = (): Promise<void> =>
  work(async () => {
    [replaced, together] = [[], undefined];
    for (const file of books) {
      const pairs = JSON.stringify(words.filter((pair) => pair.from !== ""));
      const rule = { name: file.name, pairs, whole, anyCase };
      const one = await api.post("/tools/replace", { query: rule, body: file });
      replaced = [...replaced, { ...one, name: file.name }];
    }
    if (replaced.length > 1)
      together = await api.post("/tools/archive", { body: { ids: replaced.map(({ id }) => id) } });
  });
/** Two columns copied from a sheet fill as many rows. */
function paste(event: ClipboardEvent, at: number): void {
  const lines = (event.clipboardData?.getData("text") ?? "").split(/\r?\n/).filter((line) => line !== "");
  if (!lines.some((line) => line.includes("\t"))) return;
  event.preventDefault();
  const pairs = lines.map((line) => line.split("\t")).map(([from, to]) => ({ from: from ?? "", to: to ?? "" }));
  words = [...words.slice(0, at), ...pairs, ...words.slice(at + 1)];
}
const compare = (): Promise<void> =>
  work(async () => {
    compared = undefined;
    const [first, second] = pair;
    if (!first || !second) return;
    const { id } = await api.post("/tools/hold", { query: { name: first.name }, body: first });
    const found = await api.post("/tools/differ", { query: { name: second.name, with: id }, body: second });
    compared = { ...found, names: [first.name, second.name] };
  });
const changed = $derived(
  replaced.flatMap((one) => one.cells.map((cell) => [one.name, `${cell.sheet}!${cell.cell}`, cell.before, cell.after])),
);
const total = $derived(replaced.reduce((sum, one) => sum + one.total, 0));
function placeOf({ sheet, cell }: Differing["differences"][number]): string {
  if (areDecks) return cell === "" ? `Slide ${sheet}` : `Slide ${sheet}, ${cell}`;
  return cell === "" ? sheet : `${sheet}!${cell}`;
}
const differences = $derived(
  (compared?.differences ?? []).map((one) => [
    placeOf(one),
    DIFFERENCES[one.what.replaceAll(" ", "-")] ?? one.what,
    one.first,
    one.second,
  ]),
);
const accept = [".xlsx", ".xlsm"];
const acceptPair = [...accept, ".pptx"];
/** Decks are compared by slides and shapes. */
const areDecks = $derived(compared?.names.some((name) => name.endsWith(".pptx")) ?? false);
</script>

<h1>Tools</h1>
<p class="soft">Odd jobs on files you have at hand. They are not stored here, and your own stay as they are.</p>
<Trouble {problem} />
<TabRow label="Odd jobs" {tabs} chosen={job} onchoose={(key) => { job = key; }} />
<div role="tabpanel" aria-label={tabs.find(({ key }) => key === job)?.title}>
{#if job === "sheets"}
  <p>Each visible sheet becomes a workbook of its own, with its looks, and values instead of formulas.</p>
  <FileUploaderDropContainer labelText="Drop a workbook here, or choose one" {accept} on:change={({ detail }) => takeApart(detail)} />
  {#if apart}
    <p><strong>{plural(apart.sheets.length, ["# sheet", "# sheets"])}</strong> of {apart.name}. <Link href={at(`/made/${apart.id}/zip`)}>Save all as one archive</Link></p>
    <ul class="panel">{#each apart.sheets as sheet}<li>{sheet}</li>{/each}</ul>
    {#if apart.findings.length > 0}<Findings findings={apart.findings} />{/if}
  {/if}
{:else if job === "words"}
  <p>In all texts of all cells; formulas and what they give stay. Rich text keeps its looks. Two columns copied from a sheet can be pasted as a list.</p>
  {#each words as pair, at}
    <div class="fields" onpaste={(event) => paste(event, at)}>
      <TextInput size="sm" hideLabel={at > 0} labelText={at === 0 ? "Replace" : `Replace, word ${at + 1}`} bind:value={pair.from} />
      <TextInput size="sm" hideLabel={at > 0} labelText={at === 0 ? "By" : `By, word ${at + 1}`} bind:value={pair.to} />
    </div>
  {/each}
  <div class="options">
    <Button size="small" kind="ghost" on:click={() => { words = [...words, { from: "", to: "" }]; }}>Another word</Button>
    <Checkbox labelText="Only whole words" bind:checked={whole} />
    <Checkbox labelText="Capitals do not matter" bind:checked={anyCase} />
  </div>
  <FileUploaderDropContainer multiple labelText="Drop one or many workbooks here, or choose them" {accept} on:change={({ detail }) => { books = [...detail]; replaced = []; }} />
  {#if books.length > 0}<p class="soft">{books.map((file) => file.name).join(", ")}</p>{/if}
  <Button size="small" disabled={busy || words.every((pair) => pair.from === "") || books.length === 0} on:click={replace}>Replace in {plural(books.length, ["# workbook", "# workbooks"])}</Button>
  {#if replaced.length > 0}
    <p><strong>{plural(total, ["# cell", "# cells"])}</strong> changed in {replaced.filter((one) => one.total > 0).length} of {plural(replaced.length, ["# workbook", "# workbooks"])}.{#if together}{" "}<Link href={at(`/made/${together.id}/zip`)}>Save all {together.files} as one archive</Link>{/if}</p>
    <ul class="panel">{#each replaced as one}<li><Link href={at(`/made/${one.id}/xlsx`)}>Save {one.name}</Link> <span class="soft">{plural(one.total, ["# cell", "# cells"])}</span></li>{/each}</ul>
    <CellList label="Changed cells" headings={["File", "Cell", "Before", "After"]} rows={changed} />
  {/if}
{:else}
  <p>Workbooks cell by cell: values, formulas and number formats. Slide decks by slide and shape: texts, places, pictures, charts, notes.</p>
  <FileUploaderDropContainer multiple labelText="Drop the two workbooks or decks here, or choose them" accept={acceptPair} on:change={({ detail }) => { pair = [...pair, ...detail].slice(-2); compared = undefined; }} />
  {#if pair.length > 0}<p class="soft">{pair.map((file) => file.name).join(" and ")}{#if pair.length === 1}; one more is needed{/if}</p>{/if}
  <Button size="small" disabled={busy || pair.length < 2} on:click={compare}>Compare</Button>
  {#if compared && compared.total === 0}
    <p>{#if areDecks}No difference in {count(compared.cells)} shapes: texts, places, pictures, charts and notes are the same.{:else}No difference in {count(compared.cells)} cells: values, formulas and number formats are the same.{/if}</p>
  {:else if compared}
    <p><strong>{plural(compared.total, ["# difference", "# differences"])}</strong> {#if areDecks}in {count(compared.cells)} shapes.{:else}in {count(compared.cells)} cells.{/if}</p>
    <CellList label="Differences" headings={[areDecks ? word("Slide and shape") : word("Cell"), "What", ...compared.names]} rows={differences} />
  {/if}
{/if}
</div>

<style>
  .fields { display: grid; grid-template-columns: minmax(10rem, 1fr) minmax(10rem, 1fr); gap: 1rem; align-items: end; margin: 0.5rem 0; max-width: 40rem; }
  .options { display: flex; gap: 1rem; align-items: center; margin: 0.5rem 0; }
  .options :global(.bx--form-item) { flex: none; }
</style>
