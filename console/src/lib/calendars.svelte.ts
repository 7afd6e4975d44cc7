/** The calendars there are, for whoever offers them. */
import type { CalendarSummary } from "./calendar";
import { allOf, api } from "./client";

/** Asked for once where it is used; empty as long as they are not known. */
export function knownCalendars(): { readonly all: readonly CalendarSummary[] } {
  let all = $state<CalendarSummary[]>([]);
  $effect(() => {
    allOf(api.all("/calendars")).then(
      (found) => {
        all = found;
      },
      // Without them a report is made without them.
      () => {},
    );
  });
  return {
    get all() {
      return all;
    },
  };
}
