"""Works out what formulas give, in another language and with other libraries (scipy, numpy, mpmath); prints JSON: {group: [[formula, value], …]}.

Cells: A1:A12 and B1:B12 hold the lists x and y below, C1:C12 the days of d. Run it where these libraries are, and keep what it prints
in worked-formulas.json; the tests read that alone.
"""
import calendar, cmath, json, math
from datetime import date, timedelta
import mpmath, numpy as np
from scipy import optimize, special, stats

X = [3.5, 1.25, 7.0, 4.75, 9.5, 6.0, 2.5, 8.25, 5.5, 10.0, 4.0, 7.75]
Y = [12.1, 6.2, 21.9, 15.8, 29.4, 19.2, 9.7, 25.3, 18.1, 31.0, 13.2, 24.6]
BASE = date(1899, 12, 30)
DAYS = [date(2026, 1, 15) + timedelta(days=31 * n + n * n % 7) for n in range(12)]
serial = lambda day: (day - BASE).days
x, y = np.array(X), np.array(Y)
groups = {}
def add(group, *pairs):
    groups.setdefault(group, []).extend([formula, (bool(value) if isinstance(value, (bool, np.bool_)) else value if isinstance(value, str) else float(value))] for formula, value in pairs)

# Numbers
for v in (0.5, -0.25, 0.9):
    add("trigonometry", (f"SIN({v})", math.sin(v)), (f"COS({v})", math.cos(v)), (f"TAN({v})", math.tan(v)), (f"ASIN({v})", math.asin(v)), (f"ACOS({v})", math.acos(v)), (f"ATAN({v})", math.atan(v)), (f"SINH({v})", math.sinh(v)), (f"COSH({v})", math.cosh(v)), (f"TANH({v})", math.tanh(v)), (f"ASINH({v})", math.asinh(v)), (f"ATANH({v})", math.atanh(v)), (f"SEC({v})", 1 / math.cos(v)), (f"CSC({v})", 1 / math.sin(v)), (f"COT({v})", 1 / math.tan(v)), (f"SECH({v})", 1 / math.cosh(v)), (f"CSCH({v})", 1 / math.sinh(v)), (f"COTH({v})", 1 / math.tanh(v)), (f"DEGREES({v})", math.degrees(v)), (f"RADIANS({v * 100})", math.radians(v * 100)))
for v in (1.5, 3.0, 20.25):
    add("trigonometry", (f"ACOSH({v})", math.acosh(v)), (f"ACOTH({v})", math.atanh(1 / v)), (f"ACOT({v})", math.atan(1 / v)))
    add("numbers", (f"EXP({v})", math.exp(v)), (f"LN({v})", math.log(v)), (f"LOG10({v})", math.log10(v)), (f"LOG({v},3)", math.log(v, 3)), (f"LOG({v})", math.log10(v)), (f"SQRT({v})", math.sqrt(v)), (f"SQRTPI({v})", math.sqrt(v * math.pi)), (f"POWER({v},2.5)", v ** 2.5), (f"GAMMA({v})", math.gamma(v)), (f"GAMMALN({v})", math.lgamma(v)), (f"GAMMALN.PRECISE({v})", math.lgamma(v)), (f"ERF({v / 10})", math.erf(v / 10)), (f"ERFC({v / 10})", math.erfc(v / 10)), (f"ERF.PRECISE({v / 10})", math.erf(v / 10)), (f"ERFC.PRECISE({v / 10})", math.erfc(v / 10)))
for a, b in ((-3, 2), (5, -7), (0.5, 4), (-2, -2)):
    add("numbers", (f"ATAN2({a},{b})", math.atan2(b, a)), (f"MOD({a},{b})", a - b * math.floor(a / b)), (f"QUOTIENT({a},{b})", int(a / b)))
for n, k in ((12, 5), (20, 3), (7, 7), (9, 1)):
    add("counting", (f"COMBIN({n},{k})", math.comb(n, k)), (f"PERMUT({n},{k})", math.perm(n, k)), (f"COMBINA({n},{k})", math.comb(n + k - 1, k)), (f"PERMUTATIONA({n},{k})", n ** k), (f"FACT({n})", math.factorial(n)), (f"FACTDOUBLE({n})", math.prod(range(n, 0, -2))), (f"GCD({n * 6},{k * 9})", math.gcd(n * 6, k * 9)), (f"LCM({n * 2},{k * 3})", math.lcm(n * 2, k * 3)), (f"MULTINOMIAL({n},{k},2)", math.factorial(n + k + 2) / math.factorial(n) / math.factorial(k) / 2))
for v in (2.3, -2.3, 7.5, -7.5, 0.04):
    add("rounding", (f"INT({v})", math.floor(v)), (f"TRUNC({v})", math.trunc(v)), (f"EVEN({v})", math.copysign(math.ceil(abs(v) / 2) * 2, v)), (f"ODD({v})", math.copysign(math.ceil((abs(v) + 1) / 2) * 2 - 1, v)), (f"CEILING.MATH({v},2)", math.ceil(v / 2) * 2), (f"FLOOR.MATH({v},2)", math.floor(v / 2) * 2), (f"CEILING.PRECISE({v},3)", math.ceil(v / 3) * 3), (f"FLOOR.PRECISE({v},3)", math.floor(v / 3) * 3), (f"ISO.CEILING({v},3)", math.ceil(v / 3) * 3), (f"ROUNDUP({v},0)", math.copysign(math.ceil(abs(v)), v)), (f"ROUNDDOWN({v},0)", math.trunc(v)), (f"ABS({v})", abs(v)), (f"SIGN({v})", np.sign(v)))
for n in (5, 27, 255):
    add("bases", (f"DEC2BIN({n})", format(n, "b")), (f"DEC2OCT({n})", format(n, "o")), (f"DEC2HEX({n})", format(n, "X")), (f'BIN2DEC("{n:b}")', n), (f'BIN2HEX("{n:b}")', format(n, "X")), (f'BIN2OCT("{n:b}")', format(n, "o")), (f'OCT2DEC("{n:o}")', n), (f'OCT2BIN("{n:o}")', format(n, "b")), (f'OCT2HEX("{n:o}")', format(n, "X")), (f'HEX2DEC("{n:X}")', n), (f'HEX2BIN("{n:X}")', format(n, "b")), (f'HEX2OCT("{n:X}")', format(n, "o")), (f"BASE({n},3)", np.base_repr(n, 3)), (f'DECIMAL("{np.base_repr(n, 7)}",7)', n), (f"BITAND({n},13)", n & 13), (f"BITOR({n},13)", n | 13), (f"BITXOR({n},13)", n ^ 13), (f"BITLSHIFT({n},2)", n << 2), (f"BITRSHIFT({n},2)", n >> 2))
add("bases", ("DEC2BIN(5,8)", "00000101"), ("DEC2HEX(-2)", "FFFFFFFFFE"), ('HEX2DEC("FFFFFFFFFE")', -2), ('BIN2DEC("1111111110")', -2), ("DEC2BIN(-2)", "1111111110"), ("DELTA(5,5)", 1), ("DELTA(5,4)", 0), ("GESTEP(5,4)", 1), ("GESTEP(3,4)", 0), ("ROMAN(1999)", "MCMXCIX"), ('ARABIC("MCMXCIX")', 1999))
for n, v in ((0, 1.5), (1, 2.25), (2, 3.0)):
    add("bessel", (f"BESSELI({v},{n})", special.iv(n, v)), (f"BESSELJ({v},{n})", special.jv(n, v)), (f"BESSELK({v},{n})", special.kv(n, v)), (f"BESSELY({v},{n})", special.yv(n, v)))
add("series", ("SERIESSUM(2,0,2,{1,0.5,0.25})", 1 + 0.5 * 4 + 0.25 * 16), ("SUMSQ(A1:A12)", (x * x).sum()), ("SUMX2MY2(A1:A12,B1:B12)", (x * x - y * y).sum()), ("SUMX2PY2(A1:A12,B1:B12)", (x * x + y * y).sum()), ("SUMXMY2(A1:A12,B1:B12)", ((x - y) ** 2).sum()), ("SUMPRODUCT(A1:A12,B1:B12)", (x * y).sum()), ("PRODUCT(A1:A5)", x[:5].prod()))

# Complex numbers, as their parts
def parts(formula, z):
    add("complex", (f"IMREAL({formula})", z.real), (f"IMAGINARY({formula})", z.imag))
a, b = complex(3, 4), complex(1, -2)
sa, sb = '"3+4i"', '"1-2i"'
for name, z in (("IMSUM", a + b), ("IMSUB", a - b), ("IMPRODUCT", a * b), ("IMDIV", a / b)):
    parts(f"{name}({sa},{sb})", z)
for name, f in (("IMEXP", cmath.exp), ("IMLN", cmath.log), ("IMLOG10", cmath.log10), ("IMLOG2", lambda z: cmath.log(z) / math.log(2)), ("IMSQRT", cmath.sqrt), ("IMSIN", cmath.sin), ("IMCOS", cmath.cos), ("IMTAN", cmath.tan), ("IMSINH", cmath.sinh), ("IMCOSH", cmath.cosh), ("IMCONJUGATE", lambda z: z.conjugate()), ("IMSEC", lambda z: 1 / cmath.cos(z)), ("IMCSC", lambda z: 1 / cmath.sin(z)), ("IMCOT", lambda z: 1 / cmath.tan(z)), ("IMSECH", lambda z: 1 / cmath.cosh(z)), ("IMCSCH", lambda z: 1 / cmath.sinh(z))):
    parts(f"{name}({sb})", f(b))
parts(f"IMPOWER({sa},3)", a ** 3)
add("complex", (f"IMABS({sa})", 5), (f"IMARGUMENT({sa})", cmath.phase(a)), ("COMPLEX(3,4)", "3+4i"), ("COMPLEX(0,-1)", "-i"), ('COMPLEX(2,1,"j")', "2+j"))

# Units
for amount, unit, other, result in ((1, "lbm", "kg", 0.45359237), (68, "F", "C", 20), (2.5, "ft", "m", 0.762), (1, "mi", "km", 1.609344), (3, "in", "cm", 7.62), (100, "C", "K", 373.15), (1, "hr", "mn", 60), (2, "day", "hr", 48), (1, "gal", "l", 3.785411784), (1, "N", "dyn", 100000), (5, "kW", "W", 5000), (1, "atm", "Pa", 101325), (1, "yd", "m", 0.9144), (1, "Nmi", "m", 1852), (1, "ozm", "g", 28.349523125), (1, "J", "e", 1e7), (1, "cal", "J", 4.1868), (1, "T", "ga", 10000)):
    add("units", (f'CONVERT({amount},"{unit}","{other}")', result))

# Lists
q = lambda share: np.quantile(x, share)
exc = lambda share: np.quantile(x, share, method="weibull")
add("lists", ("AVERAGE(A1:A12)", x.mean()), ("MEDIAN(A1:A12)", np.median(x)), ("STDEV(A1:A12)", x.std(ddof=1)), ("STDEVP(A1:A12)", x.std()), ("STDEV.S(A1:A12)", x.std(ddof=1)), ("STDEV.P(A1:A12)", x.std()), ("STDEVA(A1:A12)", x.std(ddof=1)), ("STDEVPA(A1:A12)", x.std()), ("VAR(A1:A12)", x.var(ddof=1)), ("VARP(A1:A12)", x.var()), ("VAR.S(A1:A12)", x.var(ddof=1)), ("VAR.P(A1:A12)", x.var()), ("VARA(A1:A12)", x.var(ddof=1)), ("VARPA(A1:A12)", x.var()), ("AVEDEV(A1:A12)", abs(x - x.mean()).mean()), ("DEVSQ(A1:A12)", ((x - x.mean()) ** 2).sum()), ("GEOMEAN(A1:A12)", stats.gmean(x)), ("HARMEAN(A1:A12)", stats.hmean(x)), ("KURT(A1:A12)", stats.kurtosis(x, bias=False)), ("SKEW(A1:A12)", stats.skew(x, bias=False)), ("SKEW.P(A1:A12)", stats.skew(x)), ("TRIMMEAN(A1:A12,0.2)", stats.trim_mean(x, 0.1)), ("LARGE(A1:A12,3)", sorted(X)[-3]), ("SMALL(A1:A12,4)", sorted(X)[3]), ("RANK(7,A1:A12)", 1 + sum(v > 7 for v in X)), ("RANK.EQ(7,A1:A12,1)", 1 + sum(v < 7 for v in X)), ("MODE.SNGL({2,3,3,5,5})", 3), ("STANDARDIZE(7,5,1.5)", (7 - 5) / 1.5))
for k in (0.1, 0.25, 0.5, 0.81):
    add("percentiles", (f"PERCENTILE(A1:A12,{k})", q(k)), (f"PERCENTILE.INC(A1:A12,{k})", q(k)), (f"PERCENTILE.EXC(A1:A12,{k})", exc(k)))
for k in (1, 2, 3):
    add("percentiles", (f"QUARTILE(A1:A12,{k})", q(k / 4)), (f"QUARTILE.INC(A1:A12,{k})", q(k / 4)), (f"QUARTILE.EXC(A1:A12,{k})", exc(k / 4)))
ranked = sorted(X)
for v in (4.0, 5.0, 9.5):
    at = np.interp(v, ranked, range(12))
    add("percentiles", (f"PERCENTRANK(A1:A12,{v},6)", math.floor(at / 11 * 1e6 + 1e-7) / 1e6), (f"PERCENTRANK.INC(A1:A12,{v},6)", math.floor(at / 11 * 1e6 + 1e-7) / 1e6), (f"PERCENTRANK.EXC(A1:A12,{v},6)", math.floor((at + 1) / 13 * 1e6 + 1e-7) / 1e6))

# Lines
line = stats.linregress(x, y)
n = 12
resid = y - (line.intercept + line.slope * x)
steyx = math.sqrt((resid ** 2).sum() / (n - 2))
sxx = ((x - x.mean()) ** 2).sum()
add("lines", ("SLOPE(B1:B12,A1:A12)", line.slope), ("INTERCEPT(B1:B12,A1:A12)", line.intercept), ("RSQ(B1:B12,A1:A12)", line.rvalue ** 2), ("CORREL(A1:A12,B1:B12)", line.rvalue), ("PEARSON(A1:A12,B1:B12)", line.rvalue), ("STEYX(B1:B12,A1:A12)", steyx), ("COVAR(A1:A12,B1:B12)", np.cov(x, y, ddof=0)[0, 1]), ("COVARIANCE.P(A1:A12,B1:B12)", np.cov(x, y, ddof=0)[0, 1]), ("COVARIANCE.S(A1:A12,B1:B12)", np.cov(x, y)[0, 1]), ("FORECAST(6.5,B1:B12,A1:A12)", line.intercept + line.slope * 6.5), ("FORECAST.LINEAR(11,B1:B12,A1:A12)", line.intercept + line.slope * 11), ("FISHER(0.4)", math.atanh(0.4)), ("FISHERINV(0.4)", math.tanh(0.4)))
lin = {(1, 1): line.slope, (1, 2): line.intercept, (2, 1): line.stderr, (2, 2): line.intercept_stderr, (3, 1): line.rvalue ** 2, (3, 2): steyx, (4, 1): line.rvalue ** 2 / (1 - line.rvalue ** 2) * (n - 2), (4, 2): n - 2, (5, 1): line.slope ** 2 * sxx, (5, 2): (resid ** 2).sum()}
for (r, c), v in lin.items():
    add("lines", (f"INDEX(LINEST(B1:B12,A1:A12,TRUE,TRUE),{r},{c})", v))
add("lines", ("INDEX(LINEST(B1:B12,A1:A12,FALSE),1,1)", (x * y).sum() / (x * x).sum()))
design = np.column_stack([x, x ** 2, np.ones(n)])
two = np.linalg.lstsq(design, y, rcond=None)[0]
add("lines", ("INDEX(LINEST(B1:B12,A1:A12^{1,2}),1,1)", two[1]), ("INDEX(LINEST(B1:B12,A1:A12^{1,2}),1,2)", two[0]), ("INDEX(LINEST(B1:B12,A1:A12^{1,2}),1,3)", two[2]))
log = stats.linregress(x, np.log(y))
add("lines", ("INDEX(LOGEST(B1:B12,A1:A12),1,1)", math.exp(log.slope)), ("INDEX(LOGEST(B1:B12,A1:A12),1,2)", math.exp(log.intercept)), ("TREND(B1:B12,A1:A12,8)", line.intercept + line.slope * 8), ("SUM(TREND(B1:B12,A1:A12))", (line.intercept + line.slope * x).sum()), ("GROWTH(B1:B12,A1:A12,8)", math.exp(log.intercept + log.slope * 8)), ("SUM(GROWTH(B1:B12,A1:A12,{1,2}))", math.exp(log.intercept + log.slope) + math.exp(log.intercept + 2 * log.slope)))
m = np.array([[2.0, 1, 3], [0, 4, -1], [5, 2, 2]])
lit = "{2,1,3;0,4,-1;5,2,2}"
add("matrices", (f"MDETERM({lit})", np.linalg.det(m)), *[(f"INDEX(MINVERSE({lit}),{i + 1},{j + 1})", np.linalg.inv(m)[i, j]) for i in range(3) for j in range(3)], *[(f"INDEX(MMULT({lit},{lit}),{i + 1},{j + 1})", (m @ m)[i, j]) for i in range(3) for j in range(3)], ("SUM(MUNIT(4))", 4))

# Distributions
N = stats.norm
for v in (-1.3, 0.4, 2.1):
    add("normal", (f"NORM.S.DIST({v},TRUE)", N.cdf(v)), (f"NORM.S.DIST({v},FALSE)", N.pdf(v)), (f"NORMSDIST({v})", N.cdf(v)), (f"NORM.DIST({v},0.5,2,TRUE)", N.cdf(v, 0.5, 2)), (f"NORM.DIST({v},0.5,2,FALSE)", N.pdf(v, 0.5, 2)), (f"NORMDIST({v},0.5,2,TRUE)", N.cdf(v, 0.5, 2)), (f"GAUSS({v})", N.cdf(v) - 0.5), (f"PHI({v})", N.pdf(v)))
for p in (0.05, 0.3, 0.975):
    add("normal", (f"NORM.S.INV({p})", N.ppf(p)), (f"NORMSINV({p})", N.ppf(p)), (f"NORM.INV({p},3,1.5)", N.ppf(p, 3, 1.5)), (f"NORMINV({p},3,1.5)", N.ppf(p, 3, 1.5)), (f"LOGNORM.INV({p},1,0.5)", stats.lognorm.ppf(p, 0.5, scale=math.e)), (f"LOGINV({p},1,0.5)", stats.lognorm.ppf(p, 0.5, scale=math.e)), (f"CONFIDENCE({p},2.5,50)", N.ppf(1 - p / 2) * 2.5 / math.sqrt(50)), (f"CONFIDENCE.NORM({p},2.5,50)", N.ppf(1 - p / 2) * 2.5 / math.sqrt(50)), (f"CONFIDENCE.T({p},2.5,50)", stats.t.ppf(1 - p / 2, 49) * 2.5 / math.sqrt(50)))
    add("t, chi, F", (f"T.INV({p},9)", stats.t.ppf(p, 9)), (f"T.INV.2T({p},9)", stats.t.ppf(1 - p / 2, 9)), (f"TINV({p},9)", stats.t.ppf(1 - p / 2, 9)), (f"CHISQ.INV({p},4)", stats.chi2.ppf(p, 4)), (f"CHISQ.INV.RT({p},4)", stats.chi2.isf(p, 4)), (f"CHIINV({p},4)", stats.chi2.isf(p, 4)), (f"F.INV({p},5,8)", stats.f.ppf(p, 5, 8)), (f"F.INV.RT({p},5,8)", stats.f.isf(p, 5, 8)), (f"FINV({p},5,8)", stats.f.isf(p, 5, 8)))
    add("beta and gamma", (f"BETA.INV({p},2,3)", stats.beta.ppf(p, 2, 3)), (f"BETAINV({p},2,3,1,4)", stats.beta.ppf(p, 2, 3, 1, 3)), (f"GAMMA.INV({p},3,2)", stats.gamma.ppf(p, 3, scale=2)), (f"GAMMAINV({p},3,2)", stats.gamma.ppf(p, 3, scale=2)), (f"BINOM.INV(20,0.3,{p})", stats.binom.ppf(p, 20, 0.3)), (f"CRITBINOM(20,0.3,{p})", stats.binom.ppf(p, 20, 0.3)))
for v in (0.3, 1.2, 4.5):
    add("t, chi, F", (f"T.DIST({v},9,TRUE)", stats.t.cdf(v, 9)), (f"T.DIST({v},9,FALSE)", stats.t.pdf(v, 9)), (f"T.DIST.RT({v},9)", stats.t.sf(v, 9)), (f"T.DIST.2T({v},9)", 2 * stats.t.sf(v, 9)), (f"TDIST({v},9,1)", stats.t.sf(v, 9)), (f"TDIST({v},9,2)", 2 * stats.t.sf(v, 9)), (f"CHISQ.DIST({v},4,TRUE)", stats.chi2.cdf(v, 4)), (f"CHISQ.DIST({v},4,FALSE)", stats.chi2.pdf(v, 4)), (f"CHISQ.DIST.RT({v},4)", stats.chi2.sf(v, 4)), (f"CHIDIST({v},4)", stats.chi2.sf(v, 4)), (f"F.DIST({v},5,8,TRUE)", stats.f.cdf(v, 5, 8)), (f"F.DIST({v},5,8,FALSE)", stats.f.pdf(v, 5, 8)), (f"F.DIST.RT({v},5,8)", stats.f.sf(v, 5, 8)), (f"FDIST({v},5,8)", stats.f.sf(v, 5, 8)))
    add("beta and gamma", (f"GAMMA.DIST({v},3,2,TRUE)", stats.gamma.cdf(v, 3, scale=2)), (f"GAMMA.DIST({v},3,2,FALSE)", stats.gamma.pdf(v, 3, scale=2)), (f"GAMMADIST({v},3,2,TRUE)", stats.gamma.cdf(v, 3, scale=2)), (f"LOGNORM.DIST({v},1,0.5,TRUE)", stats.lognorm.cdf(v, 0.5, scale=math.e)), (f"LOGNORM.DIST({v},1,0.5,FALSE)", stats.lognorm.pdf(v, 0.5, scale=math.e)), (f"LOGNORMDIST({v},1,0.5)", stats.lognorm.cdf(v, 0.5, scale=math.e)), (f"EXPON.DIST({v},0.7,TRUE)", 1 - math.exp(-0.7 * v)), (f"EXPON.DIST({v},0.7,FALSE)", 0.7 * math.exp(-0.7 * v)), (f"EXPONDIST({v},0.7,TRUE)", 1 - math.exp(-0.7 * v)), (f"WEIBULL.DIST({v},1.5,2,TRUE)", stats.weibull_min.cdf(v, 1.5, scale=2)), (f"WEIBULL.DIST({v},1.5,2,FALSE)", stats.weibull_min.pdf(v, 1.5, scale=2)), (f"WEIBULL({v},1.5,2,TRUE)", stats.weibull_min.cdf(v, 1.5, scale=2)))
for v in (0.1, 0.45, 0.8):
    add("beta and gamma", (f"BETA.DIST({v},2,3,TRUE)", stats.beta.cdf(v, 2, 3)), (f"BETA.DIST({v},2,3,FALSE)", stats.beta.pdf(v, 2, 3)), (f"BETADIST({v},2,3)", stats.beta.cdf(v, 2, 3)), (f"BETADIST({1 + 3 * v},2,3,1,4)", stats.beta.cdf(v, 2, 3)))
for k in (0, 3, 8):
    add("counts", (f"BINOM.DIST({k},12,0.35,TRUE)", stats.binom.cdf(k, 12, 0.35)), (f"BINOM.DIST({k},12,0.35,FALSE)", stats.binom.pmf(k, 12, 0.35)), (f"BINOMDIST({k},12,0.35,TRUE)", stats.binom.cdf(k, 12, 0.35)), (f"POISSON.DIST({k},4.2,TRUE)", stats.poisson.cdf(k, 4.2)), (f"POISSON.DIST({k},4.2,FALSE)", stats.poisson.pmf(k, 4.2)), (f"POISSON({k},4.2,TRUE)", stats.poisson.cdf(k, 4.2)), (f"NEGBINOM.DIST({k},5,0.4,TRUE)", stats.nbinom.cdf(k, 5, 0.4)), (f"NEGBINOM.DIST({k},5,0.4,FALSE)", stats.nbinom.pmf(k, 5, 0.4)), (f"NEGBINOMDIST({k},5,0.4)", stats.nbinom.pmf(k, 5, 0.4)), (f"HYPGEOM.DIST({k},10,8,20,TRUE)", stats.hypergeom.cdf(k, 20, 8, 10)), (f"HYPGEOM.DIST({k},10,8,20,FALSE)", stats.hypergeom.pmf(k, 20, 8, 10)), (f"HYPGEOMDIST({k},10,8,20)", stats.hypergeom.pmf(k, 20, 8, 10)))
add("tests", ("PROB({1,2,3,4},{0.1,0.2,0.3,0.4},2,3)", 0.5), ("T.TEST(A1:A12,B1:B12,2,1)", stats.ttest_rel(x, y).pvalue), ("T.TEST(A1:A12,B1:B12,2,2)", stats.ttest_ind(x, y).pvalue), ("T.TEST(A1:A12,B1:B12,2,3)", stats.ttest_ind(x, y, equal_var=False).pvalue), ("TTEST(A1:A12,B1:B12,1,1)", stats.ttest_rel(x, y).pvalue / 2), ("F.TEST(A1:A12,B1:B12)", 2 * min(stats.f.cdf(x.var(ddof=1) / y.var(ddof=1), 11, 11), stats.f.sf(x.var(ddof=1) / y.var(ddof=1), 11, 11))), ("FTEST(A1:A12,B1:B12)", 2 * min(stats.f.cdf(x.var(ddof=1) / y.var(ddof=1), 11, 11), stats.f.sf(x.var(ddof=1) / y.var(ddof=1), 11, 11))), ("Z.TEST(A1:A12,5)", N.sf((x.mean() - 5) / (x.std(ddof=1) / math.sqrt(12)))), ("ZTEST(A1:A12,5,2)", N.sf((x.mean() - 5) / (2 / math.sqrt(12)))), ("CHISQ.TEST({58,35;11,25;10,23},{45.35,47.65;17.56,18.44;16.09,16.91})", stats.chi2.sf(sum((o - e) ** 2 / e for o, e in zip((58, 35, 11, 25, 10, 23), (45.35, 47.65, 17.56, 18.44, 16.09, 16.91))), 2)), ("CHITEST({58,35;11,25;10,23},{45.35,47.65;17.56,18.44;16.09,16.91})", stats.chi2.sf(sum((o - e) ** 2 / e for o, e in zip((58, 35, 11, 25, 10, 23), (45.35, 47.65, 17.56, 18.44, 16.09, 16.91))), 2)))

# Money
def pv(rate, n, pmt, fv=0, due=0):
    return -(fv + pmt * (1 + rate * due) * ((1 + rate) ** n - 1) / rate) / (1 + rate) ** n
def pmt(rate, n, p, fv=0, due=0):
    return -(p * (1 + rate) ** n + fv) * rate / ((1 + rate * due) * ((1 + rate) ** n - 1))
def fv(rate, n, pay, p=0, due=0):
    return -(p * (1 + rate) ** n + pay * (1 + rate * due) * ((1 + rate) ** n - 1) / rate)
for rate, n, loan in ((0.005, 60, 20000), (0.01, 24, 5000), (0.0325, 10, 1500)):
    pay = pmt(rate, n, loan)
    balance = lambda k: -fv(rate, k, pay, loan)
    interest = [-balance(k) * rate for k in range(n)]
    add("loans", (f"PMT({rate},{n},{loan})", pay), (f"PMT({rate},{n},{loan},500,1)", pmt(rate, n, loan, 500, 1)), (f"PV({rate},{n},-300)", pv(rate, n, -300)), (f"PV({rate},{n},-300,100,1)", pv(rate, n, -300, 100, 1)), (f"FV({rate},{n},-300)", fv(rate, n, -300)), (f"FV({rate},{n},-300,-1000,1)", fv(rate, n, -300, -1000, 1)), (f"NPER({rate},-{-pay:.4f},{loan})", math.log(round(-pay, 4) / (round(-pay, 4) - loan * rate)) / math.log(1 + rate)), (f"RATE({n},{pay:.6f},{loan})", optimize.brentq(lambda r: pmt(r, n, loan) - round(pay, 6), 1e-6, 0.5)), (f"IPMT({rate},3,{n},{loan})", interest[2]), (f"PPMT({rate},3,{n},{loan})", pay - interest[2]), (f"CUMIPMT({rate},{n},{loan},2,6,0)", sum(interest[1:6])), (f"CUMPRINC({rate},{n},{loan},2,6,0)", 5 * pay - sum(interest[1:6])), (f"ISPMT({rate},2,{n},{loan})", loan * rate * (2 / n - 1)))
flows = [-1000, 300, 420, 380, 150]
irr = optimize.brentq(lambda r: sum(v / (1 + r) ** k for k, v in enumerate(flows)), -0.5, 1)
add("flows", ("IRR({-1000,300,420,380,150})", irr), ("NPV(0.08,300,420,380,150)", sum(v / 1.08 ** (k + 1) for k, v in enumerate(flows[1:]))), ("MIRR({-1000,300,420,380,150},0.1,0.12)", (sum(v * 1.12 ** (4 - k) for k, v in enumerate(flows) if v > 0) / 1000) ** (1 / 4) - 1), ("EFFECT(0.0525,4)", (1 + 0.0525 / 4) ** 4 - 1), ("NOMINAL(0.053543,4)", 4 * (1.053543 ** 0.25 - 1)), ("RRI(96,10000,11000)", 1.1 ** (1 / 96) - 1), ("PDURATION(0.025,2000,2200)", math.log(1.1) / math.log(1.025)), ("FVSCHEDULE(1,{0.09,0.11,0.1})", 1.09 * 1.11 * 1.1), ("DOLLARDE(1.02,16)", 1.125), ("DOLLARFR(1.125,16)", 1.02))
for days, values in (([0, 60, 150, 400], [-10000, 2750, 4250, 3800]), ([0, 31, 365, 700], [-500, 120, 250, 260]), ([0, 200, 410], [-900, 300, 500])):
    when = [date(2026, 1, 1) + timedelta(days=d) for d in days]
    vs, ds = ",".join(map(str, values)), ",".join(str(serial(d)) for d in when)
    xnpv = lambda r: sum(v / (1 + r) ** (d / 365) for v, d in zip(values, days))
    add("flows", (f"XNPV(0.09,{{{vs}}},{{{ds}}})", xnpv(0.09)), (f"XIRR({{{vs}}},{{{ds}}})", optimize.brentq(xnpv, -0.9, 5)))
for cost, salvage, life in ((10000, 1000, 5), (2400, 300, 10)):
    ddb = lambda k, f=2: (lambda book: [max(0, min(book[j] * f / life, book[j] - salvage)) for j in range(k)][-1])([cost * (1 - f / life) ** j for j in range(life)])
    rate = round(1 - (salvage / cost) ** (1 / life), 3)
    add("depreciation", (f"SLN({cost},{salvage},{life})", (cost - salvage) / life), (f"SYD({cost},{salvage},{life},2)", (cost - salvage) * (life - 1) * 2 / (life * (life + 1))), (f"DDB({cost},{salvage},{life},1)", cost * 2 / life), (f"DDB({cost},{salvage},{life},2)", ddb(2)), (f"DB({cost},{salvage},{life},1)", cost * rate), (f"DB({cost},{salvage},{life},2)", cost * (1 - rate) * rate), (f"VDB({cost},{salvage},{life},0,1)", cost * 2 / life), (f"VDB({cost},{salvage},{life},0,{life})", cost - salvage))

# Days
for day in DAYS[:6]:
    s = serial(day)
    last = calendar.monthrange(day.year, day.month)[1]
    add("days", (f"YEAR({s})", day.year), (f"MONTH({s})", day.month), (f"DAY({s})", day.day), (f"WEEKDAY({s})", day.isoweekday() % 7 + 1), (f"WEEKDAY({s},2)", day.isoweekday()), (f"WEEKDAY({s},3)", day.weekday()), (f"ISOWEEKNUM({s})", day.isocalendar()[1]), (f"WEEKNUM({s},21)", day.isocalendar()[1]), (f"WEEKNUM({s})", int(day.strftime("%U")) + (0 if date(day.year, 1, 1).isoweekday() == 7 else 1)), (f"WEEKNUM({s},2)", int(day.strftime("%W")) + (0 if date(day.year, 1, 1).isoweekday() == 1 else 1)), (f"EOMONTH({s},0)", serial(day.replace(day=last))), (f"DATE({day.year},{day.month},{day.day})", s), (f"DAYS({s},{s - 40})", 40), (f"NETWORKDAYS({s},{s + 30})", sum((day + timedelta(days=k)).weekday() < 5 for k in range(31))), (f"DATEDIF({s},{s + 400},\"d\")", 400))
    d360 = lambda a, b: (b.year - a.year) * 360 + (b.month - a.month) * 30 + min(b.day, 30) - min(a.day, 30)
    other = day + timedelta(days=200)
    add("days", (f"DAYS360({s},{s + 200},TRUE)", d360(day, other)), (f"YEARFRAC({s},{s + 200},4)", d360(day, other) / 360), (f"YEARFRAC({s},{s + 200},2)", 200 / 360), (f"YEARFRAC({s},{s + 200},3)", 200 / 365))
print(json.dumps(groups, indent=0))
