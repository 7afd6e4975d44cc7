/** What moved in a group since the period before, in a few words. */
import type { ParcelSummary } from "./client.js";

/** Changes below this say nothing. */
const WORTH = 0.05;

interface Change {
  readonly name: string;
  readonly share: number;
  readonly by: number;
}

/** "new", or the figure that moved most: "fees +92 %". Blank where nothing moved much, or there is nothing to be set beside. */
export function sinceWords(parcel: Pick<ParcelSummary, "since" | "rowCount" | "totals">, hasBefore: boolean): string {
  const { since, rowCount, totals } = parcel;
  if (!since) return hasBefore ? "new" : "";
  const changes: Change[] = [
    change("rows", rowCount, since.rows),
    ...Object.keys(totals)
      .filter((name) => name in since.totals)
      .map((name) => change(name, Number(totals[name]), Number(since.totals[name]))),
  ];
  const most = changes.reduce((one, other) => (other.share > one.share ? other : one));
  if (most.share < WORTH) return since.isResized ? "files of another size" : "";
  const { name, by } = most;
  return `${name} ${Number.isFinite(by) ? `${by > 0 ? "+" : "−"}${Math.round(Math.abs(by) * 100)} %` : "from nothing"}`;
}

function change(name: string, now: number, before: number): Change {
  const larger = Math.max(Math.abs(now), Math.abs(before));
  const share = Number.isFinite(larger) && larger > 0 ? Math.abs(now - before) / larger : 0;
  return { name, share, by: (now - before) / Math.abs(before) };
}
