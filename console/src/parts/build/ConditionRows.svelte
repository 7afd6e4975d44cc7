<script lang="ts">
import { Button, Checkbox, MultiSelect, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { Add, Close } from "carbon-icons-svelte";
import type { Column, DraftLook } from "../../lib/client";
import { type Clause, COMPARISONS, type Comparison, type Condition, isGroup } from "../../lib/report/conditions";
import Self from "./ConditionRows.svelte";
import LeftOut from "./LeftOut.svelte";

type ConditionCount = DraftLook["conditions"][number];
/** Conditions under each other: a column, how it is compared, and with what; brackets are conditions of their own. */
let {
  condition,
  columns,
  valuesOf,
  onchange,
  countOf,
  loaded,
  depth = 0,
}: {
  condition: Condition;
  columns: readonly { name: string; type: string }[];
  /** The values that a column has, the most frequent first. */
  valuesOf: (column: string) => readonly string[];
  onchange: (condition: Condition) => void;
  /** How many rows a part holds for, once it is known. */
  countOf: (part: Clause | Condition) => ConditionCount | undefined;
  /** The columns of the rows that are shown as left out. */
  loaded: readonly Column[];
  depth?: number;
} = $props();

const MANY = new Set<Comparison>(["one-of", "none-of"]);
/** So many values are ticked; more are picked from a list. */
const MOST_TICKS = 24;
const NONE = new Set<Comparison>(["is-blank", "is-filled"]);

function change(at: number, one: Clause | Condition): void {
  onchange({ ...condition, clauses: condition.clauses.map((old, index) => (index === at ? one : old)) });
}

function add(one: Clause | Condition): void {
  onchange({ ...condition, clauses: [...condition.clauses, one] });
}

const fresh = (): Clause => ({ column: columns[0]?.name ?? "", is: "is-filled", values: [] });

/** What is wrong with the value of a condition over numbers or days: such a condition would be true of no row. */
function troubleOf({ column, is, values: [text = ""] }: Clause): string {
  const type = columns.find(({ name }) => name === column)?.type;
  if (is === "contains") return "";
  if (type === "number" && !/^-?\d+(?:\.\d+)?$/.test(text)) return "A number, such as 1234.5";
  const isDay = type === "date" || type === "datetime";
  return isDay && !/^\d{4}-\d{2}-\d{2}$/.test(text) ? "A day, such as 2026-11-02" : "";
}

function compared(clause: Clause, is: Comparison): Clause {
  const { values } = clause;
  if (NONE.has(is)) return { ...clause, is, values: [] };
  const some = values.length > 0 ? values : valuesOf(clause.column).slice(0, 1);
  return { ...clause, is, values: MANY.has(is) ? some : some.slice(0, 1) };
}
</script>

<div class="rows" class:inner={depth > 0}>
  {#if condition.clauses.length > 1}
    <Select size="sm" inline labelText="Rows for which" selected={condition.join} on:update={({ detail }) => { if (detail !== condition.join) onchange({ ...condition, join: detail as "and" | "or" }); }}>
      <SelectItem value="and" text="all of these are true" /><SelectItem value="or" text="one of these is true" />
    </Select>
  {/if}
  {#each condition.clauses as clause, at}
    <div class="clause">
      {#if isGroup(clause)}
        <Self condition={clause} {columns} {valuesOf} {countOf} {loaded} depth={depth + 1} onchange={(next) => change(at, next)} />
      {:else}
        <Select size="sm" labelText="Column" hideLabel selected={clause.column} on:update={({ detail }) => { if (detail !== clause.column) change(at, { column: String(detail), is: "is-filled", values: [] }); }}>
          {#each columns as column (column.name)}<SelectItem value={column.name} text={column.name} />{/each}
        </Select>
        <Select size="sm" labelText="Comparison" hideLabel selected={clause.is} on:update={({ detail }) => { if (detail !== clause.is) change(at, compared(clause, detail as Comparison)); }}>
          {#each COMPARISONS as { is, title } (is)}<SelectItem value={is} text={title} />{/each}
        </Select>
        {#if MANY.has(clause.is)}
          {@const all = [...new Set([...valuesOf(clause.column), ...clause.values])]}
          {#if all.length <= MOST_TICKS}<span></span>{:else}
          <MultiSelect size="sm" translateWithId={(id) => (id === "close" ? "Close the list" : "Open the list")} translateWithIdSelection={() => "Choose none"} label={clause.values.join(", ") || "choose …"} items={all.map((text) => ({ id: text, text: text || "(blank)" }))} selectedIds={[...clause.values]} on:select={({ detail }) => { const values = detail.selectedIds as string[]; if (values.length > 0 && values.join("\u0000") !== clause.values.join("\u0000")) change(at, { ...clause, values }); }} />{/if}
        {:else if !NONE.has(clause.is)}
          <TextInput size="sm" labelText="Value" hideLabel invalid={troubleOf(clause) !== ""} invalidText={troubleOf(clause)} list={`values-${depth}-${at}`} value={clause.values[0] ?? ""} on:change={(event) => { const text = String((event as CustomEvent).detail ?? ""); if (text !== clause.values[0]) change(at, { ...clause, values: [text] }); }} />
          <datalist id={`values-${depth}-${at}`}>{#each valuesOf(clause.column) as text}<option value={text}></option>{/each}</datalist>
        {:else}<span></span>{/if}
      {/if}
      <Button size="small" kind="ghost" icon={Close} iconDescription={`Take out condition ${at + 1}`} on:click={() => onchange({ ...condition, clauses: condition.clauses.filter((_, index) => index !== at) })} />
      {#if !isGroup(clause) && MANY.has(clause.is)}
        {@const all = [...new Set([...valuesOf(clause.column), ...clause.values])]}
        {#if all.length <= MOST_TICKS}
          <div class="ticks" role="group" aria-label={`Values of ${clause.column}`}>
            {#each all as text (text)}<Checkbox labelText={text || "(blank)"} checked={clause.values.includes(text)} on:check={({ detail }) => { const values = detail ? [...clause.values, text] : clause.values.filter((one) => one !== text); if (detail !== clause.values.includes(text) && values.length > 0) change(at, { ...clause, values }); }} />{/each}
          </div>
        {/if}
      {/if}
      {#if countOf(clause)}<div class="count"><LeftOut count={countOf(clause)} {loaded} isOneOf={condition.join === "or"} /></div>{/if}
    </div>
  {/each}
  <div class="row">
    <Button size="small" kind="ghost" icon={Add} on:click={() => add(fresh())}>Add a condition</Button>
    {#if condition.clauses.length > 0 && depth < 2}<Button size="small" kind="ghost" on:click={() => add({ join: condition.join === "and" ? "or" : "and", clauses: [fresh(), fresh()] })}>Add brackets</Button>{/if}
  </div>
</div>

<style>
  .rows { display: grid; gap: 0.4rem; min-width: 0; container-type: inline-size; }
  .inner { border-left: 2px solid var(--cds-ui-03); padding-left: 0.75rem; }
  .clause { display: grid; grid-template-columns: minmax(0, 1.1fr) minmax(0, 1.2fr) minmax(0, 1.2fr) auto; gap: 0.4rem; align-items: center; }
  .clause > :global(.rows) { grid-column: 1 / 4; }
  .count, .ticks { grid-column: 1 / -1; }
  .ticks { display: flex; flex-wrap: wrap; gap: 0 1rem; }
  .ticks :global(.bx--form-item) { flex: 0 1 auto; margin: 0; }
  /* Inside of other steps there is little room: one under the other. */
  @container (max-width: 21rem) {
    .clause { grid-template-columns: minmax(0, 1fr) auto; }
    .clause > :global(.bx--form-item), .clause > :global(.bx--list-box__wrapper), .clause > span { grid-column: 1; }
    .clause > :global(.bx--btn) { grid-column: 2; grid-row: 1; }
  }
</style>
