/** A filled workbook as plain values: no formulas, and nothing of sheets that are not to travel along. */

import { CorbixError, columnKey, suggestName } from "../../common/index.js";
import { type OoxmlPackage, relationshipsName, unescapeXml } from "../../ooxml/index.js";
import { type SheetInfo, scanCells, splitSheet, type Workbook, workbookFromPackage } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";

/** Relationships of a workbook that carry formulas, or rows of elsewhere: other files' cells, caches of pivots, connections. */
const WORKBOOK_LINKS = new Set(["calcChain", "externalLink", "pivotCacheDefinition", "connections", "sheetMetadata"]);
/** Relationships of a sheet that mean nothing without them. */
const SHEET_LINKS = new Set(["pivotTable", "queryTable"]);
const TYPES = "[Content_Types].xml";

/**
 * Turns formulas into the values stored for them. With `keep` only those sheets stay; the others go with everything
 * that hangs on them, with names that lead to them, and with texts that only they used. Throws `BAD_DEFINITION` for a
 * sheet there is not.
 */
export function valuesOnly(opened: OoxmlPackage, keep?: readonly string[]): OoxmlPackage {
  const workbook = workbookFromPackage(opened);
  const kept = keep ? chooseSheets(workbook, keep) : workbook.sheets;
  const changes = new Map<string, string | null>();
  for (const sheet of kept) {
    if (!opened.has(sheet.part)) continue;
    if (sheet.kind === "worksheet") changes.set(sheet.part, withoutFormulas(opened.getText(sheet.part)));
    dropRelations(opened, sheet.part, SHEET_LINKS, changes);
    for (const relation of opened.relationships(sheet.part))
      if (relation.type === "table" && opened.has(relation.target))
        changes.set(relation.target, withoutTableFormulas(opened.getText(relation.target)));
  }
  changes.set(workbook.part, workbookPart(workbook, kept));
  const gone = new Set(workbook.sheets.filter((sheet) => !kept.includes(sheet)).map((sheet) => sheet.part));
  dropRelations(opened, workbook.part, WORKBOOK_LINKS, changes, gone);
  if (gone.size > 0) pruneTexts(workbook, kept, changes);
  for (const name of opened.names)
    if (name.endsWith("docProps/app.xml")) changes.set(name, withoutTitles(opened.getText(name)));
  return withoutStrays(opened.with(changes));
}

function chooseSheets(workbook: Workbook, keep: readonly string[]): readonly SheetInfo[] {
  const names = workbook.sheets.map((sheet) => sheet.name);
  for (const name of keep) {
    if (names.some((known) => columnKey(known) === columnKey(name))) continue;
    throw new CorbixError("BAD_DEFINITION", say().workbook.cannotKeepSheetNoneFilled({ name }), {
      where: "sheets",
      advice: suggestName(name, names, "sheets"),
    });
  }
  return workbook.sheets.filter((sheet) => keep.some((name) => columnKey(name) === columnKey(sheet.name)));
}

function withoutFormulas(source: string): string {
  const end = source.lastIndexOf("sheetData>");
  const cells = source.slice(0, end < 0 ? source.length : end);
  const plain = cells
    .replace(/<((?:\w+:)?)f(?:\s[^>]*)?(?:\/>|>[^<]*<\/\1f>)/g, "")
    .replace(/(<(?:\w+:)?c\s[^>]*?)\s(?:cm|vm)="\d+"/g, "$1");
  return plain + source.slice(cells.length);
}

function withoutTableFormulas(source: string): string {
  return source.replace(/<((?:\w+:)?(?:calculatedColumnFormula|totalsRowFormula))(?:\s[^>]*)?>[\s\S]*?<\/\1>/g, "");
}

function workbookPart(workbook: Workbook, kept: readonly SheetInfo[]): string {
  const { package: opened, part, sheets } = workbook;
  const indexes = new Map(kept.map((sheet, index) => [sheets.indexOf(sheet), index]));
  const names = new Set(kept.map((sheet) => sheet.name.toLowerCase()));
  let at = -1;
  const isVisible = kept.some((sheet) => !sheet.hidden);
  return opened
    .getText(part)
    .replace(
      /<(?:\w+:)?(?:pivotCaches|externalReferences)(?:\s[^>]*)?(?:\/>|>[\s\S]*?<\/(?:\w+:)?(?:pivotCaches|externalReferences)>)/g,
      "",
    )
    .replace(/<(?:\w+:)?sheet\s[^>]*\/>/g, (tag) => {
      at++;
      if (!indexes.has(at)) return "";
      // A workbook needs a sheet that is seen.
      return isVisible ? tag : tag.replace(/\sstate="[^"]*"/, "");
    })
    .replace(
      /<((?:\w+:)?definedName)(\s[^>]*)>([^<]*)<\/\1>/g,
      (whole, name: string, attributes: string, formula: string) => {
        const local = /localSheetId="(\d+)"/.exec(attributes)?.[1];
        const index = local === undefined ? undefined : indexes.get(Number(local));
        if (local !== undefined && index === undefined) return "";
        if (!leadsToKept(formula, names)) return "";
        return index === undefined
          ? whole
          : `<${name}${attributes.replace(/localSheetId="\d+"/, `localSheetId="${index}"`)}>${formula}</${name}>`;
      },
    )
    .replace(/<((?:\w+:)?definedNames)(?:\s[^>]*)?>\s*<\/\1>/, "")
    .replace(/\s(activeTab|firstSheet)="\d+"/g, "");
}

/** A name stays where it is one range of a sheet that stays; formulas of names are formulas too. */
function leadsToKept(formula: string, names: ReadonlySet<string>): boolean {
  return unescapeXml(formula)
    .split(/,(?=(?:[^']*'[^']*')*[^']*$)/)
    .every((area) => {
      const { sheet, rest } = splitSheet(area);
      return sheet !== undefined && names.has(sheet.toLowerCase()) && /^[$A-Z0-9:]+$/.test(rest);
    });
}

/** Takes relationships of some types, or to some parts, out of a part's list. */
function dropRelations(
  opened: OoxmlPackage,
  part: string,
  types: ReadonlySet<string>,
  changes: Map<string, string | null>,
  targets: ReadonlySet<string> = new Set(),
): void {
  const list = relationshipsName(part);
  if (!opened.has(list)) return;
  const drop = new Set(
    opened
      .relationships(part)
      .filter((relation) => types.has(relation.type) || targets.has(relation.target))
      .map((relation) => relation.id),
  );
  if (drop.size === 0) return;
  const text = opened.getText(list).replace(/<(?:\w+:)?Relationship\s[^>]*\/>/g, (tag) => {
    const id = /\sId="([^"]*)"/.exec(tag)?.[1];
    return id !== undefined && drop.has(id) ? "" : tag;
  });
  changes.set(list, text);
}

/** Texts only other sheets used become blank; the others keep their numbers. */
function pruneTexts(workbook: Workbook, kept: readonly SheetInfo[], changes: Map<string, string | null>): void {
  const opened = workbook.package;
  const part = opened.relationships(workbook.part).find((relation) => relation.type === "sharedStrings")?.target;
  if (part === undefined || !opened.has(part)) return;
  const used = new Set<number>();
  for (const sheet of kept) {
    if (sheet.kind !== "worksheet" || !opened.has(sheet.part)) continue;
    scanCells(opened.getBytes(sheet.part), (cell) => {
      if (cell.type === "s") used.add(Number(cell.value));
    });
  }
  let at = -1;
  changes.set(
    part,
    opened.getText(part).replace(/<((?:\w+:)?)si(?:\s[^>]*)?(?:\/>|>[\s\S]*?<\/\1si>)/g, (item, prefix: string) => {
      at++;
      return used.has(at) ? item : `<${prefix}si><${prefix}t/></${prefix}si>`;
    }),
  );
}

/** The properties list the sheets' names; programs make that list anew. */
export function withoutTitles(source: string): string {
  return source.replace(/<((?:\w+:)?(?:HeadingPairs|TitlesOfParts))(?:\s[^>]*)?>[\s\S]*?<\/\1>/g, "");
}

/** Parts that nothing leads to any more go, with their lists of relationships and their content types. */
function withoutStrays(opened: OoxmlPackage): OoxmlPackage {
  const reached = new Set<string>();
  const visit = (part: string): void => {
    for (const relation of opened.relationships(part)) {
      if (relation.external || reached.has(relation.target) || !opened.has(relation.target)) continue;
      reached.add(relation.target);
      visit(relation.target);
    }
  };
  visit("");
  const stays = (name: string): boolean => {
    if (name === TYPES || reached.has(name) || name === "_rels/.rels") return true;
    const owner = /^(.*\/)?_rels\/([^/]+)\.rels$/.exec(name);
    return owner !== null && reached.has(`${owner[1] ?? ""}${owner[2]}`);
  };
  const strays = opened.names.filter((name) => !stays(name));
  if (strays.length === 0) return opened;
  const gone = new Set(strays.map((name) => `/${name}`));
  const types = opened.getText(TYPES).replace(/<(?:\w+:)?Override\s[^>]*\/>/g, (tag) => {
    const name = /\sPartName="([^"]*)"/.exec(tag)?.[1];
    return name !== undefined && gone.has(name) ? "" : tag;
  });
  return opened.with(
    new Map<string, string | null>([...strays.map((name): [string, null] => [name, null]), [TYPES, types]]),
  );
}
