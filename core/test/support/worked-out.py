"""Random rows, and formulas over them with results of this language's own arithmetic; prints JSON."""
import calendar, json, math, random, statistics, sys
from datetime import date, timedelta
seed = int(sys.argv[1])
random.seed(seed)
base = date(1899, 12, 30)
serial = lambda day: (day - base).days
sites = ["Dock", "Quay", "Mill", "Harbour House", "Spire"]
rows = [[serial(date(2026, 1, 1) + timedelta(days=random.randrange(300))), random.choice(sites), random.choice(["lift", "escalator"]), random.randrange(1, 40) / 4, round(random.uniform(-50, 900), 2)] for _ in range(60)]
last = len(rows) + 1
D, S, K, H, P = (f"{c}$2:{c}${last}" for c in "ABCDE")
days, names, kinds, hours, parts = zip(*rows)
picked = [p for n, p in zip(names, parts) if n == "Dock"]
both = [p for n, k, p in zip(names, kinds, parts) if n == "Quay" and k == "lift"]
late = [h for d, h in zip(days, hours) if d > 46150]
mean, dev = statistics.mean(parts), statistics.stdev(parts)
quart = statistics.quantiles(parts, n=4, method="inclusive")
slope, cut = statistics.linear_regression(hours, parts)
when = base + timedelta(days=days[0])
def month_end(day, months):
    at = day.year * 12 + day.month - 1 + months
    return date(at // 12, at % 12 + 1, calendar.monthrange(at // 12, at % 12 + 1)[1])
def work_days(a, b):
    return sum(1 for n in range((b - a).days + 1) if (a + timedelta(days=n)).weekday() < 5)
def work_day(day, count):
    while count:
        day += timedelta(days=1)
        count -= day.weekday() < 5
    return day
rate, terms, loan = 0.035 / 12, 48, 12000
payment = -loan * rate / (1 - (1 + rate) ** -terms)
flows = [-1000, 300, 420, 380, 150]
at = random.randrange(60)
text = "Harbour House, level 12"
f = [
  (f"SUM({P})", math.fsum(parts)), (f"AVERAGE({P})", mean), (f"MEDIAN({P})", statistics.median(parts)), (f"MIN({P})", min(parts)), (f"MAX({P})", max(parts)),
  (f"COUNT({P})", 60), (f"COUNTA({S})", 60), (f"STDEV({P})", dev), (f"STDEV.P({P})", statistics.pstdev(parts)), (f"VAR.S({P})", statistics.variance(parts)), (f"VARP({P})", statistics.pvariance(parts)),
  (f"QUARTILE({P},1)", quart[0]), (f"QUARTILE.INC({P},3)", quart[2]), (f"LARGE({P},3)", sorted(parts)[-3]), (f"SMALL({P},5)", sorted(parts)[4]), (f"RANK({parts[at]},{P})", 1 + sum(p > parts[at] for p in parts)),
  (f"SLOPE({P},{H})", slope), (f"INTERCEPT({P},{H})", cut), (f"CORREL({P},{H})", statistics.correlation(parts, hours)), (f"MODE({H})", next(h for h in hours if hours.count(h) == max(map(hours.count, hours)))),
  (f'SUMIF({S},"Dock",{P})', math.fsum(picked)), (f'COUNTIF({S},"*ock")', len(picked)), (f'AVERAGEIF({S},"Dock",{P})', statistics.mean(picked)),
  (f'SUMIFS({P},{S},"Quay",{K},"lift")', math.fsum(both)), (f'COUNTIFS({S},"Quay",{K},"lift")', len(both)), (f'SUMIF({D},">46150",{H})', math.fsum(late)), (f'MAXIFS({P},{S},"Dock")', max(picked)), (f'MINIFS({P},{S},"Dock")', min(picked)),
  (f"SUMPRODUCT({H},{P})", math.fsum(h * p for h, p in zip(hours, parts))), (f'SUMPRODUCT(({S}="Mill")*({H}>5)*{P})', math.fsum(p for n, h, p in zip(names, hours, parts) if n == "Mill" and h > 5)),
  (f'INDEX({P},MATCH("Spire",{S},0))', parts[names.index("Spire")]), (f'VLOOKUP("Mill",B$2:E${last},4,FALSE)', parts[names.index("Mill")]), (f'XLOOKUP("Quay",{S},{H})', hours[names.index("Quay")]), (f'MATCH("Mill",{S},0)', names.index("Mill") + 1),
  (f"EOMONTH(A2,3)", serial(month_end(when, 3))), ("YEAR(A2)", when.year),
  ("MONTH(A2)", when.month), ("DAY(A2)", when.day), ("WEEKDAY(A2)", when.isoweekday() % 7 + 1), ("WEEKDAY(A2,2)", when.isoweekday()), ("ISOWEEKNUM(A2)", when.isocalendar()[1]),
  ("NETWORKDAYS(A2,A2+45)", work_days(when, when + timedelta(days=45))), ("WORKDAY(A2,17)", serial(work_day(when, 17))), ("DATE(2024,2,30)", serial(date(2024, 3, 1))), ("DATEDIF(DATE(2023,5,17),DATE(2026,11,3),\"m\")", 41), ("DAYS(DATE(2026,3,1),A2)", serial(date(2026, 3, 1)) - days[0]),
  ("PMT(0.035/12,48,12000)", payment), ("FV(0.035/12,48,-250)", 250 * ((1 + rate) ** terms - 1) / rate), ("PV(0.035/12,48,-250)", 250 * (1 - (1 + rate) ** -terms) / rate), ("NPV(0.08,300,420,380)", sum(v / 1.08 ** (n + 1) for n, v in enumerate([300, 420, 380]))), ("SLN(9000,900,6)", 1350),
  ("ROUND(2.675,2)", 2.68), ("ROUND(-1234.5,-2)", -1200), ("ROUNDUP(3.0001,1)", 3.1), ("ROUNDDOWN(-3.79,1)", -3.7), ("INT(-3.2)", -4), ("TRUNC(-3.7)", -3), ("MOD(-7,3)", -7 % 3), ("MROUND(17,5)", 15), ("CEILING(4.21,0.25)", 4.25), ("FLOOR(4.21,0.25)", 4), ("QUOTIENT(17,5)", 17 // 5), ("GCD(84,36)", math.gcd(84, 36)), ("LCM(12,18)", math.lcm(12, 18)), ("FACT(9)", math.factorial(9)), ("COMBIN(12,5)", math.comb(12, 5)),
  ("SQRT(2)", math.sqrt(2)), ("EXP(1.5)", math.exp(1.5)), ("LN(17)", math.log(17)), ("LOG10(250)", math.log10(250)), ("LOG(50,3)", math.log(50, 3)), ("POWER(1.07,9)", 1.07 ** 9), ("PI()", math.pi), ("ATAN2(2,3)", math.atan2(3, 2)), ("SIN(1)", math.sin(1)), ("DEGREES(1)", math.degrees(1)),
  ("NORM.S.DIST(1.2,TRUE)", statistics.NormalDist().cdf(1.2)), ("NORM.DIST(40,35,4,TRUE)", statistics.NormalDist(35, 4).cdf(40)), ("GEOMEAN(2,8,4)", statistics.geometric_mean([2, 8, 4])), ("HARMEAN(2,8,4)", statistics.harmonic_mean([2, 8, 4])), ("SUMSQ(3,4)", 25), ("AVEDEV(2,8,5)", 2),
  (f'LEFT("{text}",7)', text[:7]), (f'RIGHT("{text}",2)', text[-2:]), (f'MID("{text}",9,5)', text[8:13]), (f'LEN("{text}")', len(text)), (f'UPPER("{text}")', text.upper()), (f'LOWER("{text}")', text.lower()), (f'PROPER("{text.lower()}")', text.title()), (f'FIND("l","{text}")', text.index("l") + 1), (f'SUBSTITUTE("{text}","H","M")', text.replace("H", "M")), ('TRIM("  a   b ")', "a b"), ('REPT("ab",3)', "ababab"), ('CODE("A")', ord("A")), ('CHAR(66)', chr(66)), ('EXACT("a","A")', False),
  (f'TEXTJOIN(", ",TRUE,B2:B6)', ", ".join(names[:5])), ('TEXT(1234567.891,"#,##0.00")', f"{1234567.891:,.2f}"), ('TEXT(0.2734,"0.0%")', f"{0.2734:.1%}"), ('TEXT(A2,"yyyy-mm-dd")', when.isoformat()), ('DEC2HEX(48879)', f"{48879:X}"), ('BIN2DEC("101101")', int("101101", 2)), ('ROMAN(1987)', "MCMLXXXVII"),
  (f"IF(SUM({P})>0,\"in\",\"out\")", "in" if sum(parts) > 0 else "out"), ("AND(TRUE,1>2)", False), ("OR(FALSE,2>1)", True), ("XOR(TRUE,TRUE)", False), ("CHOOSE(2,\"a\",\"b\")", "b"), ("SUMX2MY2(D2:D9,E2:E9)", math.fsum(h * h - p * p for h, p in zip(hours[:8], parts[:8]))),
]
pst, sd, n = statistics.pstdev(parts), dev, 60
z = [(p - mean) / sd for p in parts]
f += [
  (f"SKEW({P})", n / ((n - 1) * (n - 2)) * math.fsum(v ** 3 for v in z)),
  (f"KURT({P})", n * (n + 1) / ((n - 1) * (n - 2) * (n - 3)) * math.fsum(v ** 4 for v in z) - 3 * (n - 1) ** 2 / ((n - 2) * (n - 3))),
  (f"RSQ({P},{H})", statistics.correlation(parts, hours) ** 2), (f"PEARSON({P},{H})", statistics.correlation(parts, hours)), (f"DEVSQ({P})", math.fsum((p - mean) ** 2 for p in parts)), (f"STDEVP({P})", pst),
  (f"TRIMMEAN({P},0.1)", statistics.mean(sorted(parts)[3:-3])), ("STANDARDIZE(42,40,1.5)", 2 / 1.5), (f"FORECAST(12,{P},{H})", slope * 12 + cut), ("CONFIDENCE(0.05,2.5,50)", statistics.NormalDist().inv_cdf(0.975) * 2.5 / math.sqrt(50)),
  ("SUMX2PY2(D2:D9,E2:E9)", math.fsum(h * h + p * p for h, p in zip(hours[:8], parts[:8]))), ("SUMXMY2(D2:D9,E2:E9)", math.fsum((h - p) ** 2 for h, p in zip(hours[:8], parts[:8]))),
  ('ARABIC("MCMLXXXVII")', 1987), ("BASE(255,16)", "FF"), ("BASE(5,2,8)", "00000101"), ('DECIMAL("FF",16)', 255), ("DEC2BIN(9)", "1001"), ("DEC2BIN(9,6)", "001001"), ("DEC2BIN(-3)", "1111111101"), ("DEC2HEX(-1)", "FFFFFFFFFF"), ('HEX2DEC("BEEF")', 48879), ('HEX2DEC("FFFFFFFFFF")', -1), ('BIN2DEC("1111111101")', -3),
  ("ASIN(0.5)", math.asin(0.5)), ("ACOS(0.5)", math.acos(0.5)), ("ATAN(2)", math.atan(2)), ("ATAN2(-1,-1)", math.atan2(-1, -1)), ("SINH(1)", math.sinh(1)), ("COSH(1)", math.cosh(1)), ("TANH(1)", math.tanh(1)), ("COS(1)", math.cos(1)), ("TAN(1)", math.tan(1)), ("RADIANS(90)", math.pi / 2),
  ("EVEN(3.2)", 4), ("EVEN(-1)", -2), ("ODD(2.1)", 3), ("ODD(-2)", -3), ("QUOTIENT(-7,2)", -3), ("GCD(24,36,60)", 12), ("LCM(4,6,10)", 60), ("FACT(0)", 1), ("FACT(5.9)", 120), ("LOG(1000)", 3), ("SUMSQ(D2:D4)", math.fsum(h * h for h in hours[:3])),
]
def left(period):
    return loan * (1 + rate) ** period + payment * ((1 + rate) ** period - 1) / rate
interest = lambda period: -left(period - 1) * rate
f += [
  ("IPMT(0.035/12,7,48,12000)", interest(7)), ("PPMT(0.035/12,7,48,12000)", payment - interest(7)), ("CUMIPMT(0.035/12,48,12000,3,9,0)", math.fsum(interest(p) for p in range(3, 10))), ("CUMPRINC(0.035/12,48,12000,3,9,0)", math.fsum(payment - interest(p) for p in range(3, 10))),
  ("NPER(0.035/12,-250,12000)", -math.log(1 - 12000 * rate / 250) / math.log(1 + rate)), ("PMT(0.01,12,-1000,200,1)", (1000 * 1.01 ** 12 - 200) * 0.01 / (1.01 ** 12 - 1) / 1.01),
  ("PMT(0,10,1000)", -100), ("FV(0,10,-50,-100)", 600), ("PV(0,10,-50)", 500), ("NPER(0,-50,1000)", 20),
  ("EFFECT(0.0525,4)", (1 + 0.0525 / 4) ** 4 - 1), ("NOMINAL(0.053543,4)", 4 * (1.053543 ** 0.25 - 1)), ("SYD(30000,7500,10,1)", 22500 * 10 / 55), ("RRI(96,10000,11000)", 1.1 ** (1 / 96) - 1), ("PDURATION(0.025,2000,2200)", math.log(1.1) / math.log(1.025)),
  ("MIRR(H300:H304,0.1,0.12)", (sum(v * 1.12 ** (4 - i) for i, v in enumerate(flows) if v > 0) / 1000) ** 0.25 - 1),
]
def bisect(of, low, high):
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (middle, high) if (of(low) > 0) == (of(middle) > 0) else (low, middle)
    return (low + high) / 2
f += [("IRR(H300:H304)", bisect(lambda r: sum(v / (1 + r) ** i for i, v in enumerate(flows)), -0.5, 1)), ("RATE(48,-250,11000)", bisect(lambda r: 11000 - 250 * (1 - (1 + r) ** -48) / r, 1e-6, 0.1))]
def fixed_declining(cost, salvage, life, period, month=12):
    share = round(1 - (salvage / cost) ** (1 / life), 3)
    total = first = cost * share * month / 12
    for at in range(2, period + 1):
        first = (cost - total) * share * (1 if at <= life else (12 - month) / 12)
        total += first
    return first
def double_declining(cost, salvage, life, period, factor=2):
    book = cost
    for _ in range(period):
        step = min(book * factor / life, max(0, book - salvage))
        book -= step
    return step
f += [("DB(10000,1000,6,1)", fixed_declining(10000, 1000, 6, 1)), ("DB(10000,1000,6,4)", fixed_declining(10000, 1000, 6, 4)), ("DB(10000,1000,6,3,7)", fixed_declining(10000, 1000, 6, 3, 7)), ("DDB(2400,300,10,1)", double_declining(2400, 300, 10, 1)), ("DDB(2400,300,10,9)", double_declining(2400, 300, 10, 9)), ("DDB(2400,300,10,2,1.5)", double_declining(2400, 300, 10, 2, 1.5))]
# Pairs with a blank or a text on one side are passed over as pairs.
xs, ys = [1, 2, 4, 5], [3.5, 4.25, 9, 8]
f += [("CORREL(J300:J305,K300:K305)", statistics.correlation(xs, ys)), ("SLOPE(K300:K305,J300:J305)", statistics.linear_regression(xs, ys).slope), ("RSQ(K300:K305,J300:J305)", statistics.correlation(xs, ys) ** 2), ("SUMX2MY2(J300:J305,K300:K305)", math.fsum(x * x - y * y for x, y in zip(xs, ys))), ("AVEDEV(K300:K305)", statistics.mean(abs(y - statistics.mean([3.5, 4.25, 1, 9, 8])) for y in [3.5, 4.25, 1, 9, 8]))]
cells = [["H300", -1000], ["H301", 300], ["H302", 420], ["H303", 380], ["H304", 150]]
cells += [[f"J{300 + i}", v] for i, v in enumerate([1, 2, None, "x", 4, 5]) if v is not None]
cells += [[f"K{300 + i}", v] for i, v in enumerate([3.5, 4.25, 1, None, 9, 8]) if v is not None]
json.dump({"rows": rows, "formulas": f, "cells": cells}, sys.stdout)
