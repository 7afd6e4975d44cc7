<script lang="ts">
import type { Finding } from "../../lib/client";
import { count } from "../../lib/format";
import { scrollable } from "../../lib/scrollable";

/**
 * Findings, what stops first; with `onjump` those that concern cells lead to them, with `onall` one that stands for many is followed by
 * the others.
 */
type Told = Finding & { times?: number };
let {
  findings,
  onjump,
  onall,
}: {
  findings: Told[];
  onjump?: ((row: number, column: string | undefined) => void) | undefined;
  onall?: ((finding: Finding) => Promise<{ items: Finding[]; total: number }>) | undefined;
} = $props();
let all = $state<Record<string, { items: Finding[]; total: number }>>({});
const kindOf = ({ code, severity }: Finding): string => `${severity} ${code}`;

async function showAll(finding: Finding): Promise<void> {
  if (onall) all[kindOf(finding)] = await onall(finding);
}
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
          {#if onall && (finding.times ?? 1) > 1}
            {@const told = all[kindOf(finding)]}
            {#if told}
              <ul class="all" use:scrollable data-scrolls="All of them">{#each told.items as one}<li><strong>{one.where}</strong> {one.what}</li>{/each}</ul>
              {#if told.total > told.items.length}<span class="soft">and {count(told.total - told.items.length)} more</span>{/if}
            {:else}<button class="show" onclick={() => showAll(finding)}>Show all {count(finding.times ?? 1)}</button>{/if}
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
  .all { display: block; max-height: 14rem; overflow: auto; margin-top: 0.4rem; border: 0; background: none; }
  .all li { display: block; border: 0; padding: 0.15rem 0; }
  .show { background: none; border: 0; padding: 0; color: var(--cds-link-01); cursor: pointer; font: inherit; text-decoration: underline; }
  .cells button { background: none; border: 0; padding: 0; min-height: 1.5rem; color: var(--cds-link-01); cursor: pointer; font: inherit; text-decoration: underline; }
</style>
