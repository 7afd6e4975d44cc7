/** Sheets that cannot be changed by mistake, and workbooks that ask to be opened for reading: ECMA-376 part 1, 18.3.1.85 and 18.2.12. */
import { randomBytes } from "node:crypto";
import { type OoxmlPackage, SPIN_COUNT, stretchPassword, type XmlElement, xmlElement } from "../../ooxml/index.js";
import { workbookFromPackage } from "../../spreadsheet/index.js";
import { withHead } from "../fill/related-parts.js";

export interface SheetProtection {
  /** Whether cells that are locked cannot be changed; sorting, filtering and selecting stay possible. */
  readonly sheets: boolean;
  /** What unlocks the sheets; nothing is asked for without it. */
  readonly password?: string | undefined;
  /** Whether programs suggest to open the workbook for reading only. */
  readonly readOnly: boolean;
}

/** Children of a sheet that stand before its protection. */
const BEFORE = new Set(["sheetPr", "dimension", "sheetViews", "sheetFormatPr", "cols", "sheetData", "sheetCalcPr"]);
const BEFORE_SHARING = new Set(["fileVersion"]);

export function protectSheets(
  opened: OoxmlPackage,
  protection: SheetProtection,
  random: (count: number) => Buffer = randomBytes,
): OoxmlPackage {
  const workbook = workbookFromPackage(opened);
  const parts = new Map<string, string>();
  if (protection.sheets) {
    const lock = lockOf(protection.password, random);
    for (const sheet of workbook.sheets) {
      if (sheet.kind !== "worksheet" || !opened.has(sheet.part)) continue;
      const root = opened.getXml(sheet.part);
      const known = root.child("sheetProtection");
      const element = xmlElement(`${root.prefix}sheetProtection`, lock);
      parts.set(sheet.part, withHead(opened, sheet.part, insert(root, element, known, BEFORE)));
    }
  }
  if (protection.readOnly) {
    const element = xmlElement(`${workbook.xml.prefix}fileSharing`, { readOnlyRecommended: "1" });
    const known = workbook.xml.child("fileSharing");
    parts.set(workbook.part, withHead(opened, workbook.part, insert(workbook.xml, element, known, BEFORE_SHARING)));
  }
  return parts.size > 0 ? opened.with(parts) : opened;
}

function insert(
  root: XmlElement,
  element: XmlElement,
  known: XmlElement | undefined,
  before: ReadonlySet<string>,
): XmlElement {
  const others = root.children.filter((child) => child !== known);
  let at = 0;
  others.forEach((child, index) => {
    if (child.kind === "element" && before.has(child.local)) at = index + 1;
  });
  return root.withChildren([...others.slice(0, at), element, ...others.slice(at)]);
}

function lockOf(password: string | undefined, random: (count: number) => Buffer): Record<string, string> {
  const allowed = { sheet: "1", objects: "1", scenarios: "1", sort: "0", autoFilter: "0", formatColumns: "0" };
  if (password === undefined || password === "") return allowed;
  const salt = random(16);
  // As [MS-OFFCRYPTO] 2.4.2.4 says: the round's number behind the hash, where agile encryption has it before.
  const hash = stretchPassword(password, salt, SPIN_COUNT, "behind");
  return {
    algorithmName: "SHA-512",
    hashValue: hash.toString("base64"),
    saltValue: salt.toString("base64"),
    spinCount: String(SPIN_COUNT),
    ...allowed,
  };
}
