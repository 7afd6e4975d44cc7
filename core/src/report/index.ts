export { checkReport, describeProblems, parseReport, parseYaml } from "./parse.js";
export { type FileSpec, nameSchema, type Report, type ReportSpec, reportSchema } from "./schema.js";
