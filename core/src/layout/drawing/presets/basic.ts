/** Plain figures, rectangles with other corners, lines: ECMA-376 part 1, 20.1.10.56, and the definitions that come with it. */
export const BASIC = `
= line
path fill=none M l t L r b

= lineInv
path fill=none M l b L r t

= straightConnector1
path fill=none M l t L r b

= triangle adj=50000
a = pin 0 adj 100000; x1 = */ w a 200000; x2 = */ w a 100000; x3 = +- x1 wd2 0
text x1 vc x3 b
path M l b L x2 t r b Z

= rtTriangle
it = */ h 7 12; ir = */ w 7 12; ib = */ h 11 12
text wd12 it ir ib
path M l b L l t r b Z

= rect
path M l t L r t r b l b Z

= diamond
ir = */ w 3 4; ib = */ h 3 4
text wd4 hd4 ir ib
path M l vc L hc t r vc hc b Z

= parallelogram adj=25000
maxAdj = */ 100000 w ss; a = pin 0 adj maxAdj; x1 = */ ss a 200000; x2 = */ ss a 100000; x6 = +- r 0 x1; x5 = +- r 0 x2
x3 = */ x5 1 2; x4 = +- r 0 x3; il = */ wd2 a maxAdj; q1 = */ 5 a maxAdj; q2 = +/ 1 q1 12; il2 = */ q2 w 1; it = */ q2 h 1
ir = +- r 0 il2; ib = +- b 0 it
text il2 it ir ib
path M l b L x2 t r t x5 b Z

= trapezoid adj=25000
maxAdj = */ 50000 w ss; a = pin 0 adj maxAdj; x1 = */ ss a 200000; x2 = */ ss a 100000; x3 = +- r 0 x2; x4 = +- r 0 x1
il = */ wd3 a maxAdj; it = */ hd3 a maxAdj; ir = +- r 0 il
text il it ir b
path M l b L x2 t x3 t r b Z

= nonIsoscelesTrapezoid adj1=25000 adj2=25000
maxAdj = */ 50000 w ss; a1 = pin 0 adj1 maxAdj; a2 = pin 0 adj2 maxAdj; x1 = */ ss a1 200000; x2 = */ ss a1 100000
dx3 = */ ss a2 100000; x3 = +- r 0 dx3; x4 = +/ r x3 2; il = */ wd3 a1 maxAdj; adjm = max a1 a2; it = */ hd3 adjm maxAdj
irt = */ wd3 a2 maxAdj; ir = +- r 0 irt
text il it ir b
path M l b L x2 t x3 t r b Z

= pentagon hf=105146 vf=110557
swd2 = */ wd2 hf 100000; shd2 = */ hd2 vf 100000; svc = */ vc vf 100000; dx1 = cos swd2 1080000; dx2 = cos swd2 18360000
dy1 = sin shd2 1080000; dy2 = sin shd2 18360000; x1 = +- hc 0 dx1; x2 = +- hc 0 dx2; x3 = +- hc dx2 0; x4 = +- hc dx1 0
y1 = +- svc 0 dy1; y2 = +- svc 0 dy2; it = */ y1 dx2 dx1
text x2 it x3 y2
path M x1 y1 L hc t x4 y1 x3 y2 x2 y2 Z

= hexagon adj=25000 vf=115470
maxAdj = */ 50000 w ss; a = pin 0 adj maxAdj; shd2 = */ hd2 vf 100000; x1 = */ ss a 100000; x2 = +- r 0 x1; dy1 = sin shd2 3600000
y1 = +- vc 0 dy1; y2 = +- vc dy1 0; q1 = */ maxAdj -1 2; q2 = +- a q1 0; q3 = ?: q2 4 2; q4 = ?: q2 3 2; q5 = ?: q2 q1 0
q6 = +/ a q5 q1; q7 = */ q6 q4 -1; q8 = +- q3 q7 0; il = */ w q8 24; it = */ h q8 24; ir = +- r 0 il; ib = +- b 0 it
text il it ir ib
path M l vc L x1 y1 x2 y1 r vc x2 y2 x1 y2 Z

= heptagon hf=102572 vf=105210
swd2 = */ wd2 hf 100000; shd2 = */ hd2 vf 100000; svc = */ vc vf 100000; dx1 = */ swd2 97493 100000; dx2 = */ swd2 78183 100000
dx3 = */ swd2 43388 100000; dy1 = */ shd2 62349 100000; dy2 = */ shd2 22252 100000; dy3 = */ shd2 90097 100000
x1 = +- hc 0 dx1; x2 = +- hc 0 dx2; x3 = +- hc 0 dx3; x4 = +- hc dx3 0; x5 = +- hc dx2 0; x6 = +- hc dx1 0
y1 = +- svc 0 dy1; y2 = +- svc dy2 0; y3 = +- svc dy3 0; ib = +- b 0 y1
text x2 y1 x5 ib
path M x1 y2 L x2 y1 hc t x5 y1 x6 y2 x4 y3 x3 y3 Z

= octagon adj=29289
a = pin 0 adj 50000; x1 = */ ss a 100000; x2 = +- r 0 x1; y2 = +- b 0 x1; il = */ x1 1 2; ir = +- r 0 il; ib = +- b 0 il
text il il ir ib
path M l x1 L x1 t x2 t r x1 r y2 x2 b x1 b l y2 Z

= decagon vf=105146
shd2 = */ hd2 vf 100000; dx1 = cos wd2 2160000; dx2 = cos wd2 4320000; x1 = +- hc 0 dx1; x2 = +- hc 0 dx2; x3 = +- hc dx2 0
x4 = +- hc dx1 0; dy1 = sin shd2 4320000; dy2 = sin shd2 2160000; y1 = +- vc 0 dy1; y2 = +- vc 0 dy2; y3 = +- vc dy2 0; y4 = +- vc dy1 0
text x1 y2 x4 y3
path M l vc L x1 y2 x2 y1 x3 y1 x4 y2 r vc x4 y3 x3 y4 x2 y4 x1 y3 Z

= dodecagon
x1 = */ w 2894 21600; x2 = */ w 7906 21600; x3 = */ w 13694 21600; x4 = */ w 18706 21600
y1 = */ h 2894 21600; y2 = */ h 7906 21600; y3 = */ h 13694 21600; y4 = */ h 18706 21600
text x1 y1 x4 y4
path M l y2 L x1 y1 x2 t x3 t x4 y1 r y2 r y3 x4 y4 x3 b x2 b x1 y4 l y3 Z

= roundRect adj=16667
a = pin 0 adj 50000; x1 = */ ss a 100000; x2 = +- r 0 x1; y2 = +- b 0 x1; il = */ x1 29289 100000; ir = +- r 0 il; ib = +- b 0 il
text il il ir ib
path M l x1 A x1 x1 cd2 cd4 L x2 t A x1 x1 3cd4 cd4 L r y2 A x1 x1 0 cd4 L x1 b A x1 x1 cd4 cd4 Z

= round1Rect adj=16667
a = pin 0 adj 50000; dx1 = */ ss a 100000; x1 = +- r 0 dx1; idx = */ dx1 29289 100000; ir = +- r 0 idx
text l t ir b
path M l t L x1 t A dx1 dx1 3cd4 cd4 L r b l b Z

= round2SameRect adj1=16667 adj2=0
a1 = pin 0 adj1 50000; a2 = pin 0 adj2 50000; tx1 = */ ss a1 100000; tx2 = +- r 0 tx1; bx1 = */ ss a2 100000; bx2 = +- r 0 bx1
by1 = +- b 0 bx1; d = +- tx1 0 bx1; tdx = */ tx1 29289 100000; bdx = */ bx1 29289 100000; il = ?: d tdx bdx; ir = +- r 0 il; ib = +- b 0 bdx
text il tdx ir ib
path M tx1 t L tx2 t A tx1 tx1 3cd4 cd4 L r by1 A bx1 bx1 0 cd4 L bx1 b A bx1 bx1 cd4 cd4 L l tx1 A tx1 tx1 cd2 cd4 Z

= round2DiagRect adj1=16667 adj2=0
a1 = pin 0 adj1 50000; a2 = pin 0 adj2 50000; x1 = */ ss a1 100000; y1 = +- b 0 x1; a = */ ss a2 100000; x2 = +- r 0 a; y2 = +- b 0 a
dx1 = */ x1 29289 100000; dx2 = */ a 29289 100000; d = +- dx1 0 dx2; dx = ?: d dx1 dx2; ir = +- r 0 dx; ib = +- b 0 dx
text dx dx ir ib
path M x1 t L x2 t A a a 3cd4 cd4 L r y1 A x1 x1 0 cd4 L a b A a a cd4 cd4 L l x1 A x1 x1 cd2 cd4 Z

= snipRoundRect adj1=16667 adj2=16667
a1 = pin 0 adj1 50000; a2 = pin 0 adj2 50000; x1 = */ ss a1 100000; dx2 = */ ss a2 100000; x2 = +- r 0 dx2
il = */ x1 29289 100000; ir = +/ x2 r 2
text il il ir b
path M x1 t L x2 t r dx2 r b l b l x1 A x1 x1 cd2 cd4 Z

= snip1Rect adj=16667
a = pin 0 adj 50000; dx1 = */ ss a 100000; x1 = +- r 0 dx1; it = */ dx1 1 2; ir = +/ x1 r 2
text l it ir b
path M l t L x1 t r dx1 r b l b Z

= snip2SameRect adj1=16667 adj2=0
a1 = pin 0 adj1 50000; a2 = pin 0 adj2 50000; tx1 = */ ss a1 100000; tx2 = +- r 0 tx1; bx1 = */ ss a2 100000; bx2 = +- r 0 bx1
by1 = +- b 0 bx1; d = +- tx1 0 bx1; dx = ?: d tx1 bx1; il = */ dx 1 2; ir = +- r 0 il; it = */ tx1 1 2; ib = +/ by1 b 2
text il it ir ib
path M tx1 t L tx2 t r tx1 r by1 bx2 b bx1 b l by1 l tx1 Z

= snip2DiagRect adj1=0 adj2=16667
a1 = pin 0 adj1 50000; a2 = pin 0 adj2 50000; lx1 = */ ss a1 100000; lx2 = +- r 0 lx1; ly1 = +- b 0 lx1; rx1 = */ ss a2 100000
rx2 = +- r 0 rx1; ry1 = +- b 0 rx1; d = +- lx1 0 rx1; dx = ?: d lx1 rx1; il = */ dx 1 2; ir = +- r 0 il; ib = +- b 0 il
text il il ir ib
path M lx1 t L rx2 t r rx1 r ly1 lx2 b rx1 b l ry1 l lx1 Z

= plaque adj=16667
a = pin 0 adj 50000; x1 = */ ss a 100000; x2 = +- r 0 x1; y2 = +- b 0 x1; il = */ x1 70711 100000; ir = +- r 0 il; ib = +- b 0 il
text il il ir ib
path M l x1 A x1 x1 cd4 -5400000 L x2 t A x1 x1 cd2 -5400000 L r y2 A x1 x1 3cd4 -5400000 L x1 b A x1 x1 0 -5400000 Z

= ellipse
idx = cos wd2 2700000; idy = sin hd2 2700000; il = +- hc 0 idx; ir = +- hc idx 0; it = +- vc 0 idy; ib = +- vc idy 0
text il it ir ib
path M l vc A wd2 hd2 cd2 cd4 A wd2 hd2 3cd4 cd4 A wd2 hd2 0 cd4 A wd2 hd2 cd4 cd4 Z

= teardrop adj=100000
a = pin 0 adj 200000; r2 = sqrt 2; tw = */ wd2 r2 1; th = */ hd2 r2 1; sw = */ tw a 100000; sh = */ th a 100000
dx1 = cos sw 2700000; dy1 = sin sh 2700000; x1 = +- hc dx1 0; y1 = +- vc 0 dy1; x2 = +/ hc x1 2; y2 = +/ vc y1 2
idx = cos wd2 2700000; idy = sin hd2 2700000; il = +- hc 0 idx; ir = +- hc idx 0; it = +- vc 0 idy; ib = +- vc idy 0
text il it ir ib
path M l vc A wd2 hd2 cd2 cd4 Q x2 t x1 y1 Q r y2 r vc A wd2 hd2 0 cd4 A wd2 hd2 cd4 cd4 Z

= homePlate adj=50000
maxAdj = */ 100000 w ss; a = pin 0 adj maxAdj; dx1 = */ ss a 100000; x1 = +- r 0 dx1; ir = +/ x1 r 2
text l t ir b
path M l t L x1 t r vc x1 b l b Z

= chevron adj=50000
maxAdj = */ 100000 w ss; a = pin 0 adj maxAdj; x1 = */ ss a 100000; x2 = +- r 0 x1; dx = +- x2 0 x1; il = ?: dx x1 l; ir = ?: dx x2 r
text il t ir b
path M l t L x2 t r vc x2 b l b x1 vc Z

= pieWedge
g1 = cos w 13500000; g2 = sin h 13500000; x1 = +- r g1 0; y1 = +- b g2 0
text x1 y1 r b
path M l b A w h cd2 cd4 L r b Z

= pie adj1=0 adj2=16200000
stAng = pin 0 adj1 21599999; enAng = pin 0 adj2 21599999; sw1 = +- enAng 0 stAng; sw2 = +- sw1 21600000 0; swAng = ?: sw1 sw1 sw2
wt1 = sin wd2 stAng; ht1 = cos hd2 stAng; dx1 = cat2 wd2 ht1 wt1; dy1 = sat2 hd2 ht1 wt1; x1 = +- hc dx1 0; y1 = +- vc dy1 0
idx = cos wd2 2700000; idy = sin hd2 2700000; il = +- hc 0 idx; ir = +- hc idx 0; it = +- vc 0 idy; ib = +- vc idy 0
text il it ir ib
path M x1 y1 A wd2 hd2 stAng swAng L hc vc Z

= blockArc adj1=10800000 adj2=0 adj3=25000
stAng = pin 0 adj1 21599999; istAng = pin 0 adj2 21599999; a3 = pin 0 adj3 50000; sw11 = +- istAng 0 stAng; sw12 = +- sw11 21600000 0
swAng = ?: sw11 sw11 sw12; iswAng = +- 0 0 swAng; wt1 = sin wd2 stAng; ht1 = cos hd2 stAng; wt3 = sin wd2 istAng; ht3 = cos hd2 istAng
dx1 = cat2 wd2 ht1 wt1; dy1 = sat2 hd2 ht1 wt1; dx3 = cat2 wd2 ht3 wt3; dy3 = sat2 hd2 ht3 wt3; x1 = +- hc dx1 0; y1 = +- vc dy1 0
x3 = +- hc dx3 0; y3 = +- vc dy3 0; dr = */ ss a3 100000; iwd2 = +- wd2 0 dr; ihd2 = +- hd2 0 dr
wt2 = sin iwd2 istAng; ht2 = cos ihd2 istAng; wt4 = sin iwd2 stAng; ht4 = cos ihd2 stAng; dx2 = cat2 iwd2 ht2 wt2; dy2 = sat2 ihd2 ht2 wt2
dx4 = cat2 iwd2 ht4 wt4; dy4 = sat2 ihd2 ht4 wt4; x2 = +- hc dx2 0; y2 = +- vc dy2 0; x4 = +- hc dx4 0; y4 = +- vc dy4 0
sw0 = +- 21600000 0 stAng; da1 = +- swAng 0 sw0; g1 = max x1 x2; g2 = max x3 x4; g3 = max g1 g2; ir = ?: da1 r g3
sw1 = +- cd4 0 stAng; sw2 = +- 27000000 0 stAng; sw3 = ?: sw1 sw1 sw2; da2 = +- swAng 0 sw3; g5 = max y1 y2; g6 = max y3 y4; g7 = max g5 g6
ib = ?: da2 b g7; sw4 = +- cd2 0 stAng; sw5 = +- 32400000 0 stAng; sw6 = ?: sw4 sw4 sw5; da3 = +- swAng 0 sw6; g9 = min x1 x2
g10 = min x3 x4; g11 = min g9 g10; il = ?: da3 l g11; sw7 = +- 3cd4 0 stAng; sw8 = +- 37800000 0 stAng; sw9 = ?: sw7 sw7 sw8
da4 = +- swAng 0 sw9; g13 = min y1 y2; g14 = min y3 y4; g15 = min g13 g14; it = ?: da4 t g15
text il it ir ib
path M x1 y1 A wd2 hd2 stAng swAng L x2 y2 A iwd2 ihd2 istAng iswAng Z

= donut adj=25000
a = pin 0 adj 50000; dr = */ ss a 100000; iwd2 = +- wd2 0 dr; ihd2 = +- hd2 0 dr; idx = cos wd2 2700000; idy = sin hd2 2700000
il = +- hc 0 idx; ir = +- hc idx 0; it = +- vc 0 idy; ib = +- vc idy 0
text il it ir ib
path M l vc A wd2 hd2 cd2 cd4 A wd2 hd2 3cd4 cd4 A wd2 hd2 0 cd4 A wd2 hd2 cd4 cd4 Z M dr vc A iwd2 ihd2 cd2 -5400000 A iwd2 ihd2 cd4 -5400000 A iwd2 ihd2 0 -5400000 A iwd2 ihd2 3cd4 -5400000 Z

= noSmoking adj=18750
a = pin 0 adj 50000; dr = */ ss a 100000; iwd2 = +- wd2 0 dr; ihd2 = +- hd2 0 dr; ang = at2 w h; ct = cos ihd2 ang; st = sin iwd2 ang
m = mod ct st 0; n = */ iwd2 ihd2 m; drd2 = */ dr 1 2; dang = at2 n drd2; 2dang = */ dang 2 1; swAng = +- -10800000 2dang 0
t3 = at2 w h; stAng1 = +- t3 0 dang; stAng2 = +- stAng1 0 cd2; ct1 = cos ihd2 stAng1; st1 = sin iwd2 stAng1; m1 = mod ct1 st1 0
n1 = */ iwd2 ihd2 m1; dx1 = cos n1 stAng1; dy1 = sin n1 stAng1; x1 = +- hc dx1 0; y1 = +- vc dy1 0; x2 = +- hc 0 dx1; y2 = +- vc 0 dy1
idx = cos wd2 2700000; idy = sin hd2 2700000; il = +- hc 0 idx; ir = +- hc idx 0; it = +- vc 0 idy; ib = +- vc idy 0
text il it ir ib
path M l vc A wd2 hd2 cd2 cd4 A wd2 hd2 3cd4 cd4 A wd2 hd2 0 cd4 A wd2 hd2 cd4 cd4 Z M x1 y1 A iwd2 ihd2 stAng1 swAng Z M x2 y2 A iwd2 ihd2 stAng2 swAng Z

= cube adj=25000
a = pin 0 adj 100000; y1 = */ ss a 100000; y4 = +- b 0 y1; y2 = */ y4 1 2; y3 = +/ y1 b 2; x4 = +- r 0 y1; x2 = */ x4 1 2; x3 = +/ y1 r 2
text l y1 x4 b
path stroke=0 M l y1 L x4 y1 x4 b l b Z
path stroke=0 fill=darkenLess M x4 y1 L r t r y4 x4 b Z
path stroke=0 fill=lightenLess M l y1 L y1 t r t x4 y1 Z
path fill=none M l y1 L y1 t r t r y4 x4 b l b Z M l y1 L x4 y1 r t M x4 y1 L x4 b

= can adj=25000
maxAdj = */ 50000 h ss; a = pin 0 adj maxAdj; y1 = */ ss a 200000; y2 = +- y1 y1 0; y3 = +- b 0 y1
text l y2 r y3
path stroke=0 M l y1 A wd2 y1 cd2 -10800000 L r y3 A wd2 y1 0 cd2 Z
path stroke=0 fill=lighten M l y1 A wd2 y1 cd2 cd2 A wd2 y1 0 cd2 Z
path fill=none M r y1 A wd2 y1 0 cd2 A wd2 y1 cd2 cd2 L r y3 A wd2 y1 0 cd2 L l y1

= lightningBolt
x1 = */ w 5022 21600; x3 = */ w 8472 21600; x4 = */ w 8757 21600; x5 = */ w 10012 21600; x8 = */ w 12860 21600; x9 = */ w 13917 21600
x11 = */ w 16577 21600; y1 = */ h 3890 21600; y2 = */ h 6080 21600; y4 = */ h 7437 21600; y6 = */ h 9705 21600; y7 = */ h 12007 21600
y10 = */ h 14277 21600; y11 = */ h 14915 21600
text x4 y4 x9 y10
path w=21600 h=21600 M 8472 0 L 12860 6080 11050 6797 16577 12007 14767 12877 21600 21600 10012 14915 12222 13987 5022 9705 7602 8382 0 3890 Z

= heart
dx1 = */ w 49 48; dx2 = */ w 10 48; x1 = +- hc 0 dx1; x2 = +- hc 0 dx2; x3 = +- hc dx2 0; x4 = +- hc dx1 0; y1 = +- t 0 hd3
il = */ w 1 6; ir = */ w 5 6; ib = */ h 2 3
text il hd4 ir ib
path M hc hd4 C x3 y1 x4 hd4 hc b C x1 hd4 x2 y1 hc hd4 Z

= sun adj=25000
a = pin 12500 adj 46875; g0 = +- 50000 0 a; g1 = */ g0 30274 32768; g2 = */ g0 12540 32768; g3 = +- g1 50000 0; g4 = +- g2 50000 0
g5 = +- 50000 0 g1; g6 = +- 50000 0 g2; g7 = */ g0 23170 32768; g8 = +- 50000 g7 0; g9 = +- 50000 0 g7; g10 = */ g5 3 4; g11 = */ g6 3 4
g12 = +- g10 3662 0; g13 = +- g11 3662 0; g14 = +- g11 12500 0; g15 = +- 100000 0 g10; g16 = +- 100000 0 g12; g17 = +- 100000 0 g13
g18 = +- 100000 0 g14; ox1 = */ w 18436 21600; oy1 = */ h 3163 21600; ox2 = */ w 3163 21600; oy2 = */ h 18436 21600
x8 = */ w g8 100000; x9 = */ w g9 100000; x10 = */ w g10 100000; x12 = */ w g12 100000; x13 = */ w g13 100000; x14 = */ w g14 100000
x15 = */ w g15 100000; x16 = */ w g16 100000; x17 = */ w g17 100000; x18 = */ w g18 100000; x19 = */ w a 100000; wR = */ w g0 100000
hR = */ h g0 100000; y8 = */ h g8 100000; y9 = */ h g9 100000; y10 = */ h g10 100000; y12 = */ h g12 100000; y13 = */ h g13 100000
y14 = */ h g14 100000; y15 = */ h g15 100000; y16 = */ h g16 100000; y17 = */ h g17 100000; y18 = */ h g18 100000
text x9 y9 x8 y8
path M r vc L x15 y18 x15 y14 Z M ox1 oy1 L x16 y13 x17 y12 Z M hc t L x18 y10 x14 y10 Z M ox2 oy1 L x13 y12 x12 y13 Z M l vc L x10 y14 x10 y18 Z M ox2 oy2 L x12 y17 x13 y16 Z M hc b L x14 y15 x18 y15 Z M ox1 oy2 L x17 y16 x16 y17 Z M x19 vc A wR hR cd2 21600000 Z

= moon adj=50000
a = pin 0 adj 87500; g0 = */ ss a 100000; g0w = */ g0 w ss; g1 = +- ss 0 g0; g2 = */ g0 g0 g1; g3 = */ ss ss g1; g4 = */ g3 2 1
g5 = +- g4 0 g2; g6 = +- g5 0 g0; g6w = */ g6 w ss; g7 = */ g5 1 2; g8 = +- g7 0 g0; dy1 = */ g8 hd2 ss; g10h = +- vc 0 dy1; g11h = +- vc dy1 0
g12 = */ g0 9598 32768; g12w = */ g12 w ss; g13 = +- ss 0 g12; q1 = */ ss ss 1; q2 = */ g13 g13 1; q3 = +- q1 0 q2; q4 = sqrt q3
dy4 = */ q4 hd2 ss; g15h = +- vc 0 dy4; g16h = +- vc dy4 0; g17w = +- g6w 0 g0w; g18w = */ g17w 1 2; dx2p = +- g0w g18w w
dx2 = */ dx2p -1 1; dy2 = */ hd2 -1 1; stAng1 = at2 dx2 dy2; enAngp1 = at2 dx2 hd2; enAng1 = +- enAngp1 0 21600000; swAng1 = +- enAng1 0 stAng1
text g12w g15h g0w g16h
path M r b A w hd2 cd4 cd2 A g18w dy1 stAng1 swAng1 Z

= smileyFace adj=4653
a = pin -4653 adj 4653; x1 = */ w 4969 21699; x2 = */ w 6215 21600; x3 = */ w 13135 21600; x4 = */ w 16640 21600; y1 = */ h 7570 21600
y3 = */ h 16515 21600; dy2 = */ h a 100000; y2 = +- y3 0 dy2; y4 = +- y3 dy2 0; dy3 = */ h a 50000; y5 = +- y4 dy3 0
idx = cos wd2 2700000; idy = sin hd2 2700000; il = +- hc 0 idx; ir = +- hc idx 0; it = +- vc 0 idy; ib = +- vc idy 0
wR = */ w 1125 21600; hR = */ h 1125 21600
text il it ir ib
path stroke=0 M l vc A wd2 hd2 cd2 21600000 Z
path fill=darkenLess M x2 y1 A wR hR cd2 21600000 Z M x3 y1 A wR hR cd2 21600000 Z
path fill=none M x1 y2 Q hc y5 x4 y2
path fill=none M l vc A wd2 hd2 cd2 21600000 Z

= irregularSeal1
x5 = */ w 4627 21600; x12 = */ w 8485 21600; x21 = */ w 16702 21600; x24 = */ w 14522 21600; y3 = */ h 6320 21600; y6 = */ h 8615 21600
y9 = */ h 13937 21600; y18 = */ h 13290 21600
text x5 y3 x21 y9
path w=21600 h=21600 M 10800 5800 L 14522 0 14155 5325 18380 4457 16702 7315 21097 8137 17607 10475 21600 13290 16837 12942 18145 18095 14020 14457 13247 19737 10532 14935 8485 21600 7715 15627 4762 17617 5667 13937 135 14587 3722 11775 0 8615 4627 7617 370 2295 7312 6320 8352 2295 Z

= irregularSeal2
x2 = */ w 9722 21600; x5 = */ w 5372 21600; x16 = */ w 11612 21600; x19 = */ w 14640 21600; y2 = */ h 1887 21600; y3 = */ h 6382 21600
y8 = */ h 12877 21600; y14 = */ h 19712 21600; y16 = */ h 18842 21600; y17 = */ h 15935 21600; y24 = */ h 6645 21600
text x5 y3 x19 y17
path w=21600 h=21600 M 11462 4342 L 14790 0 14525 5777 18007 3172 16380 6532 21600 6645 16985 9402 18270 11290 16380 12310 18877 15632 14640 14350 14942 17370 12180 15935 11612 18842 9872 17370 8700 19712 7527 18125 4917 21600 4805 18240 1285 17825 3330 15370 0 12877 3935 11592 1172 8270 5372 7817 4502 3625 8550 6382 9722 1887 Z

= foldedCorner adj=16667
a = pin 0 adj 50000; dy2 = */ ss a 100000; dy1 = */ dy2 1 5; x1 = +- r 0 dy2; x2 = +- x1 dy1 0; y2 = +- b 0 dy2; y1 = +- y2 dy1 0
text l t r y2
path stroke=0 M l t L r t r y2 x1 b l b Z
path stroke=0 fill=darkenLess M x1 b L x2 y1 r y2 Z
path fill=none M x1 b L x2 y1 r y2 x1 b l b l t r t r y2

= bevel adj=12500
a = pin 0 adj 50000; x1 = */ ss a 100000; x2 = +- r 0 x1; y2 = +- b 0 x1
text x1 x1 x2 y2
path stroke=0 M x1 x1 L x2 x1 x2 y2 x1 y2 Z
path stroke=0 fill=lightenLess M l t L r t x2 x1 x1 x1 Z
path stroke=0 fill=darkenLess M l b L x1 y2 x2 y2 r b Z
path stroke=0 fill=lighten M l t L x1 x1 x1 y2 l b Z
path stroke=0 fill=darken M r t L r b x2 y2 x2 x1 Z
path fill=none M l t L r t r b l b Z M x1 x1 L x2 x1 x2 y2 x1 y2 Z M l t L x1 x1 M l b L x1 y2 M r t L x2 x1 M r b L x2 y2

= frame adj1=12500
a1 = pin 0 adj1 50000; x1 = */ ss a1 100000; x4 = +- r 0 x1; y4 = +- b 0 x1
text x1 x1 x4 y4
path M l t L r t r b l b Z M x1 x1 L x1 y4 x4 y4 x4 x1 Z

= halfFrame adj1=33333 adj2=33333
maxAdj2 = */ 100000 w ss; a2 = pin 0 adj2 maxAdj2; x1 = */ ss a2 100000; g1 = */ h x1 w; g2 = +- h 0 g1; maxAdj1 = */ 100000 g2 ss
a1 = pin 0 adj1 maxAdj1; y1 = */ ss a1 100000; dx2 = */ y1 w h; x2 = +- r 0 dx2; dy2 = */ x1 h w; y2 = +- b 0 dy2
text l t r b
path M l t L r t x2 y1 x1 y1 x1 y2 l b Z

= corner adj1=50000 adj2=50000
maxAdj1 = */ 100000 h ss; maxAdj2 = */ 100000 w ss; a1 = pin 0 adj1 maxAdj1; a2 = pin 0 adj2 maxAdj2; x1 = */ ss a2 100000
dy1 = */ ss a1 100000; y1 = +- b 0 dy1; d = +- w 0 h; it = ?: d y1 t; ir = ?: d r x1
text l it ir b
path M l t L x1 t x1 y1 r y1 r b l b Z

= diagStripe adj=50000
a = pin 0 adj 100000; x2 = */ w a 100000; x1 = */ x2 1 2; x3 = +/ x2 r 2; y2 = */ h a 100000; y1 = */ y2 1 2; y3 = +/ y2 b 2
text l t x3 y3
path M l y2 L x2 t r t l b Z

= chord adj1=2700000 adj2=16200000
stAng = pin 0 adj1 21599999; enAng = pin 0 adj2 21599999; sw1 = +- enAng 0 stAng; sw2 = +- sw1 21600000 0; swAng = ?: sw1 sw1 sw2
wt1 = sin wd2 stAng; ht1 = cos hd2 stAng; dx1 = cat2 wd2 ht1 wt1; dy1 = sat2 hd2 ht1 wt1; x1 = +- hc dx1 0; y1 = +- vc dy1 0
idx = cos wd2 2700000; idy = sin hd2 2700000; il = +- hc 0 idx; ir = +- hc idx 0; it = +- vc 0 idy; ib = +- vc idy 0
text il it ir ib
path M x1 y1 A wd2 hd2 stAng swAng Z

= arc adj1=16200000 adj2=0
stAng = pin 0 adj1 21599999; enAng = pin 0 adj2 21599999; sw11 = +- enAng 0 stAng; sw12 = +- sw11 21600000 0; swAng = ?: sw11 sw11 sw12
wt1 = sin wd2 stAng; ht1 = cos hd2 stAng; dx1 = cat2 wd2 ht1 wt1; dy1 = sat2 hd2 ht1 wt1; x1 = +- hc dx1 0; y1 = +- vc dy1 0
wt2 = sin wd2 enAng; ht2 = cos hd2 enAng; dx2 = cat2 wd2 ht2 wt2; dy2 = sat2 hd2 ht2 wt2; x2 = +- hc dx2 0; y2 = +- vc dy2 0
sw0 = +- 21600000 0 stAng; da1 = +- swAng 0 sw0; g1 = max x1 x2; ir = ?: da1 r g1; sw1 = +- cd4 0 stAng; sw2 = +- 27000000 0 stAng
sw3 = ?: sw1 sw1 sw2; da2 = +- swAng 0 sw3; g5 = max y1 y2; ib = ?: da2 b g5; sw4 = +- cd2 0 stAng; sw5 = +- 32400000 0 stAng
sw6 = ?: sw4 sw4 sw5; da3 = +- swAng 0 sw6; g9 = min x1 x2; il = ?: da3 l g9; sw7 = +- 3cd4 0 stAng; sw8 = +- 37800000 0 stAng
sw9 = ?: sw7 sw7 sw8; da4 = +- swAng 0 sw9; g13 = min y1 y2; it = ?: da4 t g13
text il it ir ib
path stroke=0 M x1 y1 A wd2 hd2 stAng swAng L hc vc Z
path fill=none M x1 y1 A wd2 hd2 stAng swAng

= leftBracket adj=8333
maxAdj = */ 50000 h ss; a = pin 0 adj maxAdj; y1 = */ ss a 100000; y2 = +- b 0 y1; dx1 = cos w 2700000; dy1 = sin y1 2700000
il = +- r 0 dx1; it = +- y1 0 dy1; ib = +- b dy1 y1
text il it r ib
path stroke=0 M r b A w y1 cd4 cd4 L l y1 A w y1 cd2 cd4 Z
path fill=none M r b A w y1 cd4 cd4 L l y1 A w y1 cd2 cd4

= rightBracket adj=8333
maxAdj = */ 50000 h ss; a = pin 0 adj maxAdj; y1 = */ ss a 100000; y2 = +- b 0 y1; y3 = */ w y1 w; dx1 = cos w 2700000
dy1 = sin y1 2700000; ir = +- l dx1 0; it = +- y1 0 dy1; ib = +- b dy1 y1
text l it ir ib
path stroke=0 M l t A w y1 3cd4 cd4 L r y2 A w y1 0 cd4 Z
path fill=none M l t A w y1 3cd4 cd4 L r y2 A w y1 0 cd4

= leftBrace adj1=8333 adj2=50000
a2 = pin 0 adj2 100000; q1 = +- 100000 0 a2; q2 = min q1 a2; q3 = */ q2 1 2; maxAdj1 = */ q3 h ss; a1 = pin 0 adj1 maxAdj1
y1 = */ ss a1 100000; y3 = */ h a2 100000; y2 = +- y3 0 y1; y4 = +- y3 y1 0; dx1 = cos wd2 2700000; dy1 = sin y1 2700000
il = +- r 0 dx1; it = +- y1 0 dy1; ib = +- b dy1 y1
text il it r ib
path stroke=0 M r b A wd2 y1 cd4 cd4 L hc y4 A wd2 y1 0 -5400000 A wd2 y1 cd4 -5400000 L hc y1 A wd2 y1 cd2 cd4 Z
path fill=none M r b A wd2 y1 cd4 cd4 L hc y4 A wd2 y1 0 -5400000 A wd2 y1 cd4 -5400000 L hc y1 A wd2 y1 cd2 cd4

= rightBrace adj1=8333 adj2=50000
a2 = pin 0 adj2 100000; q1 = +- 100000 0 a2; q2 = min q1 a2; q3 = */ q2 1 2; maxAdj1 = */ q3 h ss; a1 = pin 0 adj1 maxAdj1
y1 = */ ss a1 100000; y3 = */ h a2 100000; y2 = +- y3 0 y1; y4 = +- b 0 y1; dx1 = cos wd2 2700000; dy1 = sin y1 2700000
ir = +- l dx1 0; it = +- y1 0 dy1; ib = +- b dy1 y1
text l it ir ib
path stroke=0 M l t A wd2 y1 3cd4 cd4 L hc y2 A wd2 y1 cd2 -5400000 A wd2 y1 3cd4 -5400000 L hc y4 A wd2 y1 0 cd4 Z
path fill=none M l t A wd2 y1 3cd4 cd4 L hc y2 A wd2 y1 cd2 -5400000 A wd2 y1 3cd4 -5400000 L hc y4 A wd2 y1 0 cd4

= bracketPair adj=16667
a = pin 0 adj 50000; x1 = */ ss a 100000; x2 = +- r 0 x1; y2 = +- b 0 x1; il = */ x1 29289 100000; ir = +- r 0 il; ib = +- b 0 il
text il il ir ib
path stroke=0 M l x1 A x1 x1 cd2 cd4 L x2 t A x1 x1 3cd4 cd4 L r y2 A x1 x1 0 cd4 L x1 b A x1 x1 cd4 cd4 Z
path fill=none M x1 b A x1 x1 cd4 cd4 L l x1 A x1 x1 cd2 cd4 M x2 t A x1 x1 3cd4 cd4 L r y2 A x1 x1 0 cd4

= bracePair adj=8333
a = pin 0 adj 25000; x1 = */ ss a 100000; x2 = */ ss a 50000; x3 = +- r 0 x2; x4 = +- r 0 x1; y2 = +- vc 0 x1; y3 = +- vc x1 0; y4 = +- b 0 x1
it = */ x1 29289 100000; il = +- x1 it 0; ir = +- r 0 il; ib = +- b 0 it
text il il ir ib
path stroke=0 M x2 b A x1 x1 cd4 cd4 L x1 y3 A x1 x1 0 -5400000 A x1 x1 cd4 -5400000 L x1 x1 A x1 x1 cd2 cd4 L x3 t A x1 x1 3cd4 cd4 L x4 y2 A x1 x1 cd2 -5400000 A x1 x1 3cd4 -5400000 L x4 y4 A x1 x1 0 cd4 Z
path fill=none M x2 b A x1 x1 cd4 cd4 L x1 y3 A x1 x1 0 -5400000 A x1 x1 cd4 -5400000 L x1 x1 A x1 x1 cd2 cd4 M x3 t A x1 x1 3cd4 cd4 L x4 y2 A x1 x1 cd2 -5400000 A x1 x1 3cd4 -5400000 L x4 y4 A x1 x1 0 cd4

= plus adj=25000
a = pin 0 adj 50000; x1 = */ ss a 100000; x2 = +- r 0 x1; y2 = +- b 0 x1; d = +- w 0 h; il = ?: d l x1; ir = ?: d r x2; it = ?: d x1 t; ib = ?: d y2 b
text il it ir ib
path M l x1 L x1 x1 x1 t x2 t x2 x1 r x1 r y2 x2 y2 x2 b x1 b x1 y2 l y2 Z

= bentConnector2
path fill=none M l t L r t r b

= bentConnector3 adj1=50000
x1 = */ w adj1 100000
path fill=none M l t L x1 t x1 b r b

= bentConnector4 adj1=50000 adj2=50000
x1 = */ w adj1 100000; y2 = */ h adj2 100000
path fill=none M l t L x1 t x1 y2 r y2 r b

= bentConnector5 adj1=50000 adj2=50000 adj3=50000
x1 = */ w adj1 100000; x3 = */ w adj3 100000; y2 = */ h adj2 100000
path fill=none M l t L x1 t x1 y2 x3 y2 x3 b r b

= curvedConnector2
path fill=none M l t C wd2 t r hd2 r b

= curvedConnector3 adj1=50000
x2 = */ w adj1 100000; x1 = +/ l x2 2; x3 = +/ r x2 2; y3 = */ h 3 4
path fill=none M l t C x1 t x2 hd4 x2 vc C x2 y3 x3 b r b

= curvedConnector4 adj1=50000 adj2=50000
x2 = */ w adj1 100000; x1 = +/ l x2 2; x3 = +/ r x2 2; x4 = +/ x2 x3 2; x5 = +/ x3 r 2; y4 = */ h adj2 100000; y1 = +/ t y4 2; y2 = +/ t y1 2
y3 = +/ y1 y4 2; y5 = +/ b y4 2
path fill=none M l t C x1 t x2 y2 x2 y1 C x2 y3 x4 y4 x3 y4 C x5 y4 r y5 r b

= curvedConnector5 adj1=50000 adj2=50000 adj3=50000
x3 = */ w adj1 100000; x6 = */ w adj3 100000; x1 = +/ x3 x6 2; x2 = +/ l x3 2; x4 = +/ x3 x1 2; x5 = +/ x6 x1 2; x7 = +/ x6 r 2
y4 = */ h adj2 100000; y1 = +/ t y4 2; y2 = +/ t y1 2; y3 = +/ y1 y4 2; y5 = +/ b y4 2; y6 = +/ y5 y4 2; y7 = +/ y5 b 2
path fill=none M l t C x2 t x3 y2 x3 y1 C x3 y3 x4 y4 x1 y4 C x5 y4 x6 y6 x6 y5 C x6 y7 x7 b r b

= cornerTabs
md = mod w h 0; dx = */ 1 md 20; y1 = +- 0 b dx; x1 = +- 0 r dx
text dx dx x1 y1
path M l t L dx t l dx Z
path M l y1 L dx b l b Z
path M x1 t L r t r dx Z
path M r y1 L r b x1 b Z

= squareTabs
md = mod w h 0; dx = */ 1 md 20; y1 = +- 0 b dx; x1 = +- 0 r dx
text dx dx x1 y1
path M l t L dx t dx dx l dx Z
path M l y1 L dx y1 dx b l b Z
path M x1 t L r t r dx x1 dx Z
path M x1 y1 L r y1 r b x1 b Z

= plaqueTabs
md = mod w h 0; dx = */ 1 md 20; y1 = +- 0 b dx; x1 = +- 0 r dx
text dx dx x1 y1
path M l t L dx t A dx dx 0 cd4 Z
path M l y1 A dx dx 3cd4 cd4 L l b Z
path M r t L r dx A dx dx cd4 cd4 Z
path M x1 b A dx dx cd2 cd4 L r b Z

= chartX
path w=10 h=10 stroke=0 M 0 0 L 0 10 10 10 10 0 Z
path w=10 h=10 fill=none M 0 0 L 10 10 M 0 10 L 10 0

= chartPlus
path w=10 h=10 stroke=0 M 0 0 L 0 10 10 10 10 0 Z
path w=10 h=10 fill=none M 5 0 L 5 10 M 0 5 L 10 5

= chartStar
path w=10 h=10 stroke=0 M 0 0 L 0 10 10 10 10 0 Z
path w=10 h=10 fill=none M 0 0 L 10 10 M 0 10 L 10 0 M 5 0 L 5 10

= funnel
d = */ ss 1 20; rw2 = +- wd2 0 d; rh2 = +- hd4 0 d; t1 = cos wd2 480000; t2 = sin hd4 480000; da = at2 t1 t2; 2da = */ da 2 1
stAng1 = +- cd2 0 da; swAng1 = +- cd2 2da 0; swAng3 = +- cd2 0 2da; rw3 = */ wd2 1 4; rh3 = */ hd4 1 4; ct1 = cos hd4 stAng1; st1 = sin wd2 stAng1
m1 = mod ct1 st1 0; n1 = */ wd2 hd4 m1; dx1 = cos n1 stAng1; dy1 = sin n1 stAng1; x1 = +- hc dx1 0; y1 = +- hd4 dy1 0
ct3 = cos rh3 da; st3 = sin rw3 da; m3 = mod ct3 st3 0; n3 = */ rw3 rh3 m3; dx3 = cos n3 da; dy3 = sin n3 da; x3 = +- hc dx3 0
vc3 = +- b 0 rh3; y2 = +- vc3 dy3 0; x2 = +- wd2 0 rw2; cd = */ cd2 2 1
path M x1 y1 A wd2 hd4 stAng1 swAng1 L x3 y2 A rw3 rh3 da swAng3 Z M x2 hd4 A rw2 rh2 cd2 -21600000 Z
`;
