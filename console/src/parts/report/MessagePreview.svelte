<script lang="ts">
import { InlineLoading, Select, SelectItem, TextInput } from "carbon-components-svelte";
import type { Problem, TriedMessage } from "../../lib/client";
import { plural } from "../../lib/format";
import Trouble from "../common/Trouble.svelte";
import MailView from "../mail/MailView.svelte";

/** A message as any group would get it, while it is written. */
let {
  tried,
  language,
  problem,
  busy,
  period = $bindable(),
  ongroup,
  onperiod,
}: {
  tried: TriedMessage | undefined;
  language: string;
  problem: Problem | undefined;
  busy: boolean;
  period: string;
  ongroup: (key: string) => void;
  onperiod: () => void;
} = $props();
const shown = $derived(tried?.messages.filter((one) => one.language === language) ?? []);
</script>

<section aria-label="What a group gets">
  <div class="choose">
    {#if tried}
      <Select size="sm" labelText={`Group (${tried.groups.length})`} selected={tried.group} on:update={({ detail }) => { if (String(detail) !== tried?.group) ongroup(String(detail)); }}>
        {#each tried.groups as one (one.key)}<SelectItem value={one.key} text={`${one.label} (${plural(one.rows, ["# row", "# rows"])})`} />{/each}
      </Select>
    {/if}
    <form onsubmit={(event) => { event.preventDefault(); onperiod(); }}><TextInput size="sm" labelText="Period" placeholder="the last with rows" bind:value={period} /></form>
    {#if busy}<InlineLoading description="Writing …" />{/if}
  </div>
  <Trouble {problem} />
  {#each shown as message, at (at)}
    <div class:stale={problem !== undefined}>
      <p class="soft">{message.people.length === 0 ? (language === "" ? "Nobody of this group gets this one now." : `Nobody of this group reads ${language}.`) : `To ${message.people.join("; ")}`}</p>
      <p class="subject">{message.subject}</p>
      <MailView html={message.html} text={message.text} />
    </div>
  {/each}
</section>

<style>
  .choose { display: flex; flex-wrap: wrap; gap: 1rem; align-items: end; margin-bottom: 0.75rem; }
  .choose :global(.bx--form-item) { flex: 0 1 auto; max-width: 15rem; }
  .subject { font-weight: 600; margin: 0.25rem 0 0.75rem; overflow-wrap: anywhere; }
  .stale { opacity: 0.45; }
</style>
