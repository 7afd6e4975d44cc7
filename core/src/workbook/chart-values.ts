/** The values that a chart stores beside its references: ECMA-376 part 1, 21.2.2. */
import { CellError, type Scalar } from "../calculate/index.js";
import { escapeXml, mapElements, type XmlElement, xmlElement, xmlText } from "../ooxml/index.js";
import { type FormulaText, parseFormulaText } from "./formula-text.js";

/** A chart's part with the values its references lead to. Where there are none, what is stored stays. */
export function refreshChart(
  root: XmlElement,
  values: (formula: FormulaText) => readonly Scalar[] | undefined,
): XmlElement {
  return mapElements(root, (element) => {
    if (element.local !== "numRef" && element.local !== "strRef") return undefined;
    const formula = element.child("f");
    const found = formula && values(parseFormulaText(formula.text));
    if (!formula || !found) return element;
    const isNumbers = element.local === "numRef";
    const prefix = element.name.slice(0, element.name.length - element.local.length);
    const name = `${prefix}${isNumbers ? "numCache" : "strCache"}`;
    const known = element.child(isNumbers ? "numCache" : "strCache");
    const code = known?.child("formatCode");
    const points = found.flatMap((value, index) => {
      const text = pointText(value, isNumbers);
      return text === undefined
        ? []
        : [
            xmlElement(`${prefix}pt`, { idx: String(index) }).withChildren([
              xmlElement(`${prefix}v`).withChildren([xmlText(text)]),
            ]),
          ];
    });
    const count = xmlElement(`${prefix}ptCount`, { val: String(found.length) });
    const cache = xmlElement(name).withChildren([...(isNumbers && code ? [code] : []), count, ...points]);
    return element.withChildren([formula, cache, ...element.elements("extLst")]);
  });
}

function pointText(value: Scalar, isNumber: boolean): string | undefined {
  if (value === null || value === "") return undefined;
  if (value instanceof CellError) return isNumber ? value.name : value.name;
  if (typeof value === "boolean") return isNumber ? (value ? "1" : "0") : value ? "TRUE" : "FALSE";
  if (isNumber) return typeof value === "number" ? String(value) : undefined;
  return escapeXml(String(value)) === "" ? undefined : String(value);
}
