<script lang="ts" generics="Key extends string">
/** A row of tabs over one panel: arrows go along them, the chosen one is reached by Tab. */
let {
  label,
  tabs,
  chosen,
  onchoose,
}: {
  label: string;
  tabs: readonly { readonly key: Key; readonly title: string }[];
  chosen: Key;
  onchoose: (key: Key) => void;
} = $props();
let row = $state<HTMLElement>();

function move(event: KeyboardEvent): void {
  const at = tabs.findIndex(({ key }) => key === chosen);
  const steps: Readonly<Record<string, number>> = {
    ArrowLeft: at - 1,
    ArrowRight: at + 1,
    Home: 0,
    End: tabs.length - 1,
  };
  const to = steps[event.key];
  if (to === undefined) return;
  event.preventDefault();
  const next = (to + tabs.length) % tabs.length;
  onchoose(tabs[next].key);
  row?.querySelectorAll("button")[next]?.focus();
}
</script>

<!-- svelte-ignore a11y_interactive_supports_focus -->
<div class="tabs" role="tablist" aria-label={label} bind:this={row} onkeydown={move}>
  {#each tabs as { key, title } (key)}
    <button type="button" role="tab" aria-selected={key === chosen} tabindex={key === chosen ? 0 : -1} onclick={() => onchoose(key)}>{title}</button>
  {/each}
</div>

<style>
  .tabs { display: flex; flex-wrap: wrap; border-bottom: 1px solid var(--cds-ui-03); }
  button { background: none; border: 0; border-bottom: 2px solid transparent; padding: 0.35rem 0.5rem; font: inherit; font-size: 0.8125rem; color: var(--cds-text-01); cursor: pointer; min-height: 1.75rem; }
  button[aria-selected="true"] { border-bottom-color: #d0782f; font-weight: 600; }
  button:focus-visible { outline: 2px solid var(--cds-focus); outline-offset: -2px; }
</style>
