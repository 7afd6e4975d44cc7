<script lang="ts">
import type { Finding } from "../../lib/api";

/** Findings, what stops first; with `onjump` those that concern cells lead to them. */
let {
  findings,
  onjump,
}: { findings: Finding[]; onjump?: ((row: number, column: string | undefined) => void) | undefined } = $props();
const words = { stop: "Stops", warn: "Look", note: "Note" } as const;
</script>

{#if findings.length > 0}
  <ul aria-label="Findings">
    {#each findings as finding}
      <li class={finding.severity}>
        <span class="word">{words[finding.severity]}</span>
        <span>
          <strong>{finding.where}</strong><br />
          {finding.what}
          {#if finding.advice !== "Nothing to do."}<span class="soft">{finding.advice}</span>{/if}
          {#if onjump && finding.cells && finding.cells.rows.length > 0}
            <span class="cells">{#each finding.cells.rows.slice(0, 8) as row}<button onclick={() => onjump?.(row, finding.cells?.column)} title="Show row {row}">row {row}</button>{/each}</span>
          {/if}
        </span>
      </li>
    {/each}
  </ul>
{/if}

<style>
  ul { display: grid; gap: 1px; background: var(--cds-ui-03); border: 1px solid var(--cds-ui-03); }
  li { display: grid; grid-template-columns: 4rem 1fr; padding: 0.45rem 0.75rem; background: var(--cds-ui-02); border-left: 3px solid var(--cds-ui-03); font-size: 0.875rem; line-height: 1.3rem; overflow-wrap: anywhere; }
  li.stop { border-left-color: var(--corbix-stop); }
  li.stop .word { color: var(--corbix-stop); }
  li.warn { border-left-color: var(--corbix-amber); }
  li.warn .word { color: var(--corbix-amber); }
  .word { font-weight: 600; }
  .cells { display: flex; flex-wrap: wrap; gap: 0.1rem 0.75rem; }
  .cells button { background: none; border: 0; padding: 0; color: var(--cds-link-01); cursor: pointer; font: inherit; text-decoration: underline; }
</style>
