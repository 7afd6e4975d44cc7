/** Groups as people name them: a name that is no group's of the run is told with the nearest, before anything is changed. */

import { CorbixError, groupKey, suggestName } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Context } from "../process/context.js";
import { groupsOfRun } from "../records/index.js";

/** Keys of groups of a run by their names. Throws `UNKNOWN_NAME`. */
export async function knownGroups(context: Context, run: string, names: readonly string[]): Promise<string[]> {
  return keysOf(names, await groupsOfRun(context.database, run), say().place.run({ id: run }));
}

/** Keys of named groups among those there are. Throws `UNKNOWN_NAME` for all that are none, each with the nearest. */
export function keysOf(
  names: readonly string[],
  groups: readonly { readonly key: string; readonly label: string }[],
  where: string,
): string[] {
  const known = new Set(groups.map((group) => group.key));
  const unknown = names.filter((name) => !known.has(groupKey(name)));
  if (unknown.length > 0)
    throw new CorbixError(
      "UNKNOWN_NAME",
      say().serviceRun.cannotFindGroupNothingChanged({
        value: unknown.length === 1 ? "" : "s",
        unknown: unknown.map((name) => `\`${name}\``).join(", "),
      }),
      {
        where,
        advice: unknown
          .slice(0, 3)
          .map((name) =>
            suggestName(
              name,
              groups.map((group) => group.label),
              "groups",
            ),
          )
          .join(" "),
      },
    );
  return [...new Set(names.map(groupKey))];
}
