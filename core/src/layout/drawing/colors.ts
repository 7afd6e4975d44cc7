/** Colours of drawings and charts, with what changes them: ECMA-376 part 1, 20.1.2.3. */
import names from "color-name";
import type { XmlElement } from "../../ooxml/index.js";
import { type Channels, channelsOf, channelsOfHsl, colorOf, hslOf, type Theme } from "../../spreadsheet/index.js";

export interface Paint {
  /** `RRGGBB` */
  readonly color: string;
  /** From 0 to 1. */
  readonly opacity: number;
}

/** Indexes of a workbook's theme colours by their names in drawings. */
const SCHEME: Readonly<Record<string, number>> = {
  bg1: 0,
  lt1: 0,
  tx1: 1,
  dk1: 1,
  bg2: 2,
  lt2: 2,
  tx2: 3,
  dk2: 3,
  accent1: 4,
  accent2: 5,
  accent3: 6,
  accent4: 7,
  accent5: 8,
  accent6: 9,
  hlink: 10,
  folHlink: 11,
};

/** Colours of an office's windows, where the file does not keep what they were (20.1.10.58). */
const SYSTEM: Readonly<Record<string, string>> = { window: "FFFFFF", btnFace: "F0F0F0", highlightText: "FFFFFF" };

/** The colour inside an element such as `solidFill`; `undefined` where there is none. */
export function paintIn(parent: XmlElement | undefined, theme: Theme): Paint | undefined {
  for (const element of parent?.elements() ?? []) {
    const color = baseColor(element, theme);
    if (color) return changed(element, color);
  }
  return undefined;
}

/** `RRGGBB` of a theme's colour by its name in drawings. */
export function schemeColor(name: string, theme: Theme): string | undefined {
  if (name === "phClr") return theme.placeholder;
  return theme.colors[SCHEME[theme.names?.[name] ?? name] ?? 1];
}

function baseColor(element: XmlElement, theme: Theme): Channels | undefined {
  const value = element.attr("val") ?? "";
  const share = (name: string): number => percentage(element.attr(name)) ?? 0;
  switch (element.local) {
    case "srgbClr":
      return channelsOf(value);
    case "scrgbClr":
      return [encoded(share("r")), encoded(share("g")), encoded(share("b"))];
    case "hslClr":
      return channelsOfHsl(Number(element.attr("hue") ?? 0) / 60_000 / 60, share("sat"), share("lum"));
    case "sysClr":
      return channelsOf(element.attr("lastClr") ?? SYSTEM[value] ?? "000000");
    case "schemeClr":
      return channelsOf(schemeColor(value, theme) ?? "000000");
    case "prstClr":
      return presetColor(value);
    default:
      return undefined;
  }
}

/** Names are those of CSS, some of them also shortened: `dkBlue`, `ltGray`, `medOrchid` (20.1.10.48). */
function presetColor(name: string): Channels {
  const long = name
    .replace(/^dk/, "dark")
    .replace(/^lt/, "light")
    .replace(/^med(?=[A-Z])/, "medium");
  const [r, g, b] = names[long.toLowerCase()] ?? [0, 0, 0];
  return [r / 255, g / 255, b / 255];
}

/** A share, in 100,000ths or with a sign of per cent (22.9.2.9). */
export function percentage(value: string | undefined): number | undefined {
  if (value === undefined) return undefined;
  const number = Number.parseFloat(value);
  return Number.isNaN(number) ? undefined : value.endsWith("%") ? number / 100 : number / 100_000;
}

const limited = (value: number): number => Math.min(1, Math.max(0, value));

function changed(element: XmlElement, base: Channels): Paint {
  let color = base;
  let opacity = 1;
  for (const change of element.elements()) {
    const value = percentage(change.attr("val")) ?? 0;
    if (change.local === "alpha") opacity = value;
    else if (change.local === "alphaMod") opacity *= value;
    else if (change.local === "alphaOff") opacity += value;
    else color = (CHANGES[change.local] ?? same)(color, value, change);
  }
  return { color: colorOf(color), opacity: limited(opacity) };
}

type Change = (color: Channels, value: number, element: XmlElement) => Channels;

const same: Change = (color) => color;

/** A change of hue (0), saturation (1) or lightness (2). */
function ofHsl(at: 0 | 1 | 2, change: (before: number, value: number, element: XmlElement) => number): Change {
  return (color, value, element) => {
    const parts = hslOf(color);
    parts[at] = change(parts[at], value, element);
    return channelsOfHsl((((parts[0] % 6) + 6) % 6) % 6, limited(parts[1]), limited(parts[2]));
  };
}

function ofChannel(at: 0 | 1 | 2, change: (before: number, value: number) => number): Change {
  return (color, value) => {
    const parts: [number, number, number] = [...color];
    parts[at] = encoded(limited(change(linear(parts[at]), value)));
    return parts;
  };
}

/** Mixed with white or black as light is, not as the numbers of colours are. */
const towards =
  (end: number): Change =>
  (color, share) => {
    const [r, g, b] = color.map((part) => encoded(linear(part) * share + end * (1 - share)));
    return [r, g, b];
  };

const inSixths = (element: XmlElement): number => Number(element.attr("val") ?? 0) / 60_000 / 60;

/** What changes a colour, by its name; in the order in which a file names them. */
const CHANGES: Readonly<Record<string, Change>> = {
  hue: ofHsl(0, (_, __, element) => inSixths(element)),
  hueMod: ofHsl(0, (before, value) => before * value),
  hueOff: ofHsl(0, (before, _, element) => before + inSixths(element)),
  sat: ofHsl(1, (_, value) => value),
  satMod: ofHsl(1, (before, value) => before * value),
  satOff: ofHsl(1, (before, value) => before + value),
  lum: ofHsl(2, (_, value) => value),
  lumMod: ofHsl(2, (before, value) => before * value),
  lumOff: ofHsl(2, (before, value) => before + value),
  red: ofChannel(0, (_, value) => value),
  redMod: ofChannel(0, (before, value) => before * value),
  redOff: ofChannel(0, (before, value) => before + value),
  green: ofChannel(1, (_, value) => value),
  greenMod: ofChannel(1, (before, value) => before * value),
  greenOff: ofChannel(1, (before, value) => before + value),
  blue: ofChannel(2, (_, value) => value),
  blueMod: ofChannel(2, (before, value) => before * value),
  blueOff: ofChannel(2, (before, value) => before + value),
  tint: towards(1),
  shade: towards(0),
  gray: ([r, g, b]) => {
    const light = 0.299 * r + 0.587 * g + 0.114 * b;
    return [light, light, light];
  },
  inv: ([r, g, b]) => [encoded(1 - linear(r)), encoded(1 - linear(g)), encoded(1 - linear(b))],
  comp: ofHsl(0, (before) => before + 3),
  gamma: ([r, g, b]) => [encoded(r), encoded(g), encoded(b)],
  invGamma: ([r, g, b]) => [linear(r), linear(g), linear(b)],
};

/** The curve of sRGB (IEC 61966-2-1). */
function encoded(value: number): number {
  return value <= 0.003_130_8 ? value * 12.92 : 1.055 * value ** (1 / 2.4) - 0.055;
}

function linear(value: number): number {
  return value <= 0.040_45 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
}
