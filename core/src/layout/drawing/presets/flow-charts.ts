/** Signs of flow charts and of reckoning, and buttons. */

/** Buttons: a rectangle whose picture stands in a square of three quarters of its shorter side. */
const BUTTON = `dx2 = */ ss 3 8; g9 = +- vc 0 dx2; g10 = +- vc dx2 0; g11 = +- hc 0 dx2; g12 = +- hc dx2 0; g13 = */ ss 3 4`;

/** A guide at a share of the button's square: `n` of 32 or so. */
const parts = (names: Readonly<Record<string, readonly [string, number, number]>>): string =>
  Object.entries(names)
    .map(([name, [from, of, all]]) => `q${name} = */ g13 ${of} ${all}; ${name} = +- ${from} q${name} 0`)
    .join("; ");

/** The button with its picture pressed out of the ground, drawn darker, and lined. */
function button(name: string, guides: string, picture: string, fill = "darken", more = ""): string {
  return `
= ${name}
${BUTTON}
${guides}
path stroke=0 M l t L r t r b l b Z ${picture}
path stroke=0 fill=${fill} ${picture}
${more === "" ? "" : `${more}\n`}path fill=none ${picture}
path fill=none M l t L r t r b l b Z`;
}

const BUTTONS = [
  `
= actionButtonBlank
path M l t L r t r b l b Z`,
  button("actionButtonBackPrevious", "", "M g11 vc L g12 g9 g12 g10 Z"),
  button("actionButtonForwardNext", "", "M g12 vc L g11 g10 g11 g9 Z"),
  button(
    "actionButtonBeginning",
    parts({ g16: ["g11", 1, 8], g17: ["g11", 1, 4] }),
    "M g17 vc L g12 g9 g12 g10 Z M g16 g9 L g11 g9 g11 g10 g16 g10 Z",
  ),
  button(
    "actionButtonEnd",
    parts({ g16: ["g11", 3, 4], g17: ["g11", 7, 8] }),
    "M g16 vc L g11 g9 g11 g10 Z M g17 g9 L g12 g9 g12 g10 g17 g10 Z",
  ),
  button(
    "actionButtonReturn",
    `${parts({
      g19: ["g9", 3, 4],
      g20: ["g9", 5, 8],
      g21: ["g9", 1, 4],
      g22: ["g11", 7, 8],
      g23: ["g11", 3, 4],
      g24: ["g11", 5, 8],
      g25: ["g11", 3, 8],
      g26: ["g11", 1, 4],
    })}; g27 = */ g13 1 8; g17 = */ g13 3 8`,
    "M g12 g21 L g23 g9 hc g21 g24 g21 g24 g20 A g27 g27 0 cd4 L g25 g19 A g27 g27 cd4 cd4 L g26 g21 g11 g21 g11 g20 A g17 g17 cd2 -5400000 L hc g10 A g17 g17 cd4 -5400000 L g22 g21 Z",
  ),
  button(
    "actionButtonHome",
    parts({
      y1: ["g9", 1, 16],
      y2: ["g9", 1, 8],
      y3: ["g9", 3, 16],
      y4: ["g9", 5, 16],
      y5: ["g9", 3, 4],
      x1: ["g11", 5, 16],
      x2: ["g11", 7, 16],
      x3: ["g11", 9, 16],
      x4: ["g11", 11, 16],
      x5: ["g11", 13, 16],
      x6: ["g11", 1, 8],
      x7: ["g11", 7, 8],
    }),
    "M hc g9 L g11 vc x6 vc x6 g10 x7 g10 x7 vc g12 vc x5 y4 x5 y2 x4 y2 x4 y3 Z",
    "darkenLess",
    "path stroke=0 fill=darken M x2 y5 L x3 y5 x3 g10 x2 g10 Z",
  ),
  button(
    "actionButtonDocument",
    `dx1 = */ ss 9 32; x1 = +- hc 0 dx1; x2 = +- hc dx1 0; g14 = */ ss 3 16; x3 = +- x2 0 g14; y3 = +- g9 g14 0`,
    "M x1 g9 L x3 g9 x2 y3 x2 g10 x1 g10 Z",
    "darkenLess",
    "path stroke=0 fill=darken M x3 g9 L x3 y3 x2 y3 Z",
  ),
  button(
    "actionButtonInformation",
    `${parts({
      y1: ["g9", 1, 32],
      y2: ["g9", 5, 32],
      y3: ["g9", 5, 16],
      y4: ["g9", 11, 32],
      y5: ["g9", 7, 16],
      y6: ["g9", 13, 16],
      x1: ["g11", 13, 32],
      x2: ["g11", 7, 16],
      x3: ["g11", 9, 16],
      x4: ["g11", 5, 8],
      y7: ["g9", 3, 4],
    })}; rd = */ g13 1 16; y0 = +- g9 qy2 0`,
    "M hc g9 A dx2 dx2 3cd4 21600000 Z",
    "darken",
    "path stroke=0 fill=lighten M hc y1 A rd rd 3cd4 21600000 Z M x1 y3 L x3 y3 x3 y7 x4 y7 x4 y6 x1 y6 x1 y7 x2 y7 x2 y4 x1 y4 Z",
  ),
  button(
    "actionButtonHelp",
    `${parts({
      g27: ["g9", 2, 7],
      g29: ["g9", 17, 28],
      g30: ["g9", 3, 4],
      g31: ["g9", 11, 14],
      g33: ["g11", 3, 14],
      g36: ["g11", 3, 7],
      g37: ["g11", 4, 7],
    })}; g14 = */ g13 1 7; g15 = */ g13 3 14; g16 = */ g13 2 7; g41 = */ g13 1 14; g42 = */ g13 3 28`,
    "M hc g9 A dx2 dx2 3cd4 21600000 Z",
    "darkenLess",
    "path stroke=0 fill=darken M g33 g27 A g16 g16 cd2 cd2 A g14 g15 0 cd4 A g41 g42 3cd4 -5400000 L g37 g30 g36 g30 g36 g29 A g14 g15 cd2 cd4 A g41 g42 cd4 -5400000 A g14 g14 0 -10800000 Z M hc g31 A g41 g41 3cd4 21600000 Z",
  ),
  button(
    "actionButtonMovie",
    parts({
      y1: ["g9", 3, 16],
      y2: ["g9", 1, 4],
      y3: ["g9", 3, 4],
      y4: ["g9", 13, 16],
      x1: ["g11", 1, 16],
      x2: ["g11", 11, 16],
      x3: ["g11", 7, 8],
    }),
    "M g11 y1 L x2 y1 x2 y2 x3 y2 g12 y1 g12 y4 x3 y3 x2 y3 x2 y4 g11 y4 Z",
  ),
  button(
    "actionButtonSound",
    parts({
      y1: ["g9", 5, 16],
      y2: ["g9", 11, 16],
      y3: ["g9", 1, 8],
      y4: ["g9", 7, 8],
      x1: ["g11", 5, 16],
      x2: ["g11", 5, 8],
      x3: ["g11", 3, 4],
    }),
    "M g11 y1 L x1 y1 x2 g9 x2 g10 x1 y2 g11 y2 Z",
    "darken",
    "path fill=none M x3 y1 L g12 y3 M x3 vc L g12 vc M x3 y2 L g12 y4",
  ),
].join("\n");

export const FLOW_CHARTS = `
= flowChartProcess
path w=1 h=1 M 0 0 L 1 0 1 1 0 1 Z

= flowChartAlternateProcess
x2 = +- r 0 ssd6; y2 = +- b 0 ssd6; il = */ ssd6 29289 100000; ir = +- r 0 il; ib = +- b 0 il
text il il ir ib
path M l ssd6 A ssd6 ssd6 cd2 cd4 L x2 t A ssd6 ssd6 3cd4 cd4 L r y2 A ssd6 ssd6 0 cd4 L ssd6 b A ssd6 ssd6 cd4 cd4 Z

= flowChartDecision
ir = */ w 3 4; ib = */ h 3 4
text wd4 hd4 ir ib
path w=2 h=2 M 0 1 L 1 0 2 1 1 2 Z

= flowChartInputOutput
x3 = */ w 2 5; x4 = */ w 3 5; x5 = */ w 4 5; x6 = */ w 9 10
text wd5 t x5 b
path w=5 h=5 M 0 5 L 1 0 5 0 4 5 Z

= flowChartPredefinedProcess
x2 = */ w 7 8
text wd8 t x2 b
path w=1 h=1 stroke=0 M 0 0 L 1 0 1 1 0 1 Z
path w=8 h=8 fill=none M 1 0 L 1 8 M 7 0 L 7 8
path w=1 h=1 fill=none M 0 0 L 1 0 1 1 0 1 Z

= flowChartInternalStorage
text wd8 hd8 r b
path w=1 h=1 stroke=0 M 0 0 L 1 0 1 1 0 1 Z
path w=8 h=8 fill=none M 1 0 L 1 8 M 0 1 L 8 1
path w=1 h=1 fill=none M 0 0 L 1 0 1 1 0 1 Z

= flowChartDocument
y1 = */ h 17322 21600; y2 = */ h 20172 21600
text l t r y1
path w=21600 h=21600 M 0 0 L 21600 0 21600 17322 C 10800 17322 10800 23922 0 20172 Z

= flowChartMultidocument
y2 = */ h 3675 21600; y8 = */ h 20782 21600; x3 = */ w 9298 21600; x4 = */ w 12286 21600; x5 = */ w 18595 21600
text l y2 x5 y8
path w=21600 h=21600 stroke=0 M 0 20782 C 9298 23542 9298 18022 18595 18022 L 18595 3675 0 3675 Z M 1532 3675 L 1532 1815 20000 1815 20000 16252 C 19298 16252 18595 16352 18595 16352 L 18595 3675 Z M 2972 1815 L 2972 0 21600 0 21600 14392 C 20800 14392 20000 14467 20000 14467 L 20000 1815 Z
path w=21600 h=21600 fill=none M 0 3675 L 18595 3675 18595 18022 C 9298 18022 9298 23542 0 20782 Z M 1532 3675 L 1532 1815 20000 1815 20000 16252 C 19298 16252 18595 16352 18595 16352 M 2972 1815 L 2972 0 21600 0 21600 14392 C 20800 14392 20000 14467 20000 14467

= flowChartTerminator
il = */ w 1018 21600; ir = */ w 20582 21600; it = */ h 3163 21600; ib = */ h 18437 21600
text il it ir ib
path w=21600 h=21600 M 3475 0 L 18125 0 A 3475 10800 3cd4 cd2 L 3475 21600 A 3475 10800 cd4 cd2 Z

= flowChartPreparation
x2 = */ w 4 5
text wd5 t x2 b
path w=10 h=10 M 0 5 L 2 0 8 0 10 5 8 10 2 10 Z

= flowChartManualInput
text l hd5 r b
path w=5 h=5 M 0 1 L 5 0 5 5 0 5 Z

= flowChartManualOperation
x3 = */ w 4 5; x4 = */ w 9 10
text wd5 t x3 b
path w=5 h=5 M 0 0 L 5 0 4 5 1 5 Z

= flowChartConnector
idx = cos wd2 2700000; idy = sin hd2 2700000; il = +- hc 0 idx; ir = +- hc idx 0; it = +- vc 0 idy; ib = +- vc idy 0
text il it ir ib
path M l vc A wd2 hd2 cd2 cd4 A wd2 hd2 3cd4 cd4 A wd2 hd2 0 cd4 A wd2 hd2 cd4 cd4 Z

= flowChartOffpageConnector
y1 = */ h 4 5
text l t r y1
path w=10 h=10 M 0 0 L 10 0 10 8 5 10 0 8 Z

= flowChartPunchedCard
text l hd5 r b
path w=5 h=5 M 0 1 L 1 0 5 0 5 5 0 5 Z

= flowChartPunchedTape
y2 = */ h 9 10; ib = */ h 4 5
text l hd5 r ib
path w=20 h=20 M 0 2 A 5 2 cd2 -10800000 A 5 2 cd2 cd2 L 20 18 A 5 2 0 -10800000 A 5 2 0 cd2 Z

= flowChartSummingJunction
idx = cos wd2 2700000; idy = sin hd2 2700000; il = +- hc 0 idx; ir = +- hc idx 0; it = +- vc 0 idy; ib = +- vc idy 0
text il it ir ib
path stroke=0 M l vc A wd2 hd2 cd2 21600000 Z
path fill=none M il it L ir ib M ir it L il ib
path fill=none M l vc A wd2 hd2 cd2 21600000 Z

= flowChartOr
idx = cos wd2 2700000; idy = sin hd2 2700000; il = +- hc 0 idx; ir = +- hc idx 0; it = +- vc 0 idy; ib = +- vc idy 0
text il it ir ib
path stroke=0 M l vc A wd2 hd2 cd2 21600000 Z
path fill=none M hc t L hc b M l vc L r vc
path fill=none M l vc A wd2 hd2 cd2 21600000 Z

= flowChartCollate
ir = */ w 3 4; ib = */ h 3 4
text wd4 hd4 ir ib
path w=2 h=2 M 0 0 L 2 0 1 1 2 2 0 2 1 1 Z

= flowChartSort
ir = */ w 3 4; ib = */ h 3 4
text wd4 hd4 ir ib
path w=2 h=2 stroke=0 M 0 1 L 1 0 2 1 1 2 Z
path w=2 h=2 fill=none M 0 1 L 2 1
path w=2 h=2 fill=none M 0 1 L 1 0 2 1 1 2 Z

= flowChartExtract
x2 = */ w 3 4
text wd4 vc x2 b
path w=2 h=2 M 0 2 L 1 0 2 2 Z

= flowChartMerge
x2 = */ w 3 4
text wd4 t x2 vc
path w=2 h=2 M 0 0 L 2 0 1 2 Z

= flowChartOfflineStorage
x4 = */ w 3 4
text wd4 t x4 vc
path w=2 h=2 stroke=0 M 0 0 L 2 0 1 2 Z
path w=5 h=5 fill=none M 2 4 L 3 4
path w=2 h=2 fill=none M 0 0 L 2 0 1 2 Z

= flowChartOnlineStorage
x2 = */ w 5 6
text wd6 t x2 b
path w=6 h=6 M 1 0 L 6 0 A 1 3 3cd4 -10800000 L 1 6 A 1 3 cd4 cd2 Z

= flowChartDelay
idx = cos wd2 2700000; idy = sin hd2 2700000; ir = +- hc idx 0; it = +- vc 0 idy; ib = +- vc idy 0
text l it ir ib
path M l t L hc t A wd2 hd2 3cd4 cd2 L l b Z

= flowChartMagneticTape
idx = cos wd2 2700000; idy = sin hd2 2700000; il = +- hc 0 idx; ir = +- hc idx 0; it = +- vc 0 idy; ib = +- vc idy 0; ang1 = at2 w h
text il it ir ib
path M hc b A wd2 hd2 cd4 cd4 A wd2 hd2 cd2 cd4 A wd2 hd2 3cd4 cd4 A wd2 hd2 0 ang1 L r ib r b Z

= flowChartMagneticDisk
y3 = */ h 5 6
text l hd3 r y3
path w=6 h=6 stroke=0 M 0 1 A 3 1 cd2 cd2 L 6 5 A 3 1 0 cd2 Z
path w=6 h=6 fill=none M 6 1 A 3 1 0 cd2
path w=6 h=6 fill=none M 0 1 A 3 1 cd2 cd2 L 6 5 A 3 1 0 cd2 Z

= flowChartMagneticDrum
x2 = */ w 2 3
text wd6 t x2 b
path w=6 h=6 stroke=0 M 1 0 L 5 0 A 1 3 3cd4 cd2 L 1 6 A 1 3 cd4 cd2 Z
path w=6 h=6 fill=none M 5 6 A 1 3 cd4 cd2
path w=6 h=6 fill=none M 1 0 L 5 0 A 1 3 3cd4 cd2 L 1 6 A 1 3 cd4 cd2 Z

= flowChartDisplay
x2 = */ w 5 6
text wd6 t x2 b
path w=6 h=6 M 0 3 L 1 0 5 0 A 1 3 3cd4 cd2 L 1 6 Z

= mathPlus adj1=23520
a1 = pin 0 adj1 73490; dx1 = */ w 73490 200000; dy1 = */ h 73490 200000; dx2 = */ ss a1 200000; x1 = +- hc 0 dx1; x2 = +- hc 0 dx2
x3 = +- hc dx2 0; x4 = +- hc dx1 0; y1 = +- vc 0 dy1; y2 = +- vc 0 dx2; y3 = +- vc dx2 0; y4 = +- vc dy1 0
text x1 y2 x4 y3
path M x1 y2 L x2 y2 x2 y1 x3 y1 x3 y2 x4 y2 x4 y3 x3 y3 x3 y4 x2 y4 x2 y3 x1 y3 Z

= mathMinus adj1=23520
a1 = pin 0 adj1 100000; dy1 = */ h a1 200000; dx1 = */ w 73490 200000; y1 = +- vc 0 dy1; y2 = +- vc dy1 0; x1 = +- hc 0 dx1; x2 = +- hc dx1 0
text x1 y1 x2 y2
path M x1 y1 L x2 y1 x2 y2 x1 y2 Z

= mathMultiply adj1=23520
a1 = pin 0 adj1 51965; th = */ ss a1 100000; a = at2 w h; sa = sin 1 a; ca = cos 1 a; ta = tan 1 a; dl = mod w h 0; rw = */ dl 51965 100000
lM = +- dl 0 rw; xM = */ ca lM 2; yM = */ sa lM 2; dxAM = */ sa th 2; dyAM = */ ca th 2; xA = +- xM 0 dxAM; yA = +- yM dyAM 0
xB = +- xM dxAM 0; yB = +- yM 0 dyAM; xBC = +- hc 0 xB; yBC = */ xBC ta 1; yC = +- yBC yB 0; xD = +- r 0 xB; xE = +- r 0 xA
yFE = +- vc 0 yA; xFE = */ yFE 1 ta; xF = +- xE 0 xFE; xL = +- xA xFE 0; yG = +- b 0 yA; yH = +- b 0 yB; yI = +- b 0 yC
xC2 = +- r 0 xM; yC3 = +- b 0 yM
text xA yB xE yH
path M xA yA L xB yB hc yC xD yB xE yA xF vc xE yG xD yH hc yI xB yH xA yG xL vc Z

= mathDivide adj1=23520 adj2=5880 adj3=11760
a1 = pin 1000 adj1 36745; ma1 = +- 0 0 a1; ma3h = +/ 73490 ma1 4; ma3w = */ 36745 w h; maxAdj3 = min ma3h ma3w; a3 = pin 1000 adj3 maxAdj3
m4a3 = */ -4 a3 1; maxAdj2 = +- 73490 m4a3 a1; a2 = pin 0 adj2 maxAdj2; dy1 = */ h a1 200000; yg = */ h a2 100000; rad = */ h a3 100000
dx1 = */ w 73490 200000; y3 = +- vc 0 dy1; y4 = +- vc dy1 0; a = +- yg rad 0; y2 = +- y3 0 a; y1 = +- y2 0 rad; y5 = +- b 0 y1
x1 = +- hc 0 dx1; x3 = +- hc dx1 0; x2 = +- hc 0 rad
text x1 y3 x3 y4
path M hc y1 A rad rad 3cd4 21600000 Z M hc y5 A rad rad cd4 21600000 Z M x1 y3 L x3 y3 x3 y4 x1 y4 Z

= mathEqual adj1=23520 adj2=11760
a1 = pin 0 adj1 36745; 2a1 = */ a1 2 1; mAdj2 = +- 100000 0 2a1; a2 = pin 0 adj2 mAdj2; dy1 = */ h a1 100000; dy2 = */ h a2 200000
dx1 = */ w 73490 200000; y2 = +- vc 0 dy2; y3 = +- vc dy2 0; y1 = +- y2 0 dy1; y4 = +- y3 dy1 0; x1 = +- hc 0 dx1; x2 = +- hc dx1 0
text x1 y1 x2 y4
path M x1 y1 L x2 y1 x2 y2 x1 y2 Z M x1 y3 L x2 y3 x2 y4 x1 y4 Z

= mathNotEqual adj1=23520 adj2=6600000 adj3=11760
a1 = pin 0 adj1 50000; crAng = pin 4200000 adj2 6600000; 2a1 = */ a1 2 1; maxAdj3 = +- 100000 0 2a1; a3 = pin 0 adj3 maxAdj3
dy1 = */ h a1 100000; dy2 = */ h a3 200000; dx1 = */ w 73490 200000; x1 = +- hc 0 dx1; x8 = +- hc dx1 0; y2 = +- vc 0 dy2; y3 = +- vc dy2 0
y1 = +- y2 0 dy1; y4 = +- y3 dy1 0; cadj2 = +- crAng 0 cd4; xadj2 = tan hd2 cadj2; len = mod xadj2 hd2 0; bhw = */ len dy1 hd2
bhw2 = */ bhw 1 2; x7 = +- hc xadj2 bhw2; dx67 = */ xadj2 y1 hd2; x6 = +- x7 0 dx67; dx57 = */ xadj2 y2 hd2; x5 = +- x7 0 dx57
dx47 = */ xadj2 y3 hd2; x4 = +- x7 0 dx47; dx37 = */ xadj2 y4 hd2; x3 = +- x7 0 dx37; dx27 = */ xadj2 2 1; x2 = +- x7 0 dx27
rx7 = +- x7 bhw 0; rx6 = +- x6 bhw 0; rx5 = +- x5 bhw 0; rx4 = +- x4 bhw 0; rx3 = +- x3 bhw 0; rx2 = +- x2 bhw 0; dx7 = */ dy1 hd2 len
rxt = +- x7 dx7 0; lxt = +- rx7 0 dx7; rx = ?: cadj2 rxt rx7; lx = ?: cadj2 x7 lxt; dy3 = */ dy1 xadj2 len; dy4 = +- 0 0 dy3
ry = ?: cadj2 dy3 t; ly = ?: cadj2 t dy4; dlx = +- w 0 rx; drx = +- w 0 lx; dly = +- h 0 ry; dry = +- h 0 ly
text x1 y1 x8 y4
path M x1 y1 L x6 y1 lx ly rx ry rx6 y1 x8 y1 x8 y2 rx5 y2 rx4 y3 x8 y3 x8 y4 rx3 y4 drx dry dlx dly x3 y4 x1 y4 x1 y3 x4 y3 x5 y2 x1 y2 Z
${BUTTONS}
`;
