export { type AnswerFile, type AnswerForm, answerForms, makeAnswer } from "./answer.js";
export type { WantedFile } from "./bind-report.js";
export { type DraftGroup, type DraftLook, type DraftParcel, type DraftWish, lookAtDraft } from "./draft.js";
export {
  type AttachmentSource,
  type FoundAttachment,
  type FoundAttachments,
  findAttachments,
} from "./find-attachments.js";
export type { EarlierPeriods } from "./growing.js";
export { type MailFacts, mailParts } from "./mail-parts.js";
export { FILE_KINDS, type FileKind, type MadeFile, type MadeFiles } from "./make-file.js";
export {
  type CaughtLines,
  type FinishedParcel,
  makeParcel,
  type ParcelFile,
  type ParcelMessage,
  type ParcelWork,
} from "./make-parcel.js";
export { type ExplainedMark, explainMarks } from "./marks/explain-marks.js";
export {
  layOffice,
  OFFICE_KINDS,
  type OfficeKind,
  officeKind,
  openOffice,
  type PrintedFacts,
  readOfficeTemplate,
} from "./office-file.js";
export {
  type CaughtAccount,
  type CaughtPeriod,
  digestWith,
  planCaughtUp,
  withCaughtUp,
} from "./plan/catch-up.js";
export type { ControlTotal } from "./plan/control-totals.js";
export { checkAgainst, type Plan, type Planned, planRun } from "./plan/plan.js";
export type { PlanInput } from "./plan/plan-input.js";
export type { PlannedFile, PlannedParcel, PlannedWay } from "./plan/plan-parcel.js";
export { type PlannedMessage, plannedMessages } from "./planned-messages.js";
export { type MadeParcel, type Proof, planSentences, proveRun } from "./proof.js";
export { fillFromRecord, type RecordEnv, readRecord } from "./record.js";
export { type OwnSeal, ReportMaker } from "./report-maker.js";
export {
  belonging,
  type FurtherAccount,
  type FurtherTable,
  furtherColumns,
  furtherLines,
  furtherOf,
} from "./rows/further.js";
export { notReadReasons } from "./rows/in-period.js";
export { linesDigest } from "./rows/lines-digest.js";
export { type HeldPeriods, periodsMissed, type RunPeriod } from "./rows/missed-periods.js";
export { factsFor, type GroupPlace, groupEnv, groupScope, type RunFacts, recipientFields } from "./scope.js";
export { type Leak, leakFindings, Seal } from "./seal.js";
export { type GroupSince, type MeasuredGroup, MUCH, type RunSince, runSince } from "./since.js";
export { type TriedMessage, type TriedOut, tryMessage, tryOut } from "./try-out.js";
