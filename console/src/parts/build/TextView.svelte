<script lang="ts">
import { autocompletion, type CompletionContext, type CompletionResult } from "@codemirror/autocomplete";
import { yaml } from "@codemirror/lang-yaml";
import { HighlightStyle, syntaxHighlighting } from "@codemirror/language";
import { type Diagnostic, lintGutter, setDiagnostics } from "@codemirror/lint";
import { EditorView } from "@codemirror/view";
import { tags } from "@lezer/highlight";
import { basicSetup } from "codemirror";
import { untrack } from "svelte";
import { mayWriteHere } from "../../lib/may-write";
import { styleNonce } from "../../lib/page-policy";
import type { Known } from "../../lib/report/choices";
import type { Draft } from "../../lib/report/draft.svelte";
import type { Schema } from "../../lib/report/schema";
import { offersAt, placeOf } from "../../lib/report/text-help";

/** The report as text: the same thing as the clicks, in step with them; troubles at their lines, fields and names offered. */
let { draft, known, schema }: { draft: Draft; known: Known; schema: Schema } = $props();
const mayWrite = mayWriteHere();
let holder = $state<HTMLElement>();
let view = $state.raw<EditorView>();

const colours = HighlightStyle.define([
  { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: "var(--cds-link-01)" },
  { tag: tags.string, color: "var(--cds-text-01)" },
  { tag: tags.comment, color: "var(--corbix-soft)", fontStyle: "italic" },
]);
const look = EditorView.theme({
  "&": { fontSize: "0.8125rem", backgroundColor: "var(--cds-ui-02)", border: "1px solid var(--cds-ui-03)" },
  ".cm-scroller": { fontFamily: '"IBM Plex Mono", ui-monospace, monospace', lineHeight: "1.25rem" },
  ".cm-content": { caretColor: "var(--cds-text-01)" },
  ".cm-cursor": { borderLeftColor: "var(--cds-text-01)" },
  ".cm-gutters": { backgroundColor: "var(--cds-ui-01)", color: "var(--corbix-soft)", border: "0" },
  ".cm-activeLine, .cm-activeLineGutter": { backgroundColor: "var(--cds-highlight)" },
  ".cm-tooltip-autocomplete ul li[aria-selected]": { backgroundColor: "#2f6b57", color: "#fff" },
  ".cm-tooltip": { backgroundColor: "var(--cds-ui-02)", color: "var(--cds-text-01)", borderColor: "var(--cds-ui-03)" },
});

function complete(context: CompletionContext): CompletionResult | null {
  const text = context.state.doc.toString();
  const found = offersAt(text, context.pos, schema, known);
  if (!found || (!context.explicit && found.from === context.pos && !/[:{,-]\s$/.test(text.slice(0, context.pos))))
    return null;
  return {
    from: found.from,
    options: found.offers.map(({ label, detail, text: apply }) => ({ label, detail, apply })),
  };
}

$effect(() => {
  if (!holder) return;
  const made = new EditorView({
    parent: holder,
    doc: untrack(() => draft.text),
    extensions: [
      basicSetup,
      EditorView.cspNonce.of(styleNonce),
      EditorView.editable.of(mayWrite()),
      yaml(),
      look,
      syntaxHighlighting(colours),
      lintGutter(),
      autocompletion({ override: [complete] }),
      EditorView.lineWrapping,
      EditorView.contentAttributes.of({ "aria-label": "Definition", spellcheck: "false" }),
      EditorView.updateListener.of((update) => {
        if (update.docChanged) draft.write(update.state.doc.toString());
      }),
    ],
  });
  view = made;
  return () => made.destroy();
});
// What is clicked or taken back elsewhere shows here.
$effect(() => {
  const text = draft.text;
  const shown = view?.state.doc.toString();
  if (view && shown !== text) view.dispatch({ changes: { from: 0, to: shown?.length ?? 0, insert: text } });
});
$effect(() => {
  const { text, problems } = draft;
  const wrong = draft.definition.problem;
  if (!view || view.state.doc.toString() !== text) return;
  const { doc } = view.state;
  const of = (where: string): { from: number; to: number } => {
    if (where !== "text" || !wrong) return placeOf(text, where);
    const line = doc.line(Math.min(wrong.line, doc.lines));
    return { from: Math.min(line.from + wrong.column - 1, line.to), to: line.to };
  };
  const diagnostics = problems.map(
    ({ what, where }): Diagnostic => ({ ...of(where), severity: "error", message: what }),
  );
  view.dispatch(setDiagnostics(view.state, diagnostics));
});
</script>

<div bind:this={holder}></div>
<p class="soft">Ctrl-Space offers what can stand where the cursor is. Comments stay, whatever is clicked.</p>
{#if draft.problems.length > 0}
  <ul aria-label="What stands in the way">
    {#each draft.problems as { what, where }}<li><strong>{what}</strong> <span class="soft">{where === "text" ? "" : where}</span></li>{/each}
  </ul>
{/if}

<style>
  strong { color: var(--corbix-stop); font-weight: 600; }
  ul { margin-top: 0.5rem; font-size: 0.875rem; overflow-wrap: anywhere; }
  .soft { margin-top: 0.5rem; }
</style>
