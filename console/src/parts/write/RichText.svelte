<script lang="ts">
import "prosemirror-view/style/prosemirror.css";
import "./rich-text.css";
import { Button, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { EditorState } from "prosemirror-state";
import { EditorView } from "prosemirror-view";
import { onMount, untrack } from "svelte";
import { at } from "../../lib/client";
import { mayWriteHere } from "../../lib/may-write";
import { type Insertion, tableMark } from "../../lib/message";
import { chipName, chipView } from "../../lib/rich-text/chips";
import { isRowsTable } from "../../lib/rich-text/marks-aside";
import { readRowsTable, writeRowsTable } from "../../lib/rich-text/rows-table";
import { TOOLS, type Tool, type Writing } from "../../lib/rich-text/writing";
import PutIn from "./PutIn.svelte";
import RowsTableSetup from "./RowsTableSetup.svelte";

/** Words written formatted: what is seen is what is sent. A group's own values are chips, its rows a table that is set up. */
let {
  value,
  label,
  insertions,
  columns,
  pictures,
  writing,
  onchange,
}: {
  value: string;
  label: string;
  insertions: readonly Insertion[];
  columns: readonly { name: string; type: string }[];
  /** Files of the library that are pictures. */
  pictures: readonly string[];
  /** How the words are kept; the editor of another way is another one. */
  writing: Writing;
  onchange: (text: string) => void;
} = $props();
let place: HTMLElement;
let view: EditorView | undefined;
let own = "";
let pressed = $state<Readonly<Record<Tool, boolean>>>();
let address = $state<string>();
/** The table that is being set up: where it stands in the words. */
let table = $state<{ at: number; source: string }>();
let picture = $state("");
const names = $derived(columns.map(({ name }) => name));

const stateOf = (text: string): EditorState =>
  EditorState.create({ doc: writing.read(text), plugins: writing.plugins() });

function rowsView(source: string, position: () => number | undefined): { dom: HTMLElement } {
  const dom = document.createElement("div");
  dom.className = "rows-table";
  const shown = readRowsTable(source, names);
  const words = document.createElement("span");
  words.textContent = shown
    ? `Table of the rows: ${shown.columns.map((one) => one.heading || one.column).join(", ")}`
    : source;
  const button = document.createElement("button");
  button.type = "button";
  button.textContent = "Set up";
  button.onclick = () => {
    const found = position();
    if (found !== undefined) table = { at: found, source };
  };
  dom.append(words, ...(shown ? [button] : []));
  return { dom };
}

function pictureView(source: string, alt: string): { dom: HTMLElement } {
  const dom = document.createElement("img");
  dom.alt = alt;
  dom.src = /^(?:https?|data|cid):/.test(source) ? "" : at(`/templates/${encodeURIComponent(source)}/content`);
  return { dom };
}

type Drawn = ConstructorParameters<typeof EditorView>[1]["nodeViews"];
const drawing = (): Drawn => ({
  chip: (node) => chipView(node, (source) => chipName(source, insertions)),
  rows_table: (node, _, position) => rowsView(String(node.attrs.source), position),
  image: (node) => pictureView(String(node.attrs.src), String(node.attrs.alt ?? "")),
});

const mayWrite = mayWriteHere();
onMount(() => {
  own = value;
  view = new EditorView(place, {
    state: stateOf(value),
    editable: () => mayWrite(),
    attributes: { role: "textbox", "aria-multiline": "true", "aria-label": label },
    nodeViews: drawing(),
    clipboardTextSerializer: (slice) => writing.write(writing.schema.topNodeType.create(null, slice.content)),
    dispatchTransaction(change) {
      if (!view) return;
      view.updateState(view.state.apply(change));
      press();
      if (!change.docChanged) return;
      own = writing.write(view.state.doc);
      onchange(own);
    },
  });
  press();
  return () => view?.destroy();
});
$effect(() => {
  if (value !== own) {
    own = value;
    view?.updateState(stateOf(value));
  }
});
// Chips and tables are named by the columns, which are known when the data are. Drawn anew, the words and the cursor stay.
const named = $derived([...names, ...insertions.map(({ mark, name }) => `${mark} ${name}`)].join("\n"));
$effect(() => {
  void named;
  untrack(() => view?.setProps({ nodeViews: drawing() }));
});

function press(): void {
  const state = view?.state;
  if (state)
    pressed = Object.fromEntries(TOOLS.map(({ tool }) => [tool, writing.isOn(state, tool)])) as Record<Tool, boolean>;
}

function use(tool: Tool): void {
  if (!view) return;
  writing.commandOf(view.state, tool)(view.state, view.dispatch);
  view.focus();
}

function put(mark: string): void {
  if (!view) return;
  const node = isRowsTable(mark)
    ? writing.schema.node("rows_table", { source: mark })
    : writing.schema.node("chip", { source: mark });
  view.dispatch(view.state.tr.replaceSelectionWith(node).scrollIntoView());
  view.focus();
}

function putPicture(name: string): void {
  if (!view || name === "") return;
  view.dispatch(
    view.state.tr.replaceSelectionWith(writing.schema.node("image", { src: name, alt: name.replace(/\.\w+$/, "") })),
  );
  picture = "";
  view.focus();
}

function putLink(): void {
  if (!view || address === undefined) return;
  const href = /^\w+:/.test(address) || address.startsWith("{{") ? address : `https://${address}`;
  writing.setLink(href)(view.state, view.dispatch);
  address = undefined;
  view.focus();
}

function setUp(source: string): void {
  if (!view || !table) return;
  view.dispatch(view.state.tr.setNodeMarkup(table.at, undefined, { source }));
  table = { ...table, source };
}
</script>

<div class="rich">
  <div class="tools" role="toolbar" aria-label={`Format ${label.toLowerCase()}`}>
    {#each TOOLS as { tool, name }}<button type="button" aria-pressed={pressed?.[tool] ?? false} onmousedown={(event) => event.preventDefault()} onclick={() => use(tool)}>{name}</button>{/each}
    <button type="button" aria-expanded={address !== undefined} onclick={() => { address = address === undefined ? "" : undefined; }}>Link</button>
    <button type="button" disabled={columns.length === 0} onclick={() => put(tableMark(columns))}>Table of the rows</button>
    <span class="pick"><PutIn {label} insertions={insertions.filter(({ mark }) => !isRowsTable(mark))} onput={put} /></span>
    {#if pictures.length > 0}
      <span class="pick"><Select size="sm" hideLabel labelText={`Picture in ${label.toLowerCase()}`} bind:selected={picture} on:update={({ detail }) => putPicture(String(detail))}><SelectItem value="" text="Picture …" />{#each pictures as one (one)}<SelectItem value={one} text={one} />{/each}</Select></span>
    {/if}
  </div>
  {#if address !== undefined}
    <form onsubmit={(event) => { event.preventDefault(); putLink(); }}>
      <TextInput size="sm" labelText="Address of the link" placeholder="https://lifts.example/help" bind:value={address} />
      <Button size="small" kind="ghost" type="submit" disabled={address.trim() === ""}>Set the link</Button>
    </form>
  {/if}
  <div class="rich-words" bind:this={place}></div>
  {#if table}
    {@const shown = readRowsTable(table.source, names)}
    {#if shown}<RowsTableSetup {shown} {columns} onchange={(next) => setUp(writeRowsTable(next, names))} onclose={() => { table = undefined; }} />{/if}
  {/if}
</div>

<style>
  .rich { border: 1px solid var(--cds-ui-03); background: var(--cds-field-01); min-width: 0; }
  .tools { display: flex; flex-wrap: wrap; gap: 0.15rem; align-items: center; padding: 0.25rem; border-bottom: 1px solid var(--cds-ui-03); background: var(--cds-ui-01); }
  .tools button { background: none; border: 0; padding: 0.35rem 0.55rem; font: inherit; font-size: 0.8125rem; color: var(--cds-text-01); cursor: pointer; }
  .tools button:hover:not(:disabled) { background: var(--cds-hover-ui); }
  .tools button[aria-pressed="true"] { background: var(--cds-selected-ui); font-weight: 600; }
  .tools button:disabled { color: var(--cds-disabled-02); cursor: default; }
  .pick { flex: 0 1 8.5rem; }
  .pick :global(select) { width: 100%; min-width: 0; }
  form { display: flex; gap: 0.5rem; align-items: end; padding: 0.5rem 0.75rem; border-bottom: 1px solid var(--cds-ui-03); }
</style>
