<script lang="ts">
import { Checkbox, NumberInput, Select, SelectItem, TextInput } from "carbon-components-svelte";
import { knownCalendars } from "../../lib/calendars.svelte";
import { steppers } from "../../lib/format";
import type { Draft } from "../../lib/report/draft.svelte";
import { PERIOD_WORDS, periodKinds } from "../../lib/report/period-kinds";
import { DAYS, type Day, type Recurrence, readRule, writeRule } from "../../lib/report/recurrence";
import { link } from "../../lib/router.svelte";
import { weekdayName } from "../../lib/weekdays";
import NextTimes from "./NextTimes.svelte";

/** When a report runs by itself: on which days, at what time, what becomes of days off, and which data it waits for. */
let { draft, datasets }: { draft: Draft; datasets: readonly string[] } = $props();

interface Schedule {
  rule?: string;
  day?: { working?: number; date?: number; of: string };
  calendar?: string;
  off?: string;
  halfDays?: string;
  at: string;
  zone: string;
  from: string;
  until?: string;
  missed?: string;
  waitFor?: string[];
  notAfter?: string;
}
const schedule = $derived(draft.get(["schedule"]) as Schedule | undefined);
const rule = $derived(schedule?.rule === undefined ? undefined : readRule(schedule.rule));
const counted = $derived(schedule?.day);
const known = knownCalendars();
const calendars = $derived(known.all);
const calendar = $derived(calendars.find((one) => one.name === schedule?.calendar));
const KINDS = [
  ["hand", "by hand, when somebody presses Run"],
  ["weekly", "on days of the week"],
  ["workday", "on a working day of each month, or another period"],
  ["monthly", "on a day of each month, or another period"],
  ["daily", "every day"],
] as const;
const kind = $derived(
  schedule === undefined
    ? "hand"
    : counted
      ? counted.working === undefined
        ? "monthly"
        : "workday"
      : (rule?.kind ?? "other"),
);

function choose(next: string): void {
  if (next === "hand") {
    draft.set(["schedule"], undefined);
    return;
  }
  const base = schedule ?? {
    at: "07:15",
    zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    from: new Date().toISOString().slice(0, 10),
  };
  const { rule: _, day: __, ...rest } = base;
  const when: Pick<Schedule, "rule" | "day"> =
    next === "workday"
      ? { day: { working: 1, of: "month" } }
      : next === "monthly"
        ? { day: { date: 1, of: "month" } }
        : {
            rule: writeRule(
              next === "weekly" ? { kind: "weekly", interval: 1, days: ["FR"] } : { kind: "daily", interval: 1 },
            ),
          };
  draft.set(["schedule"], { ...when, ...rest });
}
const change = (next: Recurrence): void => draft.set(["schedule", "rule"], writeRule(next));
const set = (field: keyof Schedule, value: unknown): void => {
  if (value !== schedule?.[field]) draft.set(["schedule", field], value);
};
/** Counting in another way keeps the number; what a rule said moves over. */
function count(field: "working" | "date", number: number, of: string): void {
  const { rule: _, day: __, ...rest } = schedule as Schedule;
  draft.set(["schedule"], { day: { [field]: number, of }, ...rest });
}
const HOW_MANY = {
  daily: "Every how many days",
  weekly: "Every how many weeks",
  monthly: "Every how many months",
  workday: "Every how many months",
} as const;
const COUNTS = {
  working: [1, 2, 3, 4, 5, 10, 15, -1, -2, -3, -4, -5, -6],
  date: [...Array.from({ length: 31 }, (_, at) => at + 1), -1, -2, -3, -4, -5],
} as const;
const ORDINALS = new Map([
  [1, "the first"],
  [2, "the second"],
  [3, "the third"],
  [-1, "the last"],
]);
function ordinal(which: number): string {
  if (which < -1) return `${-which - 1} before the last`;
  const tens = which % 10;
  const end = which > 20 && tens >= 1 && tens <= 3 ? (["th", "st", "nd", "rd"][tens] ?? "th") : "th";
  return ORDINALS.get(which) ?? `the ${which}${end}`;
}
/** What is counted now, whether a rule says it or a counted day. */
const now = $derived.by(() => {
  if (counted?.working !== undefined) return { field: "working" as const, number: counted.working, of: counted.of };
  if (counted?.date !== undefined) return { field: "date" as const, number: counted.date, of: counted.of };
  if (rule?.kind === "workday") return { field: "working" as const, number: rule.which, of: "month" };
  return rule?.kind === "monthly" ? { field: "date" as const, number: rule.day, of: "month" } : undefined;
});
const text = (event: Event): string => String((event as CustomEvent).detail ?? "");
</script>

<Select size="sm" labelText="It runs" selected={kind} on:update={({ detail }) => { if (detail !== kind && detail !== "other") choose(String(detail)); }}>
  {#each KINDS as [value, words] (value)}<SelectItem {value} text={words} />{/each}
  {#if kind === "other"}<SelectItem value="other" text={`by a rule of its own: ${schedule?.rule}`} />{/if}
</Select>
{#if schedule}
  <div class="fields">
    {#if now}
      <Select size="sm" labelText={now.field === "working" ? "Working day" : "Day"} selected={String(now.number)} on:update={({ detail }) => { if (Number(detail) !== now.number) count(now.field, Number(detail), now.of); }}>
        {#each [...new Set([...COUNTS[now.field], now.number])] as which (which)}<SelectItem value={String(which)} text={ordinal(which)} />{/each}
      </Select>
      <Select size="sm" labelText="Of each" selected={now.of} on:update={({ detail }) => { if (detail !== now.of) count(now.field, now.number, String(detail)); }}>
        {#each periodKinds(calendar, now.of) as of (of)}<SelectItem value={of} text={PERIOD_WORDS[of] ?? of} />{/each}
      </Select>
    {:else if rule?.kind === "weekly"}
      <div class="days" role="group" aria-label="Days of the week">
        {#each DAYS as day}
          <Checkbox labelText={weekdayName(day as Day, "short")} checked={rule.days.includes(day)} on:check={({ detail }) => { const days = DAYS.filter((one) => (one === day ? detail : rule.days.includes(one))); if (days.length > 0 && days.join() !== rule.days.join()) change({ ...rule, days }); }} />
        {/each}
      </div>
    {/if}
    {#if rule && (!now || rule.interval > 1)}
      <NumberInput size="sm" translateWithId={steppers} labelText={HOW_MANY[rule.kind]} min={1} max={52} value={rule.interval} on:change={({ detail }) => { if (typeof detail === "number" && detail >= 1 && detail !== rule.interval) change({ ...rule, interval: detail }); }} />
    {/if}
    <TextInput size="sm" type="time" labelText="At" value={schedule.at} on:change={(event) => set("at", text(event))} />
    <TextInput size="sm" type="date" labelText="From" value={schedule.from} on:change={(event) => set("from", text(event))} />
    <TextInput size="sm" type="date" labelText="Until" value={schedule.until ?? ""} on:change={(event) => set("until", text(event) || undefined)} />
    <Select size="sm" labelText="Time zone" selected={schedule.zone} on:update={({ detail }) => set("zone", String(detail))}>
      {#each [...new Set([schedule.zone, "UTC", ...Intl.supportedValuesOf("timeZone")])] as zone (zone)}<SelectItem value={zone} text={zone} />{/each}
    </Select>
    <Select size="sm" labelText="Days off of" selected={schedule.calendar ?? ""} on:update={({ detail }) => set("calendar", String(detail) || undefined)}>
      <SelectItem value="" text="no calendar: Saturday and Sunday" />
      {#each [...new Set([...calendars.map((one) => one.name), ...(schedule.calendar ? [schedule.calendar] : [])])] as one (one)}<SelectItem value={one} text={calendars.find(({ name }) => name === one)?.title ?? one} />{/each}
    </Select>
    {#if now?.field !== "working"}<Select size="sm" labelText="A day off" selected={schedule.off ?? "stay"} on:update={({ detail }) => set("off", detail === "stay" ? undefined : detail)}>
      <SelectItem value="stay" text="counts like any other" />
      <SelectItem value="before" text="goes to the working day before" />
      <SelectItem value="after" text="goes to the working day after" />
      <SelectItem value="skip" text="is left out" />
    </Select>{/if}
    {#if schedule.calendar || schedule.halfDays}
      <Select size="sm" labelText="Half days" selected={schedule.halfDays ?? "work"} on:update={({ detail }) => set("halfDays", detail === "work" ? undefined : detail)}>
        <SelectItem value="work" text="count as worked" /><SelectItem value="off" text="count as off" />
      </Select>
    {/if}
    <Select size="sm" labelText="Times missed while Corbix was down" selected={schedule.missed ?? "once"} on:update={({ detail }) => set("missed", detail === "once" ? undefined : detail)}>
      <SelectItem value="once" text="are made up for once" /><SelectItem value="all" text="are made up for one by one" /><SelectItem value="none" text="are not made up for; somebody is told" />
    </Select>
  </div>
  {#if calendars.length === 0}<p class="soft">Public holidays, fiscal years: <a href={link("calendars")}>set up a calendar</a>.</p>{/if}
  <fieldset>
    <legend>It waits until these have a new edition</legend>
    <div class="days">
      {#each datasets as name (name)}
        <Checkbox labelText={name} checked={schedule.waitFor?.includes(name) ?? false} on:check={({ detail }) => { const before = schedule.waitFor ?? []; if (before.includes(name) === detail) return; const next = detail ? [...before, name] : before.filter((one) => one !== name); draft.set(["schedule", "waitFor"], next.length === 0 ? undefined : next); if (next.length === 0 && schedule.notAfter) draft.set(["schedule", "notAfter"], undefined); }} />
      {/each}
    </div>
    {#if schedule.waitFor || schedule.notAfter}
      <TextInput size="sm" type="time" labelText="Not after; then somebody is told" value={schedule.notAfter ?? ""} on:change={(event) => set("notAfter", text(event) || undefined)} />
    {/if}
  </fieldset>
  {#if draft.look && draft.look.nextTimes.length > 0}<NextTimes times={draft.look.nextTimes} />{/if}
{/if}

<style>
  .fields { display: grid; grid-template-columns: repeat(auto-fill, minmax(11rem, 1fr)); gap: 0.75rem 1rem; margin: 0.75rem 0; align-items: end; }
  .days { grid-column: 1 / -1; display: flex; flex-wrap: wrap; gap: 0 0.75rem; }
  .days :global(.bx--form-item) { flex: 0 1 auto; }
  fieldset { border: 0; padding: 0; margin: 0 0 0.75rem; max-width: 30rem; }
  legend { font-size: 0.75rem; color: var(--cds-text-02); margin-bottom: 0.2rem; }
</style>
