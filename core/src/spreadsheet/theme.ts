/** Theme colours and the ways a workbook names a colour: ECMA-376 part 1, 18.8.3 and 20.1.6. */
import { type XmlElement, xmlElement } from "../ooxml/index.js";

export interface Theme {
  /** `RRGGBB` by the theme index of SpreadsheetML: light 1, dark 1, light 2, dark 2, accents 1 to 6, links. */
  readonly colors: readonly string[];
  readonly majorFont: string;
  readonly minorFont: string;
  /** Of slides: which colour of the theme a name such as `bg1` stands for (19.3.1.6). */
  readonly names?: Readonly<Record<string, string>> | undefined;
  /** The colour that a format of the theme is asked for with (20.1.2.3.29), as `RRGGBB`. */
  readonly placeholder?: string | undefined;
  /** Its formats: fills, lines, grounds (20.1.4.1.14). */
  readonly formats?: XmlElement | undefined;
  /** Fonts for other scripts, by `major` or `minor` and the script's name: `minor Arab`. */
  readonly scripts?: ReadonlyMap<string, string> | undefined;
}

const DEFAULT_COLORS = [
  "FFFFFF",
  "000000",
  "E7E6E6",
  "44546A",
  "4472C4",
  "ED7D31",
  "A5A5A5",
  "FFC000",
  "5B9BD5",
  "70AD47",
  "0563C1",
  "954F72",
];
/** The scheme lists dark before light, the index of a cell's colour light before dark (18.8.3). */
const ORDER = [
  "lt1",
  "dk1",
  "lt2",
  "dk2",
  "accent1",
  "accent2",
  "accent3",
  "accent4",
  "accent5",
  "accent6",
  "hlink",
  "folHlink",
];

/** The 56 colours of 18.8.27 that old workbooks name by number; 64 and 65 are the system's text and ground. */
const INDEXED =
  "000000FFFFFFFF000000FF000000FFFFFF00FF00FF00FFFF000000FFFFFFFF000000FF000000FFFFFF00FF00FF00FFFF800000008000000080808000800080008080C0C0C08080809999FF993366FFFFCCCCFFFF660066FF80800066CCCCCCFF000080FF00FFFFFF0000FFFF8000808000000080800000FF00CCFFCCFFFFCCFFCCFFFF9999CCFFFF99CCCC99FFFFCC993366FF33CCCC99CC00FFCC00FF9900FF6600666699969696003366339966003300333300993300993366333399333333";

export function readTheme(xml: XmlElement | undefined): Theme {
  const scheme = xml?.path("themeElements", "clrScheme");
  const fonts = xml?.path("themeElements", "fontScheme");
  return {
    colors: ORDER.map((name, index) => {
      const color = scheme?.child(name);
      return color?.child("srgbClr")?.attr("val") ?? color?.child("sysClr")?.attr("lastClr") ?? DEFAULT_COLORS[index];
    }),
    majorFont: fonts?.path("majorFont", "latin")?.attr("typeface") ?? "Calibri Light",
    minorFont: fonts?.path("minorFont", "latin")?.attr("typeface") ?? "Calibri",
    formats: xml?.path("themeElements", "fmtScheme"),
    scripts: new Map(["major", "minor"].flatMap((kind) => scriptFonts(fonts?.child(`${kind}Font`), kind))),
  };
}

const overridden = new WeakMap<Theme, WeakMap<XmlElement, Theme>>();

/** A theme with what a part says over it (14.2.8): colours, fonts, formats. */
export function withOverride(theme: Theme, override: XmlElement | undefined): Theme {
  if (!override) return theme;
  const known = overridden.get(theme) ?? new WeakMap<XmlElement, Theme>();
  overridden.set(theme, known);
  let made = known.get(override);
  if (!made) {
    const own = readTheme(xmlElement("theme", {}, [xmlElement("themeElements", {}, override.children)]));
    const has = (name: string): boolean => override.child(name) !== undefined;
    made = {
      ...theme,
      ...(has("clrScheme") ? { colors: own.colors } : {}),
      ...(has("fontScheme") ? { majorFont: own.majorFont, minorFont: own.minorFont, scripts: own.scripts } : {}),
      ...(has("fmtScheme") ? { formats: own.formats } : {}),
    };
    known.set(override, made);
  }
  return made;
}

function scriptFonts(fonts: XmlElement | undefined, kind: string): [string, string][] {
  return (fonts?.elements() ?? []).flatMap((font): [string, string][] => {
    const face = font.attr("typeface") ?? "";
    return face === "" ? [] : [[`${kind} ${font.attr("script") ?? font.local}`, face]];
  });
}

/** `RRGGBB` of a colour element, `undefined` where it is automatic or missing. */
export function resolveColor(color: XmlElement | undefined, theme: Theme): string | undefined {
  if (!color) return undefined;
  const rgb = color.attr("rgb");
  const indexed = color.attr("indexed");
  const themed = color.attr("theme");
  let base: string | undefined;
  if (rgb) base = rgb.slice(-6).toUpperCase();
  else if (themed !== undefined) base = theme.colors[Number(themed)];
  else if (indexed !== undefined)
    base = INDEXED.slice(Number(indexed) * 6, Number(indexed) * 6 + 6) || (indexed === "65" ? "FFFFFF" : "000000");
  if (!base) return undefined;
  return tintColor(base, Number(color.attr("tint") ?? 0));
}

/** Lightness moved towards white (tint over 0) or black, as 18.8.19 says. */
export function tintColor(color: string, tint: number): string {
  if (tint === 0) return color;
  const [hue, saturation, lightness] = toHsl(color);
  const moved = tint < 0 ? lightness * (1 + tint) : lightness * (1 - tint) + tint;
  return fromHsl(hue, saturation, moved);
}

/** Hue in sixths of the circle, saturation and lightness from 0 to 1. */
function toHsl(color: string): [number, number, number] {
  return hslOf(channelsOf(color));
}

function fromHsl(hue: number, saturation: number, lightness: number): string {
  return colorOf(channelsOfHsl(hue, saturation, lightness));
}

/** Red, green and blue, from 0 to 1 each. */
export type Channels = readonly [number, number, number];

export function channelsOf(color: string): Channels {
  const at = (from: number): number => Number.parseInt(color.slice(from, from + 2), 16) / 255;
  return [at(0), at(2), at(4)];
}

/** `RRGGBB`, each channel brought between 0 and 1. */
export function colorOf(channels: Channels): string {
  return channels
    .map((part) =>
      Math.round(Math.min(1, Math.max(0, part)) * 255)
        .toString(16)
        .padStart(2, "0"),
    )
    .join("")
    .toUpperCase();
}

export function hslOf([r, g, b]: Channels): [number, number, number] {
  const max = Math.max(r, g, b);
  const min = Math.min(r, g, b);
  const lightness = (max + min) / 2;
  const span = max - min;
  if (span === 0) return [0, 0, lightness];
  const saturation = span / (1 - Math.abs(2 * lightness - 1));
  const hue = max === r ? ((g - b) / span + 6) % 6 : max === g ? (b - r) / span + 2 : (r - g) / span + 4;
  return [hue, saturation, lightness];
}

export function channelsOfHsl(hue: number, saturation: number, lightness: number): Channels {
  const chroma = (1 - Math.abs(2 * lightness - 1)) * saturation;
  const second = chroma * (1 - Math.abs((hue % 2) - 1));
  const base = lightness - chroma / 2;
  const sixths: readonly Channels[] = [
    [chroma, second, 0],
    [second, chroma, 0],
    [0, chroma, second],
    [0, second, chroma],
    [second, 0, chroma],
    [chroma, 0, second],
  ];
  const [r, g, b] = sixths[Math.min(5, Math.floor(hue))];
  return [r + base, g + base, b + base];
}
