<script lang="ts">
/** What something is dragged by to another place among its neighbours; the arrow keys move it too. */
let {
  label,
  onmove,
  onstart,
  onend,
}: { label: string; onmove: (step: -1 | 1) => void; onstart: () => void; onend: () => void } = $props();

function move(event: KeyboardEvent): void {
  if (event.key !== "ArrowUp" && event.key !== "ArrowDown") return;
  event.preventDefault();
  onmove(event.key === "ArrowUp" ? -1 : 1);
}
</script>

<button type="button" draggable="true" aria-label={label} title="Drag to another place, or use the arrow keys" onkeydown={move} ondragstart={(event) => { event.dataTransfer?.setData("text/plain", ""); onstart(); }} ondragend={onend}>⠿</button>

<style>
  button { background: none; border: 0; padding: 0 0.15rem; font: inherit; color: var(--corbix-soft); cursor: grab; }
</style>
