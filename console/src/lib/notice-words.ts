/** Kinds of notices, as people read them. */
import type { Notice } from "./client";

export type NoticeKind = Notice["kind"];

export const NOTICE_WORDS: Readonly<Record<NoticeKind, string>> = {
  "waits-for-release": "A run waits for its release",
  "run-stopped": "A finding stops a run",
  "run-failed": "A run failed",
  refused: "Messages were refused or came back",
  "nothing-came": "Data did not come in time",
  "nothing-to-send": "There was nothing to send",
  "schedule-missed": "Times passed while Corbix was down",
  "schedule-failed": "A report was not started",
  halted: "Nothing is sent until somebody has looked",
};
export const NOTICE_KINDS = Object.keys(NOTICE_WORDS) as NoticeKind[];
