/** Odd jobs on workbooks that somebody brings along: nothing of them is stored. */

import { type toolEndpoints, wordPairs } from "@corbix/api";
import { dayInZone } from "@corbix/core/calendar";
import { CorbixError, maybeSerialFromIso } from "@corbix/core/common";
import { officeKind } from "@corbix/core/run";
import { say } from "@corbix/core/words";
import type { WordPair } from "@corbix/core/workbook";
import { keepFiles, keptFile, keptFiles } from "../../library/temp-files.js";
import type { HandlersOf } from "../handler.js";

/** Changed cells and differences that one answer lists. */
const LISTED = 2_000;

export const toolHandlers: HandlersOf<typeof toolEndpoints> = {
  takeSheetsApart: async ({ context, query, body, created }) => {
    const today = maybeSerialFromIso(dayInZone(context.now(), context.settings.zone)) ?? 0;
    const made = await context.threads.isolated("takeApart", { bytes: bytesOf(body), where: query.name, today });
    const archive = query.name.replace(/\.[^.]*$/, "");
    const id = keepFiles(context, [{ name: `${archive} sheets.zip`, bytes: made.archive }]);
    created(`/made/${id}/zip`);
    return { id, sheets: made.sheets, findings: made.findings };
  },

  replaceWords: async ({ context, query, body, created }) => {
    const rule = { pairs: pairsOf(query), whole: query.whole ?? false, anyCase: query.anyCase ?? false };
    const made = await context.threads.isolated("replaceIn", { bytes: bytesOf(body), where: query.name, rule });
    const id = keepFiles(context, [{ name: workbookName(query.name), bytes: made.bytes }]);
    created(`/made/${id}/xlsx`);
    return { id, total: made.cells.length, cells: made.cells.slice(0, LISTED) };
  },

  holdWorkbook: async ({ context, query, body, created }) => {
    const isDeck = officeKind(query.name) === "pptx";
    const name = isDeck ? query.name : workbookName(query.name);
    const id = keepFiles(context, [{ name, bytes: bytesOf(body) }]);
    created(`/made/${id}/${isDeck ? "pptx" : "xlsx"}`);
    return { id };
  },

  compareWorkbooks: async ({ context, query, body }) => {
    const held = keptFile(context, query.with, officeKind(query.name) === "pptx" ? "pptx" : "xlsx");
    const { cells, differences } = await context.threads.isolated("compareFiles", {
      first: { bytes: held.bytes, where: held.name },
      second: { bytes: bytesOf(body), where: query.name },
    });
    return { cells, total: differences.length, differences: differences.slice(0, LISTED) };
  },

  putTogether: async ({ context, body, created }) => {
    const files = body.ids.flatMap((id) => keptFiles(context, id));
    const taken = new Set<string>();
    const entries = files.map(({ name, bytes }) => ({ name: freeEntry(name, taken), bytes }));
    const archive = await context.threads.isolated("packEntries", entries);
    const id = keepFiles(context, [{ name: "workbooks.zip", bytes: archive }]);
    created(`/made/${id}/zip`);
    return { id, files: files.length };
  },

  downloadMade: async ({ context, params, response }) => {
    const file = keptFile(context, params.id, params.kind);
    const bytes = Buffer.from(file.bytes);
    if (params.kind === "pdf") response.type("application/pdf").send(bytes);
    else response.attachment(file.name).send(bytes);
  },
};

function bytesOf(body: Uint8Array): Uint8Array {
  if (body.length > 0) return body;
  throw new CorbixError("BAD_REQUEST", say().serviceHttp.cannotWorkNothingRequestHolds(), {
    where: "body",
    advice: say().serviceHttp.sendWorkbookXlsxBody(),
  });
}

/** Two files that are called alike stand in an archive by two names. */
function freeEntry(name: string, taken: Set<string>): string {
  const dot = name.lastIndexOf(".");
  let free = name;
  for (let count = 2; taken.has(free.toLowerCase()); count++)
    free = `${name.slice(0, dot)} (${count})${name.slice(dot)}`;
  taken.add(free.toLowerCase());
  return free;
}

function workbookName(name: string): string {
  return name.replace(/(\.xls[xm])?$/i, ".xlsx");
}

function pairsOf({
  from,
  to,
  pairs,
}: {
  readonly from?: string | undefined;
  readonly to: string;
  readonly pairs?: string | undefined;
}): WordPair[] {
  if (pairs === undefined && from !== undefined) return [{ from, to }];
  let list: unknown;
  try {
    list = JSON.parse(pairs ?? "");
  } catch {
    list = undefined;
  }
  const checked = wordPairs.safeParse(list);
  if (checked.success) return checked.data;
  throw new CorbixError("BAD_REQUEST", say().serviceHttp.cannotReadWordsGivePairs(), {
    where: "pairs",
    advice: say().serviceHttp.oldMillNewMill(),
  });
}
