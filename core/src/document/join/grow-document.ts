/** Documents that keep what they held and get a new section for each period: once, in order. */

import { CorbixError } from "../../common/index.js";
import { customProperty, type OoxmlPackage, withCustomProperty } from "../../ooxml/index.js";
import { say } from "../../words/index.js";
import { joinDocuments } from "./join-documents.js";

const NAME = "Corbix periods";

/** The periods a document holds a section for, in order. */
export function periodsOf(opened: OoxmlPackage): string[] {
  return customProperty(opened, NAME)
    .split(" ")
    .filter((period) => period !== "");
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
  return withCustomProperty(earlier ? joinDocuments(earlier, section) : section, NAME, [...periods, period].join(" "));
}
