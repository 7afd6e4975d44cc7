/** What moved in a group since the period before, in a few words. */
import type { ParcelSummary } from "./client.js";

/** Changes below this say nothing. */
const WORTH = 0.05;

/** "new", or the figure that moved most: "fees +92 %". Blank where nothing moved much. */
export function sinceWords({
  since,
  moved,
  rowCount,
  totals,
}: Pick<ParcelSummary, "since" | "moved" | "rowCount" | "totals">): string {
  if (!since) return "new";
  if ((moved ?? 0) < WORTH) return since.isResized ? "files of another size" : "";
  const { figure } = since;
  const [now, before] =
    figure === null ? [rowCount, since.rows] : [Number(totals[figure]), Number(since.totals[figure])];
  const by = (now - before) / Math.abs(before);
  return `${figure ?? "rows"} ${Number.isFinite(by) ? `${by > 0 ? "+" : "−"}${Math.round(Math.abs(by) * 100)} %` : "from nothing"}`;
}
