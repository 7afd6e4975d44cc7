import type { FontFile } from "../fonts/index.js";
import type { ImageItem, LineItem, LinkItem, Page, PageItem, TextItem } from "../layout/index.js";
import { archiveMetadata, colourProfile } from "./archive.js";
import { PdfFont } from "./fonts.js";
import { writeImage } from "./images.js";
import { PdfFile, pdfNumber, pdfText, type Ref } from "./objects.js";
import { PdfCipher, type PdfLock } from "./protect.js";

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
  readonly outline?: readonly { readonly title: string; readonly page: number }[];
}

/** Pages as a PDF file. The same pages give the same bytes. */
export function writePdf(pages: readonly Page[], properties: PdfProperties): Uint8Array {
  return new Writer(pages, properties).write();
}

class Writer {
  private readonly pdf = new PdfFile();
  private readonly fonts = new Map<FontFile, PdfFont>();
  private readonly images = new Map<string, { resource: string; ref: Ref }>();

  constructor(
    private readonly pages: readonly Page[],
    private readonly properties: PdfProperties,
  ) {}

  write(): Uint8Array {
    const { pdf } = this;
    const catalog = pdf.reserve();
    const tree = pdf.reserve();
    const resources = pdf.reserve();
    this.collect();
    const refs = this.pages.map((page) => this.page(page, tree, resources));
    for (const font of this.fonts.values()) font.write(pdf);
    const fontEntries = [...this.fonts.values()].map((font) => `/${font.resource} ${font.ref}`).join(" ");
    const imageEntries = [...this.images.values()].map((image) => `/${image.resource} ${image.ref}`).join(" ");
    pdf.set(resources, `<< /Font << ${fontEntries} >> /XObject << ${imageEntries} >> >>`);
    pdf.set(tree, `<< /Type /Pages /Count ${refs.length} /Kids [${refs.join(" ")}] >>`);
    const outline = this.outline(refs);
    pdf.set(
      catalog,
      `<< /Type /Catalog /Pages ${tree} /Lang ${pdfText(this.properties.language ?? "en")} /ViewerPreferences << /DisplayDocTitle true >>${outline ? ` /Outlines ${outline}` : ""}${this.archiveEntries()} >>`,
    );
    const author = this.properties.author ? ` /Author ${pdfText(this.properties.author)}` : "";
    const info = pdf.add(`<< /Title ${pdfText(this.properties.title)}${author} /Producer ${pdfText("Corbix")} >>`);
    const { lock, archive } = this.properties;
    return pdf.toBytes(catalog, info, lock && !archive ? new PdfCipher(lock) : undefined);
  }

  private archiveEntries(): string {
    if (!this.properties.archive) return "";
    const metadata = this.pdf.rawStream(
      Buffer.from(archiveMetadata(this.properties), "latin1"),
      "/Type /Metadata /Subtype /XML",
    );
    const profile = this.pdf.stream(colourProfile(), "/N 3");
    const name = pdfText("sRGB");
    return ` /Metadata ${metadata} /OutputIntents [<< /Type /OutputIntent /S /GTS_PDFA1 /OutputConditionIdentifier ${name} /Info ${name} /DestOutputProfile ${profile} >>]`;
  }

  /** First pass: which glyphs and pictures the pages use, so that subsets are whole before text is written. */
  private collect(): void {
    for (const page of this.pages) {
      for (const item of page.items) {
        if (item.kind === "text") {
          for (const run of item.shaped.runs) {
            const font = this.font(run.font);
            run.glyphs.forEach((glyph, index) => {
              font.use(glyph, run.texts[index]);
            });
          }
        } else if (item.kind === "image" && !this.images.has(item.image.digest)) {
          this.images.set(item.image.digest, {
            resource: `I${this.images.size + 1}`,
            ref: writeImage(this.pdf, item.image),
          });
        }
      }
    }
  }

  private font(file: FontFile): PdfFont {
    let font = this.fonts.get(file);
    if (!font) {
      font = new PdfFont(file, `F${this.fonts.size + 1}`, this.pdf.reserve());
      this.fonts.set(file, font);
    }
    return font;
  }

  private page(page: Page, tree: Ref, resources: Ref): Ref {
    let content = "";
    for (const item of page.items) content += this.item(item, page.heightPt);
    const stream = this.pdf.stream(content);
    const links = page.items
      .filter((item): item is LinkItem => item.kind === "link")
      .map((item) => this.link(item, page.heightPt));
    const annotations = links.length > 0 ? ` /Annots [${links.join(" ")}]` : "";
    return this.pdf.add(
      `<< /Type /Page /Parent ${tree} /MediaBox [0 0 ${pdfNumber(page.widthPt)} ${pdfNumber(page.heightPt)}] /Resources ${resources} /Contents ${stream}${annotations} >>`,
    );
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
      case "link":
        return "";
    }
  }

  private text(item: TextItem, height: number): string {
    let written = "";
    let x = item.x;
    for (const run of item.shaped.runs) {
      const font = this.font(run.font);
      const { glyphs } = font.subset();
      written += `/${font.resource} ${pdfNumber(item.size)} Tf ${position(item, x, height)} Tm `;
      let hex = "";
      let array = "";
      run.glyphs.forEach((glyph, index) => {
        hex += (glyphs.get(glyph) ?? 0).toString(16).padStart(4, "0");
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
      written += array === "" ? `<${hex}> Tj ` : `[${array}${hex === "" ? "" : `<${hex}>`}] TJ `;
    }
    const text = `${rgb(item.color)} rg BT ${written}ET\n`;
    if (!item.clip) return text;
    const { clip } = item;
    return `q ${pdfNumber(clip.x)} ${pdfNumber(height - clip.y - clip.height)} ${pdfNumber(clip.width)} ${pdfNumber(clip.height)} re W n ${text}Q\n`;
  }

  private image(item: ImageItem, height: number): string {
    const { resource } = this.images.get(item.image.digest) as { resource: string };
    return `q ${pdfNumber(item.width)} 0 0 ${pdfNumber(item.height)} ${pdfNumber(item.x)} ${pdfNumber(height - item.y - item.height)} cm /${resource} Do Q\n`;
  }

  private link(item: LinkItem, height: number): Ref {
    const rect = [item.x, height - item.y - item.height, item.x + item.width, height - item.y].map(pdfNumber).join(" ");
    const uri = Buffer.from(encodeURI(item.target), "latin1").toString("hex");
    return this.pdf.add(
      `<< /Type /Annot /Subtype /Link /F 4 /Rect [${rect}] /Border [0 0 0] /A << /S /URI /URI <${uri}> >> >>`,
    );
  }

  private outline(pages: readonly Ref[]): Ref | undefined {
    const entries = this.properties.outline ?? [];
    if (entries.length < 2) return undefined;
    const root = this.pdf.reserve();
    const refs = entries.map(() => this.pdf.reserve());
    entries.forEach((entry, index) => {
      const previous = index > 0 ? ` /Prev ${refs[index - 1]}` : "";
      const next = index + 1 < refs.length ? ` /Next ${refs[index + 1]}` : "";
      this.pdf.set(
        refs[index],
        `<< /Title ${pdfText(entry.title)} /Parent ${root}${previous}${next} /Dest [${pages[entry.page]} /Fit] >>`,
      );
    });
    this.pdf.set(root, `<< /Type /Outlines /First ${refs[0]} /Last ${refs[refs.length - 1]} /Count ${refs.length} >>`);
    return root;
  }
}

/** The text matrix: plain, or turned about the text's start. */
function position(item: TextItem, x: number, height: number): string {
  if (!item.rotation) return `1 0 0 1 ${pdfNumber(x)} ${pdfNumber(height - item.y)}`;
  const angle = (item.rotation * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const along = x - item.x;
  return `${pdfNumber(cos)} ${pdfNumber(sin)} ${pdfNumber(-sin)} ${pdfNumber(cos)} ${pdfNumber(item.x + along * cos)} ${pdfNumber(height - item.y + along * sin)}`;
}

function line(item: LineItem, height: number): string {
  const dash = item.dash ? `[${item.dash.map(pdfNumber).join(" ")}] 0 d ` : "[] 0 d ";
  return `${rgb(item.color)} RG ${pdfNumber(item.width)} w ${dash}${pdfNumber(item.x1)} ${pdfNumber(height - item.y1)} m ${pdfNumber(item.x2)} ${pdfNumber(height - item.y2)} l S\n`;
}

const COLORS = new Map<string, string>();

function rgb(color: string): string {
  let written = COLORS.get(color);
  if (written === undefined) {
    written = [0, 2, 4].map((at) => pdfNumber(Number.parseInt(color.slice(at, at + 2), 16) / 255)).join(" ");
    COLORS.set(color, written);
  }
  return written;
}
