/** Units of measure: ECMA-376 part 1, 18.17.7.49, and those that came later. */

import { CellError, numberOf, textOf } from "../value.js";
import { type FormulaFunction, NA } from "./support/arguments.js";

const INCH = 0.0254;
const FOOT = 0.3048;
const YARD = 0.9144;
const MILE = 1609.344;
const SEA_MILE = 1852;
const LIGHT_YEAR = 9.460_730_472_580_8e15;
const POINT = INCH / 72;
const GALLON = 231 * INCH ** 3;
const UK_GALLON = 4.546_09e-3;
const POUND = 453.592_37;
const HOUR = 3600;

/** For each kind the size of its units in one of them; those of the first list take prefixes. */
const KINDS: readonly {
  readonly metric: Readonly<Record<string, number>>;
  readonly others: Readonly<Record<string, number>>;
}[] = [
  {
    metric: { g: 1, u: 1.660_539_066_6e-24 },
    others: {
      ...{ sg: 14_593.902_937_206_37, lbm: POUND, ozm: POUND / 16, grain: POUND / 7000, stone: POUND * 14 },
      ...{ cwt: POUND * 100, shweight: POUND * 100, uk_cwt: POUND * 112, lcwt: POUND * 112, hweight: POUND * 112 },
      ...{ ton: POUND * 2000, uk_ton: POUND * 2240, LTON: POUND * 2240, brton: POUND * 2240 },
    },
  },
  {
    metric: { m: 1, ang: 1e-10, ly: LIGHT_YEAR, parsec: 3.085_677_581_491_367e16, pc: 3.085_677_581_491_367e16 },
    others: {
      ...{ mi: MILE, Nmi: SEA_MILE, in: INCH, ft: FOOT, yd: YARD, ell: 45 * INCH, survey_mi: 6_336_000 / 3937 },
      ...{ Picapt: POINT, Pica: POINT, pica: INCH / 6 },
    },
  },
  { metric: { sec: 1, s: 1 }, others: { yr: 365.25 * 86_400, day: 86_400, d: 86_400, hr: HOUR, mn: 60, min: 60 } },
  {
    metric: { Pa: 1, p: 1, atm: 101_325, at: 101_325, mmHg: 133.322 },
    others: { psi: 6_894.757_293_168_36, Torr: 101_325 / 760 },
  },
  { metric: { N: 1, dyn: 1e-5, dy: 1e-5, pond: 9.806_65e-3 }, others: { lbf: 4.448_221_615_260_5 } },
  {
    metric: { J: 1, e: 1e-7, c: 4.184, cal: 4.1868, eV: 1.602_176_634e-19, ev: 1.602_176_634e-19, Wh: HOUR, wh: HOUR },
    others: {
      ...{ HPh: 745.699_871_582_27 * HOUR, hh: 745.699_871_582_27 * HOUR, flb: 1.355_817_948_331_4 },
      ...{ BTU: 1_055.055_852_62, btu: 1_055.055_852_62 },
    },
  },
  { metric: { W: 1, w: 1 }, others: { HP: 745.699_871_582_27, h: 745.699_871_582_27, PS: 735.498_75 } },
  { metric: { T: 1, ga: 1e-4 }, others: {} },
  {
    metric: { l: 1e-3, L: 1e-3, lt: 1e-3 },
    others: {
      ...{ tsp: GALLON / 768, tspm: 5e-6, tbs: GALLON / 256, oz: GALLON / 128, cup: GALLON / 16, pt: GALLON / 8 },
      ...{
        us_pt: GALLON / 8,
        uk_pt: UK_GALLON / 8,
        qt: GALLON / 4,
        uk_qt: UK_GALLON / 4,
        gal: GALLON,
        uk_gal: UK_GALLON,
      },
      ...{
        barrel: GALLON * 42,
        bushel: 2150.42 * INCH ** 3,
        GRT: 100 * FOOT ** 3,
        regton: 100 * FOOT ** 3,
        MTON: 40 * FOOT ** 3,
      },
      ...powers(3),
    },
  },
  {
    metric: { ar: 100 },
    others: { uk_acre: 4046.856_422_4, us_acre: 4046.872_609_874_252, ha: 1e4, Morgen: 2500, ...powers(2) },
  },
  { metric: { bit: 1, byte: 8 }, others: {} },
  {
    metric: { "m/s": 1, "m/sec": 1, "m/h": 1 / HOUR, "m/hr": 1 / HOUR },
    others: { kn: SEA_MILE / HOUR, admkn: 1853.184 / HOUR, mph: MILE / HOUR },
  },
];

/** Lengths to a power: `ft2`, `m^3`. */
function powers(exponent: 2 | 3): Record<string, number> {
  const lengths = {
    ang: 1e-10,
    ft: FOOT,
    in: INCH,
    ly: LIGHT_YEAR,
    m: 1,
    mi: MILE,
    Nmi: SEA_MILE,
    Pica: POINT,
    Picapt: POINT,
    yd: YARD,
  };
  return Object.fromEntries(
    Object.entries(lengths).flatMap(([name, size]) => [
      [`${name}${exponent}`, size ** exponent],
      [`${name}^${exponent}`, size ** exponent],
    ]),
  );
}

const PREFIXES: Readonly<Record<string, number>> = {
  ...{ Y: 1e24, Z: 1e21, E: 1e18, P: 1e15, T: 1e12, G: 1e9, M: 1e6, k: 1e3, h: 1e2, da: 10, e: 10 },
  ...{ d: 1e-1, c: 1e-2, m: 1e-3, u: 1e-6, n: 1e-9, p: 1e-12, f: 1e-15, a: 1e-18, z: 1e-21, y: 1e-24 },
};
const BINARY: Readonly<Record<string, number>> = Object.fromEntries(
  ["ki", "Mi", "Gi", "Ti", "Pi", "Ei", "Zi", "Yi"].map((name, at) => [name, 2 ** (10 * (at + 1))]),
);

/** Degrees: kelvins are `size` times the degrees above `zero`. */
const DEGREES: Readonly<Record<string, { readonly size: number; readonly zero: number }>> = {
  ...both("K", "kel", 1, 0),
  ...both("C", "cel", 1, 273.15),
  ...both("F", "fah", 5 / 9, 273.15 - 160 / 9),
  Rank: { size: 5 / 9, zero: 0 },
  Reau: { size: 1.25, zero: 273.15 },
};

function both(one: string, other: string, size: number, zero: number) {
  return { [one]: { size, zero }, [other]: { size, zero } };
}

function sizeOf(kind: (typeof KINDS)[number], unit: string): number | undefined {
  if (Object.hasOwn(kind.metric, unit)) return kind.metric[unit];
  if (Object.hasOwn(kind.others, unit)) return kind.others[unit];
  for (const [name, size] of Object.entries(kind.metric)) {
    if (!unit.endsWith(name)) continue;
    const prefix = unit.slice(0, unit.length - name.length);
    if (Object.hasOwn(PREFIXES, prefix)) return size * PREFIXES[prefix];
    if ((name === "bit" || name === "byte") && Object.hasOwn(BINARY, prefix)) return size * BINARY[prefix];
  }
  // Metres take prefixes to their power: cm2, km^3.
  const power = /^(.+?)m(\^?)([23])$/.exec(unit);
  if (power && Object.hasOwn(PREFIXES, power[1]) && Object.hasOwn(kind.others, `m${power[3]}`))
    return PREFIXES[power[1]] ** Number(power[3]);
  return undefined;
}

export const convert: FormulaFunction = ([valueArg, fromArg, toArg]) => {
  const [value, from, to] = [numberOf(valueArg()), textOf(fromArg()), textOf(toArg())];
  if (value instanceof CellError) return value;
  if (from instanceof CellError) return from;
  if (to instanceof CellError) return to;
  if (Object.hasOwn(DEGREES, from) && Object.hasOwn(DEGREES, to)) {
    const kelvins = value * DEGREES[from].size + DEGREES[from].zero;
    return from === to ? value : Number(((kelvins - DEGREES[to].zero) / DEGREES[to].size).toPrecision(15));
  }
  for (const kind of KINDS) {
    const [a, b] = [sizeOf(kind, from), sizeOf(kind, to)];
    if (a !== undefined && b !== undefined) return from === to ? value : (value * a) / b;
  }
  return NA;
};
