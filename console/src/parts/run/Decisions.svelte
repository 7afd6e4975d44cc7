<script lang="ts">
import type { Reading } from "../../lib/client";
import { count, plural } from "../../lib/format";
import { foundWord, lineReason } from "../../lib/reading-words";

/** How a file was read, with the reason of each decision, and where its lines went. */
let { reading }: { reading: Reading } = $props();
const told = $derived(
  Object.entries(reading.reading).filter(([what]) => !reading.decisions.some((one) => one.what === what)),
);
const left = $derived(reading.leftOut.reduce((sum, one) => sum + one.count, 0));
const changed = $derived(reading.changes.reduce((sum, one) => sum + one.count, 0));
const isAppended = $derived(reading.appended !== null);
</script>

<p class="account">
  {#if isAppended}{count(reading.appended?.added ?? 0)} rows added and {count(reading.appended?.replaced ?? 0)} replaced by key; now {plural(reading.rowCount, ["# row", "# rows"])}.
  {:else}{count(reading.rowCount + left)} lines with content = {plural(reading.rowCount, ["# row", "# rows"])} + {count(left)} left out{left > 0 ? ` (${reading.leftOut.map((one) => `${lineReason(one.reason)} ${count(one.count)}`).join(", ")})` : ""}.{/if}
  {#if changed > 0}{plural(changed, ["# cell stands otherwise than in the file.", "# cells stand otherwise than in the file."])}{/if}
</p>
<table>
  <thead><tr><th scope="col">What</th><th scope="col">Chosen</th><th scope="col">Why</th></tr></thead>
  <tbody>
    {#each told as [what, chosen]}<tr><td>{foundWord(what)}</td><td>{chosen}</td><td class="soft">told by the content</td></tr>{/each}
    {#each reading.decisions as one}<tr><td>{foundWord(one.what)}</td><td>{one.chosen}</td><td class="soft">{one.why}{#if one.corrected}<span class="corrected">corrected</span>{/if}</td></tr>{/each}
  </tbody>
</table>
{#if left > 0}
  <details>
    <summary>Lines left out</summary>
    <table>
      <tbody>
        {#each reading.leftOut as group}{#each group.lines as line}<tr><td>row {line.row}</td><td>{lineReason(group.reason)}</td><td>{line.text}</td></tr>{/each}{#if group.count > group.lines.length}<tr><td></td><td>{lineReason(group.reason)}</td><td class="soft">and {count(group.count - group.lines.length)} more</td></tr>{/if}{/each}
      </tbody>
    </table>
  </details>
{/if}

<style>
  .account { margin-bottom: 0.75rem; }
  table { border-collapse: collapse; font-size: 0.8125rem; width: 100%; background: var(--cds-ui-02); border: 1px solid var(--cds-ui-03); }
  th { text-align: left; background: var(--cds-ui-01); font-weight: 600; }
  th, td { padding: 0.25rem 0.75rem; border-bottom: 1px solid var(--cds-ui-03); vertical-align: top; }
  td.soft { font-size: inherit; }
  td:first-child { white-space: nowrap; }
  .corrected { margin-left: 0.5rem; color: var(--corbix-amber); font-weight: 600; }
  details { margin-top: 0.75rem; }
</style>
