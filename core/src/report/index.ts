export { nameSchema } from "../prepare/index.js";
export {
  type BodyKind,
  bodyKind,
  bodyOf,
  type EditedMessage,
  type MessageWords,
  messageWords,
  withMessageWords,
} from "./edit-message.js";
export type { Enquiry, EnquiryField } from "./enquiry-schema.js";
export { asCopy, bodiesOf, datasetsOf, type NewNames, templatesOf, withNames } from "./names.js";
export { checkReport, parseReport, parseYaml } from "./parse.js";
export { describeProblems } from "./problems.js";
export {
  datasetsAwaited,
  datasetsBeside,
  type FileSpec,
  fixedCopies,
  type LinesSpec,
  type Report,
  type ReportSpec,
  reportSchema,
  splitColumns,
} from "./schema.js";
