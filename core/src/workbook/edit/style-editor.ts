import { type XmlElement, xmlElement } from "../../ooxml/index.js";

/** What a new cell format looks like; the rest is that of the workbook's usual cell. */
export interface CellLook {
  readonly bold?: boolean;
  readonly underline?: boolean;
  /** In points. */
  readonly size?: number;
  /** `RRGGBB` */
  readonly color?: string;
  readonly rule?: "top" | "bottom";
  readonly right?: boolean;
  readonly code?: string;
}

interface Added {
  readonly base: number;
  readonly code: string | undefined;
  readonly look: CellLook | undefined;
}

/** Adds cell formats to a style part: copies of existing formats with another number format or look. */
export class StyleEditor {
  private readonly added: Added[] = [];
  private readonly formats: number;

  constructor(private readonly root: XmlElement) {
    this.formats = root.child("cellXfs")?.elements("xf").length ?? 0;
  }

  /** Index of the format that looks as `base` and shows numbers by `code`. */
  withCode(base: number, code: string): number {
    return this.add({ base, code, look: undefined });
  }

  /** Index of a format with a look of its own. */
  withLook(look: CellLook): number {
    return this.add({ base: 0, code: look.code, look });
  }

  private add(entry: Added): number {
    const key = JSON.stringify(entry);
    const known = this.added.findIndex((one) => JSON.stringify(one) === key);
    if (known >= 0) return this.formats + known;
    this.added.push(entry);
    return this.formats + this.added.length - 1;
  }

  /** The part's new root, or `undefined` where nothing was added. */
  finish(): XmlElement | undefined {
    if (this.added.length === 0) return undefined;
    const { root } = this;
    const prefix = root.prefix;
    const known = root.child("numFmts")?.elements("numFmt") ?? [];
    const firstId = Math.max(163, ...known.map((format) => Number(format.attr("numFmtId")))) + 1;
    const codes = [...new Set(this.added.flatMap(({ code }) => (code === undefined ? [] : [code])))];
    const newCodes = codes.map((code, index) =>
      xmlElement(`${prefix}numFmt`, { numFmtId: String(firstId + index), formatCode: code }),
    );
    const xfs = root.child("cellXfs");
    const bases = xfs?.elements("xf") ?? [];
    const fonts = new Appended(root.child("fonts"), "font");
    const borders = new Appended(root.child("borders"), "border");
    const newFormats = this.added.map(({ base, code, look }) => {
      let format = bases[base] ?? xmlElement(`${prefix}xf`);
      if (code !== undefined)
        format = format.withAttr("numFmtId", String(firstId + codes.indexOf(code))).withAttr("applyNumberFormat", "1");
      return look ? withLook(format, look, fonts, borders, prefix) : format;
    });
    const numFmts = (root.child("numFmts") ?? xmlElement(`${prefix}numFmts`)).withAttr(
      "count",
      String(known.length + newCodes.length),
    );
    const children = root.children.filter((child) => !(child.kind === "element" && child.local === "numFmts"));
    const replaced = children.map((child) => {
      if (child === xfs)
        return xfs
          .withAttr("count", String(bases.length + newFormats.length))
          .withChildren([...xfs.children, ...newFormats]);
      return fonts.replaces(child) ?? borders.replaces(child) ?? child;
    });
    if (known.length + newCodes.length === 0) return root.withChildren(replaced);
    // numFmts is the first child of styleSheet (18.8.39).
    return root.withChildren([numFmts.withChildren([...numFmts.children, ...newCodes]), ...replaced]);
  }
}

/** A counted list of a style part with items added to it. */
class Appended {
  private readonly items: XmlElement[] = [];
  private readonly before: number;

  constructor(
    private readonly list: XmlElement | undefined,
    item: string,
  ) {
    this.before = list?.elements(item).length ?? 0;
  }

  get first(): XmlElement | undefined {
    return this.list?.elements()[0];
  }

  add(item: XmlElement): number {
    this.items.push(item);
    return this.before + this.items.length - 1;
  }

  replaces(child: XmlElement["children"][number]): XmlElement | undefined {
    if (child !== this.list || !this.list || this.items.length === 0) return undefined;
    return this.list
      .withAttr("count", String(this.before + this.items.length))
      .withChildren([...this.list.children, ...this.items]);
  }
}

function withLook(format: XmlElement, look: CellLook, fonts: Appended, borders: Appended, prefix: string): XmlElement {
  let looked = format;
  const { bold, underline, size, color } = look;
  if (bold || underline || size || color) {
    const usual = fonts.first?.elements() ?? [];
    const kept = (names: readonly string[]): XmlElement[] => usual.filter((one) => names.includes(one.local));
    const font = xmlElement(`${prefix}font`).withChildren([
      ...(bold ? [xmlElement(`${prefix}b`)] : []),
      ...(size ? [xmlElement(`${prefix}sz`, { val: String(size) })] : kept(["sz"])),
      ...(color ? [xmlElement(`${prefix}color`, { rgb: `FF${color}` })] : kept(["color"])),
      ...(underline ? [xmlElement(`${prefix}u`)] : []),
      ...kept(["name", "family", "charset", "scheme"]),
    ]);
    looked = looked.withAttr("fontId", String(fonts.add(inOrder(font)))).withAttr("applyFont", "1");
  }
  if (look.rule) {
    const sides = ["left", "right", "top", "bottom", "diagonal"].map((side) =>
      side === look.rule
        ? xmlElement(`${prefix}${side}`, { style: "thin" }).withChildren([xmlElement(`${prefix}color`, { auto: "1" })])
        : xmlElement(`${prefix}${side}`),
    );
    const border = borders.add(xmlElement(`${prefix}border`).withChildren(sides));
    looked = looked.withAttr("borderId", String(border)).withAttr("applyBorder", "1");
  }
  if (!look.right) return looked;
  return looked
    .withAttr("applyAlignment", "1")
    .withChildren([xmlElement(`${prefix}alignment`, { horizontal: "right" })]);
}

/** Of a font's properties in the schema most writers and readers keep to (18.8.22). */
const FONT_ORDER = [
  "b",
  "i",
  "strike",
  "condense",
  "extend",
  "outline",
  "shadow",
  "u",
  "vertAlign",
  "sz",
  "color",
  "name",
  "family",
  "charset",
  "scheme",
];

function inOrder(font: XmlElement): XmlElement {
  const sorted = font.elements().sort((a, b) => FONT_ORDER.indexOf(a.local) - FONT_ORDER.indexOf(b.local));
  return font.withChildren(sorted);
}
