/**
 * A chart whose workbook has marks: the workbook is filled as any workbook is, with the chart put on its sheet meanwhile, so that
 * references and stored values follow its cells.
 */
import type { Finding } from "../../common/index.js";
import type { Env, Scope } from "../../expression/index.js";
import { OFFICE_RELATIONS, OoxmlPackage, relationshipsName, relationshipsXml } from "../../ooxml/index.js";
import { hasMarks, type PlacedMark } from "../../template/index.js";
import { WorkbookTemplate } from "../../workbook/index.js";

const CHART = "xl/charts/chart-corbix.xml";
const DRAWING = "xl/drawings/corbixDrawing.xml";
const MAIN_DRAWING = "http://schemas.openxmlformats.org/drawingml/2006";
const EMPTY_DRAWING = `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<xdr:wsDr xmlns:xdr="${MAIN_DRAWING}/spreadsheetDrawing" xmlns:a="${MAIN_DRAWING}/main"/>`;

export interface FilledChart {
  readonly chart: string;
  readonly workbook: Uint8Array;
  readonly findings: readonly Finding[];
}

export class ChartBook {
  private constructor(
    private readonly template: WorkbookTemplate,
    /** The relationships of the sheet as they were, and their part. */
    private readonly sheet: { readonly relations: string; readonly before: string | null },
  ) {}

  /** The workbook behind a chart where marks stand in its cells; nothing otherwise. */
  static read(
    chart: string,
    workbook: Uint8Array,
    where: string,
    further: readonly string[] = [],
  ): ChartBook | undefined {
    const opened = OoxmlPackage.open(workbook, where);
    const isMarked = opened.names.some(
      (name) => /^xl\/(?:sharedStrings|worksheets\/[^/]+)\.xml$/.test(name) && hasMarks(opened.getText(name)),
    );
    if (!isMarked) return undefined;
    const main = opened.main;
    const sheet = opened.relationships(main).find(({ type }) => type === "worksheet")?.target;
    if (sheet === undefined) return undefined;
    const relations = relationshipsName(sheet);
    const before = opened.has(relations) ? opened.getText(relations) : null;
    const own = `<Relationship Id="corbixDrawing" Type="${OFFICE_RELATIONS}/drawing" Target="../drawings/corbixDrawing.xml"/>`;
    const combined = opened.with(
      new Map([
        [
          relations,
          before === null ? relationshipsXml([own]) : before.replace(/<\/Relationships>/, (end) => own + end),
        ],
        [DRAWING, EMPTY_DRAWING],
        [
          relationshipsName(DRAWING),
          relationshipsXml([
            `<Relationship Id="rId1" Type="${OFFICE_RELATIONS}/chart" Target="../charts/chart-corbix.xml"/>`,
          ]),
        ],
        [CHART, chart],
      ]),
    );
    return new ChartBook(WorkbookTemplate.read(combined.toBytes(), where, { further }), { relations, before });
  }

  get marks(): readonly PlacedMark[] {
    return this.template.marks;
  }

  bind(scope: Scope): (env: Env) => FilledChart {
    const bound = this.template.bind(scope);
    const { relations, before } = this.sheet;
    return (env) => {
      const { package: filled, findings } = bound.fill(env);
      const workbook = filled.with(
        new Map<string, string | null>([
          [relations, before],
          [DRAWING, null],
          [relationshipsName(DRAWING), null],
          [CHART, null],
        ]),
      );
      return { chart: filled.getText(CHART), workbook: workbook.toBytes(), findings };
    };
  }
}

/** A deck whose charts keep the values they show, and no workbooks behind them. */
export function withoutChartBooks(opened: OoxmlPackage): OoxmlPackage {
  const changes = new Map<string, string | null>();
  for (const part of opened.names) {
    if (!/drawingml\.chart\+xml$/.test(opened.contentType(part) ?? "")) continue;
    const books = opened.relationships(part).filter(({ type, external }) => type === "package" && !external);
    if (books.length === 0) continue;
    const relations = relationshipsName(part);
    const ids = new Set(books.map(({ id }) => id));
    for (const { target } of books) changes.set(target, null);
    const kept = opened
      .getXml(relations)
      .elements()
      .filter((one) => !ids.has(one.attr("Id") ?? ""));
    changes.set(relations, relationshipsXml(kept));
    const reference = opened.getXml(part).child("externalData");
    if (reference) changes.set(part, opened.getText(part).replace(reference.toString(), ""));
  }
  return changes.size === 0 ? opened : opened.with(changes);
}
