<script lang="ts">
/** Rows of short texts under headings, in a frame that scrolls. `marked` rows stand out. */
let {
  label,
  headings,
  rows,
  marked = () => false,
}: { label: string; headings: string[]; rows: string[][]; marked?: (row: number) => boolean } = $props();
/** More rows make a page slow and nobody reads them. */
const MOST = 500;
</script>

{#if rows.length > 0}
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div class="list" tabindex="0" role="region" aria-label={label}>
    <table>
      <thead><tr>{#each headings as heading}<th scope="col">{heading}</th>{/each}</tr></thead>
      <tbody>{#each rows.slice(0, MOST) as row, at}<tr class:marked={marked(at)}>{#each row as text}<td>{text}</td>{/each}</tr>{/each}</tbody>
    </table>
  </div>
  {#if rows.length > MOST}<p class="soft">The first {MOST} of {rows.length}.</p>{/if}
{/if}

<style>
  .list { overflow: auto; max-height: 65vh; border: 1px solid var(--cds-ui-03); margin-top: 0.5rem; }
  table { border-collapse: collapse; width: 100%; font-size: 0.8125rem; }
  th { text-align: left; position: sticky; top: 0; background: var(--cds-ui-01); }
  th, td { padding: 0.3rem 0.5rem; border-bottom: 1px solid var(--cds-ui-03); vertical-align: top; overflow-wrap: anywhere; line-height: 1.2rem; }
  td:first-child { white-space: nowrap; }
  .marked td { background: color-mix(in srgb, var(--cds-support-01) 12%, transparent); }
</style>
