<script lang="ts">
import type { Run } from "../../lib/client";
import { count, plural } from "../../lib/format";
import { link } from "../../lib/router.svelte";

/** A run beside the one of the period before: what is new, gone or moved, each leading to its parcels. */
type Kind = "new" | "moved" | "resized";
let {
  since,
  chosen,
  onchoose,
}: { since: NonNullable<Run["since"]>; chosen: Kind | ""; onchoose: (kind: Kind | "") => void } = $props();
const told = $derived(
  (
    [
      ["new", since.newCount, `${plural(since.newCount, ["# group", "# groups"])} new`],
      ["moved", since.movedCount, `${plural(since.movedCount, ["# group", "# groups"])} with a figure half or double`],
      [
        "resized",
        since.resizedCount,
        `${plural(since.resizedCount, ["# group", "# groups"])} with files half or twice the size`,
      ],
    ] as const
  ).filter(([, number]) => number > 0),
);
const nothing = $derived(told.length === 0 && since.goneCount === 0);
</script>

<p class="since">
  <span>Beside <a href={link("runs", since.run)}>{since.periodLabel}</a>: {nothing ? "no group is new or gone, and no figure moved much." : ""}</span>
  {#each told as [kind, , words]}<button type="button" aria-pressed={chosen === kind} onclick={() => onchoose(chosen === kind ? "" : kind)}>{words}</button>{/each}
  {#if since.goneCount > 0}<span title={since.gone.map((one) => one.label).join(", ")}>{plural(since.goneCount, ["# group", "# groups"])} gone: {since.gone.slice(0, 4).map((one) => `${one.label} (${plural(one.rows, ["# row", "# rows"])})`).join(", ")}{#if since.goneCount > 4}{" "}and {count(since.goneCount - 4)} more{/if}</span>{/if}
</p>

<style>
  .since { display: flex; flex-wrap: wrap; gap: 0.3rem 0.75rem; align-items: center; font-size: 0.875rem; margin: 0.6rem 0; }
  button { background: var(--cds-ui-02); border: 1px solid var(--cds-ui-04); padding: 0.15rem 0.6rem; border-radius: 1rem; font: inherit; font-size: 0.8125rem; color: var(--cds-text-01); cursor: pointer; }
  button[aria-pressed="true"] { background: var(--cds-selected-ui); border-color: #d0782f; font-weight: 600; }
</style>
