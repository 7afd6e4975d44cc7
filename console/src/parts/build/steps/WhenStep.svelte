<script lang="ts">
import { Toggle } from "carbon-components-svelte";
import type { Report } from "../../../lib/client";
import { duration, plural } from "../../../lib/format";
import type { Known } from "../../../lib/report/choices";
import type { Draft } from "../../../lib/report/draft.svelte";
import { type Schema, schemaAt } from "../../../lib/report/schema";
import Section from "../../form/Section.svelte";
import Senders from "../../run/Senders.svelte";
import OnData from "../OnData.svelte";
import ScheduleFields from "../ScheduleFields.svelte";
import WaysOut from "../WaysOut.svelte";

/** When a report runs, and how its messages go out. */
let { draft, known, schema, saved }: { draft: Draft; known: Known; schema: Schema; saved: Report | undefined } =
  $props();

const delivery = $derived(schemaAt(schema, ["delivery"]) ?? {});
const hold = $derived((draft.get(["delivery", "hold"]) as boolean | undefined) ?? true);
</script>

<h2>When it runs</h2>
<ScheduleFields {draft} datasets={known.datasets} />
<OnData {draft} datasets={known.datasets} />

<h2>Before anything goes out</h2>
<Toggle size="sm" labelText="Wait until somebody releases it" labelA="No" labelB="Yes" toggled={hold} on:toggle={({ detail }) => { if (detail.toggled !== hold) draft.set(["delivery", "hold"], detail.toggled); }} />

<h2>How messages go out</h2>
{#if draft.look && draft.look.messageCount > 0}
  <p class="soft">{plural(draft.look.messageCount, ["# message", "# messages"])} for the period that is shown{#if draft.look.sendingSeconds !== null}; at the identity's pace the last has gone after {duration(draft.look.sendingSeconds)}{/if}.</p>
{/if}
<Section {draft} {known} schema={delivery} path={["delivery"]} only={["from", "sender", "replyTo", "headers", "importance", "files", "linkDays", "approvals", "apart"]} />
<h2>Where files go besides mail</h2>
<WaysOut {draft} {known} {schema} />
<h2>What may happen once, and what is kept</h2>
<Section {draft} {known} {schema} only={["once", "records", "whenNothing", "figures", "retention"]} />
{#if saved?.definition.records}
  <h2>Systems that send records</h2>
  <Senders report={saved.name} />
{/if}
