/** What a release would do, told before it: who gets theirs, who has it already and since when, and who gets it again. */
import { say } from "../words/index.js";

export interface GroupOutlook {
  readonly label: string;
  /** `go`: as a first time. `some`: only to those who have not had it. `again`: marked as sent again. `had`: everybody has had it. `none`: nobody receives, or the group is left out. */
  readonly what: "go" | "some" | "again" | "had" | "none";
  /** The day it was had, if it was. */
  readonly day?: string;
  readonly run?: string;
  readonly why?: string;
  readonly messages: number;
}

export interface Outlook {
  readonly groups: number;
  readonly messages: number;
  readonly going: number;
  readonly some: number;
  readonly again: number;
  readonly had: number;
  readonly none: number;
  /** Groups that do not get all of it as a first time, the first of them. */
  readonly notable: readonly GroupOutlook[];
  readonly sentences: readonly string[];
}

/** Groups named one by one. */
const NAMED = 200;

/** Groups of which nothing is known of before: counted, not named. */
export interface FirstOutlook {
  readonly going: number;
  readonly messages: number;
  readonly none: number;
}

export function outlookOf(
  groups: readonly GroupOutlook[],
  first: FirstOutlook,
  dayText: (day: string) => string,
): Outlook {
  const of = (what: GroupOutlook["what"]): GroupOutlook[] => groups.filter((group) => group.what === what);
  const had = of("had");
  const some = of("some");
  const again = of("again");
  const going = of("go");
  const messages = [...going, ...some, ...again].reduce((sum, group) => sum + group.messages, first.messages);
  const count = groups.length + first.going + first.none;
  const sentences: string[] = [];
  const days = (list: readonly GroupOutlook[]): string => {
    const all = [...new Set(list.flatMap((group) => group.day ?? []))].sort();
    const shown = all.slice(0, 3).map(dayText).join(", ");
    return say().delivery.on({ allCount: all.length, shown });
  };
  const total = count.toLocaleString("en");
  if (had.length > 0)
    sentences.push(say().delivery.groupsAlreadySkipped({ hadCount: had.length, total, days: days(had) }));
  if (some.length > 0)
    sentences.push(say().delivery.onlyWhereDidArriveBefore({ someCount: some.length, named: named(some) }));
  if (again.length > 0)
    sentences.push(say().delivery.againMarkedSentAgain({ againCount: again.length, days: days(again) }));
  return {
    groups: count,
    messages,
    going: going.length + first.going,
    some: some.length,
    again: again.length,
    had: had.length,
    none: of("none").length + first.none,
    notable: groups.filter((group) => group.what !== "go" && group.what !== "none").slice(0, NAMED),
    sentences,
  };
}

function named(groups: readonly GroupOutlook[]): string {
  const names = groups.slice(0, 5).map((group) => group.label);
  return `${names.join(", ")}${groups.length > 5 ? ` and ${groups.length - 5} more` : ""}`;
}
