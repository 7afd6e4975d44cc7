<script lang="ts">
import { Button, InlineNotification, Select, SelectItem, TextArea, TextInput } from "carbon-components-svelte";
import { untrack } from "svelte";
import {
  api,
  type EditableMessage,
  type MessageWords,
  matching,
  type Problem,
  type TriedMessage,
} from "../../lib/client";

import { insertable } from "../../lib/message";
import Trouble from "../common/Trouble.svelte";
import WordsField from "../write/WordsField.svelte";
import MessagePreview from "./MessagePreview.svelte";

/** A report's message, written beside what any group would get. Nothing is kept before it is saved. */
let { report, pictures }: { report: string; pictures: readonly string[] } = $props();
let isOpen = $state(false);
let kept = $state<EditableMessage>();
let words = $state<Record<string, MessageWords>>({});
let language = $state("");
let added = $state("");
let group = $state("");
let period = $state("");
let tried = $state<TriedMessage>();
let problem = $state<Problem>();
let saving = $state<Problem>();
let saved = $state("");
let busy = $state(false);
let etag = $state<string>();
const path = $derived({ name: report });
const own = $derived(words[language]);
const isChanged = $derived(kept !== undefined && JSON.stringify(words) !== JSON.stringify(kept.words));
const templates = $derived([
  ...new Set(Object.values(kept?.words ?? {}).flatMap((one) => (one.template ? [one.template] : []))),
]);
const insertions = $derived(kept ? insertable(kept.columns) : []);

async function open(): Promise<void> {
  try {
    const found = await api.read("/reports/{name}/message", { path });
    kept = found.data;
    etag = found.etag;
    takeBack();
  } catch (error) {
    problem = error as Problem;
  }
}
/** At once, from what was read: whatever is written next stays. */
function takeBack(): void {
  if (!kept) return;
  words = $state.snapshot(kept.words) as Record<string, MessageWords>;
  if (!words[language]) language = "";
}
$effect(() => {
  if (isOpen && !kept) untrack(() => void open());
});

let asked = 0;
async function preview(text: string): Promise<void> {
  const mine = ++asked;
  busy = true;
  try {
    const made = await api.post("/reports/{name}/message/preview", {
      path,
      body: {
        words: JSON.parse(text),
        ...(group === "" ? {} : { group }),
        ...(period === "" ? {} : { period }),
      },
    });
    // Only the newest question's answer is shown: an older one may come later.
    if (mine !== asked) return;
    tried = made;
    problem = undefined;
    if (group === "") group = made.group;
    if (period === "") period = made.period ?? "";
  } catch (error) {
    if (mine === asked) problem = error as Problem;
  } finally {
    if (mine === asked) busy = false;
  }
}
$effect(() => {
  const text = JSON.stringify(words);
  if (!isOpen || text === "{}") return;
  const timer = setTimeout(() => void preview(text), tried ? 500 : 0);
  return () => clearTimeout(timer);
});

function addLanguage(): void {
  const name = added.trim();
  if (!/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/.test(name) || words[name]) return;
  const first = words[""];
  words[name] = { subject: first.subject, kind: first.kind, body: first.body };
  language = name;
  added = "";
}
function removeLanguage(): void {
  const gone = language;
  language = "";
  delete words[gone];
}

async function save(): Promise<void> {
  if (!kept) return;
  saving = undefined;
  saved = "";
  try {
    const done = await api.put("/reports/{name}/message", { path, body: { words }, ...matching(etag) });
    saved = [
      `The report is at version ${done.version}`,
      ...done.templates.map((name) => `${name} has a new version`),
    ].join("; ");
    await open();
  } catch (error) {
    saving = error as Problem;
  }
}
</script>

<details class="editor" ontoggle={(event) => { isOpen = event.currentTarget.open; }}>
  <summary>Write the message</summary>
  <Trouble problem={saving ?? (kept ? undefined : problem)} />
  {#if saved && !isChanged}<InlineNotification lowContrast closeButtonDescription="Close" kind="success" title="Saved." subtitle={`${saved}.`} />{/if}
  {#if isOpen && kept && own}
    <div class="columns">
      <section aria-label="Text">
        <div class="choose">
          <Select size="sm" labelText="Language" bind:selected={language}>
            {#each Object.keys(words) as one (one)}<SelectItem value={one} text={one === "" ? "all others" : one} />{/each}
          </Select>
          <Select size="sm" labelText="Stands in" selected={own.template ?? ""} on:update={({ detail }) => { own.template = detail === "" ? undefined : String(detail); }}>
            <SelectItem value="" text="the definition" />
            {#each templates as one (one)}<SelectItem value={one} text={one} />{/each}
          </Select>
          <Select size="sm" labelText="Written as" bind:selected={own.kind} disabled={own.template !== undefined}>
            <SelectItem value="html" text="HTML" /><SelectItem value="markdown" text="Markdown" /><SelectItem value="text" text="Plain text" />
          </Select>
        </div>
        <TextInput size="sm" labelText="Subject" bind:value={own.subject} />
        {#key `${language} ${own.kind}`}<WordsField kind={own.kind} value={own.body} label="Text" {insertions} columns={kept.columns} {pictures} onchange={(text) => { own.body = text; }} />{/key}
        {#if own.kind !== "text"}<TextArea labelText="Plain text, for those who do not see HTML" placeholder="made from the text above" rows={3} value={own.text ?? ""} on:input={(event) => { const typed = (event.target as HTMLTextAreaElement).value; own.text = typed === "" ? undefined : typed; }} />{/if}
        <div class="row">
          <Button size="small" disabled={!isChanged} on:click={save}>Save the message</Button>
          <Button size="small" kind="ghost" disabled={!isChanged} on:click={takeBack}>Take back</Button>
          {#if language !== ""}<Button size="small" kind="ghost" on:click={removeLanguage}>Take {language} out</Button>{/if}
          <form class="row" onsubmit={(event) => { event.preventDefault(); addLanguage(); }}>
            <TextInput size="sm" hideLabel labelText="Another language" placeholder="another language: de" bind:value={added} />
          </form>
        </div>
      </section>
      <MessagePreview {tried} {language} {problem} {busy} bind:period ongroup={(key) => { group = key; void preview(JSON.stringify(words)); }} onperiod={() => void preview(JSON.stringify(words))} />
    </div>
  {/if}
</details>

<style>
  details { margin: 0.75rem 0; }
  .columns { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 1.5rem; margin-top: 0.75rem; }
  .choose { display: flex; flex-wrap: wrap; gap: 1rem; align-items: end; margin-bottom: 0.75rem; }
  .choose :global(.bx--form-item) { flex: 0 1 auto; max-width: 15rem; }
  section:first-child .choose { gap: 0.75rem; }
  section:first-child .choose :global(.bx--form-item) { flex: 1 1 8.5rem; min-width: 0; }
  section:first-child .choose :global(select) { min-width: 0; width: 100%; }
  section > :global(.bx--form-item) { margin-bottom: 0.75rem; }
  @media (max-width: 66rem) { .columns { grid-template-columns: minmax(0, 1fr); } }
</style>
