/** A run beside the one of the period before: which groups are new or gone, whose figures moved much, whose files grew or shrank. */

/** A group as it was made in a run. */
export interface MeasuredGroup {
  readonly key: string;
  readonly label: string;
  readonly rows: number;
  /** Exact decimals. */
  readonly totals: Readonly<Record<string, string>>;
  /** Of all its files. */
  readonly bytes: number;
}

/** What a group had in the run before, and how much of it is another now. */
export interface GroupSince {
  readonly rows: number;
  readonly totals: Readonly<Record<string, string>>;
  readonly bytes: number;
  /** Of rows and totals the one that moved most: the difference by the larger of both, 0 to 1. */
  readonly moved: number;
  /** Its name among the totals; nothing where it is the count of rows. */
  readonly figure: string | null;
  /** Whether its files have twice the size, or half of it. */
  readonly isResized: boolean;
}

export interface RunSince {
  /** By key; a group that is new has nothing. */
  readonly groups: ReadonlyMap<string, GroupSince>;
  readonly newCount: number;
  readonly movedCount: number;
  readonly resizedCount: number;
  /** Groups that are in the run before only. */
  readonly gone: readonly Pick<MeasuredGroup, "label" | "rows">[];
}

/** A figure that became half or double has moved much. */
export const MUCH = 0.5;

/** @example since([dock], [dock, quay]).gone //=> [{ label: "Quay", rows: 4 }] */
export function runSince(now: readonly MeasuredGroup[], before: readonly MeasuredGroup[]): RunSince {
  const earlier = new Map(before.map((group) => [group.key, group]));
  const groups = new Map<string, GroupSince>();
  for (const group of now) {
    const own = earlier.get(group.key);
    if (own) groups.set(group.key, groupSince(group, own));
  }
  const there = new Set(now.map(({ key }) => key));
  const all = [...groups.values()];
  return {
    groups,
    newCount: there.size - groups.size,
    movedCount: all.filter(({ moved }) => moved >= MUCH).length,
    resizedCount: all.filter(({ isResized }) => isResized).length,
    gone: before.filter(({ key }) => !there.has(key)).map(({ label, rows }) => ({ label, rows })),
  };
}

function groupSince(now: MeasuredGroup, { rows, totals, bytes }: MeasuredGroup): GroupSince {
  const names = Object.keys(now.totals).filter((name) => name in totals);
  const moves = [
    { figure: null, moved: share(now.rows, rows) },
    ...names.map((name) => ({ figure: name, moved: share(Number(now.totals[name]), Number(totals[name])) })),
  ];
  const most = moves.reduce((one, other) => (other.moved > one.moved ? other : one));
  return { rows, totals, bytes, ...most, isResized: share(now.bytes, bytes) >= MUCH };
}

/** By how much of the larger two figures differ. One that is no number, or stays at nothing, has not moved. */
function share(one: number, other: number): number {
  const larger = Math.max(Math.abs(one), Math.abs(other));
  if (!Number.isFinite(larger) || larger === 0) return 0;
  return Math.min(1, Math.abs(one - other) / larger);
}
