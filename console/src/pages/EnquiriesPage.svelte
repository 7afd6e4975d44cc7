<script lang="ts">
import { Button } from "carbon-components-svelte";
import { allOf, api, type Problem, type Question, type Schemas } from "../lib/client";
import { count, time } from "../lib/format";
import { whenever } from "../lib/live";
import { Pages } from "../lib/pages.svelte";
import { may } from "../lib/rights.svelte";
import { link } from "../lib/router.svelte";
import { scrollable } from "../lib/scrollable";
import Colleagues from "../parts/ask/Colleagues.svelte";
import Empty from "../parts/common/Empty.svelte";
import More from "../parts/common/More.svelte";
import Trouble from "../parts/common/Trouble.svelte";

/** Reports that are asked, what was asked, and who may ask without a sign-in. */
let all = $state<Schemas["EnquirySummary"][]>();
const questions = new Pages<Question>((wish) => api.get("/questions", { query: { ...wish, limit: 20 } }));
let problem = $state<Problem>();

$effect(() =>
  whenever(
    (event) => event.kind === "report" || event.kind === "question",
    () =>
      Promise.all([allOf(api.all("/enquiries")), questions.reload()]).then(
        ([found]) => {
          all = found;
        },
        (error: Problem) => {
          problem = error;
        },
      ),
    "page",
  ),
);
const titleOf = (name: string): string => all?.find((one) => one.name === name)?.title ?? name;
const said = (one: Question): string =>
  one.filled.map(({ label, value }) => `${label}: ${value}`).join("; ") || "everything";
</script>

<div class="split">
  <h1>Enquiries</h1>
  {#if may("saveReport")}<Button size="field" kind="tertiary" href={link("reports", "new")}>New report</Button>{/if}
</div>
<Trouble {problem} />
{#if all && all.length === 0}
  <Empty title="No report is asked yet">An enquiry is a report without recipients: people fill in fields and get the rows that match, as a list or one row as a page. Make a report, and say under Groups that people ask it.</Empty>
{:else if all}
  <div class="lines" use:scrollable data-scrolls="Enquiries"><table>
    <thead><tr><th>Enquiry</th><th>Data</th><th>Asks for</th></tr></thead>
    <tbody>{#each all as one (one.name)}<tr><td><a href={link("enquiries", one.name)}>{one.title}</a></td><td>{one.data}</td><td>{one.fields.join("; ")}</td></tr>{/each}</tbody>
  </table></div>
  <h2>What was asked</h2>
  {#if questions.items?.length === 0}<p class="soft">Nothing was asked yet.</p>
  {:else if questions.items}
    <div class="lines" use:scrollable data-scrolls="What was asked"><table>
      <thead><tr><th>When</th><th>By</th><th>Enquiry</th><th>What</th><th class="right">Found</th><th>Files that were made</th></tr></thead>
      <tbody>
        {#each questions.items as one (one.id)}
          <tr><td><a href={link("enquiries", one.report, one.id)}>{time(one.askedAt)}</a></td><td>{one.askedBy}</td><td>{titleOf(one.report)}</td><td>{said(one)}</td><td class="right">{count(one.found)}</td><td>{one.files.map((file) => `${file.form}.${file.kind}`).join(", ")}</td></tr>
        {/each}
      </tbody>
    </table></div>
    <More pages={questions} what="questions" />
  {/if}
  {#if may("listColleagues")}
    <h2>Colleagues who may ask</h2>
    <Colleagues enquiries={all} />
  {/if}
{/if}

<style>
  h2 { margin-top: 1.5rem; }
</style>
