/** The values that a chart stores beside its references: ECMA-376 part 1, 21.2.2. */
import { CellError, type Scalar } from "../../formula/index.js";
import { mapElements, type XmlElement, xmlElement, xmlText } from "../../ooxml/index.js";

/** Values of a reference in reading order, and how many stand beside each other. */
export interface ReferredScalars {
  readonly list: readonly Scalar[];
  readonly width: number;
}

/** A chart's part with the values its references lead to. Where there are none, what is stored stays. */
export function refreshChart(root: XmlElement, values: (formula: string) => ReferredScalars | undefined): XmlElement {
  const refresh = (element: XmlElement, mayBeText: boolean): XmlElement | undefined => {
    if (element.local === "cat" || element.local === "xVal")
      return element.withChildren(
        element.children.map((child) => (child.kind === "element" ? (refresh(child, true) ?? child) : child)),
      );
    if (element.local === "multiLvlStrRef") return refreshLevels(element, values);
    if (element.local !== "numRef" && element.local !== "strRef") return undefined;
    const formula = element.child("f");
    const found = formula && values(formula.text)?.list;
    if (!formula || !found) return element;
    // Names that stand where numbers were expected are texts (some writers do not tell them apart).
    const isNumbers =
      element.local === "numRef" &&
      !(mayBeText && found.some((value) => typeof value === "string") && !hasNumber(found));
    const prefix = element.prefix;
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
    const holder = (element.local === "numRef") === isNumbers ? element : xmlElement(`${prefix}strRef`);
    return holder.withChildren([formula, cache, ...element.elements("extLst")]);
  };
  return mapElements(root, (element) => refresh(element, false));
}

/** Categories of several levels: the last column, or row, names each point, those before it name several at once (21.2.2.102). */
function refreshLevels(
  element: XmlElement,
  values: (formula: string) => ReferredScalars | undefined,
): XmlElement | undefined {
  const formula = element.child("f");
  const cache = element.child("multiLvlStrCache");
  const found = formula && values(formula.text);
  if (!formula || !found || !cache || found.list.length === 0) return undefined;
  const prefix = element.prefix;
  const levels = cache.elements("lvl").length;
  const height = found.list.length / found.width;
  const isBelow = found.width === levels || height !== levels;
  const [count, depth] = isBelow ? [height, found.width] : [found.width, height];
  const at = (level: number, point: number): Scalar =>
    found.list[isBelow ? point * found.width + level : level * found.width + point];
  const made = Array.from({ length: depth }, (_, index) => depth - 1 - index).map((level) =>
    xmlElement(`${prefix}lvl`).withChildren(
      Array.from({ length: count }, (_, point) => ({ point, text: pointText(at(level, point), false) }))
        .filter((one) => one.text !== undefined)
        .map(({ point, text }) =>
          xmlElement(`${prefix}pt`, { idx: String(point) }).withChildren([
            xmlElement(`${prefix}v`).withChildren([xmlText(text ?? "")]),
          ]),
        ),
    ),
  );
  const ptCount = xmlElement(`${prefix}ptCount`, { val: String(count) });
  return element.withChildren([formula, cache.withChildren([ptCount, ...made]), ...element.elements("extLst")]);
}

function hasNumber(values: readonly Scalar[]): boolean {
  return values.some((value) => typeof value === "number");
}

function pointText(value: Scalar, isNumber: boolean): string | undefined {
  if (value === null || value === "") return undefined;
  if (value instanceof CellError) return value.name;
  if (typeof value === "boolean") return isNumber ? (value ? "1" : "0") : value ? "TRUE" : "FALSE";
  if (isNumber) return typeof value === "number" ? String(value) : undefined;
  return String(value);
}
