import type { draftEndpoints, Scope } from "@corbix/api";
import { mailSize } from "@corbix/core/message";
import { checkSources } from "../../access/rights.js";
import { readDefinition } from "../../library/definitions.js";
import { lookAtDraft, tryDraft } from "../../library/drafts.js";
import type { Context } from "../../process/context.js";
import { shownPerson } from "../../threads/shown-person.js";
import type { ThrownError } from "../../threads/thrown-error.js";
import type { HandlersOf } from "../handler.js";
import { showTime } from "./library.js";
import { isoRows } from "./show-rows.js";

export const draftHandlers: HandlersOf<typeof draftEndpoints> = {
  lookAtDraft: async ({ context, body: { definition, ...wish }, scope }) => {
    await checkDraft(context, scope, definition);
    const { rows, parcel, problems, totals, groups, nextTimes, steps, conditions, groupsBefore, ...look } =
      await lookAtDraft(context, definition, wish);
    const isNew = (key: string): boolean => groupsBefore.size > 0 && !groupsBefore.has(key);
    return {
      ...look,
      steps: steps.map((step) => ({ ...step })),
      rows: {
        master: rows.master,
        made: rows.made ?? 0,
        inGroups: rows.inGroups,
        leftOut: rows.leftOut.map(({ reason, count }) => ({ reason, count })),
      },
      totals: totals.map((total) => ({ ...total, parcels: total.parcels ?? null })),
      groups: groups.map((group) => ({ ...group, nobody: group.nobody ?? null, isNew: isNew(group.key) })),
      parcel: parcel
        ? {
            ...parcel,
            nobody: parcel.nobody ?? null,
            isNew: isNew(parcel.key),
            cells: isoRows(look.columns, parcel.cells),
            recipients: parcel.recipients.map(shownPerson),
            messages: parcel.messages.map((message) => ({ ...message, size: mailSize(message, []) })),
          }
        : null,
      problems: problems.map(showProblem),
      conditions: conditions.map(({ rows: shown, trouble, ...one }) => ({
        ...one,
        trouble: trouble ?? null,
        rowNumbers: shown.map(({ number }) => number),
        cells: isoRows(
          look.loadedColumns,
          shown.map(({ cells }) => cells),
        ),
      })),
      nextTimes: nextTimes.map(showTime),
    };
  },

  tryDraft: async ({ context, body: { definition, ...wish }, scope }) => {
    await checkDraft(context, scope, definition);
    const tried = await tryDraft(context, definition, wish);
    return { ...tried, rows: isoRows(tried.columns, tried.rows) };
  },
};

/** A draft may look at what its maker's reports are made from. */
async function checkDraft(context: Context, scope: Scope, definition: string): Promise<void> {
  if (scope !== "all") await checkSources(context, scope, await readDefinition(context, definition, "definition"));
}

function showProblem({ code, message, where, advice }: ThrownError) {
  return {
    code: code ?? "INTERNAL",
    title: message,
    ...(where === undefined ? {} : { where }),
    ...(advice === undefined ? {} : { advice }),
  };
}
