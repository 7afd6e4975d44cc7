<script lang="ts">
import { Button, Link, Select, SelectItem } from "carbon-components-svelte";
import { ChevronDown, ChevronUp } from "carbon-icons-svelte";
import { api, at, once, type Parcel, Problem, type Rows } from "../../lib/client";
import { bytes, count, people, plural, time, word } from "../../lib/format";
import { whenever } from "../../lib/live";
import { may } from "../../lib/rights.svelte";
import { link } from "../../lib/router.svelte";
import { stateWord } from "../../lib/states";
import PdfPages from "../common/PdfPages.svelte";
import ReasonModal from "../common/ReasonModal.svelte";
import StateTag from "../common/StateTag.svelte";
import TabRow from "../common/TabRow.svelte";
import Trouble from "../common/Trouble.svelte";
import RowGrid from "../data/RowGrid.svelte";
import CorrectAddress from "../mail/CorrectAddress.svelte";
import MailView from "../mail/MailView.svelte";

let {
  id,
  report,
  number,
  at: where,
  onstep,
  onclose,
}: {
  id: string;
  report: string | undefined;
  number: number;
  /** Its place in the list it was opened from, while that is known. */
  at: { readonly place: number; readonly total: number } | undefined;
  onstep: (by: 1 | -1) => void;
  onclose: () => void;
} = $props();
let parcel = $state<Parcel>();
let problem = $state<Problem>();
let chosen = $state("");
let isAgain = $state(false);
let isCorrecting = $state(false);
let isLeaving = $state(false);
type Key = "pages" | "rows" | "message" | "files" | "trail";
let tab = $state<Key>("pages");
const tabs = $derived<{ key: Key; title: string }[]>([
  { key: "pages", title: "Pages" },
  { key: "rows", title: `Rows (${parcel?.rowCount ?? 0})` },
  { key: "message", title: "Message" },
  { key: "files", title: "Files" },
  { key: "trail", title: "Trail" },
]);
/** Whether an address refused it, or sent it back. */
const wrong = $derived(
  parcel?.message &&
    parcel.message.state !== "queued" &&
    Object.values(parcel.message.results).some((one) => one.state === "refused" || one.state === "returned"),
);

$effect(() =>
  whenever(
    (event) => event.kind === "run" && event.subject === id,
    async () => {
      try {
        parcel = await api.get("/runs/{id}/parcels/{number}", { path: { id, number } });
        if (chosen === "") chosen = parcel?.files.find((file) => file.kind === "pdf")?.id ?? "";
      } catch (error) {
        problem = error as Problem;
      }
    },
  ),
);

async function again(reason: string): Promise<void> {
  if (!parcel?.message) return;
  try {
    await api.post("/messages/{id}/again", { path: { id: parcel.message.id }, body: { reason }, ...once() });
  } catch (error) {
    problem = error as Problem;
  }
}

async function leaveOut(reason: string): Promise<void> {
  if (!parcel) return;
  try {
    await api.post("/runs/{id}/skip", { path: { id }, body: { groups: [parcel.groupKey], reason } });
  } catch (error) {
    problem = error as Problem;
  }
}

const drawn = $derived(parcel?.files.filter((file) => file.kind === "pdf") ?? []);
const mails = $derived((parcel?.messages ?? []).filter((one) => one.way === null));
/** What went by other ways than mail. */
const carried = $derived((parcel?.messages ?? []).filter((one) => one.way !== null));
const name = (path: string): string => path.split("/").pop() ?? path;
const loadRows = (cursor: string | undefined): Promise<Rows> =>
  api.get("/runs/{id}/parcels/{number}/rows", {
    path: { id, number },
    query: { limit: 500, ...(cursor === undefined ? {} : { cursor }) },
  });
</script>

<section class="panel" aria-label="Parcel">
  <Trouble {problem} />
  {#if parcel}
    <div class="split">
      <h2>{parcel.label}</h2>
      <div class="row">
        {#if where}<span class="soft">{count(where.place + 1)} of {count(where.total)}</span><Button size="small" kind="ghost" icon={ChevronUp} iconDescription="The one before" disabled={where.place === 0} on:click={() => onstep(-1)} /><Button size="small" kind="ghost" icon={ChevronDown} iconDescription="The next one" disabled={where.place + 1 >= where.total} on:click={() => onstep(1)} />{/if}
        {#if parcel.message && may("skipGroups", report) && (parcel.message.state === "held" || parcel.message.state === "queued")}<Button size="small" kind="ghost" on:click={() => { isLeaving = true; }}>Leave it out</Button>{/if}
        <Button size="small" kind="ghost" on:click={onclose}>Close</Button>
      </div>
    </div>
    {#if parcel.error}<Trouble problem={new Problem(parcel.error.message, 0, parcel.error.code, { where: parcel.error.where })} />{/if}
    <TabRow label={parcel.label} {tabs} chosen={tab} onchoose={(key) => { tab = key; }} />
    <div role="tabpanel" aria-label={tabs.find(({ key }) => key === tab)?.title}>
      <div hidden={tab !== "pages"}>
        {#if drawn.length > 1}<Select hideLabel labelText="File" size="sm" bind:selected={chosen}>{#each drawn as file (file.id)}<SelectItem value={file.id} text={name(file.path)} />{/each}</Select>{/if}
        {#if chosen}<PdfPages source={at(`/files/${chosen}?show=true`)} label={parcel.label} />{:else}<p class="soft">No PDF is made of this parcel's files; save them from the Files tab.</p>{/if}
      </div>
      {#if tab === "rows"}<RowGrid load={loadRows} label={`Rows of ${parcel.label}`} />
      {:else if tab === "message"}
        {#if parcel.message}
          <dl>
            <dt>To</dt><dd>{people(parcel.message.envelope.to)}</dd>
            {#if parcel.message.envelope.cc.length > 0}<dt>Copies</dt><dd>{people(parcel.message.envelope.cc)}</dd>{/if}
            {#if parcel.message.envelope.bcc.length > 0}<dt>Blind</dt><dd>{people(parcel.message.envelope.bcc)}</dd>{/if}
            <dt>Why</dt><dd class="soft">{[...new Set(parcel.recipients.map((one) => one.why ?? ""))].filter(Boolean).join("; ")}</dd>
            <dt>Subject</dt><dd><strong>{parcel.message.subject}</strong></dd>
            <dt>With it</dt><dd>{parcel.files.filter((file) => file.attached).map((file) => name(file.path)).join(", ") || word("nothing")}</dd>
          </dl>
          <MailView html={parcel.html ?? null} text={parcel.text ?? ""} />
          <p class="row"><Link href={at(`/messages/${parcel.message.id}/raw`)}>Save as .eml</Link>{#if parcel.message.size}<span class="soft">{bytes(parcel.message.size)} as it was sent</span>{/if}</p>
        {:else}<p class="soft">Nobody receives for this group, so there is no message.</p>{/if}
      {:else if tab === "files"}
        <ul class="files">{#each parcel.files as file}<li><Link href={at(`/files/${file.id}`)}>{name(file.path)}</Link> <span class="soft">{bytes(file.size)}{file.pages ? `, ${plural(file.pages, ["# page", "# pages"])}` : ""}{file.attached ? ", attached" : ""}</span><br /><code class="soft">{file.sha256.slice(0, 16)}…</code></li>{/each}</ul>
      {:else if tab === "trail"}
        {#if parcel.message}
          <p class="word"><StateTag state={parcel.message.state} /> {parcel.message.response ?? ""}</p>
          <p class="soft"><code>{parcel.message.messageId}</code></p>
          <ul class="results">{#each Object.entries(parcel.message.results) as [address, one]}<li>{address}: {stateWord(one.state)} <span class="soft">{one.response}</span></li>{/each}</ul>
          <ol class="trail">{#each parcel.attempts as attempt}<li>Attempt {attempt.number}, {time(attempt.startedAt)}: {stateWord(attempt.outcome ?? "on-its-way")} <span class="soft">{attempt.response ?? ""}</span></li>{/each}</ol>
          {#if may("sendAgain", report) && ["sent", "returned", "refused", "skipped"].includes(parcel.message.state)}<div class="row">{#if wrong}<Button size="small" on:click={() => { isCorrecting = true; }}>Correct the address</Button>{/if}<Button size="small" kind="tertiary" on:click={() => { isAgain = true; }}>Send again</Button></div>{/if}
          {#if mails.length > 1}<p class="soft">{plural(mails.length, ["# message", "# messages"])} in all: {mails.map((one) => `${one.part || people(one.envelope.to)}${one.againReason ? ` (again: ${one.againReason})` : ""} ${one.state}`).join("; ")}</p>{/if}
          {#if (parcel.attempts).length === 0}<p class="soft">It has not been sent yet.</p>{/if}
        {:else if carried.length === 0}<p class="soft">Nothing is sent for this group.</p>{/if}
        {#each carried as one (one.id)}
          <h3>Way out <a href={link("ways-out", one.way ?? "")}>{one.way}</a> <StateTag state={one.state} /></h3>
          {#if one.response && one.state !== "sent"}<p class="word">{one.response}</p>{/if}
          <ul class="results">{#each one.envelope.to as { address } (address)}<li>{address}{#if one.results[address]}: {one.results[address].response}{/if}</li>{/each}</ul>
        {/each}
      {/if}
    </div>
  {/if}
</section>

<ReasonModal bind:open={isAgain} heading={`Send to ${parcel?.label ?? ""} again?`} text="Whom it never reached gets it as a first time. Where everybody had it, it goes out once more as a delivery of its own, with Sent again before its subject." button="Send again" ondone={again} />

<ReasonModal bind:open={isLeaving} heading={`Why is ${parcel?.label ?? ""} left out?`} text="Its message is not sent; its files stay. The reason stands with the message." button="Leave it out" ondone={leaveOut} />
{#if isCorrecting && parcel?.message}<CorrectAddress message={parcel.message} label={parcel.label} onclose={() => { isCorrecting = false; }} />{/if}

<style>
  /* What comes next takes as much room while it is on its way: the page does not jump. */
  section { min-width: 0; min-height: calc(100vh - 7rem); }
  h2 { margin: 0 0 0.25rem; }
  section :global(.bx--tab-content) { padding: 0.75rem 0 0; }
  dl { display: grid; grid-template-columns: 4.5rem 1fr; font-size: 0.875rem; margin-bottom: 0.75rem; gap: 0.15rem 0; }
  dt { color: var(--corbix-soft); }
  .files { display: grid; gap: 0.6rem; }
  .word { font-size: 0.875rem; }
  .results { font-size: 0.875rem; margin: 0.4rem 0; }
  .trail { margin-top: 0.5rem; font-size: 0.875rem; }
</style>
