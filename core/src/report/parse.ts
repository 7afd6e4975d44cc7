import { LineCounter, parseDocument } from "yaml";
import { CorbixError, suggestName, wordsOf } from "../common/index.js";
import { say } from "../words/index.js";
import { describeProblems } from "./problems.js";
import { type Report, reportSchema } from "./schema.js";

/** Reads a definition from YAML or JSON text. Throws `BAD_DEFINITION` with line or field. */
export function parseReport(source: string, where: string): Report {
  return checkReport(parseYaml(source, where, "BAD_DEFINITION"), where);
}

/** Checks a definition that is an object already. Throws `BAD_DEFINITION` with the field. */
export function checkReport(value: unknown, where: string): Report {
  const result = reportSchema.safeParse(value);
  if (!result.success)
    throw new CorbixError(
      "BAD_DEFINITION",
      say().report.cannotReadReport({ describeProblems: describeProblems(result.error) }),
      {
        where: [where, ...placeOf(result.error.issues[0]?.path ?? [])].join(", "),
        advice: say().report.fieldsToldDocsDefinitionMd(),
      },
    );
  const report = result.data;
  for (const one of report.message?.attach ?? [])
    if (typeof one === "string") checkFileName(report, one, `${where}, message.attach`);
  for (const [way, { files = [] }] of Object.entries(report.waysOut))
    for (const one of files) checkFileName(report, one, `${where}, waysOut.${way}.files`);
  return Object.freeze(report);
}

/** A definition's text has no more entries than this, and is no longer; both far beyond what anybody writes. */
const MOST_ENTRIES = 20_000;
const MOST_SIGNS = 1_048_576;

/** A YAML or JSON text as a value, with the line of what is wrong. */
export function parseYaml(source: string, where: string, code: "BAD_DEFINITION" | "BAD_RECORD" | "BAD_RULE"): unknown {
  const entries = source.length > MOST_SIGNS ? MOST_ENTRIES + 1 : (source.match(/:[\s"'{[]|^\s*-\s|,/gm)?.length ?? 0);
  if (entries > MOST_ENTRIES)
    throw new CorbixError(
      "LIMIT_EXCEEDED",
      say().report.cannotReadTextLongerSigns({ mostSigns: MOST_SIGNS, mostEntries: MOST_ENTRIES }),
      { where, advice: say().report.writeLessDefinitionLongTexts() },
    );
  const lines = new LineCounter();
  const document = parseDocument(source, { lineCounter: lines, prettyErrors: false });
  const [problem] = document.errors;
  if (problem) {
    const { line, col } = lines.linePos(problem.pos[0]);
    throw new CorbixError(code, say().report.cannotReadTextYaml({ message: problem.message }), {
      where: say().report.lineColumn({ where, line, col }),
    });
  }
  try {
    return document.toJS({ maxAliasCount: 50 });
  } catch (cause) {
    throw new CorbixError(code, say().report.cannotReadAsYaml({ wordsOf: wordsOf(cause) }), { where, cause });
  }
}

/** A field's place as people count: the first of a list is 1. */
function placeOf(path: readonly PropertyKey[]): string[] {
  return path.map((part) => (typeof part === "number" ? String(part + 1) : String(part)));
}

/** That the report makes a file of that name, where it is given by one. */
function checkFileName(report: Report, name: string, where: string): void {
  const [file, ending] = name.split(/\.(?=pdf$)/);
  const spec = Object.hasOwn(report.files, file) ? report.files[file] : undefined;
  if (!spec) {
    throw new CorbixError("BAD_DEFINITION", say().report.cannotAttachReportMakesSuch({ name }), {
      where,
      advice: suggestName(file, Object.keys(report.files), "files"),
    });
  }
  if (ending && spec.pdf === "no") {
    throw new CorbixError("BAD_DEFINITION", say().report.cannotAttachPdfMade({ name, file }), {
      where,
      advice: say().report.setPdfTooOnly(),
    });
  }
}
