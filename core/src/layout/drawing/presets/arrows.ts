/** Arrows: straight, bent, round, with room for text. */
export const ARROWS = `
= rightArrow adj1=50000 adj2=50000
maxAdj2 = */ 100000 w ss; a1 = pin 0 adj1 100000; a2 = pin 0 adj2 maxAdj2; dx1 = */ ss a2 100000; x1 = +- r 0 dx1; dy1 = */ h a1 200000
y1 = +- vc 0 dy1; y2 = +- vc dy1 0; dx2 = */ y1 dx1 hd2; x2 = +- x1 dx2 0
text l y1 x2 y2
path M l y1 L x1 y1 x1 t r vc x1 b x1 y2 l y2 Z

= leftArrow adj1=50000 adj2=50000
maxAdj2 = */ 100000 w ss; a1 = pin 0 adj1 100000; a2 = pin 0 adj2 maxAdj2; dx2 = */ ss a2 100000; x2 = +- l dx2 0; dy1 = */ h a1 200000
y1 = +- vc 0 dy1; y2 = +- vc dy1 0; dx1 = */ y1 dx2 hd2; x1 = +- x2 0 dx1
text x1 y1 r y2
path M l vc L x2 t x2 y1 r y1 r y2 x2 y2 x2 b Z

= upArrow adj1=50000 adj2=50000
maxAdj2 = */ 100000 h ss; a1 = pin 0 adj1 100000; a2 = pin 0 adj2 maxAdj2; dy2 = */ ss a2 100000; y2 = +- t dy2 0; dx1 = */ w a1 200000
x1 = +- hc 0 dx1; x2 = +- hc dx1 0; dy1 = */ x1 dy2 wd2; y1 = +- y2 0 dy1
text x1 y1 x2 b
path M l y2 L hc t r y2 x2 y2 x2 b x1 b x1 y2 Z

= downArrow adj1=50000 adj2=50000
maxAdj2 = */ 100000 h ss; a1 = pin 0 adj1 100000; a2 = pin 0 adj2 maxAdj2; dy1 = */ ss a2 100000; y1 = +- b 0 dy1; dx1 = */ w a1 200000
x1 = +- hc 0 dx1; x2 = +- hc dx1 0; dy2 = */ x1 dy1 wd2; y2 = +- y1 dy2 0
text x1 t x2 y2
path M l y1 L x1 y1 x1 t x2 t x2 y1 r y1 hc b Z

= stripedRightArrow adj1=50000 adj2=50000
maxAdj2 = */ 84375 w ss; a1 = pin 0 adj1 100000; a2 = pin 0 adj2 maxAdj2; x4 = */ ss 5 32; dx5 = */ ss a2 100000; x5 = +- r 0 dx5
dy1 = */ h a1 200000; y1 = +- vc 0 dy1; y2 = +- vc dy1 0; dx6 = */ dy1 dx5 hd2; x6 = +- r 0 dx6
text x4 y1 x6 y2
path M l y1 L ssd32 y1 ssd32 y2 l y2 Z M ssd16 y1 L ssd8 y1 ssd8 y2 ssd16 y2 Z M x4 y1 L x5 y1 x5 t r vc x5 b x5 y2 x4 y2 Z

= notchedRightArrow adj1=50000 adj2=50000
maxAdj2 = */ 100000 w ss; a1 = pin 0 adj1 100000; a2 = pin 0 adj2 maxAdj2; dx2 = */ ss a2 100000; x2 = +- r 0 dx2; dy1 = */ h a1 200000
y1 = +- vc 0 dy1; y2 = +- vc dy1 0; x1 = */ dy1 dx2 hd2; x3 = +- r 0 x1
text x1 y1 x3 y2
path M l y1 L x2 y1 x2 t r vc x2 b x2 y2 l y2 x1 vc Z

= bentUpArrow adj1=25000 adj2=25000 adj3=25000
a1 = pin 0 adj1 50000; a2 = pin 0 adj2 50000; a3 = pin 0 adj3 50000; y1 = */ ss a3 100000; dx1 = */ ss a2 50000; x1 = +- r 0 dx1
dx3 = */ ss a2 100000; x3 = +- r 0 dx3; dx2 = */ ss a1 200000; x2 = +- x3 0 dx2; x4 = +- x3 dx2 0; dy2 = */ ss a1 100000; y2 = +- b 0 dy2
x0 = */ x4 1 2; y3 = +/ y2 b 2; y15 = +/ y1 b 2
text l y2 x4 b
path M l y2 L x2 y2 x2 y1 x1 y1 x3 t r y1 x4 y1 x4 b l b Z

= leftRightArrow adj1=50000 adj2=50000
maxAdj2 = */ 50000 w ss; a1 = pin 0 adj1 100000; a2 = pin 0 adj2 maxAdj2; x2 = */ ss a2 100000; x3 = +- r 0 x2; dy = */ h a1 200000
y1 = +- vc 0 dy; y2 = +- vc dy 0; dx1 = */ y1 x2 hd2; x1 = +- x2 0 dx1; x4 = +- x3 dx1 0
text x1 y1 x4 y2
path M l vc L x2 t x2 y1 x3 y1 x3 t r vc x3 b x3 y2 x2 y2 x2 b Z

= upDownArrow adj1=50000 adj2=50000
maxAdj2 = */ 50000 h ss; a1 = pin 0 adj1 100000; a2 = pin 0 adj2 maxAdj2; y2 = */ ss a2 100000; y3 = +- b 0 y2; dx1 = */ w a1 200000
x1 = +- hc 0 dx1; x2 = +- hc dx1 0; dy1 = */ x1 y2 wd2; y1 = +- y2 0 dy1; y4 = +- y3 dy1 0
text x1 y1 x2 y4
path M l y2 L hc t r y2 x2 y2 x2 y3 r y3 hc b l y3 x1 y3 x1 y2 Z

= leftUpArrow adj1=25000 adj2=25000 adj3=25000
a2 = pin 0 adj2 50000; maxAdj1 = */ a2 2 1; a1 = pin 0 adj1 maxAdj1; maxAdj3 = +- 100000 0 maxAdj1; a3 = pin 0 adj3 maxAdj3
x1 = */ ss a3 100000; dx2 = */ ss a2 50000; x2 = +- r 0 dx2; y2 = +- b 0 dx2; dx4 = */ ss a2 100000; x4 = +- r 0 dx4; y4 = +- b 0 dx4
dx3 = */ ss a1 200000; x3 = +- x4 0 dx3; x5 = +- x4 dx3 0; y3 = +- y4 0 dx3; y5 = +- y4 dx3 0; il = */ dx3 x1 dx4; cx1 = +/ x1 x5 2
cy1 = +/ x1 y5 2
text il y3 x4 y5
path M l y4 L x1 y2 x1 y3 x3 y3 x3 x1 x2 x1 x4 t r x1 x5 x1 x5 y5 x1 y5 x1 b Z

= leftRightUpArrow adj1=25000 adj2=25000 adj3=25000
a2 = pin 0 adj2 50000; maxAdj1 = */ a2 2 1; a1 = pin 0 adj1 maxAdj1; q1 = +- 100000 0 maxAdj1; maxAdj3 = */ q1 1 2; a3 = pin 0 adj3 maxAdj3
x1 = */ ss a3 100000; dx2 = */ ss a2 100000; x2 = +- hc 0 dx2; x5 = +- hc dx2 0; dx3 = */ ss a1 200000; x3 = +- hc 0 dx3; x4 = +- hc dx3 0
x6 = +- r 0 x1; dy2 = */ ss a2 50000; y2 = +- b 0 dy2; y4 = +- b 0 dx2; y3 = +- y4 0 dx3; y5 = +- y4 dx3 0; il = */ dx3 x1 dx2; ir = +- r 0 il
text il y3 ir y5
path M l y4 L x1 y2 x1 y3 x3 y3 x3 x1 x2 x1 hc t x5 x1 x4 x1 x4 y3 x6 y3 x6 y2 r y4 x6 b x6 y5 x1 y5 x1 b Z

= quadArrow adj1=22500 adj2=22500 adj3=22500
a2 = pin 0 adj2 50000; maxAdj1 = */ a2 2 1; a1 = pin 0 adj1 maxAdj1; q1 = +- 100000 0 maxAdj1; maxAdj3 = */ q1 1 2; a3 = pin 0 adj3 maxAdj3
x1 = */ ss a3 100000; dx2 = */ ss a2 100000; x2 = +- hc 0 dx2; x5 = +- hc dx2 0; dx3 = */ ss a1 200000; x3 = +- hc 0 dx3; x4 = +- hc dx3 0
x6 = +- r 0 x1; y2 = +- vc 0 dx2; y5 = +- vc dx2 0; y3 = +- vc 0 dx3; y4 = +- vc dx3 0; y6 = +- b 0 x1; il = */ dx3 x1 dx2; ir = +- r 0 il
text il y3 ir y4
path M l vc L x1 y2 x1 y3 x3 y3 x3 x1 x2 x1 hc t x5 x1 x4 x1 x4 y3 x6 y3 x6 y2 r vc x6 y5 x6 y4 x4 y4 x4 y6 x5 y6 hc b x2 y6 x3 y6 x3 y4 x1 y4 x1 y5 Z

= leftArrowCallout adj1=25000 adj2=25000 adj3=25000 adj4=64977
maxAdj2 = */ 50000 h ss; a2 = pin 0 adj2 maxAdj2; maxAdj1 = */ a2 2 1; a1 = pin 0 adj1 maxAdj1; maxAdj3 = */ 100000 w ss
a3 = pin 0 adj3 maxAdj3; q2 = */ a3 ss w; maxAdj4 = +- 100000 0 q2; a4 = pin 0 adj4 maxAdj4; dy1 = */ ss a2 100000; dy2 = */ ss a1 200000
y1 = +- vc 0 dy1; y2 = +- vc 0 dy2; y3 = +- vc dy2 0; y4 = +- vc dy1 0; x1 = */ ss a3 100000; dx2 = */ w a4 100000; x2 = +- r 0 dx2; x3 = +/ x2 r 2
text x2 t r b
path M l vc L x1 y1 x1 y2 x2 y2 x2 t r t r b x2 b x2 y3 x1 y3 x1 y4 Z

= rightArrowCallout adj1=25000 adj2=25000 adj3=25000 adj4=64977
maxAdj2 = */ 50000 h ss; a2 = pin 0 adj2 maxAdj2; maxAdj1 = */ a2 2 1; a1 = pin 0 adj1 maxAdj1; maxAdj3 = */ 100000 w ss
a3 = pin 0 adj3 maxAdj3; q2 = */ a3 ss w; maxAdj4 = +- 100000 0 q2; a4 = pin 0 adj4 maxAdj4; dy1 = */ ss a2 100000; dy2 = */ ss a1 200000
y1 = +- vc 0 dy1; y2 = +- vc 0 dy2; y3 = +- vc dy2 0; y4 = +- vc dy1 0; dx3 = */ ss a3 100000; x3 = +- r 0 dx3; x2 = */ w a4 100000; x1 = */ x2 1 2
text l t x2 b
path M l t L x2 t x2 y2 x3 y2 x3 y1 r vc x3 y4 x3 y3 x2 y3 x2 b l b Z

= upArrowCallout adj1=25000 adj2=25000 adj3=25000 adj4=64977
maxAdj2 = */ 50000 w ss; a2 = pin 0 adj2 maxAdj2; maxAdj1 = */ a2 2 1; a1 = pin 0 adj1 maxAdj1; maxAdj3 = */ 100000 h ss
a3 = pin 0 adj3 maxAdj3; q2 = */ a3 ss h; maxAdj4 = +- 100000 0 q2; a4 = pin 0 adj4 maxAdj4; dx1 = */ ss a2 100000; dx2 = */ ss a1 200000
x1 = +- hc 0 dx1; x2 = +- hc 0 dx2; x3 = +- hc dx2 0; x4 = +- hc dx1 0; y1 = */ ss a3 100000; dy2 = */ h a4 100000; y2 = +- b 0 dy2; y3 = +/ y2 b 2
text l y2 r b
path M l y2 L x2 y2 x2 y1 x1 y1 hc t x4 y1 x3 y1 x3 y2 r y2 r b l b Z

= downArrowCallout adj1=25000 adj2=25000 adj3=25000 adj4=64977
maxAdj2 = */ 50000 w ss; a2 = pin 0 adj2 maxAdj2; maxAdj1 = */ a2 2 1; a1 = pin 0 adj1 maxAdj1; maxAdj3 = */ 100000 h ss
a3 = pin 0 adj3 maxAdj3; q2 = */ a3 ss h; maxAdj4 = +- 100000 0 q2; a4 = pin 0 adj4 maxAdj4; dx1 = */ ss a2 100000; dx2 = */ ss a1 200000
x1 = +- hc 0 dx1; x2 = +- hc 0 dx2; x3 = +- hc dx2 0; x4 = +- hc dx1 0; dy3 = */ ss a3 100000; y3 = +- b 0 dy3; y2 = */ h a4 100000; y1 = */ y2 1 2
text l t r y2
path M l t L r t r y2 x3 y2 x3 y3 x4 y3 hc b x1 y3 x2 y3 x2 y2 l y2 Z

= leftRightArrowCallout adj1=25000 adj2=25000 adj3=25000 adj4=48123
maxAdj2 = */ 50000 h ss; a2 = pin 0 adj2 maxAdj2; maxAdj1 = */ a2 2 1; a1 = pin 0 adj1 maxAdj1; maxAdj3 = */ 50000 w ss
a3 = pin 0 adj3 maxAdj3; q2 = */ a3 ss wd2; maxAdj4 = +- 100000 0 q2; a4 = pin 0 adj4 maxAdj4; dy1 = */ ss a2 100000; dy2 = */ ss a1 200000
y1 = +- vc 0 dy1; y2 = +- vc 0 dy2; y3 = +- vc dy2 0; y4 = +- vc dy1 0; x1 = */ ss a3 100000; x4 = +- r 0 x1; dx2 = */ w a4 200000
x2 = +- hc 0 dx2; x3 = +- hc dx2 0
text x2 t x3 b
path M l vc L x1 y1 x1 y2 x2 y2 x2 t x3 t x3 y2 x4 y2 x4 y1 r vc x4 y4 x4 y3 x3 y3 x3 b x2 b x2 y3 x1 y3 x1 y4 Z

= upDownArrowCallout adj1=25000 adj2=25000 adj3=25000 adj4=48123
maxAdj2 = */ 50000 w ss; a2 = pin 0 adj2 maxAdj2; maxAdj1 = */ a2 2 1; a1 = pin 0 adj1 maxAdj1; maxAdj3 = */ 50000 h ss
a3 = pin 0 adj3 maxAdj3; q2 = */ a3 ss hd2; maxAdj4 = +- 100000 0 q2; a4 = pin 0 adj4 maxAdj4; dx1 = */ ss a2 100000; dx2 = */ ss a1 200000
x1 = +- hc 0 dx1; x2 = +- hc 0 dx2; x3 = +- hc dx2 0; x4 = +- hc dx1 0; y1 = */ ss a3 100000; y4 = +- b 0 y1; dy2 = */ h a4 200000
y2 = +- vc 0 dy2; y3 = +- vc dy2 0
text l y2 r y3
path M l y2 L x2 y2 x2 y1 x1 y1 hc t x4 y1 x3 y1 x3 y2 r y2 r y3 x3 y3 x3 y4 x4 y4 hc b x1 y4 x2 y4 x2 y3 l y3 Z

= quadArrowCallout adj1=18515 adj2=18515 adj3=18515 adj4=48123
a2 = pin 0 adj2 50000; maxAdj1 = */ a2 2 1; a1 = pin 0 adj1 maxAdj1; maxAdj3 = +- 50000 0 a2; a3 = pin 0 adj3 maxAdj3; q2 = */ a3 2 1
maxAdj4 = +- 100000 0 q2; a4 = pin a1 adj4 maxAdj4; dx2 = */ ss a2 100000; dx3 = */ ss a1 200000; ah = */ ss a3 100000; dx1 = */ w a4 200000
dy1 = */ h a4 200000; x8 = +- r 0 ah; x2 = +- hc 0 dx1; x7 = +- hc dx1 0; x3 = +- hc 0 dx2; x6 = +- hc dx2 0; x4 = +- hc 0 dx3; x5 = +- hc dx3 0
y8 = +- b 0 ah; y2 = +- vc 0 dy1; y7 = +- vc dy1 0; y3 = +- vc 0 dx2; y6 = +- vc dx2 0; y4 = +- vc 0 dx3; y5 = +- vc dx3 0
text x2 y2 x7 y7
path M l vc L ah y3 ah y4 x2 y4 x2 y2 x4 y2 x4 ah x3 ah hc t x6 ah x5 ah x5 y2 x7 y2 x7 y4 x8 y4 x8 y3 r vc x8 y6 x8 y5 x7 y5 x7 y7 x5 y7 x5 y8 x6 y8 hc b x3 y8 x4 y8 x4 y7 x2 y7 x2 y5 ah y5 ah y6 Z

= bentArrow adj1=25000 adj2=25000 adj3=25000 adj4=43750
a2 = pin 0 adj2 50000; maxAdj1 = */ a2 2 1; a1 = pin 0 adj1 maxAdj1; a3 = pin 0 adj3 50000; th = */ ss a1 100000; aw2 = */ ss a2 100000
th2 = */ th 1 2; dh2 = +- aw2 0 th2; ah = */ ss a3 100000; bw = +- r 0 ah; bh = +- b 0 dh2; bs = min bw bh; maxAdj4 = */ 100000 bs ss
a4 = pin 0 adj4 maxAdj4; bd = */ ss a4 100000; bd3 = +- bd 0 th; bd2 = max bd3 0; x3 = +- th bd2 0; x4 = +- r 0 ah; y3 = +- dh2 th 0
y4 = +- y3 dh2 0; y5 = +- dh2 bd 0; y6 = +- y3 bd2 0
path M l b L l y5 A bd bd cd2 cd4 L x4 dh2 x4 t r aw2 x4 y4 x4 y3 x3 y3 A bd2 bd2 3cd4 -5400000 L th b Z

= uturnArrow adj1=25000 adj2=25000 adj3=25000 adj4=43750 adj5=75000
a2 = pin 0 adj2 25000; maxAdj1 = */ a2 2 1; a1 = pin 0 adj1 maxAdj1; q2 = */ a1 ss h; q3 = +- 100000 0 q2; maxAdj3 = */ q3 h ss
a3 = pin 0 adj3 maxAdj3; q1 = +- a3 a1 0; minAdj5 = */ q1 ss h; a5 = pin minAdj5 adj5 100000; th = */ ss a1 100000; aw2 = */ ss a2 100000
th2 = */ th 1 2; dh2 = +- aw2 0 th2; y5 = */ h a5 100000; ah = */ ss a3 100000; y4 = +- y5 0 ah; x9 = +- r 0 dh2; bw = */ x9 1 2; bs = min bw y4
maxAdj4 = */ bs 100000 ss; a4 = pin 0 adj4 maxAdj4; bd = */ ss a4 100000; bd3 = +- bd 0 th; bd2 = max bd3 0; x3 = +- th bd2 0; x8 = +- r 0 aw2
x6 = +- x8 0 aw2; x7 = +- x6 dh2 0; x4 = +- x9 0 bd; x5 = +- x7 0 bd2
path M l b L l bd A bd bd cd2 cd4 L x4 t A bd bd 3cd4 cd4 L x9 y4 r y4 x8 y5 x6 y4 x7 y4 x7 x3 A bd2 bd2 0 -5400000 L x3 th A bd2 bd2 3cd4 -5400000 L th b Z

= swooshArrow adj1=25000 adj2=16667
a1 = pin 1 adj1 75000; maxAdj2 = */ 70000 w ss; a2 = pin 0 adj2 maxAdj2; ad1 = */ h a1 100000; ad2 = */ ss a2 100000; xB = +- r 0 ad2
yB = +- t ssd8 0; alfa = */ cd4 1 14; dx0 = tan ssd8 alfa; xC = +- xB 0 dx0; dx1 = tan ad1 alfa; yF = +- yB ad1 0; xF = +- xB dx1 0
xE = +- xF dx0 0; yE = +- yF ssd8 0; dy2 = +- yE 0 t; dy22 = */ dy2 1 2; dy3 = */ h 1 20; yD = +- t dy22 dy3; dy4 = */ hd6 1 1
yP1 = +- hd6 dy4 0; xP1 = val wd6; dy5 = */ hd6 1 2; yP2 = +- yF dy5 0; xP2 = val wd4
path M l b Q xP1 yP1 xB yB L xC t r yD xE yE xF yF Q xP2 yP2 l b Z

= curvedRightArrow adj1=25000 adj2=50000 adj3=25000
maxAdj2 = */ 50000 h ss; a2 = pin 0 adj2 maxAdj2; a1 = pin 0 adj1 a2; th = */ ss a1 100000; aw = */ ss a2 100000; q1 = +/ th aw 4
hR = +- hd2 0 q1; q7 = */ hR 2 1; q8 = */ q7 q7 1; q9 = */ th th 1; q10 = +- q8 0 q9; q11 = sqrt q10; idx = */ q11 w q7
maxAdj3 = */ 100000 idx ss; a3 = pin 0 adj3 maxAdj3; ah = */ ss a3 100000; y3 = +- hR th 0; q2 = */ w w 1; q3 = */ ah ah 1; q4 = +- q2 0 q3
q5 = sqrt q4; dy = */ q5 hR w; y5 = +- hR dy 0; y7 = +- y3 dy 0; q6 = +- aw 0 th; dh = */ q6 1 2; y4 = +- y5 0 dh; y8 = +- y7 dh 0
aw2 = */ aw 1 2; y6 = +- b 0 aw2; x1 = +- r 0 ah; swAng = at2 ah dy; stAng = +- cd2 0 swAng; mswAng = +- 0 0 swAng; ix = +- r 0 idx
iy = +/ hR y3 2; q12 = */ th 1 2; dang2 = at2 idx q12; swAng2 = +- dang2 0 cd4; swAng3 = +- cd4 dang2 0; stAng3 = +- cd2 0 dang2
path stroke=0 M l hR A w hR cd2 mswAng L x1 y4 r y6 x1 y8 x1 y7 A w hR stAng swAng Z
path stroke=0 fill=darkenLess M r th A w hR 3cd4 swAng2 A w hR stAng3 swAng3 Z
path fill=none M l hR A w hR cd2 mswAng L x1 y4 r y6 x1 y8 x1 y7 A w hR stAng swAng L l hR A w hR cd2 cd4 L r th A w hR 3cd4 swAng2

= curvedLeftArrow adj1=25000 adj2=50000 adj3=25000
maxAdj2 = */ 50000 h ss; a2 = pin 0 adj2 maxAdj2; a1 = pin 0 adj1 a2; th = */ ss a1 100000; aw = */ ss a2 100000; q1 = +/ th aw 4
hR = +- hd2 0 q1; q7 = */ hR 2 1; q8 = */ q7 q7 1; q9 = */ th th 1; q10 = +- q8 0 q9; q11 = sqrt q10; idx = */ q11 w q7
maxAdj3 = */ 100000 idx ss; a3 = pin 0 adj3 maxAdj3; ah = */ ss a3 100000; y3 = +- hR th 0; q2 = */ w w 1; q3 = */ ah ah 1; q4 = +- q2 0 q3
q5 = sqrt q4; dy = */ q5 hR w; y5 = +- hR dy 0; y7 = +- y3 dy 0; q6 = +- aw 0 th; dh = */ q6 1 2; y4 = +- y5 0 dh; y8 = +- y7 dh 0
aw2 = */ aw 1 2; y6 = +- b 0 aw2; x1 = +- l ah 0; swAng = at2 ah dy; mswAng = +- 0 0 swAng; q12 = */ th 1 2; dang2 = at2 idx q12
swAng2 = +- dang2 0 swAng; swAng3 = +- swAng dang2 0; stAng3 = +- 0 0 dang2
path stroke=0 M l y6 L x1 y4 x1 y5 A w hR swAng swAng2 A w hR stAng3 swAng3 L x1 y8 Z
path stroke=0 fill=darkenLess M r y3 A w hR 0 -5400000 L l t A w hR 3cd4 cd4 Z
path fill=none M r y3 A w hR 0 -5400000 L l t A w hR 3cd4 cd4 L r y3 A w hR 0 swAng L x1 y8 l y6 x1 y4 x1 y5 A w hR swAng swAng2

= curvedUpArrow adj1=25000 adj2=50000 adj3=25000
maxAdj2 = */ 50000 w ss; a2 = pin 0 adj2 maxAdj2; a1 = pin 0 adj1 100000; th = */ ss a1 100000; aw = */ ss a2 100000; q1 = +/ th aw 4
wR = +- wd2 0 q1; q7 = */ wR 2 1; q8 = */ q7 q7 1; q9 = */ th th 1; q10 = +- q8 0 q9; q11 = sqrt q10; idy = */ q11 h q7
maxAdj3 = */ 100000 idy ss; a3 = pin 0 adj3 maxAdj3; ah = */ ss a3 100000; x3 = +- wR th 0; q2 = */ h h 1; q3 = */ ah ah 1; q4 = +- q2 0 q3
q5 = sqrt q4; dx = */ q5 wR h; x5 = +- wR dx 0; x7 = +- x3 dx 0; q6 = +- aw 0 th; dh = */ q6 1 2; x4 = +- x5 0 dh; x8 = +- x7 dh 0
aw2 = */ aw 1 2; x6 = +- r 0 aw2; y1 = +- t ah 0; swAng = at2 ah dx; iy = +- t idy 0; ix = +/ wR x3 2; q12 = */ th 1 2; dang2 = at2 idy q12
swAng2 = +- dang2 0 swAng; stAng3 = +- cd4 0 swAng; swAng3 = +- swAng dang2 0; stAng2 = +- cd4 0 dang2
path stroke=0 M x6 t L x8 y1 x7 y1 A wR h stAng3 swAng3 A wR h stAng2 swAng2 L x4 y1 Z
path stroke=0 fill=darkenLess M wR b A wR h cd4 cd4 L th t A wR h cd2 -5400000 Z
path fill=none M ix iy A wR h stAng2 swAng2 L x4 y1 x6 t x8 y1 x7 y1 A wR h stAng3 swAng L wR b A wR h cd4 cd4 L th t A wR h cd2 -5400000

= curvedDownArrow adj1=25000 adj2=50000 adj3=25000
maxAdj2 = */ 50000 w ss; a2 = pin 0 adj2 maxAdj2; a1 = pin 0 adj1 100000; th = */ ss a1 100000; aw = */ ss a2 100000; q1 = +/ th aw 4
wR = +- wd2 0 q1; q7 = */ wR 2 1; q8 = */ q7 q7 1; q9 = */ th th 1; q10 = +- q8 0 q9; q11 = sqrt q10; idy = */ q11 h q7
maxAdj3 = */ 100000 idy ss; a3 = pin 0 adj3 maxAdj3; ah = */ ss a3 100000; x3 = +- wR th 0; q2 = */ h h 1; q3 = */ ah ah 1; q4 = +- q2 0 q3
q5 = sqrt q4; dx = */ q5 wR h; x5 = +- wR dx 0; x7 = +- x3 dx 0; q6 = +- aw 0 th; dh = */ q6 1 2; x4 = +- x5 0 dh; x8 = +- x7 dh 0
aw2 = */ aw 1 2; x6 = +- r 0 aw2; y1 = +- b 0 ah; swAng = at2 ah dx; mswAng = +- 0 0 swAng; iy = +- b 0 idy; ix = +/ wR x3 2; q12 = */ th 1 2
dang2 = at2 idy q12; stAng = +- 3cd4 swAng 0; stAng2 = +- 3cd4 0 dang2; swAng2 = +- dang2 0 cd4; swAng3 = +- cd4 dang2 0
path stroke=0 M x6 b L x4 y1 x5 y1 A wR h stAng mswAng L x3 t A wR h 3cd4 swAng L x8 y1 Z
path stroke=0 fill=darkenLess M ix iy A wR h stAng2 swAng2 L l b A wR h cd2 swAng3 Z
path fill=none M ix iy A wR h stAng2 swAng2 L l b A wR h cd2 cd4 L x3 t A wR h 3cd4 swAng L x8 y1 x6 b x4 y1 x5 y1 A wR h stAng mswAng
`;

/** A round arrow's widths and radii, and the place of its head's middle, at an angle. */
const ROUND = `a5 = pin 0 adj5 25000; maxAdj1 = */ a5 2 1; a1 = pin 0 adj1 maxAdj1; enAng = pin 1 adj3 21599999; stAng = pin 0 adj4 21599999
th = */ ss a1 100000; thh = */ ss a5 100000; th2 = */ th 1 2; rw1 = +- wd2 th2 thh; rh1 = +- hd2 th2 thh; rw2 = +- rw1 0 th; rh2 = +- rh1 0 th
rw3 = +- rw2 th2 0; rh3 = +- rh2 th2 0; wtH = sin rw3 enAng; htH = cos rh3 enAng; dxH = cat2 rw3 htH wtH; dyH = sat2 rh3 htH wtH
xH = +- hc dxH 0; yH = +- vc dyH 0; rI = min rw2 rh2; u1 = */ dxH dxH 1; u2 = */ dyH dyH 1; u3 = */ rI rI 1; u4 = +- u1 0 u3; u5 = +- u2 0 u3
u6 = */ u4 u5 u1; u7 = */ u6 1 u2; u8 = +- 1 0 u7; u9 = sqrt u8; u10 = */ u4 1 dxH; u11 = */ u10 1 dyH; u12 = +/ 1 u9 u11; u13 = at2 1 u12
u14 = +- u13 21600000 0; u15 = ?: u13 u13 u14; u16 = +- u15 0 enAng; u17 = +- u16 21600000 0; u18 = ?: u16 u16 u17; u19 = +- u18 0 cd2
u20 = +- u18 0 21600000; u21 = ?: u19 u20 u18; maxAng = abs u21`;

/** The head at an angle: its point, its ends, and where the line between those meets the arrow's outer and inner edge. */
function head(point: string, at: string, s: string): string {
  return `wtA${s} = sin rw3 ${point}; htA${s} = cos rh3 ${point}; dxA${s} = cat2 rw3 htA${s} wtA${s}; dyA${s} = sat2 rh3 htA${s} wtA${s}
xA${s} = +- hc dxA${s} 0; yA${s} = +- vc dyA${s} 0; wtM${s} = sin rw3 ${at}; htM${s} = cos rh3 ${at}; dxM${s} = cat2 rw3 htM${s} wtM${s}
dyM${s} = sat2 rh3 htM${s} wtM${s}; xM${s} = +- hc dxM${s} 0; yM${s} = +- vc dyM${s} 0; dxG${s} = cos thh ${point}; dyG${s} = sin thh ${point}
xG${s} = +- xM${s} dxG${s} 0; yG${s} = +- yM${s} dyG${s} 0; xB${s} = +- xM${s} 0 dxG${s}; yB${s} = +- yM${s} 0 dyG${s}
sx1${s} = +- xB${s} 0 hc; sy1${s} = +- yB${s} 0 vc; sx2${s} = +- xG${s} 0 hc; sy2${s} = +- yG${s} 0 vc; rO = min rw1 rh1
${meeting("O", "rO", "rw1", "rh1", "2", "F", s)}
${meeting("I", "rI", "rw2", "rh2", "1", "C", s)}
p1${s} = +- xF${s} 0 xC${s}; p2${s} = +- yF${s} 0 yC${s}; p3${s} = mod p1${s} p2${s} 0; p4${s} = */ p3${s} 1 2; p5${s} = +- p4${s} 0 thh
xGp${s} = ?: p5${s} xF${s} xG${s}; yGp${s} = ?: p5${s} yF${s} yG${s}; xBp${s} = ?: p5${s} xC${s} xB${s}; yBp${s} = ?: p5${s} yC${s} yB${s}
angF0${s} = at2 sdxF${s} sdyF${s}; angF1${s} = +- angF0${s} 21600000 0; angF${s} = ?: angF0${s} angF0${s} angF1${s}
angC0${s} = at2 sdxC${s} sdyC${s}; angC1${s} = +- angC0${s} 21600000 0; angC${s} = ?: angC0${s} angC0${s} angC1${s}`;
}

/** Where a line meets a circle, on the side of its first or second point; scaled to the ellipse. */
function meeting(c: string, radius: string, rw: string, rh: string, near: string, name: string, s: string): string {
  const k = `${c}${s}`;
  return `x1${k} = */ sx1${s} ${radius} ${rw}; y1${k} = */ sy1${s} ${radius} ${rh}; x2${k} = */ sx2${s} ${radius} ${rw}; y2${k} = */ sy2${s} ${radius} ${rh}
dx${k} = +- x2${k} 0 x1${k}; dy${k} = +- y2${k} 0 y1${k}; d${k} = mod dx${k} dy${k} 0; k1${k} = */ x1${k} y2${k} 1; k2${k} = */ x2${k} y1${k} 1
D${k} = +- k1${k} 0 k2${k}; k3${k} = */ ${radius} ${radius} 1; k4${k} = */ d${k} d${k} 1; k5${k} = */ k3${k} k4${k} 1; k6${k} = */ D${k} D${k} 1
k7${k} = +- k5${k} 0 k6${k}; k8${k} = max k7${k} 0; sdel${k} = sqrt k8${k}; ndy${k} = */ dy${k} -1 1; sdy${k} = ?: ndy${k} -1 1
k9${k} = */ sdy${k} dx${k} 1; k10${k} = */ k9${k} sdel${k} 1; k11${k} = */ D${k} dy${k} 1; xa${k} = +/ k11${k} k10${k} k4${k}
k12${k} = +- k11${k} 0 k10${k}; xb${k} = */ k12${k} 1 k4${k}; ady${k} = abs dy${k}; k13${k} = */ ady${k} sdel${k} 1; k14${k} = */ D${k} dx${k} -1
ya${k} = +/ k14${k} k13${k} k4${k}; k15${k} = +- k14${k} 0 k13${k}; yb${k} = */ k15${k} 1 k4${k}
k16${k} = +- x${near}${k} 0 xa${k}; k17${k} = +- x${near}${k} 0 xb${k}; k18${k} = +- y${near}${k} 0 ya${k}; k19${k} = +- y${near}${k} 0 yb${k}
k20${k} = mod k16${k} k18${k} 0; k21${k} = mod k17${k} k19${k} 0; k22${k} = +- k21${k} 0 k20${k}
cx${k} = ?: k22${k} xa${k} xb${k}; cy${k} = ?: k22${k} ya${k} yb${k}; sdx${name}${s} = */ cx${k} ${rw} ${radius}; sdy${name}${s} = */ cy${k} ${rh} ${radius}
x${name}${s} = +- hc sdx${name}${s} 0; y${name}${s} = +- vc sdy${name}${s} 0`;
}

/** The outer and the inner edge where the arrow begins. */
const START = `wtE = sin rw1 stAng; htE = cos rh1 stAng; dxE = cat2 rw1 htE wtE; dyE = sat2 rh1 htE wtE; xE = +- hc dxE 0; yE = +- vc dyE 0
wtD = sin rw2 stAng; htD = cos rh2 stAng; dxD = cat2 rw2 htD wtD; dyD = sat2 rh2 htD wtD; xD = +- hc dxD 0; yD = +- vc dyD 0`;

const INSIDE = `iwd = cos rw1 2700000; ihd = sin rh1 2700000; il = +- hc 0 iwd; ir = +- hc iwd 0; it = +- vc 0 ihd; ib = +- vc ihd 0
text il it ir ib`;

export const ROUND_ARROWS = `
= circularArrow adj1=12500 adj2=1142319 adj3=20457681 adj4=10800000 adj5=12500
${ROUND}
aAng = pin 0 adj2 maxAng; ptAng = +- enAng aAng 0
${START}
${head("ptAng", "enAng", "")}
isw1 = +- stAng 0 angC; isw2 = +- isw1 0 21600000; iswAng = ?: isw1 isw2 isw1
sw0 = +- angF 0 stAng; sw1 = +- sw0 21600000 0; swAng = ?: sw0 sw0 sw1
${INSIDE}
path M xE yE A rw1 rh1 stAng swAng L xGp yGp xA yA xBp yBp xC yC A rw2 rh2 angC iswAng Z

= leftCircularArrow adj1=12500 adj2=-1142319 adj3=1142319 adj4=10800000 adj5=12500
${ROUND}
minAng = */ maxAng -1 1; u22 = abs adj2; u23 = */ u22 -1 1; aAng = pin minAng u23 0; ptAng = +- enAng aAng 0
${START}
${head("ptAng", "enAng", "")}
isw1 = +- angC 0 stAng; isw2 = +- isw1 0 21600000; iswAng = ?: isw1 isw2 isw1
sw0 = +- stAng 0 angF; sw1 = +- sw0 21600000 0; swAng = ?: sw0 sw0 sw1
${INSIDE}
path M xD yD A rw2 rh2 stAng iswAng L xBp yBp xA yA xGp yGp xF yF A rw1 rh1 angF swAng Z

= leftRightCircularArrow adj1=12500 adj2=1142319 adj3=20457681 adj4=11942319 adj5=12500
${ROUND}
aAng = pin 0 adj2 maxAng; ptAng = +- enAng aAng 0; stAng2 = +- stAng 0 aAng
${head("ptAng", "enAng", "")}
${head("stAng2", "stAng", "s")}
sw0 = +- angF 0 angFs; sw1 = +- sw0 21600000 0; swAng = ?: sw0 sw0 sw1
isw1 = +- angCs 0 angC; isw2 = +- isw1 0 21600000; iswAng = ?: isw1 isw2 isw1
${INSIDE}
path M xAs yAs L xGps yGps xFs yFs A rw1 rh1 angFs swAng L xGp yGp xA yA xBp yBp xC yC A rw2 rh2 angC iswAng L xBps yBps Z
`;
