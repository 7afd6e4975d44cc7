/** Values of formulas that a file does not hold, calculated before formulas go. */

import type { Finding } from "../../common/index.js";
import type { OoxmlPackage } from "../../ooxml/index.js";
import { workbookFromPackage } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import { recalculateLiterally } from "./recalculate.js";

/** A formula's cell without a value: `<c r="B2"><f>…</f></c>`. */
const WITHOUT_VALUE =
  /<(?:\w+:)?c\s([^>]*)>\s*<((?:\w+:)?)f(?:\s[^>]*)?(?:\/>|>[^<]*<\/\2f>)\s*(?:(<\/(?:\w+:)?c>)|<(?:\w+:)?v\s*(?:\/>|><\/))/g;

/** Cells whose formula has no value, with their sheets. */
function valueless(opened: OoxmlPackage): string[] {
  return workbookFromPackage(opened).sheets.flatMap(({ name, part, kind }) =>
    kind === "worksheet" && opened.has(part)
      ? [...opened.getText(part).matchAll(WITHOUT_VALUE)]
          // A value of no letters is the text without letters.
          .filter((match) => match[3] !== undefined || !/\bt="str"/.test(match[1]))
          .map((match) => `${name}!${/\br="([A-Z]+\d+)"/.exec(match[1])?.[1] ?? "?"}`)
      : [],
  );
}

/** Cells that are named in a finding. */
const NAMED = 5;

/**
 * The workbook with a value for each formula. What writes workbooks without calculating leaves them out, and so without values
 * only would nothing stay. `today` is the day, as a serial, that TODAY gives.
 */
export function withStoredValues(
  opened: OoxmlPackage,
  today: number,
): { readonly package: OoxmlPackage; readonly findings: readonly Finding[] } {
  if (valueless(opened).length === 0) return { package: opened, findings: [] };
  const calculated = recalculateLiterally(workbookFromPackage(opened), today).package;
  const left = valueless(calculated);
  if (left.length === 0) return { package: calculated, findings: [] };
  return {
    package: calculated,
    findings: [
      {
        code: "values-missing",
        severity: "warn",
        where: opened.where,
        what: say().workbook.valueCannotCalculatedHereBlank({
          leftCount: left.length,
          left: left.slice(0, NAMED).join(", "),
          value: left.length > NAMED ? ", …" : "",
        }),
        advice: say().workbook.openWorkbookProgramMadeLet(),
        count: left.length,
      },
    ],
  };
}
