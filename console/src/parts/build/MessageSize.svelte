<script lang="ts">
import { Button, InlineLoading } from "carbon-components-svelte";
import { api, type Problem } from "../../lib/client";
import { bytes } from "../../lib/format";
import type { Draft } from "../../lib/report/draft.svelte";
import Trouble from "../common/Trouble.svelte";

/** How large a message is as it goes out: its words at once, its files once they are made for that. */
let {
  definition,
  group,
  rows,
  attach,
  words,
}: {
  definition: string;
  group: string;
  /** Of which edition and period. */
  rows: Draft["rows"];
  /** Names of the report's files that go with it. */
  attach: readonly string[];
  /** Bytes of its words on their way. */
  words: number;
} = $props();
let known = $state<{ readonly of: string; readonly sizes: readonly number[] }>();
let isWeighing = $state(false);
let problem = $state<Problem>();
const of = $derived([definition, group, JSON.stringify(rows), ...attach].join("\n"));
const sizes = $derived(known?.of === of ? known.sizes : undefined);

async function weigh(): Promise<void> {
  const asked = of;
  isWeighing = true;
  problem = undefined;
  try {
    const found: number[] = [];
    for (const name of attach) {
      const isPdf = name.endsWith(".pdf");
      const file = isPdf ? name.slice(0, -".pdf".length) : name;
      const body = { definition, file, group, ...rows };
      const { files } = await api.post("/drafts/try", { body });
      // Of a file that is kept as a PDF only, that is the file.
      const own = files.find(({ kind }) => (kind === "pdf") === isPdf) ?? files[0];
      found.push(own?.attachedSize ?? 0);
    }
    known = { of: asked, sizes: found };
  } catch (error) {
    problem = error as Problem;
  } finally {
    isWeighing = false;
  }
}
</script>

<Trouble {problem} />
<p class="soft">
  {#if attach.length === 0}About {bytes(words)} as it goes out.
  {:else if sizes}About {bytes(sizes.reduce((sum, size) => sum + size, words))} as it goes out, with {attach.map((name, at) => `${name} ${bytes(sizes[at])}`).join(", ")}.
  {:else}About {bytes(words)} of words.{/if}
</p>
{#if isWeighing}<InlineLoading description="Making its files …" />
{:else if attach.length > 0 && !sizes}<Button size="small" kind="ghost" on:click={weigh}>Weigh it with its files</Button>{/if}
