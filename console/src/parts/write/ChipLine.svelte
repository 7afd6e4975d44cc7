<script lang="ts">
import "prosemirror-view/style/prosemirror.css";
import type { Node } from "prosemirror-model";
import { EditorState } from "prosemirror-state";
import { EditorView } from "prosemirror-view";
import { onMount, untrack } from "svelte";
import { mayWriteHere } from "../../lib/may-write";
import type { Insertion } from "../../lib/message";
import { chipName, chipView, oneLine, readLine, writeLine } from "../../lib/rich-text/chips";
import { linePlugins } from "../../lib/rich-text/editor";
import PutIn from "./PutIn.svelte";

/** A line of words in which a group's own values stand as chips, such as a subject or the name of a file. */
let {
  value,
  label,
  insertions,
  onchange,
}: { value: string; label: string; insertions: readonly Insertion[]; onchange: (text: string) => void } = $props();
let place: HTMLElement;
let view: EditorView | undefined;
/** What the editor holds, so that its own changes are not read back. */
let own = "";

const stateOf = (text: string): EditorState => EditorState.create({ doc: readLine(text), plugins: linePlugins() });

const drawing = () => ({ chip: (node: Node) => chipView(node, (source) => chipName(source, insertions)) });

const mayWrite = mayWriteHere();
onMount(() => {
  own = value;
  view = new EditorView(place, {
    state: stateOf(value),
    editable: () => mayWrite(),
    attributes: { role: "textbox", "aria-label": label },
    nodeViews: drawing(),
    clipboardTextSerializer: (slice) => writeLine(oneLine.node("doc", null, slice.content)),
    dispatchTransaction(change) {
      if (!view) return;
      view.updateState(view.state.apply(change));
      if (!change.docChanged) return;
      own = writeLine(view.state.doc);
      onchange(own);
    },
  });
  return () => view?.destroy();
});
$effect(() => {
  if (value !== own) {
    own = value;
    view?.updateState(stateOf(value));
  }
});
// Chips are named by what can be put in, which is known when the data are. Drawn anew, the words and the cursor stay.
const names = $derived(insertions.map(({ mark, name }) => `${mark} ${name}`).join("\n"));
$effect(() => {
  void names;
  untrack(() => view?.setProps({ nodeViews: drawing() }));
});

function put(mark: string): void {
  if (!view) return;
  view.dispatch(view.state.tr.replaceSelectionWith(oneLine.node("chip", { source: mark })));
  view.focus();
}
</script>

<div class="line">
  <div class="field"><span class="label">{label}</span><div class="words" bind:this={place}></div></div>
  <PutIn {label} {insertions} onput={put} />
</div>

<style>
  .line { display: flex; flex-wrap: wrap; gap: 0.25rem 0.5rem; align-items: end; }
  .field { flex: 1 1 12rem; min-width: 0; }
  .line > :global(.bx--form-item) { flex: 0 1 9rem; min-width: 0; }
  .line :global(select) { width: 100%; min-width: 0; }
  .label { display: block; font-size: 0.75rem; color: var(--corbix-soft); margin-bottom: 0.35rem; }
  .words :global(.ProseMirror) { background: var(--cds-field-01); border-bottom: 1px solid var(--cds-ui-04); padding: 0.32rem 0.75rem; min-height: 2rem; font-size: 0.875rem; line-height: 1.3rem; white-space: pre-wrap; }
  .words :global(.ProseMirror:focus) { outline: 2px solid var(--cds-focus); outline-offset: -2px; }
</style>
