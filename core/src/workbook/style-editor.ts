import { type XmlElement, xmlElement } from "../ooxml/index.js";

/** Adds cell formats to a style part: a copy of an existing format with another number format. */
export class StyleEditor {
  private readonly added: { base: number; code: string }[] = [];
  private readonly formats: number;

  constructor(private readonly root: XmlElement) {
    this.formats = root.child("cellXfs")?.elements("xf").length ?? 0;
  }

  /** Index of the format that looks as `base` and shows numbers by `code`. */
  withCode(base: number, code: string): number {
    const known = this.added.findIndex((entry) => entry.base === base && entry.code === code);
    if (known >= 0) return this.formats + known;
    this.added.push({ base, code });
    return this.formats + this.added.length - 1;
  }

  /** The part's new root, or `undefined` where nothing was added. */
  finish(): XmlElement | undefined {
    if (this.added.length === 0) return undefined;
    const { root } = this;
    const prefix = root.name.slice(0, root.name.length - root.local.length);
    const known = root.child("numFmts")?.elements("numFmt") ?? [];
    const firstId = Math.max(163, ...known.map((format) => Number(format.attr("numFmtId")))) + 1;
    const codes = [...new Set(this.added.map((entry) => entry.code))];
    const newCodes = codes.map((code, index) =>
      xmlElement(`${prefix}numFmt`, { numFmtId: String(firstId + index), formatCode: code }),
    );
    const xfs = root.child("cellXfs");
    const bases = xfs?.elements("xf") ?? [];
    const newFormats = this.added.map(({ base, code }) =>
      (bases[base] ?? xmlElement(`${prefix}xf`))
        .withAttr("numFmtId", String(firstId + codes.indexOf(code)))
        .withAttr("applyNumberFormat", "1"),
    );
    const numFmts = (root.child("numFmts") ?? xmlElement(`${prefix}numFmts`)).withAttr(
      "count",
      String(known.length + newCodes.length),
    );
    const children = root.children.filter((child) => !(child.kind === "element" && child.local === "numFmts"));
    const replaced = children.map((child) =>
      child === xfs
        ? xfs.withAttr("count", String(bases.length + newFormats.length)).withChildren([...xfs.children, ...newFormats])
        : child,
    );
    // numFmts is the first child of styleSheet (18.8.39).
    return root.withChildren([numFmts.withChildren([...numFmts.children, ...newCodes]), ...replaced]);
  }
}
