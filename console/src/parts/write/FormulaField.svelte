<script lang="ts">
import { autocompletion, completionKeymap, snippet } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { setDiagnostics } from "@codemirror/lint";
import { EditorState } from "@codemirror/state";
import { EditorView, keymap, placeholder } from "@codemirror/view";
import { onMount } from "svelte";
import { mayWriteHere } from "../../lib/may-write";
import { styleNonce } from "../../lib/page-policy";
import { formulaOffers } from "../../lib/report/formula-help";

/** A formula that completes names of columns and functions while it is typed. */
let {
  value,
  label,
  names,
  over,
  hint = "",
  trouble,
  onchange,
}: {
  value: string;
  label: string;
  names: readonly string[];
  /** Of a row's own values, or over the lines of a group. */
  over: "value" | "line";
  hint?: string;
  /** What is wrong, and from which character on (1 is the first). */
  trouble: { readonly words: string; readonly character: number | undefined } | undefined;
  onchange: (text: string) => void;
} = $props();
const mayWrite = mayWriteHere();
let place: HTMLElement;
let view: EditorView | undefined;
let own = "";

onMount(() => {
  own = value;
  view = new EditorView({
    parent: place,
    state: EditorState.create({
      doc: value,
      extensions: [
        history(),
        EditorView.cspNonce.of(styleNonce),
        EditorView.editable.of(mayWrite()),
        keymap.of([...completionKeymap, { key: "Enter", run: () => true }, ...historyKeymap, ...defaultKeymap]),
        EditorState.transactionFilter.of((change) => (change.newDoc.lines > 1 ? [] : change)),
        EditorView.contentAttributes.of({ "aria-label": label }),
        EditorView.lineWrapping,
        ...(hint === "" ? [] : [placeholder(hint)]),
        autocompletion({
          icons: false,
          override: [
            ({ pos, state, explicit }) => {
              const found = formulaOffers(state.doc.toString(), pos, names, over);
              if (!found || (found.from === pos && !explicit)) return null;
              return {
                from: found.from,
                filter: false,
                options: found.offers.map(({ label: name, detail, text, isFunction }) => ({
                  label: name,
                  detail,
                  // biome-ignore lint/suspicious/noTemplateCurlyInString: the place of the cursor in a snippet
                  apply: isFunction ? snippet(text.replace("()", "(${})")) : text,
                })),
              };
            },
          ],
        }),
        EditorView.updateListener.of(({ docChanged, state }) => {
          if (!docChanged) return;
          own = state.doc.toString();
          onchange(own);
        }),
      ],
    }),
  });
  return () => view?.destroy();
});
$effect(() => {
  if (value === own || !view) return;
  own = value;
  view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: value } });
});

$effect(() => {
  if (!view) return;
  const { length } = view.state.doc;
  const from = Math.min(Math.max(0, (trouble?.character ?? 1) - 1), Math.max(0, length - 1));
  const wrong = trouble && {
    from,
    to: view.state.wordAt(from)?.to ?? length,
    severity: "error" as const,
    message: trouble.words,
  };
  view.dispatch(setDiagnostics(view.state, wrong ? [wrong] : []));
});
</script>

<div class="formula" class:wrong={trouble !== undefined} bind:this={place}></div>

<style>
  .formula { background: var(--cds-field-01); border-bottom: 1px solid var(--cds-ui-04); min-width: 0; }
  .formula.wrong { outline: 2px solid var(--cds-support-01); outline-offset: -2px; }
  .formula :global(.cm-editor) { font-size: 0.8125rem; }
  .formula :global(.cm-editor.cm-focused) { outline: 2px solid var(--cds-focus); outline-offset: -2px; }
  .formula :global(.cm-content) { padding: 0.42rem 0; font-family: "IBM Plex Mono", ui-monospace, monospace; }
  .formula :global(.cm-line) { padding: 0 0.75rem; }
  .formula :global(.cm-tooltip) { background: var(--cds-ui-01); border: 1px solid var(--cds-ui-04); color: var(--cds-text-01); z-index: 9000; }
  .formula :global(.cm-tooltip-autocomplete ul li) { padding: 0.2rem 0.5rem; font-family: "IBM Plex Sans", sans-serif; }
  .formula :global(.cm-tooltip-autocomplete ul li[aria-selected]) { background: var(--cds-selected-ui); color: var(--cds-text-01); }
  .formula :global(.cm-completionDetail) { color: var(--corbix-soft); font-style: normal; margin-left: 0.75rem; }
</style>
