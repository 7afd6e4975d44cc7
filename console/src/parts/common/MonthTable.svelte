<script lang="ts">
import { WEEKDAYS } from "../../lib/calendar";
import { language } from "../../lib/format";
import type { Month } from "../../lib/report/month-days";
import { weekdayName } from "../../lib/weekdays";

/** A month, Monday first, with days that mean something set off. */
let {
  month,
  width = "long",
  about,
}: {
  month: Month;
  /** Whether the year stands behind the month's name. */
  width?: "long" | "month";
  /** What a day, such as 2026-11-02, looks like and says; nothing of a plain one. */
  about: (day: string) => { readonly look: Look; readonly says: string } | undefined;
} = $props();
type Look = "runs" | "left" | "off" | "half" | "named off" | "named half";
const called = $derived(
  new Intl.DateTimeFormat(language, { month: "long", ...(width === "long" ? { year: "numeric" } : {}) }).format(
    new Date(`${month.key}-15T12:00:00`),
  ),
);
const keyOf = (day: number): string => `${month.key}-${String(day).padStart(2, "0")}`;
</script>

<table>
  <caption>{called}</caption>
  <thead><tr>{#each WEEKDAYS as day (day)}<th scope="col">{weekdayName(day, "narrow")}</th>{/each}</tr></thead>
  <tbody>
    {#each month.weeks as week}
      <tr>{#each week as day}{@const told = day === undefined ? undefined : about(keyOf(day))}<td class={told?.look} title={told?.says}>{day ?? ""}</td>{/each}</tr>
    {/each}
  </tbody>
</table>

<style>
  table { border-collapse: collapse; font-size: 0.75rem; font-variant-numeric: tabular-nums; align-self: start; }
  caption { font-weight: 600; text-align: left; padding-bottom: 0.2rem; }
  th { color: var(--corbix-soft); font-weight: 400; }
  th, td { width: 1.6rem; height: 1.45rem; line-height: 1.45rem; padding: 0; text-align: center; vertical-align: middle; }
  .runs { background: var(--cds-interactive-01); color: var(--cds-text-04); border-radius: 0.75rem; font-weight: 600; }
  .left { outline: 1px dashed var(--corbix-soft); outline-offset: -3px; }
  .off { background: var(--cds-ui-03); }
  .half { background: linear-gradient(135deg, var(--cds-ui-03) 50%, transparent 50%); }
  .named { box-shadow: inset 0 -2px 0 var(--cds-interactive-01); font-weight: 600; }
</style>
