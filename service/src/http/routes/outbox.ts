import { basename } from "node:path";
import { CorbixError } from "@corbix/core/common";
import { CONTENT_TYPES } from "@corbix/core/message";
import { nameSchema } from "@corbix/core/report";
import { z } from "zod";
import { noteAction } from "../../audit/audit.js";
import { letterboxRuleSchema, letterboxRules } from "../../letterbox/rules.js";
import { identitySchema, identitySecretSchema, pauseIdentity, setIdentity } from "../../mail/identities.js";
import { downloadHtml, noDownloadHtml, noteDownload, openLink } from "../../outbox/links.js";
import { decideMessage, sendAgain } from "../../outbox/manual-actions.js";
import { takeReport } from "../../outbox/reports.js";
import {
  identityStates,
  messageBytes,
  messageDetails,
  messageSearchSchema,
  searchMessages,
} from "../../outbox/search.js";
import { type Route, route } from "../route.js";
import { anything, named } from "../shapes.js";

const numbered = z.object({ id: z.string().regex(/^\d{1,18}$/, "expected a number") });
const reason = z.string().trim().min(3, "expected a reason").max(500);

export function outboxRoutes(): Route[] {
  return [
    route("get", "/api/outbox", {
      summary:
        "Messages by person, group, file, report, period and state: what was sent, when, and what the server said",
      tag: "Outbox",
      query: messageSearchSchema,
      answer: z.array(anything),
      handle: ({ context, query }) => searchMessages(context, query),
    }),
    route("get", "/api/messages/{id}", {
      summary: "A message with its attempts and the reports that came back",
      tag: "Outbox",
      params: numbered,
      answer: anything,
      handle: ({ context, params }) => messageDetails(context, params.id),
    }),
    route("get", "/api/messages/{id}/raw", {
      summary: "A message's bytes as .eml: as they were sent, or as they would go now",
      tag: "Outbox",
      params: numbered,
      answer: "message/rfc822",
      handle: async ({ context, params, response }) => {
        const bytes = await messageBytes(context, params.id);
        response.attachment(`message-${params.id}.eml`).type("message/rfc822").send(bytes);
      },
    }),
    route("post", "/api/messages/{id}/decide", {
      summary: "Decide a message nobody can know about: it arrived, or it shall go again",
      tag: "Outbox",
      params: numbered,
      body: z.strictObject({ as: z.enum(["arrived", "again"]), reason: reason.optional() }),
      answer: z.object({ state: z.string() }),
      handle: async ({ context, params, body, user }) => ({
        state: await decideMessage(context, params.id, body.as, body.reason, user.name),
      }),
    }),
    route("post", "/api/messages/{id}/again", {
      summary:
        "Send a message once more on purpose, with a reason: as a first time to whom it never reached, else marked as sent again",
      tag: "Outbox",
      params: numbered,
      body: z.strictObject({ reason }),
      answer: z.object({ id: z.string(), as: z.enum(["first", "repeat"]) }),
      handle: ({ context, params, body, user }) => sendAgain(context, params.id, body.reason, user.name),
    }),
    route("get", "/d/{token}", {
      summary: "A recipient's page of files, behind a signed address that ends by itself",
      tag: "Downloads",
      params: z.object({ token: z.string().max(200) }),
      answer: "text/html",
      isOpen: true,
      handle: async ({ context, params, response }) => {
        const page = await openLink(context, params.token).catch(() => undefined);
        response.status(page ? 200 : 404).setHeader("Cache-Control", "no-store");
        response.type("html").send(page ? downloadHtml(params.token, page) : noDownloadHtml());
      },
    }),
    route("get", "/d/{token}/{file}", {
      summary: "One of its files",
      tag: "Downloads",
      params: z.object({ token: z.string().max(200), file: z.string().max(20) }),
      answer: "application/octet-stream",
      isOpen: true,
      handle: async ({ context, params, response }) => {
        const page = await openLink(context, params.token);
        const file = page.files.find((one) => one.id === params.file);
        if (!file) throw new CorbixError("NOT_FOUND", "This file is not there.");
        const bytes = Buffer.from(await context.store.get(file.sha256));
        await noteDownload(context, page.message, file.id);
        response.attachment(basename(file.path)).type(CONTENT_TYPES[file.kind]).send(bytes);
      },
    }),
    route("post", "/api/delivery-reports", {
      summary: "Take a report of delivery (RFC 3464) as it came by mail",
      tag: "Outbox",
      body: "bytes",
      answer: z.object({ message: z.string().nullable(), recipients: z.array(anything) }),
      handle: ({ context, body }) => takeReport(context, body),
    }),
    route("get", "/api/identities", {
      summary: "Sending identities with what waits for them",
      tag: "Identities",
      answer: z.array(anything),
      handle: ({ context }) => identityStates(context),
    }),
    route("put", "/api/identities/{name}", {
      summary: "Set a sending identity",
      tag: "Identities",
      params: named,
      body: z.strictObject({ settings: identitySchema, secret: identitySecretSchema.default({}) }),
      answer: z.object({ name: nameSchema }),
      handle: async ({ context, params, body, user }) => {
        await setIdentity(context, params.name, body.settings, body.secret, user.name);
        return { name: params.name };
      },
    }),
    ...(["pause", "resume"] as const).map((what) =>
      route("post", `/api/identities/{name}/${what}`, {
        summary: what === "pause" ? "Let an identity's messages wait" : "Let an identity's messages go on, at once",
        tag: "Identities",
        params: named,
        answer: z.object({ name: nameSchema }),
        handle: async ({ context, params, user }) => {
          await pauseIdentity(context, params.name, what === "pause", user.name);
          return { name: params.name };
        },
      }),
    ),
    route("get", "/api/letterbox/rules", {
      summary: "What the letterbox does wrong on purpose",
      tag: "Letterbox",
      answer: z.array(anything),
      handle: ({ context }) => letterboxRules(context.database),
    }),
    route("post", "/api/letterbox/rules", {
      summary: "Let the letterbox do something wrong: refuse, be slow, break the line, send messages back",
      tag: "Letterbox",
      body: letterboxRuleSchema,
      answer: z.object({ id: z.number().int() }),
      handle: async ({ context, body, user }) => {
        const [made] = await context.database.select<{ id: number }>(
          "INSERT INTO letterbox_rules (rule, created_by) VALUES ($1, $2) RETURNING id",
          [JSON.stringify(body), user.name],
        );
        await noteAction(context.database, user.name, "letterbox rule added", String(made.id), body);
        return { id: made.id };
      },
    }),
    route("delete", "/api/letterbox/rules/{id}", {
      summary: "Take a rule of the letterbox away",
      tag: "Letterbox",
      params: numbered,
      answer: z.object({ id: z.number().int() }),
      handle: async ({ context, params, user }) => {
        const removed = await context.database.execute("DELETE FROM letterbox_rules WHERE id = $1", [params.id]);
        if (removed === 0)
          throw new CorbixError("NOT_FOUND", `Cannot find the rule ${params.id}.`, { where: "letterbox" });
        await noteAction(context.database, user.name, "letterbox rule removed", params.id);
        return { id: Number(params.id) };
      },
    }),
  ];
}
