<script lang="ts">
import { Button, Checkbox, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { Close } from "carbon-icons-svelte";
import type { Column } from "../../../lib/client";
import type { Known } from "../../../lib/report/choices";
import type { Draft } from "../../../lib/report/draft.svelte";
import {
  asRun,
  columnsOfField,
  FIELD_KINDS,
  type FieldKind,
  type FieldSpec,
  fieldFor,
  fieldName,
  isOrdered,
  kindOfField,
  ofKind,
} from "../../../lib/report/enquiry";
import { type Schema, schemaAt } from "../../../lib/report/schema";
import { go, link } from "../../../lib/router.svelte";
import Section from "../../form/Section.svelte";
import ColumnPick from "../../prepare/ColumnPick.svelte";
import ColumnTicks from "../../prepare/ColumnTicks.svelte";
import SortRows from "../SortRows.svelte";

/** What people fill in who ask this report, and what they get. */
let {
  draft,
  known,
  schema,
  columns,
  name,
}: { draft: Draft; known: Known; schema: Schema; columns: readonly Column[]; name: string } = $props();

const all = $derived(draft.look?.columns ?? columns);
const names = $derived(all.map((one) => one.name));
const fields = $derived(Object.entries((draft.get(["enquiry", "fields"]) ?? {}) as Record<string, FieldSpec>));
const shown = $derived((draft.get(["enquiry", "columns"]) ?? []) as string[]);
const page = $derived((draft.get(["enquiry", "page"]) ?? "") as string);
const rest = $derived(schemaAt(schema, ["enquiry"]) ?? {});
const free = $derived(all.filter((one) => !fields.some(([, field]) => columnsOfField(field).includes(one.name))));

const WORDS: Readonly<Record<FieldKind, () => string>> = {
  choose: () => "choose a value",
  between: () => "from and until",
  search: () => "look for words",
};

function set(field: string, value: FieldSpec | undefined): void {
  draft.set(["enquiry", "fields", field], value);
}
function more(
  field: string,
  spec: FieldSpec,
  change: { label?: string | undefined; needed?: boolean | undefined },
): void {
  const next = { ...spec, ...change };
  set(field, Object.fromEntries(Object.entries(next).filter(([, value]) => value !== undefined)) as FieldSpec);
}
function pick(field: string, spec: FieldSpec, column: string): void {
  set(field, { ...spec, [kindOfField(spec)]: column });
}
function add(column: string): void {
  const found = all.find((one) => one.name === column);
  if (found)
    set(
      fieldName(
        column,
        fields.map(([one]) => one),
      ),
      fieldFor(found),
    );
}
</script>

<h2>What people fill in</h2>
<p class="soft">Fields that stay empty ask nothing. Under <a href={link("enquiries", name)}>Enquiries</a> it is asked once it is saved.</p>
{#each fields as [field, spec] (field)}
  {@const kind = kindOfField(spec)}
  {@const called = spec.label ?? columnsOfField(spec).join(", ")}
  <section class="panel" aria-label={`Field ${called}`}>
    <div class="head">
      <Select size="sm" labelText={`How ${called} is asked`} selected={kind} on:update={({ detail }) => { if (detail !== kind) set(field, ofKind(spec, detail as FieldKind, all)); }}>
        {#each FIELD_KINDS as one (one)}<SelectItem value={one} text={WORDS[one]()} />{/each}
      </Select>
      <TextInput size="sm" labelText="Called" placeholder={columnsOfField(spec).join(", ")} value={spec.label ?? ""} on:change={(event) => more(field, spec, { label: String((event as CustomEvent).detail ?? "").trim() || undefined })} />
      <Button size="small" kind="ghost" icon={Close} iconDescription={`Take out ${called}`} tooltipAlignment="end" disabled={fields.length === 1} on:click={() => set(field, undefined)} />
    </div>
    {#if kind === "search"}
      <ColumnTicks label={`Columns in which words are looked for`} {names} chosen={columnsOfField(spec)} onchange={(chosen) => { if (chosen.length > 0) set(field, { ...spec, search: chosen }); }} />
    {:else}
      <ColumnPick label={`Column of ${called}`} names={kind === "between" ? all.filter(isOrdered).map((one) => one.name) : names} value={columnsOfField(spec)[0] ?? ""} onchange={(column) => pick(field, spec, column)} />
    {/if}
    <Checkbox labelText="It has to be filled in" checked={spec.needed ?? false} on:check={({ detail }) => { if (detail !== (spec.needed ?? false)) more(field, spec, { needed: detail || undefined }); }} />
  </section>
{/each}
{#if free.length > 0}
  {#key fields.length}
    <Select size="sm" labelText="Ask for one more" selected="" on:update={({ detail }) => { if (detail !== "") add(String(detail)); }}>
      <SelectItem value="" text="choose a column …" />{#each free as one (one.name)}<SelectItem value={one.name} text={one.name} />{/each}
    </Select>
  {/key}
{/if}

<h2>What the list shows</h2>
<ColumnTicks label="Columns of the list, all if none is ticked" {names} chosen={shown} onchange={(chosen) => draft.set(["enquiry", "columns"], chosen.length === 0 ? undefined : chosen)} />
<h3>Its order</h3>
<SortRows {draft} {names} path={["enquiry", "sort"]} />

<h2>Files of an answer</h2>
<p class="soft">Without files of its own there are a list as workbook and PDF, delimited text, and a plain page of each row. Your own are made under <a href={link("reports", name, "files")}>Files</a>.</p>
<Select size="sm" labelText="The file that is one row's page" selected={page} on:update={({ detail }) => { if (detail !== page) draft.set(["enquiry", "page"], detail === "" ? undefined : detail); }}>
  <SelectItem value="" text="a plain one with all columns" />{#each [...new Set([...known.files, ...(page === "" ? [] : [page])])] as one (one)}<SelectItem value={one} text={one} />{/each}
</Select>
<Section {draft} {known} schema={rest} path={["enquiry"]} only={["most"]} />

<h2>Or run it</h2>
<p class="soft">A report that is run makes files and messages for groups, and goes out to recipients.</p>
<Button size="small" kind="tertiary" on:click={() => { draft.write(asRun(draft.definition)); go("reports", name, "groups"); }}>Make it a report that is run</Button>

<style>
  section { display: grid; gap: 0.6rem; margin: 0 0 0.75rem; }
  .head { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) auto; gap: 0.5rem; align-items: end; }
  h3 { font-size: 0.875rem; margin: 0.75rem 0 0.4rem; }
</style>
