/** A deck without anybody's template: made from a definition's list of slides, with marks where a template would have them. */
import type { ChartKind } from "../../common/index.js";
import { escapeXml, OFFICE_RELATIONS, OoxmlPackage, relationshipsXml } from "../../ooxml/index.js";
import { sampleChart } from "./sample-chart.js";

/** What a definition says of a deck (see the schema of reports). */
export interface PlainDeckSpec {
  readonly size: "wide" | "standard";
  /** `RRGGBB`, in titles, bars and the cover. */
  readonly colour: string;
  readonly font: string;
  readonly foot?: string | undefined;
  readonly list: readonly PlainSlideSpec[];
}

export interface PlainSlideSpec {
  readonly title: string;
  readonly cover: boolean;
  readonly text?: string | undefined;
  readonly bullets?: readonly string[] | undefined;
  /** As in `{{table line: …}}`. */
  readonly table?: string | undefined;
  readonly chart?: { readonly kind: ChartKind; readonly of: string } | undefined;
  /** The file name of a picture, with marks. */
  readonly picture?: string | undefined;
  readonly notes?: string | undefined;
  /** The slide for each line, or each sub-group of them. */
  readonly each?:
    | { readonly lines: string; readonly where?: string | undefined; readonly by?: string | undefined }
    | undefined;
  readonly when?: string | undefined;
}

const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
const NAMES = `xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" xmlns:r="${OFFICE_RELATIONS}" xmlns:p="http://schemas.openxmlformats.org/presentationml/2006/main"`;
const TYPES = "application/vnd.openxmlformats-officedocument.presentationml";
const PACKAGE = "http://schemas.openxmlformats.org/package/2006";
/** An archive without entries. */
const EMPTY = Uint8Array.of(0x50, 0x4b, 0x05, 0x06, ...Array<number>(18).fill(0));

/** In English metric units. */
const INCH = 914_400;
const HEIGHT = 7.5;
const WIDTHS = { wide: 13.333, standard: 10 } as const;
const MARGIN = 0.7;

interface Place {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

/** The deck as a template: its bytes are filled as any other's. */
export function plainDeckTemplate(spec: PlainDeckSpec): Uint8Array {
  return new DeckBuilder(spec).build();
}

const emu = (inches: number): number => Math.round(inches * INCH);
const frame = ({ x, y, w, h }: Place, tag = "a:xfrm"): string =>
  `<${tag}><a:off x="${emu(x)}" y="${emu(y)}"/><a:ext cx="${emu(w)}" cy="${emu(h)}"/></${tag}>`;
const solid = (color: string): string =>
  color.length === 6
    ? `<a:solidFill><a:srgbClr val="${color}"/></a:solidFill>`
    : `<a:solidFill><a:schemeClr val="${color}"/></a:solidFill>`;
const TREE =
  '<p:nvGrpSpPr><p:cNvPr id="1" name=""/><p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr><p:grpSpPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="0" cy="0"/><a:chOff x="0" y="0"/><a:chExt cx="0" cy="0"/></a:xfrm></p:grpSpPr>';
const page = (name: string, shapes: string, attributes = "", background = ""): string =>
  `${HEAD}<p:${name} ${NAMES}${attributes}><p:cSld>${background === "" ? "" : `<p:bg><p:bgPr>${background}<a:effectLst/></p:bgPr></p:bg>`}<p:spTree>${TREE}${shapes}</p:spTree></p:cSld>`;
const OWN_COLORS = "<p:clrMapOvr><a:masterClrMapping/></p:clrMapOvr>";

class DeckBuilder {
  private readonly parts = new Map<string, string>();
  private readonly types: [string, string][] = [];
  private readonly width: number;
  private ids = 1;

  constructor(private readonly spec: PlainDeckSpec) {
    this.width = WIDTHS[spec.size];
  }

  build(): Uint8Array {
    this.put("ppt/theme/theme1.xml", this.theme(), "application/vnd.openxmlformats-officedocument.theme+xml");
    this.put("ppt/theme/theme2.xml", this.theme(), "application/vnd.openxmlformats-officedocument.theme+xml");
    this.master();
    this.layouts();
    this.notesMaster();
    const { list } = this.spec;
    list.forEach((slide, index) => {
      this.slide(slide, index + 1);
    });
    const ids = list.map((_, index) => `<p:sldId id="${256 + index}" r:id="rIdSlide${index + 1}"/>`);
    this.put(
      "ppt/presentation.xml",
      `${HEAD}<p:presentation ${NAMES}><p:sldMasterIdLst><p:sldMasterId id="2147483648" r:id="rIdMaster"/></p:sldMasterIdLst><p:notesMasterIdLst><p:notesMasterId r:id="rIdNotes"/></p:notesMasterIdLst><p:sldIdLst>${ids.join("")}</p:sldIdLst><p:sldSz cx="${emu(this.width)}" cy="${emu(HEIGHT)}"/><p:notesSz cx="6858000" cy="9144000"/></p:presentation>`,
      `${TYPES}.presentation.main+xml`,
    );
    this.relate("ppt/presentation.xml", [
      ["rIdMaster", "slideMaster", "slideMasters/slideMaster1.xml"],
      ["rIdNotes", "notesMaster", "notesMasters/notesMaster1.xml"],
      ["rIdTheme", "theme", "theme/theme1.xml"],
      ...list.map((_, index) => [`rIdSlide${index + 1}`, "slide", `slides/slide${index + 1}.xml`] as const),
    ]);
    this.relate("", [["rId1", "officeDocument", "ppt/presentation.xml"]]);
    const overrides = this.types.map(([name, type]) => `<Override PartName="/${name}" ContentType="${type}"/>`);
    const types = `${HEAD}<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/>${overrides.join("")}</Types>`;
    return OoxmlPackage.open(EMPTY)
      .with(new Map([["[Content_Types].xml", types], ...this.parts]))
      .toBytes();
  }

  private put(name: string, content: string, type: string): void {
    this.parts.set(name, content);
    this.types.push([name, type]);
  }

  private relate(part: string, list: readonly (readonly [id: string, type: string, target: string])[]): void {
    const slash = part.lastIndexOf("/");
    const relations = list.map(
      ([id, type, target]) => `<Relationship Id="${id}" Type="${OFFICE_RELATIONS}/${type}" Target="${target}"/>`,
    );
    this.parts.set(`${part.slice(0, slash + 1)}_rels/${part.slice(slash + 1)}.rels`, relationshipsXml(relations));
  }

  private theme(): string {
    const { colour, font } = this.spec;
    const colors: readonly (readonly [string, string])[] = [
      ["dk1", "1F2A2A"],
      ["lt1", "FFFFFF"],
      ["dk2", colour],
      ["lt2", "F2F4F4"],
      ["accent1", colour],
      ["accent2", "C98A2B"],
      ["accent3", "6F8F3A"],
      ["accent4", "A8483B"],
      ["accent5", "5D5A86"],
      ["accent6", "7E9AA0"],
      ["hlink", colour],
      ["folHlink", "5A6B6B"],
    ];
    const face = `<a:latin typeface="${escapeXml(font)}"/><a:ea typeface=""/><a:cs typeface=""/>`;
    const fill = solid("phClr");
    const line = `<a:ln w="9525">${fill}</a:ln>`;
    const effect = "<a:effectStyle><a:effectLst/></a:effectStyle>";
    return `${HEAD}<a:theme xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" name="Plain"><a:themeElements><a:clrScheme name="Plain">${colors.map(([name, color]) => `<a:${name}><a:srgbClr val="${color}"/></a:${name}>`).join("")}</a:clrScheme><a:fontScheme name="Plain"><a:majorFont>${face}</a:majorFont><a:minorFont>${face}</a:minorFont></a:fontScheme><a:fmtScheme name="Plain"><a:fillStyleLst>${fill.repeat(3)}</a:fillStyleLst><a:lnStyleLst>${line.repeat(3)}</a:lnStyleLst><a:effectStyleLst>${effect.repeat(3)}</a:effectStyleLst><a:bgFillStyleLst>${fill.repeat(3)}</a:bgFillStyleLst></a:fmtScheme></a:themeElements></a:theme>`;
  }

  private shape(
    name: string,
    about: { at?: Place; holder?: string; paint?: string; body?: string; text?: string; lists?: string },
  ): string {
    const id = ++this.ids;
    const place = about.at ? frame(about.at) : "";
    const geometry = about.at ? '<a:prstGeom prst="rect"><a:avLst/></a:prstGeom>' : "";
    const text =
      about.text === undefined
        ? ""
        : `<p:txBody>${about.body ?? "<a:bodyPr/>"}<a:lstStyle>${about.lists ?? ""}</a:lstStyle>${about.text}</p:txBody>`;
    const holder = about.holder === undefined ? "" : `<p:ph ${about.holder}/>`;
    return `<p:sp><p:nvSpPr><p:cNvPr id="${id}" name="${escapeXml(name)}"/><p:cNvSpPr/><p:nvPr>${holder}</p:nvPr></p:nvSpPr><p:spPr>${place}${geometry}${about.paint ?? ""}</p:spPr>${text}</p:sp>`;
  }

  private get content(): Place {
    return { x: MARGIN, y: 1.55, w: this.width - 2 * MARGIN, h: HEIGHT - 1.55 - 0.75 };
  }

  private master(): void {
    const { width } = this;
    const holders =
      this.shape("Title", {
        holder: 'type="title"',
        at: { x: MARGIN, y: 0.45, w: width - 2 * MARGIN, h: 0.85 },
        body: '<a:bodyPr lIns="0" rIns="0" anchor="ctr"><a:normAutofit/></a:bodyPr>',
        text: paragraph("Title"),
      }) +
      this.shape("Text", {
        holder: 'type="body" idx="1"',
        at: this.content,
        body: '<a:bodyPr lIns="0" rIns="0"><a:normAutofit/></a:bodyPr>',
        text: paragraph("Text"),
      }) +
      this.shape("Number", {
        holder: 'type="sldNum" sz="quarter" idx="4"',
        at: { x: width - MARGIN - 1, y: HEIGHT - 0.55, w: 1, h: 0.3 },
        body: '<a:bodyPr rIns="0" anchor="ctr"/>',
        lists: `<a:lvl1pPr algn="r"><a:defRPr sz="1100">${solid("accent6")}</a:defRPr></a:lvl1pPr>`,
        text: paragraph(""),
      });
    const bar = this.shape("Bar", { at: { x: 0, y: 0, w: 0.2, h: HEIGHT }, paint: solid("accent1") });
    const level = (number: number, size: number, left: number): string =>
      `<a:lvl${number}pPr marL="${left}" indent="-257175" algn="l"><a:spcBef><a:spcPts val="${number === 1 ? 900 : 400}"/></a:spcBef><a:buClr><a:schemeClr val="accent1"/></a:buClr><a:buFont typeface="Arial"/><a:buChar char="${number % 2 === 1 ? "•" : "–"}"/><a:defRPr sz="${size}">${solid("tx1")}<a:latin typeface="+mn-lt"/></a:defRPr></a:lvl${number}pPr>`;
    const styles = `<p:txStyles><p:titleStyle><a:lvl1pPr algn="l"><a:buNone/><a:defRPr sz="3000" b="1">${solid("accent1")}<a:latin typeface="+mj-lt"/></a:defRPr></a:lvl1pPr></p:titleStyle><p:bodyStyle>${level(1, 2200, 257_175)}${level(2, 1900, 628_650)}${level(3, 1700, 1_000_125)}</p:bodyStyle><p:otherStyle><a:lvl1pPr><a:defRPr sz="1800">${solid("tx1")}<a:latin typeface="+mn-lt"/></a:defRPr></a:lvl1pPr></p:otherStyle></p:txStyles>`;
    const map =
      '<p:clrMap bg1="lt1" tx1="dk1" bg2="lt2" tx2="dk2" accent1="accent1" accent2="accent2" accent3="accent3" accent4="accent4" accent5="accent5" accent6="accent6" hlink="hlink" folHlink="folHlink"/>';
    const layouts = [1, 2].map((number) => `<p:sldLayoutId id="${2_147_483_648 + number}" r:id="rIdLayout${number}"/>`);
    this.put(
      "ppt/slideMasters/slideMaster1.xml",
      `${page("sldMaster", bar + holders, "", solid("bg1"))}${map}<p:sldLayoutIdLst>${layouts.join("")}</p:sldLayoutIdLst>${styles}</p:sldMaster>`,
      `${TYPES}.slideMaster+xml`,
    );
    this.relate("ppt/slideMasters/slideMaster1.xml", [
      ["rIdLayout1", "slideLayout", "../slideLayouts/slideLayout1.xml"],
      ["rIdLayout2", "slideLayout", "../slideLayouts/slideLayout2.xml"],
      ["rIdTheme", "theme", "../theme/theme1.xml"],
    ]);
  }

  private layouts(): void {
    const { width } = this;
    const inner = { x: MARGIN, w: width - 2 * MARGIN };
    const plain = (text: string, size: number, color: string, anchor: string): string =>
      `<a:lvl1pPr marL="0" indent="0" algn="l"><a:buNone/><a:defRPr sz="${size}"${anchor === "b" ? ' b="1"' : ""}>${solid(color)}</a:defRPr></a:lvl1pPr>${text}`;
    const cover =
      this.shape("Title", {
        holder: 'type="ctrTitle"',
        at: { ...inner, y: 2.1, h: 1.9 },
        body: '<a:bodyPr anchor="b"><a:normAutofit/></a:bodyPr>',
        lists: plain("", 4400, "bg1", "b"),
        text: paragraph("Title"),
      }) +
      this.shape("Text", {
        holder: 'type="subTitle" idx="1"',
        at: { ...inner, y: 4.15, h: 1.4 },
        lists: plain("", 2200, "bg2", "t"),
        text: paragraph("Text"),
      });
    const line = `<p:cxnSp><p:nvCxnSpPr><p:cNvPr id="${++this.ids}" name="Line"/><p:cNvCxnSpPr/><p:nvPr/></p:nvCxnSpPr><p:spPr>${frame({ ...inner, y: 1.35, h: 0 })}<a:prstGeom prst="line"><a:avLst/></a:prstGeom><a:ln w="9525">${solid("accent6")}</a:ln></p:spPr></p:cxnSp>`;
    const foot =
      this.spec.foot === undefined
        ? ""
        : this.shape("Foot", {
            at: { x: MARGIN, y: HEIGHT - 0.55, w: width - 2 * MARGIN - 1.2, h: 0.3 },
            body: '<a:bodyPr lIns="0" anchor="ctr"/>',
            lists: `<a:lvl1pPr><a:defRPr sz="1100">${solid("accent6")}</a:defRPr></a:lvl1pPr>`,
            text: paragraph(this.spec.foot),
          });
    const held =
      this.shape("Title", { holder: 'type="title"', text: paragraph("Title") }) +
      this.shape("Text", { holder: 'idx="1"', text: paragraph("Text") }) +
      this.shape("Number", { holder: 'type="sldNum" sz="quarter" idx="12"', text: paragraph("") });
    const written: readonly (readonly [string, string])[] = [
      [
        `${page("sldLayout", cover, ' type="title" showMasterSp="0"', solid("accent1")).replace("<p:cSld>", '<p:cSld name="Cover">')}`,
        "1",
      ],
      [`${page("sldLayout", line + held + foot).replace("<p:cSld>", '<p:cSld name="Content">')}`, "2"],
    ];
    for (const [text, number] of written) {
      const name = `ppt/slideLayouts/slideLayout${number}.xml`;
      this.put(name, `${text}${OWN_COLORS}</p:sldLayout>`, `${TYPES}.slideLayout+xml`);
      this.relate(name, [["rIdMaster", "slideMaster", "../slideMasters/slideMaster1.xml"]]);
    }
  }

  private notesMaster(): void {
    const shapes =
      this.shape("Slide", { holder: 'type="sldImg" idx="2"', at: { x: 0.75, y: 0.75, w: 6, h: 3.375 } }) +
      this.shape("Notes", {
        holder: 'type="body" sz="quarter" idx="3"',
        at: { x: 0.75, y: 4.6, w: 6, h: 4.6 },
        text: paragraph("Notes"),
      });
    const map =
      '<p:clrMap bg1="lt1" tx1="dk1" bg2="lt2" tx2="dk2" accent1="accent1" accent2="accent2" accent3="accent3" accent4="accent4" accent5="accent5" accent6="accent6" hlink="hlink" folHlink="folHlink"/>';
    this.put(
      "ppt/notesMasters/notesMaster1.xml",
      `${page("notesMaster", shapes, "", solid("bg1"))}${map}<p:notesStyle><a:lvl1pPr><a:defRPr sz="1200">${solid("tx1")}</a:defRPr></a:lvl1pPr></p:notesStyle></p:notesMaster>`,
      `${TYPES}.notesMaster+xml`,
    );
    this.relate("ppt/notesMasters/notesMaster1.xml", [["rIdTheme", "theme", "../theme/theme2.xml"]]);
  }

  private slide(slide: PlainSlideSpec, number: number): void {
    const name = `ppt/slides/slide${number}.xml`;
    const relations: (readonly [string, string, string])[] = [
      ["rIdLayout", "slideLayout", `../slideLayouts/slideLayout${slide.cover ? 1 : 2}.xml`],
    ];
    const shapes = [
      this.shape("Title", { holder: slide.cover ? 'type="ctrTitle"' : 'type="title"', text: paragraph(slide.title) }),
      ...this.contents(slide, number, relations),
    ];
    if (!slide.cover)
      shapes.push(
        this.shape("Number", {
          holder: 'type="sldNum" sz="quarter" idx="12"',
          text: `<a:p><a:fld id="{B6F15528-21DE-4FAA-801E-634DDDAF4B2B}" type="slidenum"><a:rPr lang="en-GB"/><a:t>${number}</a:t></a:fld></a:p>`,
        }),
      );
    const notes = [
      ...marksOf(slide).map((mark) => paragraph(mark)),
      ...(slide.notes === undefined ? [] : paragraphs(slide.notes)),
    ];
    if (notes.length > 0) {
      relations.push(["rIdNotes", "notesSlide", `../notesSlides/notesSlide${number}.xml`]);
      this.notes(number, notes.join(""));
    }
    this.put(name, `${page("sld", shapes.join(""))}${OWN_COLORS}</p:sld>`, `${TYPES}.slide+xml`);
    this.relate(name, relations);
  }

  private notes(number: number, text: string): void {
    const name = `ppt/notesSlides/notesSlide${number}.xml`;
    const shapes =
      this.shape("Slide", { holder: 'type="sldImg"' }) + this.shape("Notes", { holder: 'type="body" idx="1"', text });
    this.put(name, `${page("notes", shapes)}${OWN_COLORS}</p:notes>`, `${TYPES}.notesSlide+xml`);
    this.relate(name, [
      ["rIdMaster", "notesMaster", "../notesMasters/notesMaster1.xml"],
      ["rIdSlide", "slide", `../slides/slide${number}.xml`],
    ]);
  }

  /** What stands below a slide's title: text and bullets, and beside or below them a table, a chart or a picture. */
  private contents(slide: PlainSlideSpec, number: number, relations: (readonly [string, string, string])[]): string[] {
    const { content } = this;
    const lines = [
      ...(slide.text === undefined ? [] : paragraphs(slide.text, slide.cover ? "" : PLAIN)),
      ...(slide.bullets ?? []).map(bullet),
    ];
    if (slide.cover)
      return lines.length === 0
        ? []
        : [this.shape("Text", { holder: 'type="subTitle" idx="1"', text: lines.join("") })];
    const figures = [slide.table, slide.chart, slide.picture].filter((one) => one !== undefined).length;
    // Beside each other from the left: text, then what shows the figures.
    const count = figures + (lines.length > 0 ? 1 : 0);
    const gap = 0.4;
    const each = (content.w - gap * (count - 1)) / Math.max(1, count);
    let column = 0;
    const next = (): Place => ({ ...content, x: content.x + column++ * (each + gap), w: each });
    const made: string[] = [];
    if (lines.length > 0) {
      const place = next();
      made.push(
        this.shape("Text", {
          holder: 'idx="1"',
          ...(count > 1 ? { at: place } : {}),
          body: "<a:bodyPr><a:normAutofit/></a:bodyPr>",
          text: lines.join(""),
        }),
      );
    }
    if (slide.table !== undefined)
      made.push(
        this.shape("Table", { at: next(), body: '<a:bodyPr wrap="square"/>', text: paragraph(tableMark(slide.table)) }),
      );
    if (slide.chart) {
      const chart = `ppt/charts/chart${number}.xml`;
      this.put(
        chart,
        sampleChart(slide.chart.kind),
        "application/vnd.openxmlformats-officedocument.drawingml.chart+xml",
      );
      relations.push(["rIdChart", "chart", `../charts/chart${number}.xml`]);
      made.push(
        `<p:graphicFrame><p:nvGraphicFramePr><p:cNvPr id="${++this.ids}" name="Chart" descr="${escapeXml(`{{chart ${linesOf(slide.chart.of)}}}`)}"/><p:cNvGraphicFramePr/><p:nvPr/></p:nvGraphicFramePr>${frame(next(), "p:xfrm")}<a:graphic><a:graphicData uri="http://schemas.openxmlformats.org/drawingml/2006/chart"><c:chart xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart" r:id="rIdChart"/></a:graphicData></a:graphic></p:graphicFrame>`,
      );
    }
    if (slide.picture !== undefined)
      made.push(
        `<p:pic><p:nvPicPr><p:cNvPr id="${++this.ids}" name="Picture" descr="${escapeXml(pictureMark(slide.picture))}"/><p:cNvPicPr/><p:nvPr/></p:nvPicPr><p:blipFill><a:blip r:embed=""/><a:stretch><a:fillRect/></a:stretch></p:blipFill><p:spPr>${frame(next())}<a:prstGeom prst="rect"><a:avLst/></a:prstGeom></p:spPr></p:pic>`,
      );
    return made;
  }
}

function marksOf({ each, when }: PlainSlideSpec): string[] {
  const marks: string[] = [];
  if (each)
    marks.push(
      `{{repeat slide ${each.lines}${each.where === undefined ? "" : ` where ${each.where}`}${each.by === undefined ? "" : ` by ${each.by}`}}}`,
    );
  if (when !== undefined) marks.push(`{{when slide ${when}}}`);
  return marks;
}

/** `line: …` where nothing else is named before a colon. */
function linesOf(columns: string): string {
  return /^[\p{L}_][\p{L}\p{M}\p{N}_]*\s*:/u.test(columns) ? columns : `line: ${columns}`;
}

const tableMark = (columns: string): string => `{{table ${linesOf(columns)}}}`;

/** The name of a file as a mark: a picture is chosen by what a mark gives. */
function pictureMark(picture: string): string {
  return picture.includes("{{") ? picture : `{{ "${picture.replaceAll('"', '""')}" }}`;
}

const PLAIN = '<a:pPr marL="0" indent="0"><a:buNone/></a:pPr>';

function paragraph(text: string, properties = ""): string {
  if (text === "") return `<a:p>${properties}</a:p>`;
  return `<a:p>${properties}<a:r><a:rPr lang="en-GB"/><a:t>${escapeXml(text)}</a:t></a:r></a:p>`;
}

function paragraphs(text: string, properties = ""): string[] {
  return text
    .trimEnd()
    .split("\n")
    .map((line) => paragraph(line, properties));
}

/** Signs `>` before a bullet set it a level deeper each. */
function bullet(text: string): string {
  const deep = /^(>*)\s*/.exec(text)?.[1].length ?? 0;
  return paragraph(text.replace(/^>*\s*/, ""), deep === 0 ? "" : `<a:pPr lvl="${Math.min(2, deep)}"/>`);
}
