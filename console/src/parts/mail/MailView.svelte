<script lang="ts">
import { ContentSwitcher, Switch } from "carbon-components-svelte";
import { at, bytesAt } from "../../lib/client";

/** A mail's body as its receiver sees it, without any power over this page. */
let { html, text }: { html: string | null; text: string } = $props();
let chosen = $state(0);
let pictured = $state<{ source: string; made: string }>();
const shown = $derived(pictured && pictured.source === html ? pictured.made : (html ?? ""));

/** Pictures that come with a message are put in, since nothing inside the frame may fetch. */
async function withPictures(source: string): Promise<string> {
  let made = source;
  for (const [whole, hex] of source.matchAll(/cid:([0-9a-f]+)@corbix/g)) {
    const name = new TextDecoder().decode(Uint8Array.from(hex.match(/../g) ?? [], (pair) => Number.parseInt(pair, 16)));
    const bytes = await bytesAt(at(`/templates/${encodeURIComponent(name)}/content`)).catch(() => undefined);
    if (!bytes) continue;
    const letters = Array.from(new Uint8Array(bytes), (byte) => String.fromCharCode(byte)).join("");
    made = made.replaceAll(whole, `data:${/\.png$/i.test(name) ? "image/png" : "image/jpeg"};base64,${btoa(letters)}`);
  }
  return made;
}

let frame = $state<HTMLIFrameElement>();
let isReady = $state(false);
/** The frame has an origin of its own: what it shows is sent to it, once it says that it is there. */
function hear({ source, data }: MessageEvent): void {
  if (frame && source === frame.contentWindow && data === "ready") isReady = true;
}
$effect(() => {
  if (isReady) frame?.contentWindow?.postMessage(shown, "*");
});

$effect(() => {
  const source = html ?? "";
  if (/cid:[0-9a-f]+@corbix/.test(source))
    withPictures(source).then((made) => {
      pictured = { source, made };
    });
});
</script>

<svelte:window onmessage={hear} />
<div class="ways"><ContentSwitcher size="sm" bind:selectedIndex={chosen}>
  <Switch text="As HTML" />
  <Switch text="Dark" />
  <Switch text="On a phone" />
  <Switch text="As text" />
</ContentSwitcher></div>
{#if chosen < 3 && html}
  <iframe class:dark={chosen === 1} class:phone={chosen === 2} bind:this={frame} sandbox="allow-scripts" title="Message as HTML" src="/mail.html"></iframe>
  {#if chosen === 1}<p class="soft">As programs show it that turn a message's colours round.</p>{/if}
{:else}
  <pre>{text}</pre>
{/if}

<style>
  .ways :global(button) { padding-inline: 0.5rem; font-size: 0.8125rem; }
  iframe { width: 100%; height: 26rem; border: 1px solid var(--cds-ui-03); background: #fff; margin-top: 0.5rem; }
  iframe.dark { filter: invert(0.92) hue-rotate(180deg); }
  iframe.phone { display: block; width: 23.4rem; max-width: 100%; margin-inline: auto; }
  pre { margin-top: 0.5rem; white-space: pre-wrap; min-height: 10rem; }
</style>
