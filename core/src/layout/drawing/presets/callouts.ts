/** Callouts, clouds, gears. */

/** The edge of a cloud, in 43,200ths of its box. */
const CLOUD =
  "M 3900 14370 A 6753 9190 -11429249 7426832 A 5333 7267 -8646143 5396714 A 4365 5945 -8748475 5983381 A 4857 6595 -7859164 7034504 A 5333 7273 -4722533 6541615 A 6775 9220 -2776035 7816140 A 5785 7867 37501 6842000 A 6752 9215 1347096 6910353 A 7720 10543 3974558 4542661 A 4360 5918 -16496525 8804134 A 4345 5945 -14809710 9151131 Z";
const CLOUD_FOLDS =
  "M 4693 26177 A 4345 5945 5204520 1585770 M 6928 34899 A 4360 5918 4416628 686848 M 16478 39090 A 6752 9215 8257449 844866 M 28827 34751 A 6752 9215 387196 959901 M 34129 22954 A 5785 7867 -4217541 4255042 M 41798 15354 A 5333 7273 1819082 1665090 M 38324 5426 A 4857 6595 -824660 891534 M 29078 3952 A 4857 6595 -8950887 1091722 M 22141 4720 A 4365 5945 -9809656 1061181 M 14000 5192 A 6753 9190 -4002417 739161 M 4127 15789 A 6753 9190 9459261 711490";
const CLOUD_TEXT = `il = */ w 2977 21600; it = */ h 3262 21600; ir = */ w 17087 21600; ib = */ h 17337 21600
text il it ir ib`;

/** A callout whose lead is one, two or three lines; with a frame, a bar beside its text, or both. */
function lined(name: string, points: number, adjust: readonly number[], framed: boolean, barred: boolean): string {
  const given = adjust.map((value, index) => `adj${index + 1}=${value}`).join(" ");
  const guides = adjust
    .map((_, index) => {
      const [letter, side] = index % 2 === 0 ? ["y", "h"] : ["x", "w"];
      return `${letter}${Math.floor(index / 2) + 1} = */ ${side} adj${index + 1} 100000`;
    })
    .join("; ");
  const lead = Array.from(
    { length: points },
    (_, index) => `${index === 0 ? "M" : "L"} x${index + 1} y${index + 1}`,
  ).join(" ");
  return `
= ${name} ${given}
${guides}
path ${framed ? "" : "stroke=0 "}M l t L r t r b l b Z
${barred ? "path fill=none M x1 t L x1 b\n" : ""}path fill=none ${lead}`;
}

const ONE = [18750, -8333, 112500, -38333];
const TWO = [18750, -8333, 18750, -16667, 112500, -46667];
const THREE = [18750, -8333, 18750, -16667, 100000, -16667, 112963, -8333];

/** A toothed wheel: each tooth stands at an angle, its four corners found along the rim. */
function gear(
  name: string,
  angles: readonly number[],
  adjust: readonly [number, number],
  most: readonly [number, number],
): string {
  const teeth = angles.map((angle, index) => {
    const n = index + 1;
    const corner = (c: string, sign: string): string => {
      const k = `${c}${n}`;
      return `an${k} = +- ${angle} ${sign}; ta${k} = cos rw an${k}; tb${k} = sin rh an${k}; b${k} = at2 ta${k} tb${k}; ct${k} = cos rh b${k}
st${k} = sin rw b${k}; m${k} = mod ct${k} st${k} 0; n${k} = */ rw rh m${k}; dx${k} = cos n${k} b${k}; dy${k} = sin n${k} b${k}; x${k} = +- hc dx${k} 0
y${k} = +- vc dy${k} 0`;
    };
    return `${corner("A", "0 ha")}
${corner("D", "ha 0")}
xAD${n} = +- xA${n} 0 xD${n}; yAD${n} = +- yA${n} 0 yD${n}; an${n} = at2 yAD${n} xAD${n}; dxF${n} = sin lFD an${n}; dyF${n} = cos lFD an${n}
xF${n} = +- xD${n} dxF${n} 0; yF${n} = +- yD${n} dyF${n} 0; xE${n} = +- xA${n} 0 dxF${n}; yE${n} = +- yA${n} 0 dyF${n}
yCt${n} = sin th an${n}; xCt${n} = cos th an${n}; yC${n} = +- yF${n} yCt${n} 0; xC${n} = +- xF${n} 0 xCt${n}; yB${n} = +- yE${n} yCt${n} 0
xB${n} = +- xE${n} 0 xCt${n}`;
  });
  const between = angles.map((_, index) => {
    const [n, next] = [index + 1, ((index + 1) % angles.length) + 1];
    return `sw${n} = +- bA${next} 0 bD${n}; sx${n} = +- sw${n} 21600000 0; sweep${n} = ?: sw${n} sw${n} sx${n}`;
  });
  const edge = angles.map((_, index) => {
    const n = index + 1;
    return `${index === 0 ? "M" : "L"} xA${n} yA${n} L xB${n} yB${n} xC${n} yC${n} xD${n} yD${n} A rw rh bD${n} sweep${n}`;
  });
  return `
= ${name} adj1=${adjust[0]} adj2=${adjust[1]}
a1 = pin 0 adj1 ${most[0]}; a2 = pin 0 adj2 ${most[1]}; th = */ ss a1 100000; lFD = */ ss a2 100000; th2 = */ th 1 2; l2 = */ lFD 1 2
l3 = +- th2 l2 0; rh = +- hd2 0 th; rw = +- wd2 0 th; dr = +- rw 0 rh; maxr = ?: dr rh rw; ha = at2 maxr l3
${teeth.join("\n")}
${between.join("\n")}
idx = cos rw 2700000; idy = sin rh 2700000; il = +- hc 0 idx; ir = +- hc idx 0; it = +- vc 0 idy; ib = +- vc idy 0
text il it ir ib
path ${edge.join(" ")} Z`;
}

const degrees = (...angles: readonly number[]): number[] => angles.map((angle) => angle * 60_000);

export const CALLOUTS = `
= wedgeRectCallout adj1=-20833 adj2=62500
dxPos = */ w adj1 100000; dyPos = */ h adj2 100000; xPos = +- hc dxPos 0; yPos = +- vc dyPos 0; dq = */ dxPos h w; ady = abs dyPos
adq = abs dq; dz = +- ady 0 adq; xg1 = ?: dxPos 7 2; xg2 = ?: dxPos 10 5; x1 = */ w xg1 12; x2 = */ w xg2 12; yg1 = ?: dyPos 7 2
yg2 = ?: dyPos 10 5; y1 = */ h yg1 12; y2 = */ h yg2 12; t1 = ?: dxPos l xPos; xl = ?: dz l t1; t2 = ?: dyPos x1 xPos; xt = ?: dz t2 x1
t3 = ?: dxPos xPos r; xr = ?: dz r t3; t4 = ?: dyPos xPos x1; xb = ?: dz t4 x1; t5 = ?: dxPos y1 yPos; yl = ?: dz y1 t5; t6 = ?: dyPos t yPos
yt = ?: dz t6 t; t7 = ?: dxPos yPos y1; yr = ?: dz y1 t7; t8 = ?: dyPos yPos b; yb = ?: dz t8 b
path M l t L x1 t xt yt x2 t r t r y1 xr yr r y2 r b x2 b xb yb x1 b l b l y2 xl yl l y1 Z

= wedgeRoundRectCallout adj1=-20833 adj2=62500 adj3=16667
dxPos = */ w adj1 100000; dyPos = */ h adj2 100000; xPos = +- hc dxPos 0; yPos = +- vc dyPos 0; dq = */ dxPos h w; ady = abs dyPos
adq = abs dq; dz = +- ady 0 adq; xg1 = ?: dxPos 7 2; xg2 = ?: dxPos 10 5; x1 = */ w xg1 12; x2 = */ w xg2 12; yg1 = ?: dyPos 7 2
yg2 = ?: dyPos 10 5; y1 = */ h yg1 12; y2 = */ h yg2 12; t1 = ?: dxPos l xPos; xl = ?: dz l t1; t2 = ?: dyPos x1 xPos; xt = ?: dz t2 x1
t3 = ?: dxPos xPos r; xr = ?: dz r t3; t4 = ?: dyPos xPos x1; xb = ?: dz t4 x1; t5 = ?: dxPos y1 yPos; yl = ?: dz y1 t5; t6 = ?: dyPos t yPos
yt = ?: dz t6 t; t7 = ?: dxPos yPos y1; yr = ?: dz y1 t7; t8 = ?: dyPos yPos b; yb = ?: dz t8 b; u1 = */ ss adj3 100000; u2 = +- r 0 u1
v2 = +- b 0 u1; il = */ u1 29289 100000; ir = +- r 0 il; ib = +- b 0 il
text il il ir ib
path M l u1 A u1 u1 cd2 cd4 L x1 t xt yt x2 t u2 t A u1 u1 3cd4 cd4 L r y1 xr yr r y2 r v2 A u1 u1 0 cd4 L x2 b xb yb x1 b u1 b A u1 u1 cd4 cd4 L l y2 xl yl l y1 Z

= wedgeEllipseCallout adj1=-20833 adj2=62500
dxPos = */ w adj1 100000; dyPos = */ h adj2 100000; xPos = +- hc dxPos 0; yPos = +- vc dyPos 0; sdx = */ dxPos h 1; sdy = */ dyPos w 1
pang = at2 sdx sdy; stAng = +- pang 660000 0; enAng = +- pang 0 660000; dx1 = cos wd2 stAng; dy1 = sin hd2 stAng; x1 = +- hc dx1 0
y1 = +- vc dy1 0; dx2 = cos wd2 enAng; dy2 = sin hd2 enAng; x2 = +- hc dx2 0; y2 = +- vc dy2 0; stAng1 = at2 dx1 dy1; enAng1 = at2 dx2 dy2
swAng1 = +- enAng1 0 stAng1; swAng2 = +- swAng1 21600000 0; swAng = ?: swAng1 swAng1 swAng2
idx = cos wd2 2700000; idy = sin hd2 2700000; il = +- hc 0 idx; ir = +- hc idx 0; it = +- vc 0 idy; ib = +- vc idy 0
text il it ir ib
path M xPos yPos L x1 y1 A wd2 hd2 stAng1 swAng Z

= cloud
${CLOUD_TEXT}
path w=43200 h=43200 ${CLOUD}
path w=43200 h=43200 fill=none ${CLOUD_FOLDS}

= cloudCallout adj1=-20833 adj2=62500
dxPos = */ w adj1 100000; dyPos = */ h adj2 100000; xPos = +- hc dxPos 0; yPos = +- vc dyPos 0; ht = cat2 hd2 dxPos dyPos; wt = sat2 wd2 dxPos dyPos
g2 = cat2 wd2 ht wt; g3 = sat2 hd2 ht wt; g4 = +- hc g2 0; g5 = +- vc g3 0; g6 = +- g4 0 xPos; g7 = +- g5 0 yPos; g8 = mod g6 g7 0
g9 = */ ss 6600 21600; g10 = +- g8 0 g9; g11 = */ g10 1 3; g12 = */ ss 1800 21600; g13 = +- g11 g12 0; g14 = */ g13 g6 g8; g15 = */ g13 g7 g8
g16 = +- g14 xPos 0; g17 = +- g15 yPos 0; g18 = */ ss 4800 21600; g19 = */ g11 2 1; g20 = +- g18 g19 0; g21 = */ g20 g6 g8; g22 = */ g20 g7 g8
g23 = +- g21 xPos 0; g24 = +- g22 yPos 0; g25 = */ ss 1200 21600; g26 = */ ss 600 21600; x23 = +- xPos g26 0; x24 = +- g16 g25 0; x25 = +- g23 g12 0
${CLOUD_TEXT}
path w=43200 h=43200 ${CLOUD}
path M x23 yPos A g26 g26 0 21600000 Z M x24 g17 A g25 g25 0 21600000 Z M x25 g24 A g12 g12 0 21600000 Z
path w=43200 h=43200 fill=none ${CLOUD_FOLDS}
${lined("callout1", 2, ONE, false, false)}
${lined("callout2", 3, TWO, false, false)}
${lined("callout3", 4, THREE, false, false)}
${lined("accentCallout1", 2, ONE, false, true)}
${lined("accentCallout2", 3, TWO, false, true)}
${lined("accentCallout3", 4, THREE, false, true)}
${lined("borderCallout1", 2, ONE, true, false)}
${lined("borderCallout2", 3, TWO, true, false)}
${lined("borderCallout3", 4, THREE, true, false)}
${lined("accentBorderCallout1", 2, ONE, true, true)}
${lined("accentBorderCallout2", 3, TWO, true, true)}
${lined("accentBorderCallout3", 4, THREE, true, true)}
${gear("gear6", degrees(330, 30, 90, 150, 210, 270), [15000, 3526], [20000, 5358])}
${gear("gear9", degrees(310, 350, 30, 70, 110, 150, 190, 230, 270), [10000, 1763], [20000, 2679])}
`;
