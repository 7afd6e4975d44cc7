export { checkReport, describeProblems, parseReport, parseYaml } from "./parse.js";
export { type FileSpec, nameSchema, type Report, reportSchema, type ReportSpec } from "./schema.js";
