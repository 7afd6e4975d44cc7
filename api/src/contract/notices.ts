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

export const noticeEndpoints = {
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
