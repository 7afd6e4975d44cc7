import type { FontFile, ShapedRun } from "../fonts/index.js";
import {
  boxIn,
  holdsItems,
  type ImageItem,
  inSystem,
  type LinkItem,
  type Matrix,
  type OutlineEntry,
  type Page,
  type PageItem,
  type PageStream,
  type PathItem,
  type ShadeItem,
  type StructureNode,
  type TaggedItem,
  type TextItem,
  type TileItem,
  untagged,
} from "../page/index.js";
import { colourProfile, metadataOf } from "./archive.js";
import { PdfFont } from "./fonts.js";
import { writeImage } from "./images.js";
import { PdfFile, pdfNumber, pdfText, type Ref } from "./objects.js";
import { commands, line, position, rectangle, rgb, stopsFunction, system } from "./operators.js";
import { writeOutline } from "./outline.js";
import { PdfCipher, type PdfLock } from "./protect.js";
import { recolored } from "./recolor.js";
import { Structure } from "./structure.js";

export interface PdfProperties {
  readonly title: string;
  readonly author?: string;
  /** BCP 47 tag of the text's language. */
  readonly language?: string;
  /** Password to open, and what may be done with the file. */
  readonly lock?: PdfLock | undefined;
  /** Whether it is made for keeping, by ISO 19005-2 level B; then it takes no password. */
  readonly archive?: boolean | undefined;
  /** Entries of the outline: where each sheet or chapter starts. */
  readonly outline?: readonly OutlineEntry[] | undefined;
  /** The logical structure that the pages' items belong to. */
  readonly structure?: StructureNode | undefined;
}

/** Pages as a PDF file, gone through once. The same pages give the same bytes. */
export function writePdf(pages: PageStream, properties: PdfProperties): Uint8Array {
  return new Writer(pages, properties).write();
}

class Writer {
  private readonly pdf = new PdfFile();
  private readonly fonts = new Map<FontFile, PdfFont>();
  private readonly images = new Map<string, { resource: string; ref: Ref }>();
  private readonly opacities = new Map<number, string>();
  private readonly shadings = new Map<string, { resource: string; ref: Ref }>();
  private readonly patterns: { resource: string; ref: Ref }[] = [];
  private readonly masks: { readonly resource: string; readonly ref: Ref }[] = [];
  private readonly structure: Structure | undefined;
  private readonly places = new Map<string, { readonly page: number; readonly x: number; readonly y: number }>();
  private pageRefs: readonly Ref[] = [];
  /** The page that is being written. */
  private index = 0;

  constructor(
    private readonly pages: PageStream,
    private readonly properties: PdfProperties,
  ) {
    if (properties.structure) this.structure = new Structure(this.pdf, properties.structure);
  }

  write(): Uint8Array {
    const { pdf } = this;
    const catalog = pdf.reserve();
    const tree = pdf.reserve();
    const resources = pdf.reserve();
    const refs = Array.from({ length: this.pages.length }, () => pdf.reserve());
    this.pageRefs = refs;
    const heights: number[] = [];
    for (const page of this.pages) {
      this.index = heights.length;
      heights.push(page.heightPt);
      this.page(page, tree, resources);
    }
    for (const finish of this.unfinished) finish();
    for (const font of this.fonts.values()) font.write(pdf);
    const fontEntries = [...this.fonts.values()].map((font) => `/${font.resource} ${font.ref}`).join(" ");
    const imageEntries = [...this.images.values()].map((image) => `/${image.resource} ${image.ref}`).join(" ");
    const states = [
      ...[...this.opacities].map(([value, name]) => `/${name} << /ca ${value} /CA ${value} >>`),
      ...this.masks.map(({ resource, ref }) => `/${resource} << /SMask << /S /Luminosity /G ${ref} >> >>`),
    ].join(" ");
    const shadings = [...this.shadings.values()].map((shading) => `/${shading.resource} ${shading.ref}`).join(" ");
    const patterns = this.patterns.map(({ resource, ref }) => `/${resource} ${ref}`).join(" ");
    pdf.set(
      resources,
      `<< /Font << ${fontEntries} >> /XObject << ${imageEntries} >>${states ? ` /ExtGState << ${states} >>` : ""}${shadings ? ` /Shading << ${shadings} >>` : ""}${patterns ? ` /Pattern << ${patterns} >>` : ""} >>`,
    );
    pdf.set(tree, `<< /Type /Pages /Count ${refs.length} /Kids [${refs.join(" ")}] >>`);
    const outline = writeOutline(pdf, this.properties.outline ?? [], refs, heights);
    pdf.set(
      catalog,
      `<< /Type /Catalog /Pages ${tree} /Lang ${pdfText(this.properties.language ?? "en")} /ViewerPreferences << /DisplayDocTitle true >>${outline ? ` /Outlines ${outline}` : ""}${this.archiveEntries()}${this.structureEntries()} >>`,
    );
    const author = this.properties.author ? ` /Author ${pdfText(this.properties.author)}` : "";
    const info = pdf.add(`<< /Title ${pdfText(this.properties.title)}${author} /Producer ${pdfText("Corbix")} >>`);
    const { lock, archive } = this.properties;
    return pdf.toBytes(catalog, info, lock && !archive ? new PdfCipher(lock) : undefined);
  }

  private archiveEntries(): string {
    if (!this.properties.archive) return "";
    const metadata = this.pdf.rawStream(
      Buffer.from(metadataOf(this.properties, "archive"), "latin1"),
      "/Type /Metadata /Subtype /XML",
    );
    const profile = this.pdf.stream(colourProfile(), "/N 3");
    const name = pdfText("sRGB");
    return ` /Metadata ${metadata} /OutputIntents [<< /Type /OutputIntent /S /GTS_PDFA1 /OutputConditionIdentifier ${name} /Info ${name} /DestOutputProfile ${profile} >>]`;
  }

  private structureEntries(): string {
    if (!this.structure) return "";
    const root = this.structure.write(this.pages.length);
    // A file made for keeping has its metadata already.
    const metadata = this.properties.archive
      ? ""
      : ` /Metadata ${this.pdf.rawStream(Buffer.from(metadataOf(this.properties, "accessible"), "latin1"), "/Type /Metadata /Subtype /XML")}`;
    return ` /MarkInfo << /Marked true >> /StructTreeRoot ${root}${metadata}`;
  }

  private font(file: FontFile): PdfFont {
    let font = this.fonts.get(file);
    if (!font) {
      font = new PdfFont(file, `F${this.fonts.size + 1}`, this.pdf.reserve());
      this.fonts.set(file, font);
    }
    return font;
  }

  private page(page: Page, tree: Ref, resources: Ref): void {
    this.resources = resources;
    const stream = this.pdf.stream(this.items(page.items, page.heightPt));
    const links = this.links.splice(0);
    const annotations = links.length > 0 ? ` /Annots [${links.join(" ")}]` : "";
    const parents = this.structure ? ` /StructParents ${this.index} /Tabs /S` : "";
    this.pdf.set(
      this.pageRefs[this.index],
      `<< /Type /Page /Parent ${tree} /MediaBox [0 0 ${pdfNumber(page.widthPt)} ${pdfNumber(page.heightPt)}] /Resources ${resources} /Contents ${stream}${annotations}${parents} >>`,
    );
  }

  private resources: Ref | undefined;
  /** The system that items are in, where it is not the page's. */
  private within: Matrix = [1, 0, 0, 1, 0, 0];

  /** What waits until all pages are written. */
  private readonly unfinished: (() => void)[] = [];
  /** Links of the page that is being written. */
  private readonly links: Ref[] = [];

  private items(items: readonly PageItem[], height: number): string {
    let content = "";
    for (const item of items) content += this.item(item, height);
    return content;
  }

  private item(item: PageItem, height: number): string {
    switch (item.kind) {
      case "text":
        return this.text(item, height);
      case "fill":
        return `${rgb(item.color)} rg ${pdfNumber(item.x)} ${pdfNumber(height - item.y - item.height)} ${pdfNumber(item.width)} ${pdfNumber(item.height)} re f\n`;
      case "line":
        return line(item, height);
      case "image":
        return this.image(item, height);
      case "path":
        return this.path(item, height);
      case "shade":
        return this.shade(item, height);
      case "group": {
        const inside = this.items(item.items, height);
        if (item.outline) return `q ${commands(item.outline, height)}W n ${inside}Q\n`;
        return item.clip ? `q ${rectangle(item.clip, height)} re W n ${inside}Q\n` : inside;
      }
      case "turned": {
        const before = this.within;
        this.within = inSystem(before, item.matrix);
        const inside = this.items(item.items, height);
        this.within = before;
        return inside === "" ? "" : `q ${system(item.matrix, height)} cm ${inside}Q\n`;
      }
      case "tile":
        return this.tile(item, height);
      case "figure":
        return this.items(item.items, height);
      case "tagged":
        return this.tagged(item, height);
      case "link":
        this.links.push(this.link(item, height, undefined));
        return "";
      case "place":
        if (!this.places.has(item.name))
          this.places.set(item.name, { page: this.index, x: item.x, y: height - item.y });
        return "";
    }
  }

  /** Items of an element as marked content; figures and links in it are elements of their own. */
  private tagged({ node, items }: TaggedItem, height: number): string {
    const { structure } = this;
    if (!structure) return this.items(items, height);
    if (!node) {
      const inside = this.items(items, height);
      return inside === "" ? "" : `/Artifact BMC\n${inside}EMC\n`;
    }
    let written = "";
    let plain: PageItem[] = [];
    const flush = (): void => {
      written += this.marked(node, plain, height);
      plain = [];
    };
    for (const item of items) {
      const target = item.kind === "group" ? item.items.find((one) => one.kind === "link") : undefined;
      if (item.kind === "figure") {
        flush();
        const figure = structure.inside(node, "Figure");
        structure.describe(figure, item.description, { ...item, y: height - item.y - item.height });
        written += this.marked(figure, item.items, height);
      } else if (item.kind === "group" && target) {
        flush();
        const link = structure.inside(node, "Link");
        written += this.marked(
          link,
          item.items.filter((one) => one.kind !== "link"),
          height,
        );
        this.links.push(this.link(target, height, link));
      } else if (item.kind === "text" && item.isFiller) {
        flush();
        written += `/Artifact BMC\n${this.item(item, height)}EMC\n`;
      } else if (item.kind === "tagged") {
        flush();
        written += this.tagged(item, height);
      } else plain.push(item);
    }
    flush();
    return written;
  }

  private marked(node: StructureNode, items: readonly PageItem[], height: number): string {
    if (items.length === 0 || !this.structure) return "";
    // What stands inside a figure is part of it, whatever it belonged to.
    const inside = this.items(items.some(holdsTags) ? untagged(items) : items, height);
    if (inside === "") return "";
    const id = this.structure.mark(node, this.pageRefs[this.index], this.index);
    return `/${node.role} << /MCID ${id} >> BDC\n${inside}EMC\n`;
  }

  private text(item: TextItem, height: number): string {
    let written = "";
    let x = item.x;
    for (const run of item.shaped.runs) {
      const font = this.font(run.font);
      written += `/${font.resource} ${pdfNumber(item.size)} Tf ${position(item, x, height)} Tm `;
      let hex = "";
      let array = "";
      const flush = (): void => {
        if (array !== "" || hex !== "")
          written += array === "" ? `<${hex}> Tj ` : `[${array}${hex === "" ? "" : `<${hex}>`}] TJ `;
        hex = "";
        array = "";
      };
      run.glyphs.forEach((glyph, index) => {
        if (glyph === 0) {
          flush();
          written += missing(run, index, font);
          x += run.advances[index] * item.size;
          return;
        }
        hex += font.code(glyph, run.texts[index]);
        x += run.advances[index] * item.size;
        const natural = run.font.advance(glyph);
        let extra = (run.advances[index] - natural) * item.size;
        if (item.wordSpacing && run.texts[index] === " ") {
          extra += item.wordSpacing;
          x += item.wordSpacing;
        }
        if (Math.abs(extra) > 1e-6) {
          array += `<${hex}> ${pdfNumber((-extra / item.size) * 1000)} `;
          hex = "";
        }
      });
      flush();
    }
    const text = `${rgb(item.color)} rg BT ${written}ET\n`;
    if (!item.clip) return text;
    const { clip } = item;
    return `q ${pdfNumber(clip.x)} ${pdfNumber(height - clip.y - clip.height)} ${pdfNumber(clip.width)} ${pdfNumber(clip.height)} re W n ${text}Q\n`;
  }

  private image(item: ImageItem, height: number): string {
    const key = item.recolor ? `${item.image.digest} ${JSON.stringify(item.recolor)}` : item.image.digest;
    let image = this.images.get(key);
    if (!image) {
      const space = item.recolor && recolored(this.pdf, item.recolor, item.image.components);
      image = { resource: `I${this.images.size + 1}`, ref: writeImage(this.pdf, item.image, space) };
      this.images.set(key, image);
    }
    const { resource } = image;
    const state = item.opacity === undefined ? "" : this.opacity(item.opacity);
    return `q ${state}${pdfNumber(item.width)} 0 0 ${pdfNumber(item.height)} ${pdfNumber(item.x)} ${pdfNumber(height - item.y - item.height)} cm /${resource} Do Q\n`;
  }

  private path(item: PathItem, height: number): string {
    const { fill, stroke, opacity, clip } = item;
    let written = "";
    if (clip) written += `${rectangle(clip, height)} re W n `;
    if (opacity !== undefined) written += this.opacity(opacity);
    if (fill) written += `${rgb(fill)} rg `;
    if (stroke) {
      const dash = stroke.dash ? `[${stroke.dash.map(pdfNumber).join(" ")}] 0 d` : "[] 0 d";
      written += `${rgb(stroke.color)} RG ${pdfNumber(stroke.width)} w 1 j ${stroke.cap === "round" ? "1 J " : stroke.cap === "square" ? "2 J " : ""}${dash} `;
    }
    written += commands(item.commands, height);
    return `q ${written}${fill && stroke ? "B" : fill ? "f" : stroke ? "S" : "n"} Q\n`;
  }

  private opacity(opacity: number): string {
    if (opacity >= 1) return "";
    const value = Math.round(Math.max(0, opacity) * 1000) / 1000;
    const name = this.opacities.get(value) ?? `G${this.opacities.size + 1}`;
    this.opacities.set(value, name);
    return `/${name} gs `;
  }

  /** A tiling pattern (8.7.3), which lies in the page's own system whatever system is in effect. */
  private tile({ cell, items, ...box }: TileItem, height: number): string {
    const before = this.within;
    const place: Matrix = inSystem(before, [1, 0, 0, 1, cell.x, cell.y]);
    const [a, b, c, d, e, f] = place;
    this.within = [1, 0, 0, 1, 0, 0];
    const inside = this.items(items, cell.height);
    this.within = before;
    // The cell's own foot is nought in the pattern's system.
    const matrix = [a, -b, -c, d, c * cell.height + e, height - d * cell.height - f].map(pdfNumber).join(" ");
    const ref = this.pdf.stream(
      inside,
      `/Type /Pattern /PatternType 1 /PaintType 1 /TilingType 1 /BBox [0 0 ${pdfNumber(cell.width)} ${pdfNumber(cell.height)}] /XStep ${pdfNumber(cell.width)} /YStep ${pdfNumber(cell.height)} /Matrix [${matrix}] /Resources ${this.resources}`,
    );
    const resource = `T${this.patterns.length + 1}`;
    this.patterns.push({ resource, ref });
    return `q /Pattern cs /${resource} scn ${rectangle(box, height)} re f Q\n`;
  }

  /** The colours lie along a line of length one, which is turned and drawn out to the rectangle; or in a circle of radius one. */
  private shade(item: ShadeItem, height: number): string {
    const { from } = item;
    const key = `${from ? "circle" : "line"} ${JSON.stringify(item.stops)}`;
    const places = from ? "/ShadingType 3 /Coords [0 0 0 0 0 1]" : "/ShadingType 2 /Coords [0 0 1 0]";
    let shading = this.shadings.get(key);
    if (!shading) {
      const ref = this.pdf.add(
        `<< ${places} /ColorSpace /DeviceRGB /Extend [true true] /Function ${stopsFunction(item.stops)} >>`,
      );
      shading = { resource: `S${this.shadings.size + 1}`, ref };
      this.shadings.set(key, shading);
    }
    const [name, even] = [shading.resource, item.opacity === undefined ? "" : this.opacity(item.opacity)];
    const drawn = (matrix: Matrix): string => {
      const system = matrix.map(pdfNumber).join(" ");
      const faded = item.stops.some((stop) => stop.opacity !== undefined)
        ? this.faded(item, places, system, height)
        : "";
      return `q ${even}${faded}${rectangle(item, height)} re W n ${system} cm /${name} sh Q\n`;
    };
    if (from) {
      const radius = Math.SQRT2 * Math.max(from.x, 1 - from.x, from.y, 1 - from.y);
      return drawn([
        item.width * radius,
        0,
        0,
        item.height * radius,
        item.x + from.x * item.width,
        height - item.y - from.y * item.height,
      ]);
    }
    const turn = (-item.angle * Math.PI) / 180;
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
    const length = Math.abs(item.width * cos) + Math.abs(item.height * sin);
    const [x, y] = [item.x + item.width / 2, height - item.y - item.height / 2];
    return drawn([
      length * cos,
      length * sin,
      -length * sin,
      length * cos,
      x - (length * cos) / 2,
      y - (length * sin) / 2,
    ]);
  }

  /** How opaque a ground is from place to place: a soft mask (11.6.5) of greys that change as its colours do. */
  private faded(item: ShadeItem, places: string, system: string, height: number): string {
    const grey = stopsFunction(item.stops, ({ opacity = 1 }) => pdfNumber(opacity));
    const shading = this.pdf.add(`<< ${places} /ColorSpace /DeviceGray /Extend [true true] /Function ${grey} >>`);
    const foot = height - item.y - item.height;
    const box = [item.x, foot, item.x + item.width, foot + item.height].map(pdfNumber).join(" ");
    const form = this.pdf.stream(
      `${system} cm /S sh`,
      `/Type /XObject /Subtype /Form /BBox [${box}] /Group << /S /Transparency /CS /DeviceGray >> /Resources << /Shading << /S ${shading} >> >>`,
    );
    const resource = `M${this.masks.length + 1}`;
    this.masks.push({ resource, ref: form });
    return `/${resource} gs `;
  }

  private link(item: LinkItem, height: number, node: StructureNode | undefined): Ref {
    const box = boxIn(this.within, item);
    const rect = [box.x, height - box.y - box.height, box.x + box.width, height - box.y].map(pdfNumber).join(" ");
    const ref = this.pdf.reserve();
    const parent =
      node && this.structure
        ? ` /StructParent ${this.structure.annotation(node, ref, this.pageRefs[this.index], this.pages.length)}`
        : "";
    // Places on later pages are not known yet.
    this.unfinished.push(() => {
      const place = item.target.startsWith("#") ? this.places.get(item.target.slice(1)) : undefined;
      const uri = Buffer.from(encodeURI(item.target), "latin1").toString("hex");
      const action = place
        ? `/Dest [${this.pageRefs[place.page]} /XYZ ${pdfNumber(place.x)} ${pdfNumber(place.y)} null]`
        : item.target.startsWith("#")
          ? ""
          : `/A << /S /URI /URI <${uri}> >>`;
      const words = pdfText(place ? "Go to this place" : item.target);
      this.pdf.set(
        ref,
        `<< /Type /Annot /Subtype /Link /F 4 /Rect [${rect}] /Border [0 0 0] /Contents ${words}${parent} ${action} >>`,
      );
    });
    return ref;
  }
}

function holdsTags(item: PageItem): boolean {
  if (item.kind === "tagged") return true;
  return holdsItems(item) && item.items.some(holdsTags);
}

/** A character no font has: a letter that is not seen stands for it, so that it can be searched and copied (14.9.4). */
function missing({ font, texts, advances }: ShapedRun, index: number, written: PdfFont): string {
  const letter = font.has(0x78) ? font.font.glyphForCodePoint(0x78).id : 0;
  const code = letter === 0 ? undefined : written.code(letter, "x");
  const rest = pdfNumber((font.advance(letter) - advances[index]) * 1000);
  if (code === undefined) return `[${pdfNumber(-advances[index] * 1000)}] TJ `;
  return `/Span << /ActualText ${pdfText(texts[index])} >> BDC 3 Tr [<${code}> ${rest}] TJ 0 Tr EMC `;
}
