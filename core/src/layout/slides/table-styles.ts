/** Styles of tables that programs know without having them in the file: their looks by the ids that files name. */
import { type OoxmlPackage, parseXml, type XmlElement } from "../../ooxml/index.js";

/** The style with a head in the accent's colour and banded rows, by the id for each accent. */
const BANDED: Readonly<Record<string, string>> = {
  "{073A0DAA-6AF3-43AB-8588-CEC1D06C72B9}": "dk1",
  "{5C22544A-7EE6-4342-B048-85BDC9FD1C3A}": "accent1",
  "{21E4AEA4-8DFA-4A89-87EB-49C32662AFE0}": "accent2",
  "{F5AB1C69-6EDB-4FF4-983F-18BD219EF322}": "accent3",
  "{00A15C55-8517-42AA-B614-E9B94910E393}": "accent4",
  "{7DF18680-E054-41AD-8BC1-D1AEF772440D}": "accent5",
  "{93296810-A885-4BE3-A3E7-6D5BEEA58F35}": "accent6",
};

const PLAIN = "{2D5ABB26-0587-4C30-8999-92F81FD0307C}";
const GRID = "{5940675A-B579-460E-94D1-54222C63F5DA}";

const line = (color: string, width = 12_700): string =>
  `<a:ln w="${width}"><a:solidFill><a:schemeClr val="${color}"/></a:solidFill></a:ln>`;
const sides = (names: readonly string[], drawn: string): string =>
  `<a:tcBdr>${names.map((name) => `<a:${name}>${drawn}</a:${name}>`).join("")}</a:tcBdr>`;
const ALL = ["left", "right", "top", "bottom", "insideH", "insideV"];

function banded(accent: string): string {
  const fill = (tint: string): string =>
    `<a:fill><a:solidFill><a:schemeClr val="${accent}">${tint}</a:schemeClr></a:solidFill></a:fill>`;
  const strong = `<a:tcTxStyle b="on"><a:fontRef idx="minor"/><a:schemeClr val="lt1"/></a:tcTxStyle>`;
  const band = `<a:tcStyle>${fill('<a:tint val="40000"/>')}</a:tcStyle>`;
  return `<a:tblStyle><a:wholeTbl><a:tcTxStyle><a:fontRef idx="minor"/><a:schemeClr val="dk1"/></a:tcTxStyle><a:tcStyle>${sides(ALL, line("lt1"))}${fill('<a:tint val="20000"/>')}</a:tcStyle></a:wholeTbl><a:band1H>${band}</a:band1H><a:band1V>${band}</a:band1V><a:lastCol>${strong}<a:tcStyle>${fill("")}</a:tcStyle></a:lastCol><a:firstCol>${strong}<a:tcStyle>${fill("")}</a:tcStyle></a:firstCol><a:lastRow>${strong}<a:tcStyle>${sides(["top"], line("lt1", 38_100))}${fill("")}</a:tcStyle></a:lastRow><a:firstRow>${strong}<a:tcStyle>${sides(["bottom"], line("lt1", 38_100))}${fill("")}</a:tcStyle></a:firstRow></a:tblStyle>`;
}

const text = `<a:tcTxStyle><a:fontRef idx="minor"/><a:schemeClr val="tx1"/></a:tcTxStyle>`;

let built: ReadonlyMap<string, XmlElement> | undefined;

function known(): ReadonlyMap<string, XmlElement> {
  const read = (xml: string): XmlElement => parseXml(xml).root;
  built ??= new Map([
    ...Object.entries(BANDED).map(([id, accent]) => [id, read(banded(accent))] as const),
    [PLAIN, read(`<a:tblStyle><a:wholeTbl>${text}</a:wholeTbl></a:tblStyle>`)],
    [
      GRID,
      read(
        `<a:tblStyle><a:wholeTbl>${text}<a:tcStyle>${sides(ALL, line("tx1"))}</a:tcStyle></a:wholeTbl></a:tblStyle>`,
      ),
    ],
  ]);
  return built;
}

/** Styles by id: those of the deck, and those that need not be there. */
export function tableStylesOf(opened: OoxmlPackage): ReadonlyMap<string, XmlElement> {
  const part = opened.relationships(opened.main).find((one) => one.type === "tableStyles")?.target;
  const own = part === undefined ? [] : (opened.maybeXml(part)?.elements("tblStyle") ?? []);
  return new Map([...known(), ...own.map((style) => [style.attr("styleId") ?? "", style] as const)]);
}
