package color

import "math"

type mat [9]float64

func (m mat) mul(v [3]float64) [3]float64 {
	return [3]float64{
		m[0]*v[0] + m[1]*v[1] + m[2]*v[2],
		m[3]*v[0] + m[4]*v[1] + m[5]*v[2],
		m[6]*v[0] + m[7]*v[1] + m[8]*v[2],
	}
}

// Matrices of CSS Color 4, section 20 (sample code): linear RGB and white points to XYZ D65 and back.
var (
	srgbToXYZ = mat{506752.0 / 1228815, 87881.0 / 245763, 12673.0 / 70218,
		87098.0 / 409605, 175762.0 / 245763, 12673.0 / 175545,
		7918.0 / 409605, 87881.0 / 737289, 1001167.0 / 1053270}
	xyzToSRGB = mat{12831.0 / 3959, -329.0 / 214, -1974.0 / 3959,
		-851781.0 / 878810, 1648619.0 / 878810, 36519.0 / 878810,
		705.0 / 12673, -2585.0 / 12673, 705.0 / 667}
	p3ToXYZ = mat{608311.0 / 1250200, 189793.0 / 714400, 198249.0 / 1000160,
		35783.0 / 156275, 247089.0 / 357200, 198249.0 / 2500400,
		0, 32229.0 / 714400, 5220557.0 / 5000800}
	xyzToP3 = mat{446124.0 / 178915, -333277.0 / 357830, -72051.0 / 178915,
		-14852.0 / 17905, 63121.0 / 35810, 423.0 / 17905,
		11844.0 / 330415, -50337.0 / 660830, 316169.0 / 330415}
	a98ToXYZ = mat{573536.0 / 994567, 263643.0 / 1420810, 187206.0 / 994567,
		591459.0 / 1989134, 6239551.0 / 9945670, 374412.0 / 4972835,
		53769.0 / 1989134, 351524.0 / 4972835, 4929758.0 / 4972835}
	xyzToA98 = mat{1829569.0 / 896150, -506331.0 / 896150, -308931.0 / 896150,
		-851781.0 / 878810, 1648619.0 / 878810, 36519.0 / 878810,
		16779.0 / 1248040, -147721.0 / 1248040, 1266979.0 / 1248040}
	rec2020ToXYZ = mat{63426534.0 / 99577255, 20160776.0 / 139408157, 47086771.0 / 278816314,
		26158966.0 / 99577255, 472592308.0 / 697040785, 8267143.0 / 139408157,
		0, 19567812.0 / 697040785, 295819943.0 / 278816314}
	xyzToRec2020 = mat{30757411.0 / 17917100, -6372589.0 / 17917100, -4539589.0 / 17917100,
		-19765991.0 / 29648200, 47925759.0 / 29648200, 467509.0 / 29648200,
		792561.0 / 44930125, -1921689.0 / 44930125, 42328811.0 / 44930125}
	prophotoToXYZ50 = mat{0.79776664490064230, 0.13518129740053308, 0.03134773412839220,
		0.28807482881940130, 0.71183523424187300, 0.00008993693872564,
		0, 0, 0.82510460251046020}
	xyz50ToProphoto = mat{1.34578688164715830, -0.25557208737979464, -0.05110186497554526,
		-0.54463070512490190, 1.50824774284514680, 0.02052744743642139,
		0, 0, 1.21196754563894520}
	d50ToD65 = mat{0.955473421488075, -0.02309845494876471, 0.06325924320057072,
		-0.0283697093338637, 1.0099953980813041, 0.021041441191917323,
		0.012314014864481998, -0.020507649298898964, 1.330365926242124}
	d65ToD50 = mat{1.0479297925449969, 0.022946870601609652, -0.05019226628920524,
		0.02962780877005599, 0.9904344267538799, -0.017073799063418826,
		-0.009243040646204504, 0.015055191490298152, 0.7518742814281371}
	xyzToLMS = mat{0.8190224379967030, 0.3619062600528904, -0.1288737815209879,
		0.0329836539323885, 0.9292868615863434, 0.0361446663506424,
		0.0481771893596242, 0.2642395317527308, 0.6335478284694309}
	lmsToXYZ = mat{1.2268798758459243, -0.5578149944602171, 0.2813910456659647,
		-0.0405757452148008, 1.1122868032803170, -0.0717110580655164,
		-0.0763729366746601, -0.4214933324022432, 1.5869240198367816}
	lmsToOKLab = mat{0.2104542683093140, 0.7936177747023054, -0.0040720430116193,
		1.9779985324311684, -2.4285922420485799, 0.4505937096174110,
		0.0259040424655478, 0.7827717124575296, -0.8086757549230774}
	okLabToLMS = mat{1.0000000000000000, 0.3963377773761749, 0.2158037573099136,
		1.0000000000000000, -0.1055613458156586, -0.0638541728258133,
		1.0000000000000000, -0.0894841775298119, -1.2914855480194092}
	d50 = [3]float64{0.3457 / 0.3585, 1, (1 - 0.3457 - 0.3585) / 0.3585}
)

func each(v [3]float64, f func(float64) float64) [3]float64 {
	return [3]float64{f(v[0]), f(v[1]), f(v[2])}
}

func srgbLin(v float64) float64 {
	if a := math.Abs(v); a > 0.04045 {
		return math.Copysign(math.Pow((a+0.055)/1.055, 2.4), v)
	}
	return v / 12.92
}

func srgbGam(v float64) float64 {
	if a := math.Abs(v); a > 0.0031308 {
		return math.Copysign(1.055*math.Pow(a, 1/2.4)-0.055, v)
	}
	return v * 12.92
}

func power(e float64) func(float64) float64 {
	return func(v float64) float64 { return math.Copysign(math.Pow(math.Abs(v), e), v) }
}

const alpha2020, beta2020 = 1.09929682680944, 0.018053968510807

func rec2020Lin(v float64) float64 {
	if a := math.Abs(v); a >= beta2020*4.5 {
		return math.Copysign(math.Pow((a+alpha2020-1)/alpha2020, 1/0.45), v)
	}
	return v / 4.5
}

func rec2020Gam(v float64) float64 {
	if a := math.Abs(v); a > beta2020 {
		return math.Copysign(alpha2020*math.Pow(a, 0.45)-(alpha2020-1), v)
	}
	return v * 4.5
}

func prophotoLin(v float64) float64 {
	if math.Abs(v) <= 16.0/512 {
		return v / 16
	}
	return power(1.8)(v)
}

func prophotoGam(v float64) float64 {
	if math.Abs(v) >= 1.0/512 {
		return power(1 / 1.8)(v)
	}
	return v * 16
}

// xyz is the colour in XYZ with the D65 white point.
func (c Color) xyz() [3]float64 {
	switch v := c.C; c.Space {
	case SRGBLinear:
		return srgbToXYZ.mul(v)
	case DisplayP3:
		return p3ToXYZ.mul(each(v, srgbLin))
	case A98RGB:
		return a98ToXYZ.mul(each(v, power(563.0/256)))
	case ProPhoto:
		return d50ToD65.mul(prophotoToXYZ50.mul(each(v, prophotoLin)))
	case Rec2020:
		return rec2020ToXYZ.mul(each(v, rec2020Lin))
	case XYZD65:
		return v
	case XYZD50:
		return d50ToD65.mul(v)
	case Lab:
		return d50ToD65.mul(labToXYZ(v))
	case LCH:
		return d50ToD65.mul(labToXYZ(fromPolar(v)))
	case OKLab:
		return lmsToXYZ.mul(each(okLabToLMS.mul(v), func(x float64) float64 { return x * x * x }))
	case OKLCH:
		return Color{Space: OKLab, C: fromPolar(v)}.xyz()
	case HSL:
		return Color{Space: SRGB, C: hslToRGB(v)}.xyz()
	case HWB:
		return Color{Space: SRGB, C: hwbToRGB(v)}.xyz()
	}
	return srgbToXYZ.mul(each(c.C, srgbLin))
}

// To converts the colour to another space; missing components count as 0. Nothing is clipped.
func (c Color) To(s Space) Color {
	if c.Space == s {
		return c
	}
	out := Color{Space: s, Alpha: c.Alpha}
	if c.Space == HSL && s == SRGB {
		out.C = hslToRGB(c.C)
		return out
	}
	if c.Space == HWB && s == SRGB {
		out.C = hwbToRGB(c.C)
		return out
	}
	x := c.xyz()
	switch s {
	case SRGB:
		out.C = each(xyzToSRGB.mul(x), srgbGam)
	case SRGBLinear:
		out.C = xyzToSRGB.mul(x)
	case DisplayP3:
		out.C = each(xyzToP3.mul(x), srgbGam)
	case A98RGB:
		out.C = each(xyzToA98.mul(x), power(256.0/563))
	case ProPhoto:
		out.C = each(xyz50ToProphoto.mul(d65ToD50.mul(x)), prophotoGam)
	case Rec2020:
		out.C = each(xyzToRec2020.mul(x), rec2020Gam)
	case XYZD65:
		out.C = x
	case XYZD50:
		out.C = d65ToD50.mul(x)
	case Lab:
		out.C = xyzToLab(d65ToD50.mul(x))
	case LCH:
		out.C = toPolar(xyzToLab(d65ToD50.mul(x)), 0.0015)
	case OKLab:
		out.C = lmsToOKLab.mul(each(xyzToLMS.mul(x), math.Cbrt))
	case OKLCH:
		out.C = toPolar(lmsToOKLab.mul(each(xyzToLMS.mul(x), math.Cbrt)), 0.000004)
	case HSL:
		out.C = rgbToHSL(each(xyzToSRGB.mul(x), srgbGam))
	case HWB:
		rgb := each(xyzToSRGB.mul(x), srgbGam)
		h := rgbToHSL(rgb)
		out.C = [3]float64{h[0], 100 * min(rgb[0], rgb[1], rgb[2]), 100 * (1 - max(rgb[0], rgb[1], rgb[2]))}
	}
	return out
}

// fromPolar turns lightness, chroma, hue into lightness and two axes.
func fromPolar(v [3]float64) [3]float64 {
	s, c := math.Sincos(v[2] * math.Pi / 180)
	return [3]float64{v[0], v[1] * c, v[1] * s}
}

// toPolar is its inverse; greys below the chroma eps get hue 0.
func toPolar(v [3]float64, eps float64) [3]float64 {
	ch := math.Hypot(v[1], v[2])
	if ch <= eps {
		return [3]float64{v[0], 0, 0}
	}
	h := math.Atan2(v[2], v[1]) * 180 / math.Pi
	if h < 0 {
		h += 360
	}
	return [3]float64{v[0], ch, h}
}

const labE, labK = 216.0 / 24389, 24389.0 / 27

func labToXYZ(v [3]float64) [3]float64 {
	f1 := (v[0] + 16) / 116
	f := [3]float64{v[1]/500 + f1, f1, f1 - v[2]/200}
	inv := func(t float64) float64 {
		if c := t * t * t; c > labE {
			return c
		}
		return (116*t - 16) / labK
	}
	return [3]float64{inv(f[0]) * d50[0], inv(f[1]) * d50[1], inv(f[2]) * d50[2]}
}

func xyzToLab(v [3]float64) [3]float64 {
	f := func(t float64) float64 {
		if t > labE {
			return math.Cbrt(t)
		}
		return (labK*t + 16) / 116
	}
	x, y, z := f(v[0]/d50[0]), f(v[1]/d50[1]), f(v[2]/d50[2])
	return [3]float64{116*y - 16, 500 * (x - y), 200 * (y - z)}
}

func hslToRGB(v [3]float64) [3]float64 {
	h, s, l := math.Mod(math.Mod(v[0], 360)+360, 360), v[1]/100, v[2]/100
	f := func(n float64) float64 {
		k := math.Mod(n+h/30, 12)
		return l - s*math.Min(l, 1-l)*math.Max(-1, min(k-3, 9-k, 1))
	}
	return [3]float64{f(0), f(8), f(4)}
}

func rgbToHSL(v [3]float64) [3]float64 {
	hi, lo := max(v[0], v[1], v[2]), min(v[0], v[1], v[2])
	l, d := (hi+lo)/2, hi-lo
	if d == 0 {
		return [3]float64{0, 0, l * 100}
	}
	var h float64
	switch hi {
	case v[0]:
		h = math.Mod((v[1]-v[2])/d+6, 6)
	case v[1]:
		h = (v[2]-v[0])/d + 2
	default:
		h = (v[0]-v[1])/d + 4
	}
	if h > 6-1e-9 { // red, but for rounding
		h = 0
	}
	s := 0.0
	if l != 0 && l != 1 {
		s = (hi - l) / math.Min(l, 1-l)
	}
	return [3]float64{h * 60, s * 100, l * 100}
}

func hwbToRGB(v [3]float64) [3]float64 {
	w, b := v[1]/100, v[2]/100
	if w+b >= 1 {
		g := w / (w + b)
		return [3]float64{g, g, g}
	}
	rgb := hslToRGB([3]float64{v[0], 100, 50})
	for i := range rgb {
		rgb[i] = rgb[i]*(1-w-b) + w
	}
	return rgb
}
