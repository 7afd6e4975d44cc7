<script lang="ts">
import { Button } from "carbon-components-svelte";
import type { Run } from "../../lib/client";
import { plural, time } from "../../lib/format";
import { link } from "../../lib/router.svelte";

/** What somebody should know of a run as it stands. */
let {
  run,
  onnot,
}: {
  run: Run;
  /** The time at which it releases itself is taken back. */
  onnot: () => void;
} = $props();

const waiting = $derived((run.progress.messages.queued ?? 0) + (run.progress.messages.sending ?? 0));
const troubled = $derived(
  (run.progress.messages.unsure ?? 0) + (run.progress.messages.refused ?? 0) + (run.progress.messages.returned ?? 0),
);
/** An approval stands for what it was given for. */
const standing = $derived(run.approvals.filter((one) => one.stands));
const taken = $derived(run.approvals.filter((one) => !one.stands));
</script>

{#if run.waitingFor}<p class="note trouble">It waits: {run.waitingFor.message} {run.waitingFor.advice ?? ""}</p>{/if}
{#if run.periodSentence}<p class="note">{run.periodSentence}</p>{/if}
{#if Object.keys(run.emptied).length > 0}<p class="note">Deleted when their time was over: {Object.entries(run.emptied).map(([what, at]) => `${what} ${time(at)}`).join(", ")}.</p>{/if}
{#if run.paused}<p class="note">Paused: {plural(waiting, ["# message", "# messages"])} wait until somebody resumes it.</p>{/if}
{#if run.releaseAt}<p class="note">It releases itself {time(run.releaseAt)}. <Button size="small" kind="ghost" on:click={onnot}>Not by itself</Button></p>{/if}
{#if run.state === "held" && run.approvalsWanted > 1}<p class="note">Two people have to release it. {standing.length > 0 ? `${standing.map((one) => one.by).join(", ")} did; another person has to.` : "Nobody has yet."}{#if standing[0]?.digest} <span class="soft">Given for the proof {standing[0].digest.slice(0, 8)}.</span>{/if}</p>{/if}
{#if run.state === "held" && taken.length > 0}<p class="note trouble">What {taken.map((one) => one.by).join(", ")} approved is not what would go now: that approval is taken back.</p>{/if}
{#if troubled > 0}<p class="note trouble">{plural(troubled, ["# message", "# messages"])} did not get through, or nobody can know whether they did: <a href={link("outbox")}>look at the outbox</a>.</p>{/if}

<style>
  .note { margin: 0.5rem 0; font-size: 0.875rem; }
  .trouble { color: var(--corbix-stop); }
</style>
