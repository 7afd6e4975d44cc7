<script lang="ts">
import { word } from "../../lib/format";
import { Button, NumberInput, Select, SelectItem, TextInput } from "carbon-components-svelte";
import type { Column, ColumnRule, IntakeRules } from "../../lib/client";

/** Corrections of how a file is read; what is left blank is found by itself. */
let {
  rules,
  columns,
  busy = false,
  action,
  onapply,
}: {
  rules: IntakeRules;
  columns: Column[];
  busy?: boolean;
  action: string;
  onapply: (rules: IntakeRules) => void;
} = $props();

const initial = (): IntakeRules => $state.snapshot(rules) as IntakeRules;
const start = initial();
let sheet = $state(start.sheet ?? "");
let table = $state(start.table ?? "");
let encoding = $state(start.encoding ?? "");
let delimiter = $state(start.delimiter ?? "");
let quote = $state<string>(start.quote ?? "");
let list = $state(start.list ?? "");
let header = $state<string>(start.header ?? (start.headerRow ? "row" : "found"));
let names = $state((start.names ?? []).join(", "));
let headerRow = $state<number | null>(start.headerRow ?? null);
let headerLines = $state<number | null>(start.headerLines ?? null);
let firstColumn = $state(start.firstColumn ?? "");
let lastColumn = $state(start.lastColumn ?? "");
let end = $state<string>(typeof start.end === "object" ? "row" : (start.end ?? "found"));
let endRow = $state<number | null>(typeof start.end === "object" ? start.end.row : null);
let types = $state<Record<string, string>>(
  Object.fromEntries(Object.entries(start.types ?? {}).map(([name, rule]) => [name, code(rule)])),
);

const CHOICES: [string, string][] = [
  ["", "as found"],
  ["text", word("text")],
  ["number", word("number")],
  ["number point", "number, point is decimal"],
  ["number comma", "number, comma is decimal"],
  ["date", word("date")],
  ["date day-first", "date, day first"],
  ["date month-first", "date, month first"],
  ["datetime day-first", "date and time, day first"],
  ["datetime month-first", "date and time, month first"],
  ["time", word("time")],
  ["boolean", "true or false (also yes, no, x)"],
];

function code(rule: ColumnRule): string {
  return [rule.type, rule.order ?? rule.decimal].filter(Boolean).join(" ");
}

function ruleOf(text: string): ColumnRule {
  const [type, detail] = text.split(" ") as [ColumnRule["type"], string | undefined];
  if (detail === "day-first" || detail === "month-first") return { type, order: detail };
  return detail === "point" || detail === "comma" ? { type, decimal: detail } : { type };
}

function apply(): void {
  const named = names
    .split(",")
    .map((one) => one.trim())
    .filter((one) => one !== "");
  const chosen = Object.entries(types).filter(([, text]) => text !== "");
  onapply({
    ...(sheet === "" ? {} : { sheet }),
    ...(table === "" ? {} : { table }),
    ...(encoding.trim() === "" ? {} : { encoding: encoding.trim() }),
    ...(delimiter === "" ? {} : { delimiter }),
    ...(quote === "" ? {} : { quote: quote as NonNullable<IntakeRules["quote"]> }),
    ...(list.trim() === "" ? {} : { list: list.trim() }),
    ...(header === "none" ? { header, ...(named.length > 0 ? { names: named } : {}) } : {}),
    ...(header === "row" && headerRow ? { headerRow } : {}),
    ...(header !== "none" && headerLines ? { headerLines } : {}),
    ...(firstColumn === "" ? {} : { firstColumn }),
    ...(lastColumn === "" ? {} : { lastColumn }),
    ...(end === "found"
      ? {}
      : end === "row"
        ? endRow
          ? { end: { row: endRow } }
          : {}
        : { end: end as "blank-row" | "last-row" }),
    ...(chosen.length > 0 ? { types: Object.fromEntries(chosen.map(([name, text]) => [name, ruleOf(text)])) } : {}),
  });
}
</script>

<form onsubmit={(event) => { event.preventDefault(); apply(); }}>
  <div class="fields">
    <TextInput size="sm" labelText="Sheet" placeholder="found" bind:value={sheet} />
    <TextInput size="sm" labelText="Defined table or range" placeholder="the whole sheet" bind:value={table} />
    <Select size="sm" labelText="The header is" bind:selected={header}>
      <SelectItem value="found" text="where it is found" /><SelectItem value="row" text="row …" /><SelectItem value="none" text="none, only rows" />
    </Select>
    {#if header === "row"}<NumberInput size="sm" allowEmpty hideSteppers min={1} labelText="Header row" bind:value={headerRow} />{/if}
    {#if header === "none"}<TextInput size="sm" labelText="Names of the columns" placeholder="Site, Unit, Fee" bind:value={names} />
    {:else}<NumberInput size="sm" allowEmpty hideSteppers min={1} max={4} labelText="Header lines" placeholder="found" bind:value={headerLines} />{/if}
    <TextInput size="sm" labelText="First column" placeholder="A" bind:value={firstColumn} />
    <TextInput size="sm" labelText="Last column" placeholder="found" bind:value={lastColumn} />
    <Select size="sm" labelText="The table ends" bind:selected={end}>
      <SelectItem value="found" text="where it is found to end" /><SelectItem value="blank-row" text="at the first blank row" />
      <SelectItem value="last-row" text="at the last row with content" /><SelectItem value="row" text="at row …" />
    </Select>
    {#if end === "row"}<NumberInput size="sm" allowEmpty hideSteppers min={1} labelText="Last row" bind:value={endRow} />{/if}
  </div>
  <details open={[encoding, delimiter, quote, list].some((one) => one !== "")}>
    <summary>Text and JSON files</summary>
    <div class="fields">
      <TextInput size="sm" labelText="Encoding" placeholder="found, such as UTF-8 or windows-1250" bind:value={encoding} />
      <Select size="sm" labelText="Between two cells stands" bind:selected={delimiter}>
        <SelectItem value="" text="what is found" /><SelectItem value="comma" text="a comma" /><SelectItem value="semicolon" text="a semicolon" />
        <SelectItem value="tabulator" text="a tabulator" /><SelectItem value="bar" text="a bar" />
        {#if delimiter.length === 1}<SelectItem value={delimiter} text={`the sign ${delimiter}`} />{/if}
      </Select>
      <Select size="sm" labelText="Cells may stand in" bind:selected={quote}>
        <SelectItem value="" text="what is found" /><SelectItem value="quotation mark" text="quotation marks" />
        <SelectItem value="apostrophe" text="apostrophes" /><SelectItem value="none" text="no quotes" />
      </Select>
      <TextInput size="sm" labelText="List whose entries are the rows (JSON)" placeholder="the only one" bind:value={list} />
    </div>
  </details>
  {#if columns.length > 0}
  <details open={Object.keys(types).length > 0}>
    <summary>Types of columns</summary>
    <div class="fields">
      {#each columns as column}
        <Select size="sm" labelText={column.name} selected={types[column.name] ?? ""} on:update={(event) => { types[column.name] = String(event.detail); }}>
          {#each CHOICES as [value, text] (value)}<SelectItem {value} text={value === "" ? `as found: ${column.type}` : text} />{/each}
        </Select>
      {/each}
    </div>
  </details>
  {/if}
  <Button size="small" kind="tertiary" type="submit" disabled={busy}>{action}</Button>
</form>

<style>
  form { display: grid; gap: 0.75rem; justify-items: start; }
  .fields { display: grid; grid-template-columns: repeat(auto-fill, minmax(12rem, 1fr)); gap: 0.75rem 1rem; width: 100%; padding-bottom: 0.5rem; }
  details { width: 100%; }
</style>
