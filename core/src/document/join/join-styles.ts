/** Styles of two documents in one: what is the same is shared, what differs gets a name of its own and keeps its looks. */
import { made } from "../../common/index.js";
import { type OoxmlPackage, XmlElement } from "../../ooxml/index.js";
import { isTrue, readTheme } from "../../spreadsheet/index.js";

export interface JoinedStyles {
  readonly parts: ReadonlyMap<string, string>;
  /** Text of the second document with the names its styles have now. */
  readonly rename: (xml: string) => string;
}

const REFERENCE = /(<w:(?:pStyle|rStyle|tblStyle|basedOn|next|link|styleLink|numStyleLink)\b[^>]*\bw:val=")([^"]*)"/g;

export function joinStyles(first: OoxmlPackage, second: OoxmlPackage, mark: string): JoinedStyles {
  const [own, other] = [stylesOf(first), stylesOf(second)];
  const plain = themeless(first, second);
  if (!own || !other) return { parts: new Map(), rename: plain };
  const base = first.getXml(own);
  const added = second.getXml(other);
  const sameDefaults =
    text(base.child("docDefaults")) === text(added.child("docDefaults")) &&
    plain("x w:asciiTheme=") === "x w:asciiTheme=";
  const byId = new Map(base.elements("style").map((style) => [style.attr("w:styleId") ?? "", style.toString()]));
  const names = new Map<string, string>();
  const different = added.elements("style").filter((style) => {
    const id = style.attr("w:styleId") ?? "";
    const known = byId.get(id);
    if (known === undefined) return true;
    // Under other defaults the same words give other looks.
    if (known === style.toString() && (sameDefaults || style.attr("w:type") !== "paragraph")) return false;
    names.set(id, `${mark}${id}`);
    return true;
  });
  const rename = (xml: string): string =>
    plain(xml).replace(REFERENCE, (whole, open: string, id: string) =>
      names.has(id) ? `${open}${names.get(id)}"` : whole,
    );
  const written = different
    .map((style) => styleText(style, { names, rename, base, added, mark, sameDefaults }))
    .join("");
  const normal = added
    .elements("style")
    .find((style) => style.attr("w:type") === "paragraph" && isTrue(style.attr("w:default")));
  const standard = normal ? names.get(normal.attr("w:styleId") ?? "") : sameDefaults ? undefined : `${mark}Standard`;
  // Without a standard style of its own its paragraphs looked as its defaults say.
  const made = normal || standard === undefined ? "" : standardStyle(standard, base, added);
  const source = first.getText(own);
  const parts = new Map([[own, source.replace(/<\/w:styles>\s*$/, (end) => plain(made) + written + end)]]);
  return { parts, rename: standard === undefined ? rename : (xml) => withStandard(rename(xml), standard) };
}

function standardStyle(id: string, base: XmlElement, added: XmlElement): string {
  const bare = new XmlElement("w:style", `<w:style w:type="paragraph" w:customStyle="1" w:styleId="${id}">`, [
    parsed(`<w:name w:val="${id}"/>`),
  ]);
  return withDefaults(bare, base.child("docDefaults"), added.child("docDefaults")).toString();
}

interface Writing {
  readonly names: ReadonlyMap<string, string>;
  readonly rename: (xml: string) => string;
  readonly base: XmlElement;
  readonly added: XmlElement;
  readonly mark: string;
  readonly sameDefaults: boolean;
}

function styleText(style: XmlElement, { names, rename, base, added, mark, sameDefaults }: Writing): string {
  const id = style.attr("w:styleId") ?? "";
  const name = names.get(id);
  let made = style;
  const below = style.child("basedOn")?.attr("w:val");
  const hasBase = added.elements("style").some((one) => one.attr("w:styleId") === below);
  const isRoot = style.attr("w:type") === "paragraph" && !hasBase;
  if (isRoot && !sameDefaults) made = withDefaults(made, base.child("docDefaults"), added.child("docDefaults"));
  let xml = rename(made.toString());
  if (name !== undefined)
    xml = xml
      .replace(/(<w:style\b[^>]*\bw:styleId=")[^"]*"/, (_, open: string) => `${open}${name}"`)
      .replace(/(<w:name\b[^>]*\bw:val=")([^"]*)"/, (_, open: string, shown: string) => `${open}${shown} (${mark})"`);
  // There is one standard of each kind, and it is the first document's.
  return xml.replace(/(<w:style\b[^>]*?)\sw:default="1"/, "$1");
}

/** The second document's defaults in a style that nothing stands below; what only the first sets is set back. */
function withDefaults(style: XmlElement, base: XmlElement | undefined, added: XmlElement | undefined): XmlElement {
  const paragraph = merged(
    "w:pPr",
    [resets(base?.path("pPrDefault", "pPr"), PARAGRAPH_RESETS), added?.path("pPrDefault", "pPr"), style.child("pPr")],
    PARAGRAPH_ORDER,
  );
  const run = merged(
    "w:rPr",
    [resets(base?.path("rPrDefault", "rPr"), RUN_RESETS), added?.path("rPrDefault", "rPr"), style.child("rPr")],
    RUN_ORDER,
  );
  const kept = style.children.filter(
    (child) => child.kind !== "element" || (child.local !== "pPr" && child.local !== "rPr"),
  );
  const behind = kept.findIndex(
    (child) => child.kind === "element" && (child.local === "tblPr" || child.local === "tblStylePr"),
  );
  const at = behind < 0 ? kept.length : behind;
  return style.withChildren([...kept.slice(0, at), ...paragraph, ...run, ...kept.slice(at)]);
}

const PARAGRAPH_RESETS: Readonly<Record<string, string>> = {
  spacing: '<w:spacing w:before="0" w:after="0" w:line="240" w:lineRule="auto"/>',
  ind: '<w:ind w:left="0" w:right="0" w:firstLine="0"/>',
  jc: '<w:jc w:val="left"/>',
};
const RUN_RESETS: Readonly<Record<string, string>> = {
  rFonts: '<w:rFonts w:ascii="Times New Roman" w:hAnsi="Times New Roman" w:cs="Times New Roman"/>',
  sz: '<w:sz w:val="20"/>',
  szCs: '<w:szCs w:val="20"/>',
  color: '<w:color w:val="auto"/>',
  b: '<w:b w:val="0"/>',
  i: '<w:i w:val="0"/>',
};
/** The order in which the schema wants the properties that defaults name (17.3.1.26, 17.3.2.28). */
const PARAGRAPH_ORDER = [
  "pStyle",
  "keepNext",
  "keepLines",
  "pageBreakBefore",
  "framePr",
  "widowControl",
  "numPr",
  "suppressLineNumbers",
  "pBdr",
  "shd",
  "tabs",
  "suppressAutoHyphens",
  "kinsoku",
  "wordWrap",
  "overflowPunct",
  "topLinePunct",
  "autoSpaceDE",
  "autoSpaceDN",
  "bidi",
  "adjustRightInd",
  "snapToGrid",
  "spacing",
  "ind",
  "contextualSpacing",
  "mirrorIndents",
  "suppressOverlap",
  "jc",
  "textDirection",
  "textAlignment",
  "textboxTightWrap",
  "outlineLvl",
];
const RUN_ORDER = [
  "rStyle",
  "rFonts",
  "b",
  "bCs",
  "i",
  "iCs",
  "caps",
  "smallCaps",
  "strike",
  "dstrike",
  "outline",
  "shadow",
  "emboss",
  "imprint",
  "noProof",
  "snapToGrid",
  "vanish",
  "webHidden",
  "color",
  "spacing",
  "w",
  "kern",
  "position",
  "sz",
  "szCs",
  "highlight",
  "u",
  "effect",
  "bdr",
  "shd",
  "fitText",
  "vertAlign",
  "rtl",
  "cs",
  "em",
  "lang",
  "eastAsianLayout",
  "specVanish",
  "oMath",
];

function resets(properties: XmlElement | undefined, known: Readonly<Record<string, string>>): XmlElement | undefined {
  if (!properties) return undefined;
  const children = properties.elements().flatMap((one) => (known[one.local] ? [parsed(known[one.local])] : []));
  return properties.withChildren(children);
}

/** An element from its start tag, which is all it has. */
function parsed(open: string): XmlElement {
  return new XmlElement(/^<([\w:]+)/.exec(open)?.[1] ?? "", open, []);
}

/** Properties over each other by their names: the later win; attributes of one name add up. */
function merged(name: string, layers: readonly (XmlElement | undefined)[], order: readonly string[]): XmlElement[] {
  const found = new Map<string, XmlElement>();
  for (const layer of layers)
    for (const one of layer?.elements() ?? []) {
      const below = found.get(one.local);
      found.set(one.local, below && one.children.length === 0 ? over(below, one) : one);
    }
  if (found.size === 0) return [];
  const place = (one: XmlElement): number => {
    const at = order.indexOf(one.local);
    return at < 0 ? order.length : at;
  };
  const children = [...found.values()].sort((a, b) => place(a) - place(b));
  return [new XmlElement(name, `<${name}>`, children)];
}

function over(below: XmlElement, above: XmlElement): XmlElement {
  let made = above;
  for (const [name, value] of below.attributes) {
    // A font by its name and one of the theme exclude each other.
    const twin = name.endsWith("Theme") ? name.slice(0, -5) : `${name}Theme`;
    if (above.attr(name) === undefined && above.attr(twin) === undefined) made = made.withAttr(name, value);
  }
  return made;
}

/** Paragraphs that name no style are given the one that was their standard. */
function withStandard(xml: string, standard: string): string {
  const style = `<w:pStyle w:val="${standard}"/>`;
  return xml.replace(
    /<w:p(\s[^>]*?)?(\/?)>(<w:pPr(?:\/>|>))?(<w:pStyle\b)?/g,
    (whole, attributes = "", empty: string, properties: string | undefined, own: string | undefined) => {
      if (own) return whole;
      if (empty) return `<w:p${attributes}><w:pPr>${style}</w:pPr></w:p>`;
      if (properties === "<w:pPr/>") return `<w:p${attributes}><w:pPr>${style}</w:pPr>`;
      return properties ? `<w:p${attributes}>${properties}${style}` : `<w:p${attributes}><w:pPr>${style}</w:pPr>`;
    },
  );
}

/** Where themes differ, fonts and colours of the second's theme are written out. */
function themeless(first: OoxmlPackage, second: OoxmlPackage): (xml: string) => string {
  const [own, other] = [themeOf(first), themeOf(second)];
  if (own === other || other === undefined) return (xml) => xml;
  const theme = readTheme(second.getXml(made(partOf(second, "theme"), "the theme")));
  return (xml) =>
    xml
      .replace(
        /\sw:(ascii|hAnsi|eastAsia|cs)Theme="(\w+)"/g,
        (_, side: string, name: string) =>
          ` w:${side}="${name.startsWith("major") ? theme.majorFont : theme.minorFont}"`,
      )
      .replace(/\sw:theme(?:Color|Tint|Shade|Fill|FillTint|FillShade)="[^"]*"/g, "");
}

function themeOf(opened: OoxmlPackage): string | undefined {
  const part = partOf(opened, "theme");
  return part === undefined ? undefined : opened.getText(part);
}

function stylesOf(opened: OoxmlPackage): string | undefined {
  return partOf(opened, "styles");
}

function partOf(opened: OoxmlPackage, type: string): string | undefined {
  const main = opened.mainPart() ?? "";
  const part = opened.relationships(main).find((relation) => relation.type === type)?.target;
  return part !== undefined && opened.has(part) ? part : undefined;
}

function text(element: XmlElement | undefined): string {
  return element?.toString() ?? "";
}
