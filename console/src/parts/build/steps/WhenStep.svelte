<script lang="ts">
import { Checkbox, NumberInput, Select, SelectItem, TextInput, Toggle } from "carbon-components-svelte";
import { duration, plural, steppers } from "../../../lib/format";
import type { Known } from "../../../lib/report/choices";
import type { Draft } from "../../../lib/report/draft.svelte";
import { DAYS, type Day, type Recurrence, readRule, writeRule } from "../../../lib/report/recurrence";
import { type Schema, schemaAt } from "../../../lib/report/schema";
import Section from "../../form/Section.svelte";
import NextTimes from "../NextTimes.svelte";

/** When a report runs, and how its messages go out. */
let { draft, known, schema }: { draft: Draft; known: Known; schema: Schema } = $props();

interface Schedule {
  rule: string;
  at: string;
  zone: string;
  from: string;
  until?: string;
}
const schedule = $derived(draft.get(["schedule"]) as Schedule | undefined);
const rule = $derived(schedule ? readRule(schedule.rule) : undefined);
const delivery = $derived(schemaAt(schema, ["delivery"]) ?? {});
const hold = $derived((draft.get(["delivery", "hold"]) as boolean | undefined) ?? true);
const NAMES: Readonly<Record<Day, string>> = {
  MO: "Mon",
  TU: "Tue",
  WE: "Wed",
  TH: "Thu",
  FR: "Fri",
  SA: "Sat",
  SU: "Sun",
};
const KINDS = [
  ["hand", "by hand, when somebody presses Run"],
  ["weekly", "on days of the week"],
  ["workday", "on a working day of the month"],
  ["monthly", "on a day of the month"],
  ["daily", "every day"],
] as const;

function usual(kind: Recurrence["kind"]): Recurrence {
  if (kind === "weekly") return { kind, interval: 1, days: ["FR"] };
  if (kind === "monthly") return { kind, interval: 1, day: 1 };
  return kind === "workday" ? { kind, interval: 1, which: 1 } : { kind: "daily", interval: 1 };
}

function choose(kind: string): void {
  if (kind === "hand") {
    draft.set(["schedule"], undefined);
    return;
  }
  const written = writeRule(usual(kind as Recurrence["kind"]));
  if (schedule) draft.set(["schedule", "rule"], written);
  else
    draft.set(["schedule"], {
      rule: written,
      at: "07:15",
      zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
      from: new Date().toISOString().slice(0, 10),
    });
}

const change = (next: Recurrence): void => draft.set(["schedule", "rule"], writeRule(next));
const kind = $derived(schedule === undefined ? "hand" : (rule?.kind ?? "other"));
const HOW_MANY = {
  daily: "Every how many days",
  weekly: "Every how many weeks",
  monthly: "Every how many months",
  workday: "Every how many months",
} as const;
const ENDS = [1, 2, 3, 4, 5, 10, 15, -1];
const ORDINALS = new Map([
  [-1, "the last"],
  [1, "the first"],
  [2, "the second"],
  [3, "the third"],
]);
const ordinal = (which: number): string => ORDINALS.get(which) ?? `the ${which}th`;
</script>

<h2>When it runs</h2>
<Select size="sm" labelText="It runs" selected={kind} on:update={({ detail }) => { if (detail !== kind && detail !== "other") choose(String(detail)); }}>
  {#each KINDS as [value, text] (value)}<SelectItem {value} {text} />{/each}
  {#if kind === "other"}<SelectItem value="other" text={`by a rule of its own: ${schedule?.rule}`} />{/if}
</Select>
{#if schedule}
  <div class="fields">
    {#if rule}
      {#if rule.kind === "weekly"}
        <div class="days" role="group" aria-label="Days of the week">
          {#each DAYS as day}
            <Checkbox labelText={NAMES[day]} checked={rule.days.includes(day)} on:check={({ detail }) => { const days = DAYS.filter((one) => (one === day ? detail : rule.days.includes(one))); if (days.length > 0 && days.join() !== rule.days.join()) change({ ...rule, days }); }} />
          {/each}
        </div>
      {:else if rule.kind === "monthly"}
        <Select size="sm" labelText="Day of the month" selected={String(rule.day)} on:update={({ detail }) => { if (Number(detail) !== rule.day) change({ ...rule, day: Number(detail) }); }}>
          {#each Array.from({ length: 31 }, (_, at) => at + 1) as day (day)}<SelectItem value={String(day)} text={String(day)} />{/each}<SelectItem value="-1" text="the last" />
        </Select>
      {:else if rule.kind === "workday"}
        <Select size="sm" labelText="Working day of the month" selected={String(rule.which)} on:update={({ detail }) => { if (Number(detail) !== rule.which) change({ ...rule, which: Number(detail) }); }}>
          {#each [...new Set([...ENDS, rule.which])] as which (which)}<SelectItem value={String(which)} text={ordinal(which)} />{/each}
        </Select>
      {/if}
      <NumberInput size="sm" translateWithId={steppers} labelText={HOW_MANY[rule.kind]} min={1} max={52} value={rule.interval} on:change={({ detail }) => { if (typeof detail === "number" && detail >= 1 && detail !== rule.interval) change({ ...rule, interval: detail }); }} />
    {/if}
    <TextInput size="sm" type="time" labelText="At" value={schedule.at} on:change={(event) => draft.set(["schedule", "at"], String((event as CustomEvent).detail ?? ""))} />
    <TextInput size="sm" type="date" labelText="From" value={schedule.from} on:change={(event) => draft.set(["schedule", "from"], String((event as CustomEvent).detail ?? ""))} />
    <TextInput size="sm" type="date" labelText="Until" value={schedule.until ?? ""} on:change={(event) => draft.set(["schedule", "until"], String((event as CustomEvent).detail ?? "") || undefined)} />
    <Select size="sm" labelText="Time zone" selected={schedule.zone} on:update={({ detail }) => { if (detail !== schedule.zone) draft.set(["schedule", "zone"], String(detail)); }}>
      {#each [...new Set([schedule.zone, "UTC", ...Intl.supportedValuesOf("timeZone")])] as zone (zone)}<SelectItem value={zone} text={zone} />{/each}
    </Select>
  </div>
  {#if draft.look && draft.look.nextTimes.length > 0}
    <NextTimes times={draft.look.nextTimes} />
  {/if}
{/if}
<Toggle size="sm" labelText="Start when data arrives" labelA="No" labelB="Yes" toggled={Boolean(draft.get(["startOnData"]))} on:toggle={({ detail }) => { if (detail.toggled !== Boolean(draft.get(["startOnData"]))) draft.set(["startOnData"], detail.toggled || undefined); }} />

<h2>Before anything goes out</h2>
<Toggle size="sm" labelText="Wait until somebody releases it" labelA="No" labelB="Yes" toggled={hold} on:toggle={({ detail }) => { if (detail.toggled !== hold) draft.set(["delivery", "hold"], detail.toggled); }} />

<h2>How messages go out</h2>
{#if draft.look && draft.look.messageCount > 0}
  <p class="soft">{plural(draft.look.messageCount, ["# message", "# messages"])} for the period that is shown{#if draft.look.sendingSeconds !== null}; at the identity's pace the last has gone after {duration(draft.look.sendingSeconds)}{/if}.</p>
{/if}
<Section {draft} {known} schema={delivery} path={["delivery"]} only={["from", "sender", "replyTo", "headers", "importance", "files", "linkDays", "approvals"]} />
<h2>What may happen once, and what is kept</h2>
<Section {draft} {known} {schema} only={["once", "retention"]} />

<style>
  .fields { display: grid; grid-template-columns: repeat(auto-fill, minmax(11rem, 1fr)); gap: 0.75rem 1rem; margin: 0.75rem 0; }
  .days { grid-column: 1 / -1; display: flex; flex-wrap: wrap; gap: 0 0.75rem; }
  .days :global(.bx--form-item) { flex: 0 1 auto; }
</style>
