/** What somebody should be told. */
import { z } from "zod";
import { day, instant, name, page, paging, rowId } from "./common.js";
import { endpoint } from "./endpoint.js";

/** Kinds of notices. */
export const NOTICE_KINDS = [
  "waits-for-release",
  "run-stopped",
  "run-failed",
  "refused",
  "nothing-came",
  "nothing-to-send",
  "schedule-missed",
  "schedule-failed",
  "halted",
] as const;
export type NoticeKind = (typeof NOTICE_KINDS)[number];

const notice = z
  .strictObject({
    id: rowId,
    at: instant,
    kind: z.enum(NOTICE_KINDS),
    report: z.string().nullable(),
    run: z.string().nullable(),
    what: z.string(),
    advice: z.string().nullable(),
  })
  .meta({ id: "Notice" });

const watcherFields = {
  way: z.enum(["mail", "callback"]),
  address: z
    .union([z.email(), z.url({ protocol: /^https?$/ })])
    .describe("An address of mail, or one that is called by POST."),
  kinds: z.array(z.enum(NOTICE_KINDS)).min(1),
  reports: z.array(name).min(1).nullable().default(null).describe("Only of these reports; of all if null."),
  morning: z
    .string()
    .regex(/^([01]\d|2[0-3]):[0-5]\d$/, "expected a time such as 07:00")
    .nullable()
    .default(null)
    .describe("When a summary goes out each day; at once if null."),
  zone: z.string().default("UTC").describe("Time zone of that time."),
};
const watcher = z.strictObject({ name, ...watcherFields, isSigned: z.boolean() }).meta({ id: "Watcher" });
const watcherBody = z
  .strictObject({
    ...watcherFields,
    secret: z
      .string()
      .min(16)
      .max(200)
      .optional()
      .describe("Of a callback: what it is signed with (HMAC-SHA-256, hexadecimal, in X-Signature)."),
  })
  .refine((one) => (one.way === "mail") === one.address.includes("@"), {
    path: ["address"],
    message: "expected an address of mail, or one to be called, as `way` says",
  });
const byWatcher = z.strictObject({ watcher: name });

export const noticeEndpoints = {
  listWatchers: endpoint("get", "/watchers", {
    summary: "Who is told of what, and how",
    tag: "Notices",
    query: paging,
    answer: page(watcher),
  }),
  saveWatcher: endpoint("put", "/watchers/{watcher}", {
    summary: "Let somebody be told: by mail or by a call, at once or each morning",
    tag: "Notices",
    params: byWatcher,
    body: watcherBody,
    answer: watcher,
  }),
  deleteWatcher: endpoint("delete", "/watchers/{watcher}", {
    summary: "Tell somebody no more",
    tag: "Notices",
    params: byWatcher,
    answer: z.strictObject({ ok: z.literal(true) }),
  }),
  listNotices: endpoint("get", "/notices", {
    summary: "What somebody should know, the newest first",
    tag: "Notices",
    query: paging.extend({
      kind: z.enum(NOTICE_KINDS).optional(),
      report: name.optional(),
      since: day.optional().describe("First day."),
    }),
    answer: page(notice),
  }),
};
