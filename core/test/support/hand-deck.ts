/** Slide decks written by hand in XML, for tests: a master, layouts, slides and whatever else is asked for. */
import { OoxmlPackage } from "@corbix/core/ooxml";
import { emptyZip } from "./empty-zip.js";

export const NAMES =
  'xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" xmlns:p="http://schemas.openxmlformats.org/presentationml/2006/main"';
const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
const TYPES = "application/vnd.openxmlformats-officedocument.presentationml";
export const RELATED = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";

export interface HandSlide {
  /** What stands on it: shapes as XML. */
  readonly shapes: string;
  readonly layout?: number;
  readonly isHidden?: boolean;
  /** Text of its notes, as paragraphs in XML. */
  readonly notes?: string;
  readonly background?: string;
  /** Behind its shapes: transitions, animations. */
  readonly rest?: string;
  /** Relationships by id. */
  readonly related?: Readonly<
    Record<string, { readonly type: string; readonly target: string; readonly external?: boolean }>
  >;
}

export interface HandDeck {
  readonly slides: readonly HandSlide[];
  /** Layouts as their shapes; one with nothing without them. */
  readonly layouts?: readonly { readonly name: string; readonly shapes: string; readonly more?: string }[];
  readonly master?: { readonly shapes?: string; readonly background?: string; readonly styles?: string };
  readonly theme?: string;
  /** In English metric units. */
  readonly size?: readonly [number, number];
  /** In the presentation, behind its sizes. */
  readonly presentation?: string;
  /** Further parts by name, with their content types. */
  readonly parts?: Readonly<Record<string, { readonly content: string | Uint8Array; readonly type: string }>>;
}

export const EMU = 12_700;

/** A place on the slide, in points. */
export function frame(x: number, y: number, width: number, height: number, more = "", tag = "a:xfrm"): string {
  return `<${tag}${more}><a:off x="${Math.round(x * EMU)}" y="${Math.round(y * EMU)}"/><a:ext cx="${Math.round(width * EMU)}" cy="${Math.round(height * EMU)}"/></${tag}>`;
}

export const solid = (color: string): string =>
  /^[0-9A-F]{6}$/i.test(color)
    ? `<a:solidFill><a:srgbClr val="${color}"/></a:solidFill>`
    : `<a:solidFill><a:schemeClr val="${color}"/></a:solidFill>`;

let ids = 100;

export interface HandShape {
  readonly name?: string;
  readonly descr?: string;
  /** Its placeholder's attributes. */
  readonly ph?: string;
  readonly at?: readonly [number, number, number, number];
  /** Attributes of its frame: `rot`, `flipH`. */
  readonly turn?: string;
  readonly preset?: string;
  readonly adjust?: string;
  /** Fill and line. */
  readonly paint?: string;
  readonly style?: string;
  readonly body?: string;
  /** Paragraphs as XML, or one text. */
  readonly text?: string;
  readonly lists?: string;
}

export const run = (text: string, properties = ""): string =>
  `<a:r><a:rPr lang="en-GB"${properties}/><a:t>${text}</a:t></a:r>`;
export const paragraph = (text: string, properties = ""): string =>
  `<a:p>${properties}${text.startsWith("<a:") ? text : run(text)}</a:p>`;

export function shape(one: HandShape): string {
  const id = ids++;
  const text = one.text === undefined ? "" : one.text.startsWith("<a:p>") ? one.text : paragraph(one.text);
  const body =
    one.text === undefined
      ? ""
      : `<p:txBody><a:bodyPr${one.body?.startsWith(" ") ? one.body : ""}${one.body?.startsWith("<") ? `>${one.body}</a:bodyPr>` : "/>"}<a:lstStyle>${one.lists ?? ""}</a:lstStyle>${text}</p:txBody>`;
  const geometry =
    one.preset === undefined
      ? ""
      : `<a:prstGeom prst="${one.preset}"><a:avLst>${one.adjust ?? ""}</a:avLst></a:prstGeom>`;
  const holder = one.ph === undefined ? "" : `<p:ph${one.ph === "" ? "" : ` ${one.ph}`}/>`;
  return `<p:sp><p:nvSpPr><p:cNvPr id="${id}" name="${one.name ?? `Shape ${id}`}"${one.descr === undefined ? "" : ` descr="${one.descr}"`}/><p:cNvSpPr/><p:nvPr>${holder}</p:nvPr></p:nvSpPr><p:spPr>${one.at ? frame(...one.at, one.turn ?? "") : ""}${geometry}${one.paint ?? ""}</p:spPr>${one.style ?? ""}${body}</p:sp>`;
}

export const title = (text: string, more: HandShape = {}): string =>
  shape({ name: "Title", ph: 'type="title"', text, ...more });
export const content = (text: string, more: HandShape = {}): string =>
  shape({ name: "Content", ph: 'idx="1"', text, ...more });

/** A table: rows of cells, each a text or the cell's whole inside. */
export function table(
  at: readonly [number, number, number, number],
  rows: readonly (readonly string[])[],
  properties = ' firstRow="1" bandRow="1"',
  style = "{5C22544A-7EE6-4342-B048-85BDC9FD1C3A}",
): string {
  const columns = rows[0].length;
  const [, , width, height] = at;
  const cell = (text: string): string =>
    text.startsWith("<a:tc")
      ? text
      : `<a:tc><a:txBody><a:bodyPr/><a:lstStyle/>${text.startsWith("<a:p>") ? text : paragraph(text)}</a:txBody><a:tcPr/></a:tc>`;
  const id = ids++;
  return `<p:graphicFrame><p:nvGraphicFramePr><p:cNvPr id="${id}" name="Table ${id}"/><p:cNvGraphicFramePr/><p:nvPr/></p:nvGraphicFramePr>${frame(...at, "", "p:xfrm")}<a:graphic><a:graphicData uri="http://schemas.openxmlformats.org/drawingml/2006/table"><a:tbl><a:tblPr${properties}><a:tableStyleId>${style}</a:tableStyleId></a:tblPr><a:tblGrid>${rows[0].map(() => `<a:gridCol w="${Math.round((width / columns) * EMU)}"/>`).join("")}</a:tblGrid>${rows.map((row) => `<a:tr h="${Math.round((height / rows.length) * EMU)}">${row.map(cell).join("")}</a:tr>`).join("")}</a:tbl></a:graphicData></a:graphic></p:graphicFrame>`;
}

export function picture(
  at: readonly [number, number, number, number],
  embed: string,
  descr = "",
  blip = "",
  more = "",
): string {
  const id = ids++;
  return `<p:pic><p:nvPicPr><p:cNvPr id="${id}" name="Picture ${id}" descr="${descr}"/><p:cNvPicPr/><p:nvPr/></p:nvPicPr><p:blipFill><a:blip r:embed="${embed}">${blip}</a:blip>${more.startsWith("<a:srcRect") ? more : ""}<a:stretch><a:fillRect/></a:stretch></p:blipFill><p:spPr>${frame(...at)}<a:prstGeom prst="${more.startsWith("<") || more === "" ? "rect" : more}"><a:avLst/></a:prstGeom></p:spPr></p:pic>`;
}

export const THEME_FONTS = (major: string, minor: string): string =>
  `<a:fontScheme name="F"><a:majorFont><a:latin typeface="${major}"/><a:ea typeface=""/><a:cs typeface=""/></a:majorFont><a:minorFont><a:latin typeface="${minor}"/><a:ea typeface=""/><a:cs typeface=""/></a:minorFont></a:fontScheme>`;

const FORMATS = `<a:fmtScheme name="S"><a:fillStyleLst>${solid("phClr")}<a:gradFill rotWithShape="1"><a:gsLst><a:gs pos="0"><a:schemeClr val="phClr"><a:tint val="50000"/></a:schemeClr></a:gs><a:gs pos="100000"><a:schemeClr val="phClr"/></a:gs></a:gsLst><a:lin ang="5400000" scaled="0"/></a:gradFill>${solid("phClr")}</a:fillStyleLst><a:lnStyleLst><a:ln w="6350">${solid("phClr")}</a:ln><a:ln w="12700">${solid("phClr")}</a:ln><a:ln w="19050">${solid("phClr")}</a:ln></a:lnStyleLst><a:effectStyleLst><a:effectStyle><a:effectLst/></a:effectStyle><a:effectStyle><a:effectLst/></a:effectStyle><a:effectStyle><a:effectLst><a:outerShdw blurRad="57150" dist="19050" dir="5400000" algn="ctr" rotWithShape="0"><a:srgbClr val="000000"><a:alpha val="63000"/></a:srgbClr></a:outerShdw></a:effectLst></a:effectStyle></a:effectStyleLst><a:bgFillStyleLst>${solid("phClr")}${solid("phClr")}<a:gradFill rotWithShape="1"><a:gsLst><a:gs pos="0"><a:schemeClr val="phClr"><a:tint val="93000"/></a:schemeClr></a:gs><a:gs pos="100000"><a:schemeClr val="phClr"><a:shade val="63000"/></a:schemeClr></a:gs></a:gsLst><a:lin ang="5400000" scaled="0"/></a:gradFill></a:bgFillStyleLst></a:fmtScheme>`;

export function theme(
  colors: readonly string[] = [
    "000000",
    "FFFFFF",
    "44546A",
    "E7E6E6",
    "4472C4",
    "ED7D31",
    "A5A5A5",
    "FFC000",
    "5B9BD5",
    "70AD47",
  ],
  fonts = THEME_FONTS("Calibri Light", "Calibri"),
): string {
  const [dk1, lt1, dk2, lt2, ...accents] = colors;
  const color = (name: string, value: string): string => `<a:${name}><a:srgbClr val="${value}"/></a:${name}>`;
  return `${HEAD}<a:theme xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" name="T"><a:themeElements><a:clrScheme name="C">${color("dk1", dk1)}${color("lt1", lt1)}${color("dk2", dk2)}${color("lt2", lt2)}${accents.map((value, at) => color(`accent${at + 1}`, value)).join("")}${color("hlink", "0563C1")}${color("folHlink", "954F72")}</a:clrScheme>${fonts}${FORMATS}</a:themeElements></a:theme>`;
}

const level = (number: number, properties: string, size: number, more = ""): string =>
  `<a:lvl${number}pPr ${properties}>${more}<a:defRPr sz="${size}">${solid("tx1")}<a:latin typeface="+mn-lt"/></a:defRPr></a:lvl${number}pPr>`;
const bullet =
  '<a:lnSpc><a:spcPct val="90000"/></a:lnSpc><a:spcBef><a:spcPts val="1000"/></a:spcBef><a:buFont typeface="Arial"/><a:buChar char="•"/>';

export const TEXT_STYLES = `<p:txStyles><p:titleStyle><a:lvl1pPr algn="l"><a:lnSpc><a:spcPct val="90000"/></a:lnSpc><a:spcBef><a:spcPct val="0"/></a:spcBef><a:buNone/><a:defRPr sz="4000">${solid("tx1")}<a:latin typeface="+mj-lt"/></a:defRPr></a:lvl1pPr></p:titleStyle><p:bodyStyle>${level(1, 'marL="228600" indent="-228600" algn="l"', 2800, bullet)}${level(2, 'marL="685800" indent="-228600" algn="l"', 2400, bullet)}${level(3, 'marL="1143000" indent="-228600" algn="l"', 2000, bullet)}${level(4, 'marL="1600200" indent="-228600" algn="l"', 1800, bullet)}${level(5, 'marL="2057400" indent="-228600" algn="l"', 1800, bullet)}</p:bodyStyle><p:otherStyle>${level(1, 'marL="0" algn="l"', 1800)}</p:otherStyle></p:txStyles>`;

const TREE =
  '<p:nvGrpSpPr><p:cNvPr id="1" name=""/><p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr><p:grpSpPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="0" cy="0"/><a:chOff x="0" y="0"/><a:chExt cx="0" cy="0"/></a:xfrm></p:grpSpPr>';
const slideData = (shapes: string, background = ""): string =>
  `<p:cSld>${background === "" ? "" : `<p:bg>${background}</p:bg>`}<p:spTree>${TREE}${shapes}</p:spTree></p:cSld>`;
const MAP =
  '<p:clrMap bg1="lt1" tx1="dk1" bg2="lt2" tx2="dk2" accent1="accent1" accent2="accent2" accent3="accent3" accent4="accent4" accent5="accent5" accent6="accent6" hlink="hlink" folHlink="folHlink"/>';

/** Placeholders of a master for a size in points. */
export function usualHolders(width: number, height: number): string {
  const [x, w] = [width * 0.07, width * 0.86];
  return (
    shape({
      name: "Title",
      ph: 'type="title"',
      at: [x, height * 0.055, w, height * 0.19],
      preset: "rect",
      body: ' anchor="ctr"',
      text: "Title",
    }) +
    shape({
      name: "Body",
      ph: 'type="body" idx="1"',
      at: [x, height * 0.27, w, height * 0.62],
      preset: "rect",
      body: "<a:normAutofit/>",
      text: "Body",
    }) +
    shape({
      name: "Date",
      ph: 'type="dt" sz="half" idx="2"',
      at: [x, height * 0.925, width * 0.2, height * 0.053],
      preset: "rect",
      body: ' anchor="ctr"',
      lists: `<a:lvl1pPr algn="l"><a:defRPr sz="1200">${solid("tx1")}</a:defRPr></a:lvl1pPr>`,
      text: "",
    }) +
    shape({
      name: "Footer",
      ph: 'type="ftr" sz="quarter" idx="3"',
      at: [width * 0.33, height * 0.925, width * 0.34, height * 0.053],
      preset: "rect",
      body: ' anchor="ctr"',
      lists: `<a:lvl1pPr algn="ctr"><a:defRPr sz="1200">${solid("tx1")}</a:defRPr></a:lvl1pPr>`,
      text: "",
    }) +
    shape({
      name: "Number",
      ph: 'type="sldNum" sz="quarter" idx="4"',
      at: [width * 0.73, height * 0.925, width * 0.2, height * 0.053],
      preset: "rect",
      body: ' anchor="ctr"',
      lists: `<a:lvl1pPr algn="r"><a:defRPr sz="1200">${solid("tx1")}</a:defRPr></a:lvl1pPr>`,
      text: "",
    })
  );
}

const USUAL_LAYOUTS = [
  {
    name: "Title and content",
    shapes:
      shape({ name: "Title", ph: 'type="title"', text: "" }) + shape({ name: "Content", ph: 'idx="1"', text: "" }),
  },
];

/** The deck as a package. */
export function handDeck(deck: HandDeck): Uint8Array {
  const [width, height] = deck.size ?? [12_192_000, 6_858_000];
  const layouts = deck.layouts ?? USUAL_LAYOUTS;
  const parts = new Map<string, string | Uint8Array>();
  const types: [string, string][] = [];
  const put = (name: string, content: string | Uint8Array, type: string): void => {
    parts.set(name, content);
    if (type !== "") types.push([name, type]);
  };
  const relations = (
    name: string,
    list: readonly (readonly [id: string, type: string, target: string, external?: boolean | undefined])[],
  ): void => {
    const slash = name.lastIndexOf("/");
    const kind = (type: string): string => (type.includes(":") ? type : `${RELATED}/${type}`);
    parts.set(
      `${name.slice(0, slash + 1)}_rels/${name.slice(slash + 1)}.rels`,
      `${HEAD}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${list.map(([id, type, target, external]) => `<Relationship Id="${id}" Type="${kind(type)}" Target="${target}"${external ? ' TargetMode="External"' : ""}/>`).join("")}</Relationships>`,
    );
  };
  const hasNotes = deck.slides.some((slide) => slide.notes !== undefined);
  relations("", [["rId1", "officeDocument", "ppt/presentation.xml"]]);
  const slideIds = deck.slides.map((_, at) => `<p:sldId id="${256 + at}" r:id="rId${10 + at}"/>`).join("");
  put(
    "ppt/presentation.xml",
    `${HEAD}<p:presentation ${NAMES}><p:sldMasterIdLst><p:sldMasterId id="2147483648" r:id="rId1"/></p:sldMasterIdLst>${hasNotes ? '<p:notesMasterIdLst><p:notesMasterId r:id="rId3"/></p:notesMasterIdLst>' : ""}<p:sldIdLst>${slideIds}</p:sldIdLst><p:sldSz cx="${width}" cy="${height}"/><p:notesSz cx="6858000" cy="9144000"/><p:defaultTextStyle>${level(1, 'marL="0" algn="l"', 1800)}</p:defaultTextStyle>${deck.presentation ?? ""}</p:presentation>`,
    `${TYPES}.presentation.main+xml`,
  );
  relations("ppt/presentation.xml", [
    ["rId1", "slideMaster", "slideMasters/slideMaster1.xml"],
    ["rId2", "theme", "theme/theme1.xml"],
    ...(hasNotes ? ([["rId3", "notesMaster", "notesMasters/notesMaster1.xml"]] as const) : []),
    ...deck.slides.map((_, at) => [`rId${10 + at}`, "slide", `slides/slide${at + 1}.xml`] as const),
  ]);
  put("ppt/theme/theme1.xml", deck.theme ?? theme(), "application/vnd.openxmlformats-officedocument.theme+xml");
  put(
    "ppt/slideMasters/slideMaster1.xml",
    `${HEAD}<p:sldMaster ${NAMES}>${slideData(`${deck.master?.shapes ?? ""}${usualHolders(width / EMU, height / EMU)}`, deck.master?.background ?? '<p:bgRef idx="1001"><a:schemeClr val="bg1"/></p:bgRef>')}${MAP}<p:sldLayoutIdLst>${layouts.map((_, at) => `<p:sldLayoutId id="${2147483649 + at}" r:id="rId${at + 1}"/>`).join("")}</p:sldLayoutIdLst>${deck.master?.styles ?? TEXT_STYLES}</p:sldMaster>`,
    `${TYPES}.slideMaster+xml`,
  );
  relations("ppt/slideMasters/slideMaster1.xml", [
    ...layouts.map((_, at) => [`rId${at + 1}`, "slideLayout", `../slideLayouts/slideLayout${at + 1}.xml`] as const),
    ["rIdT", "theme", "../theme/theme1.xml"],
    ...(deck.parts?.["ppt/media/logo.png"] ? ([["rIdLogo", "image", "../media/logo.png"]] as const) : []),
  ]);
  layouts.forEach((layout, at) => {
    const name = `ppt/slideLayouts/slideLayout${at + 1}.xml`;
    put(
      name,
      `${HEAD}<p:sldLayout ${NAMES}${"more" in layout ? ` ${layout.more}` : ""}>${slideData(layout.shapes).replace("<p:cSld>", `<p:cSld name="${layout.name}">`)}<p:clrMapOvr><a:masterClrMapping/></p:clrMapOvr></p:sldLayout>`,
      `${TYPES}.slideLayout+xml`,
    );
    relations(name, [["rId1", "slideMaster", "../slideMasters/slideMaster1.xml"]]);
  });
  if (hasNotes) {
    put("ppt/theme/theme2.xml", theme(), "application/vnd.openxmlformats-officedocument.theme+xml");
    put(
      "ppt/notesMasters/notesMaster1.xml",
      `${HEAD}<p:notesMaster ${NAMES}>${slideData(
        shape({ name: "Slide", ph: 'type="sldImg" idx="2"', at: [54, 54, 432, 243], preset: "rect" }) +
          shape({
            name: "Notes",
            ph: 'type="body" sz="quarter" idx="3"',
            at: [54, 346, 432, 283],
            preset: "rect",
            text: "Notes",
          }),
        '<p:bgRef idx="1001"><a:schemeClr val="bg1"/></p:bgRef>',
      )}${MAP}<p:notesStyle>${level(1, 'marL="0" algn="l"', 1200)}</p:notesStyle></p:notesMaster>`,
      `${TYPES}.notesMaster+xml`,
    );
    relations("ppt/notesMasters/notesMaster1.xml", [["rId1", "theme", "../theme/theme2.xml"]]);
  }
  deck.slides.forEach((slide, at) => {
    const name = `ppt/slides/slide${at + 1}.xml`;
    put(
      name,
      `${HEAD}<p:sld ${NAMES}${slide.isHidden ? ' show="0"' : ""}>${slideData(slide.shapes, slide.background)}<p:clrMapOvr><a:masterClrMapping/></p:clrMapOvr>${slide.rest ?? ""}</p:sld>`,
      `${TYPES}.slide+xml`,
    );
    relations(name, [
      ["rId1", "slideLayout", `../slideLayouts/slideLayout${slide.layout ?? 1}.xml`],
      ...(slide.notes === undefined
        ? []
        : [["rIdNotes", "notesSlide", `../notesSlides/notesSlide${at + 1}.xml`] as const]),
      ...Object.entries(slide.related ?? {}).map(
        ([id, { type, target, external }]) => [id, type, target, external] as const,
      ),
    ]);
    if (slide.notes === undefined) return;
    const notes = `ppt/notesSlides/notesSlide${at + 1}.xml`;
    put(
      notes,
      `${HEAD}<p:notes ${NAMES}>${slideData(
        shape({ name: "Slide", ph: 'type="sldImg"' }) +
          shape({ name: "Notes", ph: 'type="body" idx="1"', text: slide.notes }),
      )}<p:clrMapOvr><a:masterClrMapping/></p:clrMapOvr></p:notes>`,
      `${TYPES}.notesSlide+xml`,
    );
    relations(notes, [
      ["rId1", "notesMaster", "../notesMasters/notesMaster1.xml"],
      ["rId2", "slide", `../slides/slide${at + 1}.xml`],
    ]);
  });
  for (const [name, { content, type }] of Object.entries(deck.parts ?? {})) put(name, content, type);
  const defaults = [
    ["rels", "application/vnd.openxmlformats-package.relationships+xml"],
    ["xml", "application/xml"],
    ["png", "image/png"],
    ["jpeg", "image/jpeg"],
    ["xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"],
  ];
  const contentTypes = `${HEAD}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">${defaults.map(([ending, type]) => `<Default Extension="${ending}" ContentType="${type}"/>`).join("")}${types.map(([name, type]) => `<Override PartName="/${name}" ContentType="${type}"/>`).join("")}</Types>`;
  return OoxmlPackage.open(emptyZip())
    .with(new Map([["[Content_Types].xml", contentTypes], ...parts]))
    .toBytes();
}
