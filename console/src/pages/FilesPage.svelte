<script lang="ts">
import { Link, Search, Select, SelectItem } from "carbon-components-svelte";
import { untrack } from "svelte";
import { allOf, api, at, type PeriodFiles, type PeriodOfReport, type Problem, type Report } from "../lib/client";
import { bytes, count, day, plural } from "../lib/format";
import { whenever } from "../lib/live";
import { Pages } from "../lib/pages.svelte";
import { go, link } from "../lib/router.svelte";
import Empty from "../parts/common/Empty.svelte";
import More from "../parts/common/More.svelte";
import PdfPages from "../parts/common/PdfPages.svelte";
import StateTag from "../parts/common/StateTag.svelte";
import Trouble from "../parts/common/Trouble.svelte";

/** All groups' files of one report and period, as they were let go last; PDFs are shown beside. */
let { report, period }: { report: string; period: string | undefined } = $props();
let about = $state<Report>();
let periods = $state<PeriodOfReport[]>([]);
let problem = $state<Problem>();
let search = $state("");
let total = $state<number>();
let shown = $state<{ id: string; name: string }>();
/** The newest that went out, where none is asked for. */
const chosen = $derived(period ?? periods.find((one) => one.state === "delivered")?.key ?? periods[0]?.key ?? "");
const entries = new Pages<PeriodFiles>(async (wish) => {
  const query = { ...wish, period: chosen, ...(search.trim() === "" ? {} : { search: search.trim() }) };
  const page = await api.get("/reports/{name}/files", { path: { name: report }, query });
  total = page.total;
  return page;
});

const load = async (): Promise<void> => {
  try {
    [about, periods] = await Promise.all([
      api.get("/reports/{name}", { path: { name: report } }),
      allOf(api.all("/reports/{name}/periods", { path: { name: report }, query: { limit: 1_000 } })),
    ]);
    await entries.reload();
    problem = undefined;
  } catch (error) {
    problem = error as Problem;
  }
};
$effect(() => {
  void period;
  shown = undefined;
  return untrack(() => whenever((event) => event.kind === "run", load, "page"));
});

let timer: ReturnType<typeof setTimeout> | undefined;
function find(): void {
  clearTimeout(timer);
  timer = setTimeout(() => void entries.reload().catch(() => {}), 200);
}
const name = (path: string): string => path.split("/").pop() ?? path;
</script>

<h1><a href={link("reports", report, "check")}>{about?.title ?? report}</a> / Files</h1>
<Trouble {problem} />
<div class="head">
  {#if periods.length > 0}
    <Select size="sm" labelText="Period" selected={chosen} on:update={({ detail }) => { if (detail !== chosen) go("files", report, String(detail)); }}>
      {#each periods as one (one.key)}<SelectItem value={one.key} text={one.label} />{/each}
    </Select>
  {/if}
  <Search closeButtonLabelText="Clear what is searched for" size="sm" labelText="Group or file" placeholder="Group or file" bind:value={search} on:input={find} on:clear={find} />
  {#if total !== undefined}<span class="soft">{plural(total, ["# group", "# groups"])}</span>{/if}
</div>
{#if entries.items && entries.items.length === 0}
  {#if search.trim() !== ""}<Empty title="No group and no file is called that">A part of a name is enough.</Empty>
  {:else}<Empty title="Nothing was let go for this period">Files stand here once a run is released.</Empty>{/if}
{:else if entries.items}
  <div class="columns" class:open={shown !== undefined}>
    <ul aria-label="Groups">
      {#each entries.items as one (one.groupKey)}
        <li>
          <h2><Link href={link("runs", one.run, one.parcel)}>{one.label}</Link> {#if one.message}<StateTag state={one.message} />{/if}</h2>
          <p class="soft">{day(one.at)}</p>
          {#each one.files as file (file.id)}
            <p class="file">
              {#if file.kind === "pdf"}<button type="button" class:chosen={shown?.id === file.id} aria-pressed={shown?.id === file.id} onclick={() => { shown = { id: file.id, name: name(file.path) }; }}>{name(file.path)}</button>{:else}<Link href={at(`/files/${file.id}`)}>{name(file.path)}</Link>{/if}
              <span class="soft">{bytes(file.size)}{file.pages ? `, ${plural(file.pages, ["# page", "# pages"])}` : ""}</span>
            </p>
          {/each}
          {#if one.files.length === 0}<p class="soft">no files</p>{/if}
        </li>
      {/each}
    </ul>
    {#if shown}
      <section class="panel" aria-label="Pages">
        <div class="split"><h2>{shown.name}</h2><Link href={at(`/files/${shown.id}`)}>Save</Link></div>
        {#key shown.id}<PdfPages source={at(`/files/${shown.id}?show=true`)} label={shown.name} />{/key}
      </section>
    {/if}
  </div>
  <More pages={entries} what="groups" />
{/if}

<style>
  .head { display: flex; flex-wrap: wrap; gap: 0.75rem; align-items: end; margin: 0.75rem 0; }
  .head :global(.bx--form-item) { flex: 0 1 14rem; }
  .head :global(.bx--search) { flex: 0 1 18rem; }
  .columns { display: grid; grid-template-columns: minmax(0, 1fr); gap: 1.25rem; align-items: start; }
  .columns.open { grid-template-columns: minmax(18rem, 0.8fr) minmax(0, 1.2fr); }
  .columns.open section { position: sticky; top: 4rem; }
  ul { display: grid; grid-template-columns: repeat(auto-fill, minmax(19rem, 1fr)); gap: 0.75rem; }
  .open ul { grid-template-columns: minmax(0, 1fr); }
  li { background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); padding: 0.6rem 0.8rem; min-width: 0; }
  li h2 { font-size: 0.9375rem; margin: 0; overflow-wrap: anywhere; }
  .file { font-size: 0.875rem; overflow-wrap: anywhere; margin-top: 0.3rem; }
  .file button { background: none; border: 0; padding: 0; font: inherit; color: var(--cds-link-01); cursor: pointer; text-align: left; overflow-wrap: anywhere; }
  .file span { white-space: nowrap; }
  .file button:hover { text-decoration: underline; }
  .file button.chosen { font-weight: 600; }
  @media (max-width: 1000px) { .columns.open { grid-template-columns: 1fr; } }
</style>
