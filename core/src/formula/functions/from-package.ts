/** Functions of trigonometry, statistics and finance whose bodies come from a package; here they get our values and errors. */
import * as formulas from "@formulajs/formulajs";
import { CellError, isMatrix, type Operand, type Scalar } from "../value.js";
import type { FormulaFunction } from "./support/arguments.js";

const NAMES: readonly string[] = [
  "SIN COS TAN ASIN ACOS ATAN ATAN2 SINH COSH TANH ASINH ACOSH ATANH SEC CSC COT SECH CSCH COTH ACOT ACOTH DEGREES RADIANS",
  "LOG FACT FACTDOUBLE COMBIN COMBINA PERMUT PERMUTATIONA MULTINOMIAL GCD LCM QUOTIENT SUMSQ EVEN ODD SQRTPI SERIESSUM",
  "BITAND BITOR BITXOR BITLSHIFT BITRSHIFT DELTA GESTEP ROMAN ARABIC BASE DECIMAL",
  "DEC2BIN DEC2OCT DEC2HEX BIN2DEC BIN2OCT BIN2HEX OCT2BIN OCT2DEC OCT2HEX HEX2BIN HEX2OCT HEX2DEC",
  "COMPLEX IMABS IMAGINARY IMARGUMENT IMCONJUGATE IMCOS IMCOSH IMCOT IMCSC IMCSCH IMDIV IMEXP IMLN IMLOG10 IMLOG2 IMPOWER",
  "IMPRODUCT IMREAL IMSEC IMSECH IMSIN IMSINH IMSQRT IMSUB IMSUM IMTAN",
  "BESSELI BESSELJ BESSELK BESSELY ERF ERF.PRECISE ERFC ERFC.PRECISE",
  "KURT SKEW CORREL PEARSON RSQ SLOPE INTERCEPT GEOMEAN HARMEAN AVEDEV DEVSQ TRIMMEAN STDEVP VARP STANDARDIZE",
  "SUMX2MY2 SUMX2PY2 SUMXMY2 FISHER FISHERINV GAMMA GAMMALN GAMMALN.PRECISE GAUSS PHI",
  "CONFIDENCE CONFIDENCE.NORM CONFIDENCE.T NORMDIST NORM.DIST NORMINV NORM.INV NORMSDIST NORM.S.DIST NORMSINV NORM.S.INV",
  "BETADIST BETA.DIST BETAINV BETA.INV BINOMDIST BINOM.DIST BINOM.INV CRITBINOM NEGBINOMDIST NEGBINOM.DIST HYPGEOMDIST HYPGEOM.DIST",
  "CHIDIST CHISQ.DIST CHISQ.DIST.RT CHIINV CHISQ.INV CHISQ.INV.RT EXPONDIST EXPON.DIST FDIST F.DIST F.DIST.RT FINV F.INV F.INV.RT",
  "GAMMADIST GAMMA.DIST GAMMAINV GAMMA.INV LOGNORMDIST LOGNORM.DIST LOGINV LOGNORM.INV POISSON POISSON.DIST",
  "TDIST T.DIST T.DIST.RT T.DIST.2T TINV T.INV T.INV.2T WEIBULL WEIBULL.DIST",
  "PMT IPMT PPMT PV FV NPER RATE NPV IRR SLN SYD DB DDB EFFECT NOMINAL CUMIPMT CUMPRINC MIRR RRI PDURATION",
].flatMap((line) => line.split(" "));

type Body = (...args: unknown[]) => unknown;

/** By name; a name the package does not have is left out. */
export const MORE_FUNCTIONS: Readonly<Record<string, FormulaFunction>> = Object.fromEntries(
  NAMES.flatMap((name) => {
    const body = bodyOf(name);
    return typeof body === "function" ? [[name, adapt(name, body)] as const] : [];
  }),
);

function memberOf(of: unknown, name: string): unknown {
  if (of === null || (typeof of !== "object" && typeof of !== "function")) return undefined;
  return Object.getOwnPropertyDescriptor(of, name)?.value;
}

function isBody(found: unknown): found is Body {
  return typeof found === "function";
}

/** The package keeps dotted names as one inside the other. */
function bodyOf(name: string): Body | undefined {
  const plain = memberOf(formulas, name.replaceAll(".", ""));
  const found = name.split(".").reduce(memberOf, formulas);
  return isBody(found) ? found : isBody(plain) ? plain : undefined;
}

/** Functions of pairs: where one side is no number, both are passed over. */
const PAIRED = new Set<string>([
  "CORREL",
  "PEARSON",
  "RSQ",
  "SLOPE",
  "INTERCEPT",
  "FORECAST",
  "SUMX2MY2",
  "SUMX2PY2",
  "SUMXMY2",
]);
/** Digits above nine are written in capitals. */
const CAPITALS = new Set<string>(["BASE", "DEC2HEX", "BIN2HEX", "OCT2HEX"]);

function adapt(name: string, body: Body): FormulaFunction {
  return (args) => {
    const values = args.map((arg) => arg());
    const failed = values
      .flatMap((value) => (isMatrix(value) ? value.flat() : [value]))
      .find((value) => value instanceof CellError);
    if (failed !== undefined) return failed;
    // ATAN2 takes x before y in spreadsheets, the package y before x.
    const given = PAIRED.has(name) ? inPairs(values) : values.map(plain);
    const result = resultOf(body(...(name === "ATAN2" ? given.reverse() : given)));
    // A single imaginary unit is written without its number.
    if (/^(COMPLEX|IM)/.test(name) && typeof result === "string") return result.replace(/(^|[-+])1([ij])$/, "$1$2");
    return CAPITALS.has(name) && typeof result === "string" ? result.toUpperCase() : result;
  };
}

/** A single row or column as a list, as the package takes them; of ranges numbers count alone. */
function plain(operand: Operand): unknown {
  return isMatrix(operand) ? operand.flat().filter((value) => typeof value === "number") : operand;
}

function inPairs(operands: readonly Operand[]): unknown[] {
  const lists = operands.filter(isMatrix).map((operand) => operand.flat());
  const isPair = (at: number): boolean => lists.every((list) => typeof list[at] === "number");
  return operands.map((operand) => (isMatrix(operand) ? operand.flat().filter((_, at) => isPair(at)) : operand));
}

function resultOf(result: unknown): Scalar {
  if (typeof result === "number") return Number.isFinite(result) ? result : CellError.of("#NUM!");
  if (typeof result === "string" || typeof result === "boolean") return result;
  return CellError.named(result instanceof Error ? result.message : undefined);
}
