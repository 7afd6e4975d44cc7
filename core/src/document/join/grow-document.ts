/** Documents that keep what they held and get a new section for each period: once, in order. */

import { CorbixError } from "../../common/index.js";
import { escapeXml, type OoxmlPackage } from "../../ooxml/index.js";
import { say } from "../../words/index.js";
import { joinDocuments } from "./join-documents.js";

const PART = "docProps/custom.xml";
const NAME = "Corbix periods";
const TYPES = "[Content_Types].xml";
const CONTENT = "application/vnd.openxmlformats-officedocument.custom-properties+xml";
const RELATION = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/custom-properties";
/** Format of properties that people set: ECMA-376 part 1, 22.3.2.2. */
const FORMAT = "{D5CDD505-2E9C-101B-9397-08002B2CF9AE}";

/** The periods a document holds a section for, in order. */
export function periodsOf(opened: OoxmlPackage): string[] {
  const property = opened
    .maybeXml(PART)
    ?.elements("property")
    .find((one) => one.attr("name") === NAME);
  return (property?.text ?? "").split(" ").filter((period) => period !== "");
}

/**
 * A document with a new section behind what an earlier one holds, which stays as it was.
 * Throws `CONFLICT` where the period has its section already, or comes before one that has.
 */
export function growDocument(earlier: OoxmlPackage | undefined, section: OoxmlPackage, period: string): OoxmlPackage {
  const periods = earlier ? periodsOf(earlier) : [];
  const last = periods[periods.length - 1];
  if (last !== undefined && last >= period)
    throw new CorbixError("CONFLICT", say().document.cannotAddSectionDocumentGoes({ period, last }), {
      where: earlier?.where ?? "",
      advice: say().document.runPeriodsOrderPeriodMade(),
    });
  return withPeriods(earlier ? joinDocuments(earlier, section) : section, [...periods, period]);
}

function withPeriods(opened: OoxmlPackage, periods: readonly string[]): OoxmlPackage {
  const value = `<vt:lpwstr>${escapeXml(periods.join(" "))}</vt:lpwstr>`;
  const known = opened.maybeXml(PART);
  if (!known) {
    const property = `<property fmtid="${FORMAT}" pid="2" name="${NAME}">${value}</property>`;
    const xml = `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<Properties xmlns="http://schemas.openxmlformats.org/officeDocument/2006/custom-properties" xmlns:vt="http://schemas.openxmlformats.org/officeDocument/2006/docPropsVTypes">${property}</Properties>`;
    return opened.with(
      new Map([
        [PART, xml],
        [
          TYPES,
          opened
            .getText(TYPES)
            .replace(/<\/Types>/, `<Override PartName="/${PART}" ContentType="${CONTENT}"/></Types>`),
        ],
        [
          "_rels/.rels",
          opened
            .getText("_rels/.rels")
            .replace(
              /<\/Relationships>/,
              `<Relationship Id="corbixPeriods" Type="${RELATION}" Target="${PART}"/></Relationships>`,
            ),
        ],
      ]),
    );
  }
  const properties = known.elements("property");
  const own = properties.find((one) => one.attr("name") === NAME);
  const text = opened.getText(PART);
  if (own)
    return opened.with(
      new Map([
        [PART, text.replace(own.toString(), (whole) => whole.replace(/<vt:lpwstr>[\s\S]*<\/vt:lpwstr>/, () => value))],
      ]),
    );
  const pid = Math.max(1, ...properties.map((one) => Number(one.attr("pid") ?? 1))) + 1;
  // A part without any is written as one tag.
  const whole = text.replace(/<(\w+:)?Properties\b([^>]*)\/>/, "<$1Properties$2></$1Properties>");
  const declared = /xmlns:vt=/.test(whole)
    ? whole
    : whole.replace(
        /<Properties\b/,
        '<Properties xmlns:vt="http://schemas.openxmlformats.org/officeDocument/2006/docPropsVTypes"',
      );
  return opened.with(
    new Map([
      [
        PART,
        declared.replace(
          /<\/Properties>/,
          (end) => `<property fmtid="${FORMAT}" pid="${pid}" name="${NAME}">${value}</property>${end}`,
        ),
      ],
    ]),
  );
}
