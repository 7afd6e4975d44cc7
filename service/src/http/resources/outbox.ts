import type { outboxEndpoints } from "@corbix/api";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { simpleParser } from "mailparser";
import { namesOf } from "../../access/rights.js";
import { noteAction } from "../../audit/audit.js";
import type { LetterboxRule } from "../../letterbox/rules.js";
import { correctAddresses } from "../../library/recipient-list.js";
import { identityVersion, pauseIdentity, setIdentity } from "../../mail/identities.js";
import { decideMessage, sendAgain } from "../../outbox/manual-actions.js";
import { takeReport } from "../../outbox/reports.js";
import { getMessage, identityStates, messageBytes } from "../../outbox/search.js";
import type { Context } from "../../process/context.js";
import {
  addLetterboxRule,
  attemptsOf,
  downloadsOf,
  type LetterRow,
  letterboxRulesOf,
  maybeLetter,
  type OutboxRow,
  pageOf,
  pageOfLetters,
  pageOfOutbox,
  type RuleRow,
  removeLetterboxRule,
  reportsAbout,
} from "../../records/index.js";
import { type HandlersOf, iso } from "../handler.js";
import { showAttempt, showMessage } from "./show-message.js";

export const outboxHandlers: HandlersOf<typeof outboxEndpoints> = {
  listOutbox: async ({ context, query: { limit, cursor, ...filter }, scope }) => {
    const page = await pageOfOutbox(context.database, { ...filter, among: namesOf(scope) }, { limit, cursor });
    return { items: page.items.map(showEntry), next: page.next };
  },

  showMessage: async ({ context, params }) => {
    const message = await getMessage(context, params.id);
    const [attempts, reports, downloads] = await Promise.all([
      attemptsOf(context.database, [params.id]),
      reportsAbout(context.database, params.id),
      downloadsOf(context.database, params.id),
    ]);
    return {
      ...showMessage(message),
      runId: message.runId,
      groupKey: message.groupKey,
      language: message.language,
      html: message.html,
      text: message.text,
      releasedAt: iso(message.releasedAt),
      touchedAt: iso(message.touchedAt),
      notBefore: iso(message.notBefore),
      datedAt: iso(message.datedAt),
      sha256: message.sha256,
      isKept: message.mime !== null,
      trail: attempts.map(showAttempt),
      reports: reports.map(({ id, at, facts }) => ({ id, at: iso(at), recipients: facts.recipients ?? [] })),
      downloads: downloads.map(({ at, path }) => ({ at: iso(at), path })),
    };
  },

  downloadMessage: async ({ context, params, response }) => {
    const bytes = await messageBytes(context, params.id);
    response.attachment(`message-${params.id}.eml`).type("message/rfc822").send(bytes);
  },

  decideMessage: async ({ context, params, body, user }) => ({
    state: await decideMessage(context, params.id, body.as, body.reason, user.name),
  }),

  sendAgain: async ({ context, params, body, user, created }) => {
    const { reason, corrections, inList } = body;
    const made = await sendAgain(context, params.id, { reason, corrections }, user.name);
    const entries = inList ? await correctAddresses(context, corrections, user.name) : 0;
    created(`/messages/${made.id}`);
    return { ...made, entries };
  },

  takeDeliveryReport: ({ context, body }) => takeReport(context, Buffer.from(body)),

  listIdentities: async ({ context, query }) => {
    const page = pageOf(await identityStates(context), query);
    return { items: page.items.map(showIdentity), next: page.next };
  },

  showIdentity: async ({ context, params, tell }) => {
    const found = await getState(context, params.name);
    tell(identityVersion(found));
    return showIdentity(found);
  },

  saveIdentity: async ({ context, params, body, user, expected, created, tell }) => {
    const isNew = await setIdentity(context, params.name, body, user.name, expected);
    if (isNew) created(`/identities/${params.name}`);
    const found = await getState(context, params.name);
    tell(identityVersion(found));
    return showIdentity(found);
  },

  pauseIdentity: async ({ context, params, user }) => {
    await pauseIdentity(context, params.name, true, user.name);
    return showIdentity(await getState(context, params.name));
  },

  resumeIdentity: async ({ context, params, user }) => {
    await pauseIdentity(context, params.name, false, user.name);
    return showIdentity(await getState(context, params.name));
  },

  listLetterboxRules: async ({ context, query }) =>
    pageOf(await letterboxRulesOf<LetterboxRule>(context.database), query),

  addLetterboxRule: async ({ context, body, user, created }) => {
    const id = await addLetterboxRule(context.database, body, user.name);
    await noteAction(context.database, user.name, "letterbox rule added", String(id), body);
    created(`/letterbox/rules/${id}`);
    return { id, used: 0, rule: body };
  },

  showLetterboxRule: ({ context, params }) => getRule(context, params.id),

  removeLetterboxRule: async ({ context, params, user }) => {
    if (!(await removeLetterboxRule(context.database, params.id))) throw noRule(params.id);
    await noteAction(context.database, user.name, "letterbox rule removed", String(params.id));
    return { id: params.id };
  },

  listLetters: async ({ context, query: { search, ...wish } }) => {
    const page = await pageOfLetters(context.database, search, wish);
    return {
      items: page.items.map(({ receivedAt, ...letter }) => ({ ...letter, receivedAt: iso(receivedAt) })),
      next: page.next,
    };
  },

  showLetter: async ({ context, params }) => {
    const { raw, receivedAt, attachments: _, ...letter } = await getLetter(context, params.id);
    const mail = await simpleParser(raw, { skipHtmlToText: true, skipTextToHtml: true });
    return {
      ...letter,
      receivedAt: iso(receivedAt),
      html: mail.html || null,
      text: mail.text ?? "",
      headers: mail.headerLines.map((header) => header.line),
      attachments: mail.attachments.map((attachment, index) => ({
        index,
        filename: attachment.filename ?? `attachment ${index + 1}`,
        contentType: attachment.contentType,
        size: attachment.size,
      })),
    };
  },

  downloadLetter: async ({ context, params, response }) => {
    const letter = await getLetter(context, params.id);
    response.attachment(`letter-${letter.id}.eml`).type("message/rfc822").send(letter.raw);
  },

  downloadLetterAttachment: async ({ context, params, response }) => {
    const letter = await getLetter(context, params.id);
    const attachment = (await simpleParser(letter.raw)).attachments[params.index];
    if (!attachment)
      throw new CorbixError(
        "NOT_FOUND",
        say().serviceHttp.cannotFindAttachmentLetter({ index: params.index, id: params.id }),
        {
          where: "letterbox",
        },
      );
    response
      .attachment(attachment.filename ?? `attachment-${params.index}`)
      .type(attachment.contentType)
      .send(attachment.content);
  },
};

function showEntry({ touchedAt, notBefore, ...entry }: OutboxRow) {
  const { runId, parcel, report, period, label, rehearsalTo, attachments } = entry;
  return {
    ...showMessage(entry),
    runId,
    parcel,
    report,
    period,
    label,
    rehearsalTo,
    attachments,
    touchedAt: iso(touchedAt),
    notBefore: iso(notBefore),
  };
}

type State = Awaited<ReturnType<typeof identityStates>>[number];

function showIdentity({ restUntil, ...state }: State) {
  return { ...state, restUntil: iso(restUntil) };
}

async function getState(context: Context, name: string): Promise<State> {
  const found = (await identityStates(context)).find((one) => one.name === name);
  if (found) return found;
  throw new CorbixError("NOT_FOUND", say().serviceHttp.cannotFindSendingIdentity({ name }), { where: "identities" });
}

async function getRule(context: Context, id: number): Promise<RuleRow<LetterboxRule>> {
  const found = (await letterboxRulesOf<LetterboxRule>(context.database)).find((one) => one.id === id);
  if (!found) throw noRule(id);
  return found;
}

function noRule(id: number): CorbixError {
  return new CorbixError("NOT_FOUND", say().serviceHttp.cannotFindRule({ id }), { where: "letterbox" });
}

async function getLetter(context: Context, id: string): Promise<LetterRow> {
  const found = await maybeLetter(context.database, id);
  if (found) return found;
  throw new CorbixError("NOT_FOUND", say().serviceHttp.cannotFindLetter({ id }), { where: "letterbox" });
}
