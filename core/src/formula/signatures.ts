/**
 * How functions take their arguments: `v` one value (an array is gone through value by value), `r` a range as it is,
 * `a` a range, and operations in it cell by cell, `p` whatever is asked of the function itself, `m` one value or an
 * array that the function goes through itself. What stands behind `+` repeats. A function that is not listed takes values.
 */
const SIGNATURES: Readonly<Record<string, string>> = {
  ...listed(
    "+r",
    "SUM AVERAGE AVERAGEA MIN MINA MAX MAXA PRODUCT MEDIAN MODE MODE.SNGL STDEV STDEV.S STDEV.P STDEVP VAR VAR.S VAR.P VARP COUNT COUNTA COUNTBLANK",
    "AND OR XOR CONCAT SUMSQ GCD LCM KURT SKEW GEOMEAN HARMEAN AVEDEV DEVSQ CORREL PEARSON RSQ SLOPE INTERCEPT IRR ROW COLUMN ROWS COLUMNS",
    "AREAS ISREF ISFORMULA SHEET ANCHORARRAY SINGLE VSTACK HSTACK",
  ),
  ...listed("v+r", "SUBTOTAL NPV"),
  ...listed("vv+r", "TEXTJOIN"),
  ...listed("vv+a", "AGGREGATE"),
  ...listed("+a", "SUMPRODUCT MMULT TRANSPOSE MDETERM MINVERSE SUMX2MY2 SUMX2PY2 SUMXMY2 FREQUENCY"),
  ...listed("rv", "LARGE SMALL PERCENTILE PERCENTILE.INC PERCENTILE.EXC QUARTILE QUARTILE.INC QUARTILE.EXC TRIMMEAN"),
  ...listed("vrv", "RANK RANK.EQ RANK.AVG"),
  ...listed("rvv", "PERCENTRANK PERCENTRANK.INC PERCENTRANK.EXC"),
  ...listed("+r", "DSUM DCOUNT DCOUNTA DAVERAGE DMAX DMIN DPRODUCT DGET DVAR DVARP DSTDEV DSTDEVP FVSCHEDULE"),
  ...listed("aavv", "LINEST LOGEST PROB"),
  ...listed("aaav", "TREND GROWTH"),
  ...listed("aavv", "T.TEST TTEST F.TEST FTEST CHISQ.TEST CHITEST"),
  ...listed("avv", "Z.TEST ZTEST"),
  ...listed("+a", "COVAR COVARIANCE.P COVARIANCE.S STEYX MODE.MULT SKEW.P STDEVA STDEVPA VARA VARPA"),
  SERIESSUM: "vvvr",
  ...listed("+r", "IMSUM IMPRODUCT MULTINOMIAL"),
  FORECAST: "vrr",
  "FORECAST.LINEAR": "vrr",
  XNPV: "vaa",
  MIRR: "rvv",
  XIRR: "aav",
  SUMIF: "rvr",
  AVERAGEIF: "rvr",
  COUNTIF: "rv",
  SUMIFS: "r+rv",
  AVERAGEIFS: "r+rv",
  MINIFS: "r+rv",
  MAXIFS: "r+rv",
  COUNTIFS: "+rv",
  IF: "mpp",
  IFS: "+vp",
  SWITCH: "vvp+vp",
  CHOOSE: "v+p",
  IFERROR: "pp",
  IFNA: "pp",
  VLOOKUP: "vrvv",
  HLOOKUP: "vrvv",
  LOOKUP: "vaa",
  MATCH: "vav",
  XMATCH: "vavv",
  XLOOKUP: "vaapvv",
  INDEX: "avv",
  OFFSET: "rvvvv",
  N: "v",
  UNIQUE: "avv",
  FILTER: "aap",
  SORT: "avvv",
  SORTBY: "a+av",
  TEXTSPLIT: "vaavvv",
  ...listed("vavvvv", "TEXTBEFORE TEXTAFTER"),
  ...listed("avv", "WRAPROWS WRAPCOLS"),
  EXPAND: "avvv",
  RANDARRAY: "vvvvv",
  ...listed("+r", "FORMULATEXT SHEETS"),
  CELL: "vr",
  PHONETIC: "r",
  TAKE: "avv",
  DROP: "avv",
  CHOOSECOLS: "a+v",
  CHOOSEROWS: "a+v",
  TOCOL: "av",
  TOROW: "av",
  WORKDAY: "vvr",
  "WORKDAY.INTL": "vvvr",
  NETWORKDAYS: "vvr",
  "NETWORKDAYS.INTL": "vvvr",
};

function listed(signature: string, ...names: readonly string[]): Record<string, string> {
  return Object.fromEntries(names.flatMap((line) => line.split(" ")).map((name) => [name, signature]));
}

export type ParameterMode = "v" | "r" | "a" | "p" | "m";

/** How a function takes its argument with this index, counted from 0. */
export function takes(name: string, index: number): ParameterMode {
  const signature = Object.hasOwn(SIGNATURES, name) ? SIGNATURES[name] : "+v";
  const [fixed, repeated = ""] = signature.split("+");
  if (index < fixed.length) return fixed[index] as ParameterMode;
  return (repeated === "" ? "v" : repeated[(index - fixed.length) % repeated.length]) as ParameterMode;
}
