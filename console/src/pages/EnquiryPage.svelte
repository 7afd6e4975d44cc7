<script lang="ts">
import { Button, SkeletonText } from "carbon-components-svelte";
import { untrack } from "svelte";
import { type AskForm, asked, askForm } from "../lib/asking";
import { type AnswerRows, api, type Enquiry, Problem } from "../lib/client";
import { cell, count, plural, time } from "../lib/format";
import { may } from "../lib/rights.svelte";
import { go, link } from "../lib/router.svelte";
import { scrollable } from "../lib/scrollable";
import AskFields from "../parts/ask/AskFields.svelte";
import Trouble from "../parts/common/Trouble.svelte";

/** A report that is asked: the form, the rows that were found, and one of them whole. */
let { name, question }: { name: string; question: string | undefined } = $props();

const PAGE = 50;
let enquiry = $state<Enquiry>();
let form = $state<AskForm>({});
let answer = $state<AnswerRows>();
let row = $state<{ rowNumber: number; columns: AnswerRows["columns"]; cells: AnswerRows["rows"][number] }>();
let problem = $state<Problem>();
let wrong = $state<{ where: string; what: string }>();
let isAsking = $state(false);

async function guarded(work: () => Promise<void>): Promise<void> {
  problem = undefined;
  try {
    await work();
  } catch (error) {
    problem = error as Problem;
  }
}

$effect(() => {
  const wanted = question;
  untrack(() => {
    void guarded(async () => {
      enquiry ??= await api.get("/enquiries/{name}", { path: { name } });
      if (Object.keys(form).length === 0) form = askForm(enquiry.fields);
      // What was asked here just now is shown already.
      if (wanted === answer?.question.id) return;
      row = undefined;
      answer = undefined;
      if (wanted === undefined) return;
      answer = await api.get("/questions/{id}", { path: { id: wanted }, query: { limit: PAGE } });
      form = askForm(enquiry.fields, answer.question.values);
    });
  });
});

async function ask(event: SubmitEvent): Promise<void> {
  event.preventDefault();
  if (!enquiry) return;
  const values = asked(enquiry.fields, $state.snapshot(form) as AskForm);
  wrong = undefined;
  problem = undefined;
  isAsking = true;
  try {
    answer = await api.post("/enquiries/{name}/questions", { path: { name }, body: { values, limit: PAGE } });
    row = undefined;
    go("enquiries", name, answer.question.id);
  } catch (error) {
    const { where = "", message, advice } = error as Problem;
    if (error instanceof Problem && enquiry.fields.some((one) => one.name === where))
      wrong = { where, what: [message, advice].filter(Boolean).join(" ") };
    else problem = error as Problem;
  } finally {
    isAsking = false;
  }
}

const turn = (first: number) =>
  guarded(async () => {
    const id = answer?.question.id;
    if (id) answer = await api.get("/questions/{id}", { path: { id }, query: { first, limit: PAGE } });
  });
const show = (number: number) =>
  guarded(async () => {
    const id = answer?.question.id;
    if (id) row = await api.get("/questions/{id}/rows/{row}", { path: { id, row: number } });
  });

const found = $derived(answer?.question.found ?? 0);
const last = $derived(answer ? answer.first + answer.rows.length : 0);
const what = $derived(
  answer?.question.filled.map(({ label, value }) => `${label}: ${value}`).join("; ") || "everything",
);
const fileOf = (kinds: string, id: string, at?: number): string =>
  `/api/v1/questions/${id}/files/${kinds}${at === undefined ? "" : `?row=${at}`}`;
const formsOf = (of: "list" | "row") =>
  (enquiry?.forms ?? [])
    .filter((one) => one.of === of)
    .flatMap((one) => one.kinds.map((kind) => [one.name, kind] as const));
</script>

<div class="split">
  <h1><a href={link("enquiries")}>Enquiries</a> / {enquiry?.title ?? name}</h1>
  {#if may("saveReport", name)}<Button size="small" kind="ghost" href={link("reports", name, "ask")}>Change what is asked</Button>{/if}
</div>
<Trouble {problem} />
{#if enquiry}
  <p class="soft">From {plural(enquiry.edition.rowCount, ["# row", "# rows"])} of {enquiry.edition.origin}, loaded {time(enquiry.edition.createdAt)}. Fields that stay empty ask nothing.</p>
  <div class="page">
    <form class="panel" aria-label="What is asked" onsubmit={ask}>
      <AskFields fields={enquiry.fields} bind:form {wrong} />
      <div class="row">
        <Button size="field" type="submit" disabled={isAsking}>Ask</Button>
        <Button size="field" kind="ghost" on:click={() => { if (enquiry) form = askForm(enquiry.fields); }}>Empty the form</Button>
      </div>
    </form>
    <div class="answer" role="region" aria-label="Answer">
      {#if isAsking}<SkeletonText paragraph lines={6} />
      {:else if answer}
        <p role="status"><strong>{count(found)} of {plural(answer.question.of, ["# row", "# rows"])}</strong> <span class="soft">{what}; asked by {answer.question.askedBy}, {time(answer.question.askedAt)}</span></p>
        {#each answer.hints as hint}<p class="hint">{hint}</p>{/each}
        {#if found > 0}
          <p class="files">{#each formsOf("list") as [form, kind] (`${form}.${kind}`)}<a href={fileOf(`${form}/${kind}`, answer.question.id)} download>{form} ({kind})</a>{/each}</p>
          {#if row}
            <section class="panel whole" aria-label={`Row ${row.rowNumber}`}>
              <div class="split"><h2>Row {row.rowNumber}</h2><Button size="small" kind="ghost" on:click={() => { row = undefined; }}>Close</Button></div>
              <p class="files">{#each formsOf("row") as [form, kind] (`${form}.${kind}`)}<a href={fileOf(`${form}/${kind}`, answer.question.id, row.rowNumber)} download>{form} ({kind})</a>{/each}</p>
              <dl>{#each row.columns as column, at}<dt>{column.name}</dt><dd>{cell(row.cells[at] ?? null, column)}</dd>{/each}</dl>
            </section>
          {/if}
          <div class="wide" use:scrollable data-scrolls="Rows found"><table>
            <thead><tr><th class="right">Row</th>{#each answer.columns as column}<th class:right={column.type === "number"}>{column.name}</th>{/each}</tr></thead>
            <tbody>
              {#each answer.rows as cells, at}
                {@const number = answer.rowNumbers[at] ?? 0}
                <tr class:shown={row?.rowNumber === number}>
                  <td class="right"><button type="button" onclick={() => show(number)} aria-label={`Show row ${number}`}>{number}</button></td>
                  {#each answer.columns as column, place}<td class:right={column.type === "number"}>{cell(cells[place] ?? null, column)}</td>{/each}
                </tr>
              {/each}
            </tbody>
          </table></div>
          {#if found > PAGE}
            <div class="row turn">
              <Button size="small" kind="ghost" disabled={answer.first === 0} on:click={() => turn(Math.max(0, (answer?.first ?? 0) - PAGE))}>Before</Button>
              <span class="soft">{count(answer.first + 1)} to {count(last)}</span>
              <Button size="small" kind="ghost" disabled={last >= found} on:click={() => turn(last)}>After</Button>
            </div>
          {/if}
        {/if}
      {:else}<p class="soft">Nothing is asked yet.</p>{/if}
    </div>
  </div>
{/if}

<style>
  .page { display: grid; grid-template-columns: 20rem minmax(0, 1fr); gap: 1.25rem; margin-top: 0.75rem; align-items: start; }
  form { display: grid; gap: 1rem; }
  .answer { min-width: 0; font-size: 0.875rem; }
  .hint { color: var(--corbix-amber); margin-top: 0.4rem; }
  .files { display: flex; flex-wrap: wrap; gap: 0.25rem 1rem; margin: 0.5rem 0; }
  .wide { overflow-x: auto; max-height: 60vh; overflow-y: auto; }
  table { width: 100%; border-collapse: separate; border-spacing: 0; font-size: 0.8125rem; background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); font-variant-numeric: tabular-nums; }
  th { text-align: left; background: var(--cds-ui-01); padding: 0.35rem 0.6rem; position: sticky; top: 0; white-space: nowrap; }
  td { border-top: 1px solid var(--cds-ui-03); padding: 0.2rem 0.6rem; white-space: nowrap; max-width: 20rem; overflow: hidden; text-overflow: ellipsis; }
  .right { text-align: right; }
  td button { border: 0; background: none; color: var(--cds-link-01); font: inherit; text-decoration: underline; cursor: pointer; min-height: 1.5rem; min-width: 1.5rem; padding: 0; }
  .shown td { background: var(--cds-highlight); }
  .turn { align-items: center; margin-top: 0.4rem; }
  .whole { margin-top: 0.75rem; }
  dl { display: grid; grid-template-columns: minmax(7rem, auto) minmax(0, 1fr); gap: 0.2rem 1rem; }
  dt { font-weight: 600; }
  dd { overflow-wrap: anywhere; }
  @media (max-width: 56rem) { .page { grid-template-columns: minmax(0, 1fr); } }
</style>
