/** Stars, ribbons, scrolls and waves. */
export const STARS = `
= star4 adj=12500
a = pin 0 adj 50000; iwd2 = */ wd2 a 50000; ihd2 = */ hd2 a 50000; sdx = cos iwd2 2700000; sdy = sin ihd2 2700000
sx1 = +- hc 0 sdx; sx2 = +- hc sdx 0; sy1 = +- vc 0 sdy; sy2 = +- vc sdy 0
text sx1 sy1 sx2 sy2
path M l vc L sx1 sy1 hc t sx2 sy1 r vc sx2 sy2 hc b sx1 sy2 Z

= star5 adj=19098 hf=105146 vf=110557
a = pin 0 adj 50000; swd2 = */ wd2 hf 100000; shd2 = */ hd2 vf 100000; svc = */ vc vf 100000; dx1 = cos swd2 1080000; dx2 = cos swd2 18360000
dy1 = sin shd2 1080000; dy2 = sin shd2 18360000; x1 = +- hc 0 dx1; x2 = +- hc 0 dx2; x3 = +- hc dx2 0; x4 = +- hc dx1 0
y1 = +- svc 0 dy1; y2 = +- svc 0 dy2; iwd2 = */ swd2 a 50000; ihd2 = */ shd2 a 50000; sdx1 = cos iwd2 20520000; sdx2 = cos iwd2 3240000
sdy1 = sin ihd2 3240000; sdy2 = sin ihd2 20520000; sx1 = +- hc 0 sdx1; sx2 = +- hc 0 sdx2; sx3 = +- hc sdx2 0; sx4 = +- hc sdx1 0
sy1 = +- svc 0 sdy1; sy2 = +- svc 0 sdy2; sy3 = +- svc ihd2 0
text sx1 sy1 sx4 sy3
path M x1 y1 L sx2 sy1 hc t sx3 sy1 x4 y1 sx4 sy2 x3 y2 hc sy3 x2 y2 sx1 sy2 Z

= star6 adj=28868 hf=115470
a = pin 0 adj 50000; swd2 = */ wd2 hf 100000; dx1 = cos swd2 1800000; x1 = +- hc 0 dx1; x2 = +- hc dx1 0; y2 = +- vc hd4 0
iwd2 = */ swd2 a 50000; ihd2 = */ hd2 a 50000; sdx2 = */ iwd2 1 2; sx1 = +- hc 0 iwd2; sx2 = +- hc 0 sdx2; sx3 = +- hc sdx2 0
sx4 = +- hc iwd2 0; sdy1 = sin ihd2 3600000; sy1 = +- vc 0 sdy1; sy2 = +- vc sdy1 0
text sx1 sy1 sx4 sy2
path M x1 hd4 L sx2 sy1 hc t sx3 sy1 x2 hd4 sx4 vc x2 y2 sx3 sy2 hc b sx2 sy2 x1 y2 sx1 vc Z

= star7 adj=34601 hf=102572 vf=105210
a = pin 0 adj 50000; swd2 = */ wd2 hf 100000; shd2 = */ hd2 vf 100000; svc = */ vc vf 100000; dx1 = */ swd2 97493 100000
dx2 = */ swd2 78183 100000; dx3 = */ swd2 43388 100000; dy1 = */ shd2 62349 100000; dy2 = */ shd2 22252 100000; dy3 = */ shd2 90097 100000
x1 = +- hc 0 dx1; x2 = +- hc 0 dx2; x3 = +- hc 0 dx3; x4 = +- hc dx3 0; x5 = +- hc dx2 0; x6 = +- hc dx1 0; y1 = +- svc 0 dy1
y2 = +- svc dy2 0; y3 = +- svc dy3 0; iwd2 = */ swd2 a 50000; ihd2 = */ shd2 a 50000; sdx1 = */ iwd2 97493 100000
sdx2 = */ iwd2 78183 100000; sdx3 = */ iwd2 43388 100000; sx1 = +- hc 0 sdx1; sx2 = +- hc 0 sdx2; sx3 = +- hc 0 sdx3; sx4 = +- hc sdx3 0
sx5 = +- hc sdx2 0; sx6 = +- hc sdx1 0; sdy1 = */ ihd2 90097 100000; sdy2 = */ ihd2 22252 100000; sdy3 = */ ihd2 62349 100000
sy1 = +- svc 0 sdy1; sy2 = +- svc 0 sdy2; sy3 = +- svc sdy3 0; sy4 = +- svc ihd2 0
text sx2 sy1 sx5 sy3
path M x1 y2 L sx1 sy2 x2 y1 sx3 sy1 hc t sx4 sy1 x5 y1 sx6 sy2 x6 y2 sx5 sy3 x4 y3 hc sy4 x3 y3 sx2 sy3 Z

= star8 adj=37500
a = pin 0 adj 50000; dx1 = cos wd2 2700000; x1 = +- hc 0 dx1; x2 = +- hc dx1 0; dy1 = sin hd2 2700000; y1 = +- vc 0 dy1; y2 = +- vc dy1 0
iwd2 = */ wd2 a 50000; ihd2 = */ hd2 a 50000; sdx1 = */ iwd2 92388 100000; sdx2 = */ iwd2 38268 100000; sdy1 = */ ihd2 92388 100000
sdy2 = */ ihd2 38268 100000; sx1 = +- hc 0 sdx1; sx2 = +- hc 0 sdx2; sx3 = +- hc sdx2 0; sx4 = +- hc sdx1 0; sy1 = +- vc 0 sdy1
sy2 = +- vc 0 sdy2; sy3 = +- vc sdy2 0; sy4 = +- vc sdy1 0
text sx1 sy1 sx4 sy4
path M l vc L sx1 sy2 x1 y1 sx2 sy1 hc t sx3 sy1 x2 y1 sx4 sy2 r vc sx4 sy3 x2 y2 sx3 sy4 hc b sx2 sy4 x1 y2 sx1 sy3 Z

= star10 adj=42533 hf=105146
a = pin 0 adj 50000; swd2 = */ wd2 hf 100000; dx1 = */ swd2 95106 100000; dx2 = */ swd2 58779 100000; x1 = +- hc 0 dx1; x2 = +- hc 0 dx2
x3 = +- hc dx2 0; x4 = +- hc dx1 0; dy1 = */ hd2 80902 100000; dy2 = */ hd2 30902 100000; y1 = +- vc 0 dy1; y2 = +- vc 0 dy2
y3 = +- vc dy2 0; y4 = +- vc dy1 0; iwd2 = */ swd2 a 50000; ihd2 = */ hd2 a 50000; sdx1 = */ iwd2 80902 100000; sdx2 = */ iwd2 30902 100000
sdy1 = */ ihd2 95106 100000; sdy2 = */ ihd2 58779 100000; sx1 = +- hc 0 iwd2; sx2 = +- hc 0 sdx1; sx3 = +- hc 0 sdx2; sx4 = +- hc sdx2 0
sx5 = +- hc sdx1 0; sx6 = +- hc iwd2 0; sy1 = +- vc 0 sdy1; sy2 = +- vc 0 sdy2; sy3 = +- vc sdy2 0; sy4 = +- vc sdy1 0
text sx2 sy2 sx5 sy3
path M x1 y2 L sx2 sy2 x2 y1 sx3 sy1 hc t sx4 sy1 x3 y1 sx5 sy2 x4 y2 sx6 vc x4 y3 sx5 sy3 x3 y4 sx4 sy4 hc b sx3 sy4 x2 y4 sx2 sy3 x1 y3 sx1 vc Z

= star12 adj=37500
a = pin 0 adj 50000; dx1 = cos wd2 1800000; dy1 = sin hd2 3600000; x1 = +- hc 0 dx1; x3 = */ w 3 4; x4 = +- hc dx1 0; y1 = +- vc 0 dy1
y3 = */ h 3 4; y4 = +- vc dy1 0; iwd2 = */ wd2 a 50000; ihd2 = */ hd2 a 50000; sdx1 = cos iwd2 900000; sdx2 = cos iwd2 2700000
sdx3 = cos iwd2 4500000; sdy1 = sin ihd2 4500000; sdy2 = sin ihd2 2700000; sdy3 = sin ihd2 900000; sx1 = +- hc 0 sdx1; sx2 = +- hc 0 sdx2
sx3 = +- hc 0 sdx3; sx4 = +- hc sdx3 0; sx5 = +- hc sdx2 0; sx6 = +- hc sdx1 0; sy1 = +- vc 0 sdy1; sy2 = +- vc 0 sdy2; sy3 = +- vc 0 sdy3
sy4 = +- vc sdy3 0; sy5 = +- vc sdy2 0; sy6 = +- vc sdy1 0
text sx2 sy2 sx5 sy5
path M l vc L sx1 sy3 x1 hd4 sx2 sy2 wd4 y1 sx3 sy1 hc t sx4 sy1 x3 y1 sx5 sy2 x4 hd4 sx6 sy3 r vc sx6 sy4 x4 y3 sx5 sy5 x3 y4 sx4 sy6 hc b sx3 sy6 wd4 y4 sx2 sy5 x1 y3 sx1 sy4 Z

= star16 adj=37500
a = pin 0 adj 50000; dx1 = */ wd2 92388 100000; dx2 = */ wd2 70711 100000; dx3 = */ wd2 38268 100000; dy1 = */ hd2 92388 100000
dy2 = */ hd2 70711 100000; dy3 = */ hd2 38268 100000; x1 = +- hc 0 dx1; x2 = +- hc 0 dx2; x3 = +- hc 0 dx3; x4 = +- hc dx3 0
x5 = +- hc dx2 0; x6 = +- hc dx1 0; y1 = +- vc 0 dy1; y2 = +- vc 0 dy2; y3 = +- vc 0 dy3; y4 = +- vc dy3 0; y5 = +- vc dy2 0; y6 = +- vc dy1 0
iwd2 = */ wd2 a 50000; ihd2 = */ hd2 a 50000; sdx1 = */ iwd2 98079 100000; sdx2 = */ iwd2 83147 100000; sdx3 = */ iwd2 55557 100000
sdx4 = */ iwd2 19509 100000; sdy1 = */ ihd2 98079 100000; sdy2 = */ ihd2 83147 100000; sdy3 = */ ihd2 55557 100000; sdy4 = */ ihd2 19509 100000
sx1 = +- hc 0 sdx1; sx2 = +- hc 0 sdx2; sx3 = +- hc 0 sdx3; sx4 = +- hc 0 sdx4; sx5 = +- hc sdx4 0; sx6 = +- hc sdx3 0; sx7 = +- hc sdx2 0
sx8 = +- hc sdx1 0; sy1 = +- vc 0 sdy1; sy2 = +- vc 0 sdy2; sy3 = +- vc 0 sdy3; sy4 = +- vc 0 sdy4; sy5 = +- vc sdy4 0; sy6 = +- vc sdy3 0
sy7 = +- vc sdy2 0; sy8 = +- vc sdy1 0; idx = cos iwd2 2700000; idy = sin ihd2 2700000; il = +- hc 0 idx; it = +- vc 0 idy; ir = +- hc idx 0
ib = +- vc idy 0
text il it ir ib
path M l vc L sx1 sy4 x1 y3 sx2 sy3 x2 y2 sx3 sy2 x3 y1 sx4 sy1 hc t sx5 sy1 x4 y1 sx6 sy2 x5 y2 sx7 sy3 x6 y3 sx8 sy4 r vc sx8 sy5 x6 y4 sx7 sy6 x5 y5 sx6 sy7 x4 y6 sx5 sy8 hc b sx4 sy8 x3 y6 sx3 sy7 x2 y5 sx2 sy6 x1 y4 sx1 sy5 Z

= star24 adj=37500
a = pin 0 adj 50000; dx1 = cos wd2 900000; dx2 = cos wd2 1800000; dx3 = cos wd2 2700000; dx4 = val wd4; dx5 = cos wd2 4500000
dy1 = sin hd2 4500000; dy2 = sin hd2 3600000; dy3 = sin hd2 2700000; dy4 = val hd4; dy5 = sin hd2 900000; x1 = +- hc 0 dx1; x2 = +- hc 0 dx2
x3 = +- hc 0 dx3; x4 = +- hc 0 dx4; x5 = +- hc 0 dx5; x6 = +- hc dx5 0; x7 = +- hc dx4 0; x8 = +- hc dx3 0; x9 = +- hc dx2 0; x10 = +- hc dx1 0
y1 = +- vc 0 dy1; y2 = +- vc 0 dy2; y3 = +- vc 0 dy3; y4 = +- vc 0 dy4; y5 = +- vc 0 dy5; y6 = +- vc dy5 0; y7 = +- vc dy4 0; y8 = +- vc dy3 0
y9 = +- vc dy2 0; y10 = +- vc dy1 0; iwd2 = */ wd2 a 50000; ihd2 = */ hd2 a 50000; sdx1 = */ iwd2 99144 100000; sdx2 = */ iwd2 92388 100000
sdx3 = */ iwd2 79335 100000; sdx4 = */ iwd2 60876 100000; sdx5 = */ iwd2 38268 100000; sdx6 = */ iwd2 13053 100000; sdy1 = */ ihd2 99144 100000
sdy2 = */ ihd2 92388 100000; sdy3 = */ ihd2 79335 100000; sdy4 = */ ihd2 60876 100000; sdy5 = */ ihd2 38268 100000; sdy6 = */ ihd2 13053 100000
sx1 = +- hc 0 sdx1; sx2 = +- hc 0 sdx2; sx3 = +- hc 0 sdx3; sx4 = +- hc 0 sdx4; sx5 = +- hc 0 sdx5; sx6 = +- hc 0 sdx6; sx7 = +- hc sdx6 0
sx8 = +- hc sdx5 0; sx9 = +- hc sdx4 0; sx10 = +- hc sdx3 0; sx11 = +- hc sdx2 0; sx12 = +- hc sdx1 0; sy1 = +- vc 0 sdy1; sy2 = +- vc 0 sdy2
sy3 = +- vc 0 sdy3; sy4 = +- vc 0 sdy4; sy5 = +- vc 0 sdy5; sy6 = +- vc 0 sdy6; sy7 = +- vc sdy6 0; sy8 = +- vc sdy5 0; sy9 = +- vc sdy4 0
sy10 = +- vc sdy3 0; sy11 = +- vc sdy2 0; sy12 = +- vc sdy1 0; idx = cos iwd2 2700000; idy = sin ihd2 2700000; il = +- hc 0 idx
it = +- vc 0 idy; ir = +- hc idx 0; ib = +- vc idy 0
text il it ir ib
path M l vc L sx1 sy6 x1 y5 sx2 sy5 x2 y4 sx3 sy4 x3 y3 sx4 sy3 x4 y2 sx5 sy2 x5 y1 sx6 sy1 hc t sx7 sy1 x6 y1 sx8 sy2 x7 y2 sx9 sy3 x8 y3 sx10 sy4 x9 y4 sx11 sy5 x10 y5 sx12 sy6 r vc sx12 sy7 x10 y6 sx11 sy8 x9 y7 sx10 sy9 x8 y8 sx9 sy10 x7 y9 sx8 sy11 x6 y10 sx7 sy12 hc b sx6 sy12 x5 y10 sx5 sy11 x4 y9 sx4 sy10 x3 y8 sx3 sy9 x2 y7 sx2 sy8 x1 y6 sx1 sy7 Z

= star32 adj=37500
a = pin 0 adj 50000; dx1 = */ wd2 98079 100000; dx2 = */ wd2 92388 100000; dx3 = */ wd2 83147 100000; dx4 = cos wd2 2700000
dx5 = */ wd2 55557 100000; dx6 = */ wd2 38268 100000; dx7 = */ wd2 19509 100000; dy1 = */ hd2 98079 100000; dy2 = */ hd2 92388 100000
dy3 = */ hd2 83147 100000; dy4 = sin hd2 2700000; dy5 = */ hd2 55557 100000; dy6 = */ hd2 38268 100000; dy7 = */ hd2 19509 100000
x1 = +- hc 0 dx1; x2 = +- hc 0 dx2; x3 = +- hc 0 dx3; x4 = +- hc 0 dx4; x5 = +- hc 0 dx5; x6 = +- hc 0 dx6; x7 = +- hc 0 dx7
x8 = +- hc dx7 0; x9 = +- hc dx6 0; x10 = +- hc dx5 0; x11 = +- hc dx4 0; x12 = +- hc dx3 0; x13 = +- hc dx2 0; x14 = +- hc dx1 0
y1 = +- vc 0 dy1; y2 = +- vc 0 dy2; y3 = +- vc 0 dy3; y4 = +- vc 0 dy4; y5 = +- vc 0 dy5; y6 = +- vc 0 dy6; y7 = +- vc 0 dy7
y8 = +- vc dy7 0; y9 = +- vc dy6 0; y10 = +- vc dy5 0; y11 = +- vc dy4 0; y12 = +- vc dy3 0; y13 = +- vc dy2 0; y14 = +- vc dy1 0
iwd2 = */ wd2 a 50000; ihd2 = */ hd2 a 50000; sdx1 = */ iwd2 99518 100000; sdx2 = */ iwd2 95694 100000; sdx3 = */ iwd2 88192 100000
sdx4 = */ iwd2 77301 100000; sdx5 = */ iwd2 63439 100000; sdx6 = */ iwd2 47140 100000; sdx7 = */ iwd2 29028 100000; sdx8 = */ iwd2 9802 100000
sdy1 = */ ihd2 99518 100000; sdy2 = */ ihd2 95694 100000; sdy3 = */ ihd2 88192 100000; sdy4 = */ ihd2 77301 100000; sdy5 = */ ihd2 63439 100000
sdy6 = */ ihd2 47140 100000; sdy7 = */ ihd2 29028 100000; sdy8 = */ ihd2 9802 100000
sx1 = +- hc 0 sdx1; sx2 = +- hc 0 sdx2; sx3 = +- hc 0 sdx3; sx4 = +- hc 0 sdx4; sx5 = +- hc 0 sdx5; sx6 = +- hc 0 sdx6; sx7 = +- hc 0 sdx7
sx8 = +- hc 0 sdx8; sx9 = +- hc sdx8 0; sx10 = +- hc sdx7 0; sx11 = +- hc sdx6 0; sx12 = +- hc sdx5 0; sx13 = +- hc sdx4 0
sx14 = +- hc sdx3 0; sx15 = +- hc sdx2 0; sx16 = +- hc sdx1 0; sy1 = +- vc 0 sdy1; sy2 = +- vc 0 sdy2; sy3 = +- vc 0 sdy3; sy4 = +- vc 0 sdy4
sy5 = +- vc 0 sdy5; sy6 = +- vc 0 sdy6; sy7 = +- vc 0 sdy7; sy8 = +- vc 0 sdy8; sy9 = +- vc sdy8 0; sy10 = +- vc sdy7 0; sy11 = +- vc sdy6 0
sy12 = +- vc sdy5 0; sy13 = +- vc sdy4 0; sy14 = +- vc sdy3 0; sy15 = +- vc sdy2 0; sy16 = +- vc sdy1 0
idx = cos iwd2 2700000; idy = sin ihd2 2700000; il = +- hc 0 idx; it = +- vc 0 idy; ir = +- hc idx 0; ib = +- vc idy 0
text il it ir ib
path M l vc L sx1 sy8 x1 y7 sx2 sy7 x2 y6 sx3 sy6 x3 y5 sx4 sy5 x4 y4 sx5 sy4 x5 y3 sx6 sy3 x6 y2 sx7 sy2 x7 y1 sx8 sy1 hc t sx9 sy1 x8 y1 sx10 sy2 x9 y2 sx11 sy3 x10 y3 sx12 sy4 x11 y4 sx13 sy5 x12 y5 sx14 sy6 x13 y6 sx15 sy7 x14 y7 sx16 sy8 r vc sx16 sy9 x14 y8 sx15 sy10 x13 y9 sx14 sy11 x12 y10 sx13 sy12 x11 y11 sx12 sy13 x10 y12 sx11 sy14 x9 y13 sx10 sy15 x8 y14 sx9 sy16 hc b sx8 sy16 x7 y14 sx7 sy15 x6 y13 sx6 sy14 x5 y12 sx5 sy13 x4 y11 sx4 sy12 x3 y10 sx3 sy11 x2 y9 sx2 sy10 x1 y8 sx1 sy9 Z

= ribbon adj1=16667 adj2=50000
a1 = pin 0 adj1 33333; a2 = pin 25000 adj2 75000; x10 = +- r 0 wd8; dx2 = */ w a2 200000; x2 = +- hc 0 dx2; x9 = +- hc dx2 0
x3 = +- x2 wd32 0; x8 = +- x9 0 wd32; x5 = +- x2 wd8 0; x6 = +- x9 0 wd8; x4 = +- x5 0 wd32; x7 = +- x6 wd32 0
y1 = */ h a1 200000; y2 = */ h a1 100000; y4 = +- b 0 y2; y3 = */ y4 1 2; hR = */ h a1 400000; y5 = +- b 0 hR; y6 = +- y2 0 hR
text x2 y2 x9 b
path stroke=0 M l t L x4 t A wd32 hR 3cd4 cd2 L x3 y1 A wd32 hR 3cd4 -10800000 L x8 y2 A wd32 hR cd4 -10800000 L x7 y1 A wd32 hR cd4 cd2 L r t x10 y3 r y4 x9 y4 x9 y5 A wd32 hR 0 cd4 L x3 b A wd32 hR cd4 cd4 L x2 y4 l y4 wd8 y3 Z
path stroke=0 fill=darkenLess M x5 hR A wd32 hR 0 cd4 L x3 y1 A wd32 hR 3cd4 -10800000 L x5 y2 Z M x6 hR A wd32 hR cd2 -5400000 L x8 y1 A wd32 hR 3cd4 cd2 L x6 y2 Z
path fill=none M l t L x4 t A wd32 hR 3cd4 cd2 L x3 y1 A wd32 hR 3cd4 -10800000 L x8 y2 A wd32 hR cd4 -10800000 L x7 y1 A wd32 hR cd4 cd2 L r t x10 y3 r y4 x9 y4 x9 y5 A wd32 hR 0 cd4 L x3 b A wd32 hR cd4 cd4 L x2 y4 l y4 wd8 y3 Z M x5 hR L x5 y2 M x6 y2 L x6 hR M x2 y4 L x2 y6 M x9 y6 L x9 y4

= ribbon2 adj1=16667 adj2=50000
a1 = pin 0 adj1 33333; a2 = pin 25000 adj2 75000; x10 = +- r 0 wd8; dx2 = */ w a2 200000; x2 = +- hc 0 dx2; x9 = +- hc dx2 0
x3 = +- x2 wd32 0; x8 = +- x9 0 wd32; x5 = +- x2 wd8 0; x6 = +- x9 0 wd8; x4 = +- x5 0 wd32; x7 = +- x6 wd32 0
dy1 = */ h a1 200000; y1 = +- b 0 dy1; dy2 = */ h a1 100000; y2 = +- b 0 dy2; y4 = +- t dy2 0; y3 = +/ y4 b 2; hR = */ h a1 400000
y6 = +- b 0 hR; y7 = +- y1 0 hR; y8 = +- y2 hR 0
text x2 t x9 y2
path stroke=0 M l b L x4 b A wd32 hR cd4 -10800000 L x3 y1 A wd32 hR cd4 cd2 L x8 y2 A wd32 hR 3cd4 cd2 L x7 y1 A wd32 hR 3cd4 -10800000 L r b x10 y3 r y4 x9 y4 x9 hR A wd32 hR 0 -5400000 L x3 t A wd32 hR 3cd4 -5400000 L x2 y4 l y4 wd8 y3 Z
path stroke=0 fill=darkenLess M x5 y6 A wd32 hR 0 -5400000 L x3 y1 A wd32 hR cd4 cd2 L x5 y2 Z M x6 y6 A wd32 hR cd2 cd4 L x8 y1 A wd32 hR cd4 -10800000 L x6 y2 Z
path fill=none M l b L wd8 y3 l y4 x2 y4 x2 hR A wd32 hR cd2 cd4 L x8 t A wd32 hR 3cd4 cd4 L x9 y4 r y4 x10 y3 r b x7 b A wd32 hR cd4 cd2 L x8 y1 A wd32 hR cd4 -10800000 L x3 y2 A wd32 hR 3cd4 -10800000 L x4 y1 A wd32 hR 3cd4 cd2 Z M x5 y2 L x5 y6 M x6 y6 L x6 y2 M x2 y8 L x2 y4 M x9 y4 L x9 y8

= ellipseRibbon adj1=25000 adj2=50000 adj3=12500
a1 = pin 0 adj1 100000; a2 = pin 25000 adj2 75000; q10 = +- 100000 0 a1; q11 = */ q10 1 2; q12 = +- a1 0 q11; minAdj3 = max 0 q12
a3 = pin minAdj3 adj3 a1; dx2 = */ w a2 200000; x2 = +- hc 0 dx2; x3 = +- x2 wd8 0; x4 = +- r 0 x3; x5 = +- r 0 x2; x6 = +- r 0 wd8
dy1 = */ h a3 100000; f1 = */ 4 dy1 w; q1 = */ x3 x3 w; q2 = +- x3 0 q1; y1 = */ f1 q2 1; cx1 = */ x3 1 2; cy1 = */ f1 cx1 1; cx2 = +- r 0 cx1
q1h = */ h a1 100000; dy3 = +- q1h 0 dy1; q3 = */ x2 x2 w; q4 = +- x2 0 q3; q5 = */ f1 q4 1; y3 = +- q5 dy3 0; q6 = +- dy1 dy3 y3
q7 = +- q6 dy1 0; cy3 = +- q7 dy3 0; rh = +- b 0 q1h; q8 = */ dy1 14 16; y2 = +/ q8 rh 2; y5 = +- q5 rh 0; y6 = +- y3 rh 0; cx4 = */ x2 1 2
q9 = */ f1 cx4 1; cy4 = +- q9 rh 0; cx5 = +- r 0 cx4; cy6 = +- cy3 rh 0; y7 = +- y1 dy3 0; cy7 = +- q1h q1h y7; y8 = +- b 0 dy1
text x2 q1h x5 y6
path stroke=0 M l t Q cx1 cy1 x3 y1 L x2 y3 Q hc cy3 x5 y3 L x4 y1 Q cx2 cy1 r t L x6 y2 r rh Q cx5 cy4 x5 y5 L x5 y6 Q hc cy6 x2 y6 L x2 y5 Q cx4 cy4 l rh L wd8 y2 Z
path stroke=0 fill=darkenLess M x3 y7 L x3 y1 x2 y3 Q hc cy3 x5 y3 L x4 y1 x4 y7 Q hc cy7 x3 y7 Z
path fill=none M l t Q cx1 cy1 x3 y1 L x2 y3 Q hc cy3 x5 y3 L x4 y1 Q cx2 cy1 r t L x6 y2 r rh Q cx5 cy4 x5 y5 L x5 y6 Q hc cy6 x2 y6 L x2 y5 Q cx4 cy4 l rh L wd8 y2 Z M x2 y5 L x2 y3 M x5 y3 L x5 y5 M x3 y1 L x3 y7 M x4 y7 L x4 y1

= ellipseRibbon2 adj1=25000 adj2=50000 adj3=12500
a1 = pin 0 adj1 100000; a2 = pin 25000 adj2 75000; q10 = +- 100000 0 a1; q11 = */ q10 1 2; q12 = +- a1 0 q11; minAdj3 = max 0 q12
a3 = pin minAdj3 adj3 a1; dx2 = */ w a2 200000; x2 = +- hc 0 dx2; x3 = +- x2 wd8 0; x4 = +- r 0 x3; x5 = +- r 0 x2; x6 = +- r 0 wd8
dy1 = */ h a3 100000; f1 = */ 4 dy1 w; q1 = */ x3 x3 w; q2 = +- x3 0 q1; u1 = */ f1 q2 1; y1 = +- b 0 u1; cx1 = */ x3 1 2; cu1 = */ f1 cx1 1
cy1 = +- b 0 cu1; cx2 = +- r 0 cx1; q1h = */ h a1 100000; dy3 = +- q1h 0 dy1; q3 = */ x2 x2 w; q4 = +- x2 0 q3; q5 = */ f1 q4 1
u3 = +- q5 dy3 0; y3 = +- b 0 u3; q6 = +- dy1 dy3 u3; q7 = +- q6 dy1 0; cu3 = +- q7 dy3 0; cy3 = +- b 0 cu3; rh = +- b 0 q1h
q8 = */ dy1 14 16; u2 = +/ q8 rh 2; y2 = +- b 0 u2; u5 = +- q5 rh 0; y5 = +- b 0 u5; u6 = +- u3 rh 0; y6 = +- b 0 u6; cx4 = */ x2 1 2
q9 = */ f1 cx4 1; cu4 = +- q9 rh 0; cy4 = +- b 0 cu4; cx5 = +- r 0 cx4; cu6 = +- cu3 rh 0; cy6 = +- b 0 cu6; u7 = +- u1 dy3 0; y7 = +- b 0 u7
cu7 = +- q1h q1h u7; cy7 = +- b 0 cu7
text x2 y6 x5 rh
path stroke=0 M l b Q cx1 cy1 x3 y1 L x2 y3 Q hc cy3 x5 y3 L x4 y1 Q cx2 cy1 r b L x6 y2 r q1h Q cx5 cy4 x5 y5 L x5 y6 Q hc cy6 x2 y6 L x2 y5 Q cx4 cy4 l q1h L wd8 y2 Z
path stroke=0 fill=darkenLess M x3 y7 L x3 y1 x2 y3 Q hc cy3 x5 y3 L x4 y1 x4 y7 Q hc cy7 x3 y7 Z
path fill=none M wd8 y2 L l q1h Q cx4 cy4 x2 y5 L x2 y6 Q hc cy6 x5 y6 L x5 y5 Q cx5 cy4 r q1h L x6 y2 r b Q cx2 cy1 x4 y1 L x5 y3 Q hc cy3 x2 y3 L x3 y1 Q cx1 cy1 l b Z M x2 y3 L x2 y5 M x5 y5 L x5 y3 M x3 y7 L x3 y1 M x4 y1 L x4 y7

= leftRightRibbon adj1=50000 adj2=50000 adj3=16667
a3 = pin 0 adj3 33333; maxAdj1 = +- 100000 0 a3; a1 = pin 0 adj1 maxAdj1; w1 = +- wd2 0 wd32; maxAdj2 = */ 100000 w1 ss; a2 = pin 0 adj2 maxAdj2
x1 = */ ss a2 100000; x4 = +- r 0 x1; dy1 = */ h a1 200000; dy2 = */ h a3 -200000; ly1 = +- vc dy2 dy1; ry4 = +- vc dy1 dy2
ly2 = +- ly1 dy1 0; ry3 = +- b 0 ly2; ly4 = */ ly2 2 1; ry1 = +- b 0 ly4; ly3 = +- ly4 0 ly1; ry2 = +- b 0 ly3; hR = */ a3 ss 400000
x2 = +- hc 0 wd32; x3 = +- hc wd32 0; y1 = +- ly1 hR 0; y2 = +- ry2 0 hR
text x1 ly1 x4 ry4
path stroke=0 M l ly2 L x1 t x1 ly1 hc ly1 A wd32 hR 3cd4 cd2 A wd32 hR 3cd4 -10800000 L x4 ry2 x4 ry1 r ry3 x4 b x4 ry4 hc ry4 A wd32 hR cd4 cd4 L x2 ly3 x1 ly3 x1 ly4 Z
path stroke=0 fill=darkenLess M x3 y1 A wd32 hR 0 cd4 A wd32 hR 3cd4 -10800000 L x3 ry2 Z
path fill=none M l ly2 L x1 t x1 ly1 hc ly1 A wd32 hR 3cd4 cd2 A wd32 hR 3cd4 -10800000 L x4 ry2 x4 ry1 r ry3 x4 b x4 ry4 hc ry4 A wd32 hR cd4 cd4 L x2 ly3 x1 ly3 x1 ly4 Z M x3 y1 L x3 ry2 M x2 y2 L x2 ly3

= verticalScroll adj=12500
a = pin 0 adj 25000; ch = */ ss a 100000; ch2 = */ ch 1 2; ch4 = */ ch 1 4; x3 = +- ch ch2 0; x4 = +- ch ch 0; x6 = +- r 0 ch; x7 = +- r 0 ch2
x5 = +- x6 0 ch2; y3 = +- b 0 ch; y4 = +- b 0 ch2
text ch ch x6 y4
path stroke=0 M ch2 b A ch2 ch2 cd4 -5400000 L ch2 y4 A ch4 ch4 cd4 -10800000 L ch y3 ch ch2 A ch2 ch2 cd2 cd4 L x7 t A ch2 ch2 3cd4 cd2 L x6 ch x6 y4 A ch2 ch2 0 cd4 Z M x4 ch2 A ch2 ch2 0 cd4 A ch4 ch4 cd4 cd2 Z
path stroke=0 fill=darkenLess M x4 ch2 A ch2 ch2 0 cd4 A ch4 ch4 cd4 cd2 Z M ch y4 A ch2 ch2 0 3cd4 A ch4 ch4 3cd4 cd2 Z
path fill=none M ch y3 L ch ch2 A ch2 ch2 cd2 cd4 L x7 t A ch2 ch2 3cd4 cd2 L x6 ch x6 y4 A ch2 ch2 0 cd4 L ch2 b A ch2 ch2 cd4 cd2 Z M x3 t A ch2 ch2 3cd4 cd2 A ch4 ch4 cd4 cd2 L x4 ch2 M x6 ch L x3 ch M ch2 y3 A ch4 ch4 3cd4 cd2 L ch y4 M ch2 b A ch2 ch2 cd4 -5400000 L ch y3

= horizontalScroll adj=12500
a = pin 0 adj 25000; ch = */ ss a 100000; ch2 = */ ch 1 2; ch4 = */ ch 1 4; y3 = +- ch ch2 0; y4 = +- ch ch 0; y6 = +- b 0 ch; y7 = +- b 0 ch2
y5 = +- y6 0 ch2; x3 = +- r 0 ch; x4 = +- r 0 ch2
text ch ch x4 y6
path stroke=0 M r ch2 A ch2 ch2 0 cd4 L x4 ch2 A ch4 ch4 0 cd2 L x3 ch ch2 ch A ch2 ch2 3cd4 -5400000 L l y7 A ch2 ch2 cd2 -10800000 L ch y6 x4 y6 A ch2 ch2 cd4 -5400000 Z M ch2 y4 A ch2 ch2 cd4 -5400000 A ch4 ch4 0 -10800000 Z
path stroke=0 fill=darkenLess M ch2 y4 A ch2 ch2 cd4 -5400000 A ch4 ch4 0 -10800000 Z M x4 ch A ch2 ch2 cd4 -16200000 A ch4 ch4 cd2 -10800000 Z
path fill=none M l y3 A ch2 ch2 cd2 cd4 L x3 ch x3 ch2 A ch2 ch2 cd2 cd2 L r y5 A ch2 ch2 0 cd4 L ch y6 ch y7 A ch2 ch2 0 cd2 Z M x3 ch L x4 ch A ch2 ch2 cd4 -5400000 M x4 ch L x4 ch2 A ch4 ch4 0 cd2 M ch2 y4 L ch2 y3 A ch4 ch4 cd2 cd2 A ch2 ch2 0 cd2 M ch y3 L ch y6

= wave adj1=12500 adj2=0
a1 = pin 0 adj1 20000; a2 = pin -10000 adj2 10000; y1 = */ h a1 100000; dy2 = */ y1 10 3; y2 = +- y1 0 dy2; y3 = +- y1 dy2 0; y4 = +- b 0 y1
y5 = +- y4 0 dy2; y6 = +- y4 dy2 0; dx1 = */ w a2 100000; of2 = */ w a2 50000; x1 = abs dx1; dx2 = ?: of2 0 of2; x2 = +- l 0 dx2
dx5 = ?: of2 of2 0; x5 = +- r 0 dx5; dx3 = +/ dx2 x5 3; x3 = +- x2 dx3 0; x4 = +/ x3 x5 2; x6 = +- l dx5 0; x10 = +- r dx2 0
x7 = +- x6 dx3 0; x8 = +/ x7 x10 2; x9 = +- r 0 x1; xAdj = +- hc dx1 0; xAdj2 = +- hc 0 dx1; il = max x2 x6; ir = min x5 x10
it = */ h a1 50000; ib = +- b 0 it
text il it ir ib
path M x2 y1 C x3 y2 x4 y3 x5 y1 L x10 y4 C x8 y6 x7 y5 x6 y4 Z

= doubleWave adj1=6250 adj2=0
a1 = pin 0 adj1 12500; a2 = pin -10000 adj2 10000; y1 = */ h a1 100000; dy2 = */ y1 10 3; y2 = +- y1 0 dy2; y3 = +- y1 dy2 0; y4 = +- b 0 y1
y5 = +- y4 0 dy2; y6 = +- y4 dy2 0; dx1 = */ w a2 100000; of2 = */ w a2 50000; x1 = abs dx1; dx2 = ?: of2 0 of2; x2 = +- l 0 dx2
dx8 = ?: of2 of2 0; x8 = +- r 0 dx8; dx3 = +/ dx2 x8 6; x3 = +- x2 dx3 0; dx4 = +/ dx2 x8 3; x4 = +- x2 dx4 0; x5 = +/ x2 x8 2
x6 = +- x5 dx3 0; x7 = +/ x6 x8 2; x9 = +- l dx8 0; x15 = +- r dx2 0; x10 = +- x9 dx3 0; x11 = +- x9 dx4 0; x12 = +/ x9 x15 2
x13 = +- x12 dx3 0; x14 = +/ x13 x15 2; x16 = +- r 0 x1; il = max x2 x9; ir = min x8 x15; it = */ h a1 50000; ib = +- b 0 it
text il it ir ib
path M x2 y1 C x3 y2 x4 y3 x5 y1 C x6 y2 x7 y3 x8 y1 L x15 y4 C x14 y6 x13 y5 x12 y4 C x11 y6 x10 y5 x9 y4 Z
`;
