/** What a release would do, told before it: who gets theirs, who has it already and since when, and who gets it again. */
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
    return all.length === 0 ? "" : `, on ${shown}${all.length > 3 ? " and other days" : ""}`;
  };
  const total = count.toLocaleString("en");
  if (had.length > 0)
    sentences.push(
      `${had.length.toLocaleString("en")} of ${total} groups ${had.length === 1 ? "has its" : "have theirs"} already${days(had)}; ${had.length === 1 ? "it is" : "they are"} skipped.`,
    );
  if (some.length > 0)
    sentences.push(
      `${some.length.toLocaleString("en")} ${some.length === 1 ? "group gets" : "groups get"} it only where it did not arrive before: ${named(some)}.`,
    );
  if (again.length > 0)
    sentences.push(
      `${again.length.toLocaleString("en")} ${again.length === 1 ? "group gets its" : "groups get theirs"} again, marked as sent again${days(again)}.`,
    );
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
