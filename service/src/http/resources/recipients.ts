import type { recipientEndpoints } from "@corbix/api";
import { CorbixError, greatest, groupKey, isoFromSerial } from "@corbix/core/common";
import { ALL_GROUPS, type Recipient } from "@corbix/core/recipients";
import { say } from "@corbix/core/words";
import {
  exportList,
  importList,
  listHistory,
  previewList,
  readListFile,
  removeEntry,
  setEntry,
} from "../../library/recipient-list.js";
import { newestRecipients, pageOf, type RecipientListRow } from "../../records/index.js";
import { type HandlersOf, iso } from "../handler.js";

/** Changes that a preview names one by one. */
const NAMED_CHANGES = 1_000;

export const recipientHandlers: HandlersOf<typeof recipientEndpoints> = {
  listRecipients: async ({ context, query: { search, group, dataset, neverSend, ...wish }, tell }) => {
    const list = await newestRecipients(context.database);
    tell(list?.id ?? "");
    if (!list) return { items: [], next: null, total: 0, list: null };
    const key = group === undefined ? undefined : groupKey(group);
    const found = list.recipients.filter(
      (one) =>
        (key === undefined || one.key === key || one.key === ALL_GROUPS) &&
        (dataset === undefined || one.dataset === undefined || groupKey(one.dataset) === groupKey(dataset)) &&
        (neverSend === undefined || (one.neverSend ?? false) === neverSend) &&
        (search === undefined || holds(one, search)),
    );
    const page = pageOf(found, wish, String(list.id));
    return {
      items: page.items.map(showRecipient),
      next: page.next,
      total: found.length,
      list: {
        version: list.id,
        origin: list.origin,
        createdAt: iso(list.createdAt),
        createdBy: list.createdBy,
        findings: list.findings,
      },
    };
  },

  importRecipients: async ({ context, query, request, user, expected, tell }) => {
    const { sha256 } = await context.store.putStream(request, context.settings.uploadLimit);
    const list = await readListFile(context, sha256, query.file, query.sheet);
    const file = { name: query.file, sha256 };
    return kept(await importList(context, file, list, { mode: query.mode, expected }, user.name), tell);
  },

  previewRecipients: async ({ context, query, request }) => {
    const { sha256 } = await context.store.putStream(request, context.settings.uploadLimit);
    const list = await readListFile(context, sha256, query.file, query.sheet);
    const { changes, unchanged, recipients, findings } = await previewList(context, list, query.mode);
    const count = (kind: string): number => changes.filter((change) => change.kind === kind).length;
    return {
      changes: changes.slice(0, NAMED_CHANGES).map(({ kind, group, name, fields }) => ({ kind, group, name, fields })),
      added: count("added"),
      changed: count("changed"),
      removed: count("removed"),
      unchanged,
      recipients: recipients.length,
      findings,
    };
  },

  showRecipient: async ({ context, params, tell }) => {
    const list = await newestRecipients(context.database);
    const entries = (list?.recipients ?? []).filter((one) => one.row === params.row);
    if (entries.length === 0)
      throw new CorbixError("NOT_FOUND", say().serviceHttp.cannotFindRowList({ row: params.row }), {
        where: "recipients",
      });
    tell(list?.id ?? "");
    return { entries: entries.map(showRecipient) };
  },

  addRecipient: async ({ context, body, user, created, tell }) => {
    const list = await setEntry(context, undefined, listEntry(body), user.name);
    created(`/recipients/entries/${greatest(list.recipients.map((one) => one.row))}`);
    return kept(list, tell);
  },

  changeRecipient: async ({ context, params, body, user, expected, tell }) =>
    kept(await setEntry(context, params.row, listEntry(body), user.name, expected), tell),

  removeRecipient: async ({ context, params, user, expected, tell }) =>
    kept(await removeEntry(context, params.row, user.name, expected), tell),

  listRecipientVersions: ({ context, query }) => listHistory(context, query),

  exportRecipients: async ({ context, query, response }) => {
    const { bytes, type } = await exportList(context, query.as);
    response.attachment(`recipients.${query.as}`).type(type).send(Buffer.from(bytes));
  },
};

function kept(list: RecipientListRow, tell: (version: number) => void) {
  tell(list.id);
  return { count: list.recipients.length, findings: list.findings };
}

function holds(one: Recipient, search: string): boolean {
  const wanted = search.toLowerCase();
  const addresses = [...one.to, ...one.copies, ...one.blindCopies].flatMap(({ address, name }) => [
    address,
    name ?? "",
  ]);
  return [one.group, one.name, ...addresses, ...Object.values(one.fields)].some((text) =>
    text.toLowerCase().includes(wanted),
  );
}

function listEntry<Entry extends { readonly role: "to" | "copy" | "blind" }>(entry: Entry) {
  return { ...entry, role: entry.role === "blind" ? "blind copy" : entry.role };
}

function showRecipient(one: Recipient) {
  return {
    row: one.row,
    group: one.group,
    name: one.name,
    role: one.role ?? "to",
    to: one.to,
    copies: one.copies,
    blindCopies: one.blindCopies,
    dataset: one.dataset ?? null,
    language: one.language ?? null,
    activeFrom: one.from === undefined ? null : isoFromSerial(one.from),
    activeUntil: one.until === undefined ? null : isoFromSerial(one.until),
    neverSend: one.neverSend ?? false,
    fields: one.fields,
  };
}
