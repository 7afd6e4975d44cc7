export { nameSchema } from "../prepare/index.js";
export { checkReport, describeProblems, parseReport, parseYaml } from "./parse.js";
export { type FileSpec, type Report, type ReportSpec, reportSchema } from "./schema.js";
