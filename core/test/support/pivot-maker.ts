/** Workbooks with a sheet of rows that are filled, and pivots of them on a second sheet, as their definitions are written by programs. */
import { OoxmlPackage } from "@corbix/core/ooxml";
import { makeWorkbook } from "./helpers.js";

export const MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
const REL = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
const KIND = "application/vnd.openxmlformats-officedocument.spreadsheetml";

/** A field of a pivot's rows or columns. */
export interface AxisField {
  readonly name: string;
  readonly form?: "compact" | "outline" | "tabular" | undefined;
  /** Attributes beside those of the form. */
  readonly more?: string;
  /** Items of the template's sample, with attributes: `x` is their place in `shared`. */
  readonly items?: string;
  readonly shared?: string;
}

export interface PivotSpec {
  readonly rows: readonly AxisField[];
  readonly columns?: readonly AxisField[];
  readonly chosen?: AxisField & { readonly item?: number };
  readonly data: readonly {
    readonly name: string;
    readonly field: string;
    readonly kind?: string;
    readonly more?: string;
  }[];
  /** Attributes of the definition. */
  readonly more?: string;
  /** Elements before the style. */
  readonly elements?: string;
  /** Where the source is said to be. */
  readonly source?: string;
  readonly at?: string;
  /** Rows of the second sheet, from its first row on: what the template shows. */
  readonly shown: readonly (readonly (string | number | null)[])[];
  readonly ref: string;
  readonly rowItems?: string;
  readonly colItems?: string;
  readonly headRows?: number;
  readonly labelColumns?: number;
}

const related = (items: string): string =>
  `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${items}</Relationships>`;
const relation = (id: string, type: string, target: string): string =>
  `<Relationship Id="${id}" Type="${REL}/${type}" Target="${target}"/>`;
const override = (part: string, type: string): string =>
  `<Override PartName="/${part}" ContentType="${KIND}.${type}+xml"/>`;

/** A template whose first sheet `Data` repeats `{{ line.… }}` below the headings, with a pivot on its sheet `Pivot`. */
export async function pivotTemplate(
  columns: readonly string[],
  spec: PivotSpec,
  more?: (opened: OoxmlPackage) => ReadonlyMap<string, string>,
): Promise<Uint8Array> {
  const bytes = await makeWorkbook((book, sheet) => {
    sheet.name = "Data";
    sheet.addRow([...columns]);
    sheet.addRow(columns.map((name) => `{{ line.${name.toLowerCase()} }}`));
    const pivot = book.addWorksheet("Pivot");
    for (const row of spec.shown) pivot.addRow([...row]);
  });
  const opened = OoxmlPackage.open(bytes);
  const insert = (part: string, before: string, text: string): [string, string] => [
    part,
    opened.getText(part).replace(before, `${text}${before}`),
  ];
  const parts = new Map<string, string>([
    ["xl/pivotCache/pivotCacheDefinition1.xml", cacheXml(columns, spec)],
    ["xl/pivotCache/pivotCacheRecords1.xml", `<pivotCacheRecords xmlns="${MAIN}" count="0"/>`],
    [
      "xl/pivotCache/_rels/pivotCacheDefinition1.xml.rels",
      related(relation("rId1", "pivotCacheRecords", "pivotCacheRecords1.xml")),
    ],
    ["xl/pivotTables/pivotTable1.xml", definitionXml(columns, spec)],
    [
      "xl/pivotTables/_rels/pivotTable1.xml.rels",
      related(relation("rId1", "pivotCacheDefinition", "../pivotCache/pivotCacheDefinition1.xml")),
    ],
    ["xl/worksheets/_rels/sheet2.xml.rels", related(relation("rId1", "pivotTable", "../pivotTables/pivotTable1.xml"))],
    insert(
      "xl/_rels/workbook.xml.rels",
      "</Relationships>",
      relation("rIdP", "pivotCacheDefinition", "pivotCache/pivotCacheDefinition1.xml"),
    ),
    [
      "xl/workbook.xml",
      opened
        .getText("xl/workbook.xml")
        .replace(/(<calcPr[^>]*\/>)/, `$1<pivotCaches><pivotCache cacheId="1" r:id="rIdP"/></pivotCaches>`),
    ],
    insert(
      "[Content_Types].xml",
      "</Types>",
      override("xl/pivotCache/pivotCacheDefinition1.xml", "pivotCacheDefinition") +
        override("xl/pivotCache/pivotCacheRecords1.xml", "pivotCacheRecords") +
        override("xl/pivotTables/pivotTable1.xml", "pivotTable"),
    ),
  ]);
  const made = opened.with(parts);
  return (more ? made.with(new Map(more(made))) : made).toBytes();
}

function cacheXml(columns: readonly string[], spec: PivotSpec): string {
  const all = [...spec.rows, ...(spec.columns ?? []), ...(spec.chosen ? [spec.chosen] : [])];
  const fields = columns
    .map(
      (name) =>
        `<cacheField name="${name}" numFmtId="0"><sharedItems>${all.find((one) => one.name === name)?.shared ?? ""}</sharedItems></cacheField>`,
    )
    .join("");
  const last = String.fromCharCode(64 + columns.length);
  return `<pivotCacheDefinition xmlns="${MAIN}" xmlns:r="${REL}" r:id="rId1" recordCount="0"><cacheSource type="worksheet"><worksheetSource ${spec.source ?? `ref="A1:${last}2" sheet="Data"`}/></cacheSource><cacheFields count="${columns.length}">${fields}</cacheFields></pivotCacheDefinition>`;
}

function definitionXml(columns: readonly string[], spec: PivotSpec): string {
  const across = spec.columns ?? [];
  const listed = (field: AxisField, axis: string): string => {
    const form = { compact: "", outline: ' compact="0"', tabular: ' compact="0" outline="0"' }[field.form ?? "compact"];
    return `<pivotField axis="${axis}"${form}${field.more ? ` ${field.more}` : ""} showAll="0"><items count="1">${field.items ?? ""}<item t="default"/></items></pivotField>`;
  };
  const fields = columns.map((name) => {
    const [row, column] = [spec.rows.find((one) => one.name === name), across.find((one) => one.name === name)];
    if (row) return listed(row, "axisRow");
    if (column) return listed(column, "axisCol");
    if (spec.chosen?.name === name) return listed(spec.chosen, "axisPage");
    return `<pivotField${spec.data.some((one) => one.field === name) ? ' dataField="1"' : ""} showAll="0"/>`;
  });
  const numbers = (list: readonly AxisField[]): number[] => list.map((one) => columns.indexOf(one.name));
  const crossed = [...numbers(across), ...(spec.data.length > 1 ? [-2] : [])];
  const axis = (name: string, list: readonly number[]): string =>
    list.length === 0
      ? ""
      : `<${name} count="${list.length}">${list.map((x) => `<field x="${x}"/>`).join("")}</${name}>`;
  const data = spec.data
    .map(
      (one) =>
        `<dataField name="${one.name}" fld="${columns.indexOf(one.field)}"${one.kind ? ` subtotal="${one.kind}"` : ""}${one.more ? ` ${one.more}` : ""}/>`,
    )
    .join("");
  const chosen = spec.chosen
    ? `<pageFields count="1"><pageField fld="${columns.indexOf(spec.chosen.name)}"${spec.chosen.item === undefined ? "" : ` item="${spec.chosen.item}"`} hier="-1"/></pageFields>`
    : "";
  const labels =
    spec.labelColumns ?? spec.rows.slice(0, -1).filter((one) => (one.form ?? "compact") !== "compact").length + 1;
  const heads = spec.headRows ?? (across.length === 0 ? 1 : 1 + crossed.length);
  return `<pivotTableDefinition xmlns="${MAIN}" name="Fees" cacheId="1" dataCaption="Values"${spec.more ? ` ${spec.more}` : ""}><location ref="${spec.ref}" firstHeaderRow="${heads > 1 ? 1 : 0}" firstDataRow="${heads}" firstDataCol="${labels}"/><pivotFields count="${columns.length}">${fields.join("")}</pivotFields>${axis("rowFields", numbers(spec.rows))}<rowItems count="2">${spec.rowItems ?? '<i><x/></i><i t="grand"><x/></i>'}</rowItems>${axis("colFields", crossed)}<colItems count="1">${spec.colItems ?? "<i/>"}</colItems>${chosen}<dataFields count="${spec.data.length}">${data}</dataFields>${spec.elements ?? ""}</pivotTableDefinition>`;
}
