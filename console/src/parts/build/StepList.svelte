<script lang="ts">
import { CheckmarkFilled, CircleDash, WarningAltFilled } from "carbon-icons-svelte";
import { word } from "../../lib/format";
import { type StepKey, type StepState, stepsFor } from "../../lib/report/steps";
import { link } from "../../lib/router.svelte";

/** The steps of the work with their state: fine, wants a look, missing. */
let {
  report,
  chosen,
  states,
  isAsked,
}: { report: string; chosen: StepKey; states: Readonly<Record<StepKey, StepState>>; isAsked: boolean } = $props();
const steps = $derived(stepsFor(isAsked));
const words = { fine: word("fine"), look: "wants a look", missing: word("missing") } as const;
const icons = { fine: CheckmarkFilled, look: WarningAltFilled, missing: CircleDash };
</script>

<nav aria-label="Steps">
  <ol>
    {#each steps as { key, title }, at}
      {@const Icon = icons[states[key]]}
      <li><a href={link("reports", report, key)} aria-current={chosen === key ? "step" : undefined} class={states[key]}>
        <Icon aria-label={words[states[key]]} /><span>{at + 1}. {title}</span>
      </a></li>
    {/each}
  </ol>
  <a class="text" href={link("reports", report, "text")} aria-current={String(chosen) === "text" ? "step" : undefined}>As text</a>
</nav>

<style>
  nav { position: sticky; top: 4rem; align-self: start; }
  ol { display: grid; gap: 1px; }
  a { display: grid; grid-template-columns: 1.25rem 1fr; gap: 0.4rem; align-items: center; padding: 0.45rem 0.5rem; text-decoration: none; color: var(--cds-text-01); font-size: 0.875rem; border-left: 3px solid transparent; }
  a:hover { background: var(--cds-ui-01); }
  a[aria-current] { background: var(--cds-ui-02); border-left-color: #d0782f; font-weight: 600; }
  .text { margin-top: 0.5rem; grid-template-columns: 1fr; padding-left: 2.15rem; }
  .fine :global(svg) { fill: var(--cds-interactive-04); }
  .look :global(svg) { fill: var(--corbix-amber); }
  .missing :global(svg) { fill: var(--corbix-soft); }
</style>
