import { CorbixError } from "@corbix/core/common";
import { simpleParser } from "mailparser";
import { z } from "zod";
import type { Context } from "../../process/context.js";
import type { LetterRow } from "../../records/index.js";
import { type Route, route } from "../route.js";
import { anything } from "../shapes.js";

const numbered = z.object({ id: z.string().regex(/^\d{1,18}$/, "expected a number") });
const LISTED = 500;

export function mailRoutes(): Route[] {
  return [
    route("get", "/api/overview", {
      summary: "Counts and the newest of everything",
      tag: "Service",
      answer: anything,
      handle: async ({ context }) => {
        const [counts] = await context.database.select(
          `SELECT (SELECT count(*)::int FROM datasets) AS datasets, (SELECT count(DISTINCT name)::int FROM template_versions) AS templates,
             (SELECT count(DISTINCT name)::int FROM report_versions) AS reports, (SELECT count(*)::int FROM runs) AS runs, (SELECT count(*)::int FROM runs WHERE state = 'held') AS held,
             (SELECT count(*)::int FROM messages WHERE state IN ('queued', 'sending')) AS "onTheWay", (SELECT count(*)::int FROM messages WHERE state = 'sent') AS sent,
             (SELECT count(*)::int FROM messages WHERE state IN ('refused', 'unsure', 'returned')) AS troubled, (SELECT count(*)::int FROM letters) AS letters`,
        );
        return counts;
      },
    }),
    route("get", "/api/letters", {
      summary: "What the letterbox got, newest first",
      tag: "Letterbox",
      answer: z.array(anything),
      handle: ({ context }) =>
        context.database.select(
          'SELECT id, received_at AS "receivedAt", mail_from AS "mailFrom", rcpt_to AS "rcptTo", subject, message_id AS "messageId", size, attachments FROM letters ORDER BY id DESC LIMIT $1',
          [LISTED],
        ),
    }),
    route("get", "/api/letters/{id}", {
      summary: "A letter as HTML and text, with its headers and attachments",
      tag: "Letterbox",
      params: numbered,
      answer: anything,
      handle: async ({ context, params }) => {
        const letter = await getLetter(context, params.id);
        const mail = await simpleParser(letter.raw, { skipHtmlToText: true, skipTextToHtml: true });
        return {
          id: letter.id,
          receivedAt: letter.receivedAt,
          mailFrom: letter.mailFrom,
          rcptTo: letter.rcptTo,
          subject: letter.subject,
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
    }),
    route("get", "/api/letters/{id}/raw", {
      summary: "A letter as it came in, as .eml",
      tag: "Letterbox",
      params: numbered,
      answer: "message/rfc822",
      handle: async ({ context, params, response }) => {
        const letter = await getLetter(context, params.id);
        response.attachment(`letter-${letter.id}.eml`).type("message/rfc822").send(letter.raw);
      },
    }),
    route("get", "/api/letters/{id}/attachments/{index}", {
      summary: "An attachment of a letter",
      tag: "Letterbox",
      params: numbered.extend({ index: z.coerce.number().int().min(0) }),
      answer: "application/octet-stream",
      handle: async ({ context, params, response }) => {
        const letter = await getLetter(context, params.id);
        const attachment = (await simpleParser(letter.raw)).attachments[params.index];
        if (!attachment)
          throw new CorbixError("NOT_FOUND", `Cannot find attachment ${params.index} of letter ${params.id}.`, {
            where: "letterbox",
          });
        response
          .attachment(attachment.filename ?? `attachment-${params.index}`)
          .type(attachment.contentType)
          .send(attachment.content);
      },
    }),
  ];
}

async function getLetter(context: Context, id: string): Promise<LetterRow> {
  const found = await context.database.models.Letter.findByPk(id, { raw: true });
  if (found) return found as unknown as LetterRow;
  throw new CorbixError("NOT_FOUND", `Cannot find letter ${id}.`, { where: "letterbox" });
}
