export { checkAgainst, type ControlTotal, type Plan, type PlanInput, type Planned, type PlannedFile, type PlannedParcel, planRun, splitColumns } from "./plan.js";
export { readRecord, type RecordEnv } from "./record.js";
export { type MadeParcel, planSentences, type Proof, proveRun } from "./proof.js";
export { type FileKind, type MadeFile, type MadeFiles, ReportMaker, rowsDigest } from "./report-maker.js";
export { groupEnv, groupScope, type RunFacts } from "./scope.js";
