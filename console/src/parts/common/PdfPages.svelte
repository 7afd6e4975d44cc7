<script lang="ts">
import * as pdf from "pdfjs-dist";
import worker from "pdfjs-dist/build/pdf.worker.min.mjs?url";
import { bytesAt } from "../../lib/client";

pdf.GlobalWorkerOptions.workerSrc = worker;

/** Draws the pages of the file itself, so that what is seen is what is sent. */
let { source, label }: { source: string; label: string } = $props();
let holder = $state<HTMLDivElement>();
let trouble = $state("");
let pages = $state(0);

$effect(() => {
  const target = holder;
  const wanted = source;
  if (!target) return;
  let isCurrent = true;
  trouble = "";
  draw(wanted, target, () => isCurrent).catch((error: Error) => {
    if (isCurrent) trouble = error.message;
  });
  return () => {
    isCurrent = false;
  };
});

async function draw(address: string, target: HTMLDivElement, isCurrent: () => boolean): Promise<void> {
  const document = await pdf.getDocument({ data: await bytesAt(address), isEvalSupported: false }).promise;
  if (!isCurrent()) return;
  target.replaceChildren();
  pages = document.numPages;
  for (let number = 1; number <= Math.min(document.numPages, 20); number++) {
    const page = await document.getPage(number);
    if (!isCurrent()) return;
    const width = Math.max(280, target.clientWidth - 2);
    const scale = (width / page.getViewport({ scale: 1 }).width) * window.devicePixelRatio;
    const viewport = page.getViewport({ scale });
    const canvas = window.document.createElement("canvas");
    canvas.width = viewport.width;
    canvas.height = viewport.height;
    canvas.setAttribute("role", "img");
    canvas.setAttribute("aria-label", `${label}, page ${number} of ${document.numPages}`);
    target.append(canvas);
    await page.render({ canvas, viewport }).promise;
  }
}
</script>

{#if trouble}<p class="soft">The pages cannot be shown: {trouble}</p>{/if}
<div class="pages" bind:this={holder} data-pages={pages}></div>

<style>
  .pages :global(canvas) { width: 100%; display: block; margin-bottom: 0.75rem; background: var(--corbix-page); border: 1px solid var(--cds-ui-03); }
</style>
