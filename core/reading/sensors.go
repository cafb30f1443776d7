package reading

import "math"

// The Callendar–Van Dusen coefficients of industrial platinum thermometers:
// IEC 60751, 3851 ppm/K; and the 3750 ppm/K curve usual in North American
// ovens (α 0.00375, δ 1.605, β 0.16; common practice, from memory). They part
// by several kelvin in a hot oven, so a map says which.
var platinumCurves = map[string]struct{ a, b, c float64 }{
	"iec60751": {3.9083e-3, -5.775e-7, -4.183e-12},
	"3750":     {3.8101875e-3, -6.01875e-7, -6e-12},
}

// PlatinumOhms is the resistance of a platinum probe of r0 ohms at 0 °C, at a
// temperature in °C: R₀(1 + At + Bt²), below zero with C(t−100)t³ besides.
func PlatinumOhms(curve string, r0, celsius float64) float64 {
	k := platinumCurves[curve]
	t := celsius
	r := 1 + k.a*t + k.b*t*t
	if t < 0 {
		r += k.c * (t - 100) * t * t * t
	}
	return r0 * r
}

// PlatinumCelsius is the temperature at which a probe has so many ohms.
func PlatinumCelsius(curve string, r0, ohms float64) float64 {
	k := platinumCurves[curve]
	t := (-k.a + math.Sqrt(k.a*k.a-4*k.b*(1-ohms/r0))) / (2 * k.b) // exact from zero up
	if ohms >= r0 {
		return t
	}
	for range 20 { // below zero by Newton's method, from there
		slope := (PlatinumOhms(curve, r0, t+1e-4) - PlatinumOhms(curve, r0, t-1e-4)) / 2e-4
		t -= (PlatinumOhms(curve, r0, t) - ohms) / slope
	}
	return t
}

const kelvin = 273.15

// ThermistorOhms is the resistance of an NTC thermistor by its beta between 25
// and 85 °C: R₂₅·exp(β(1/T − 1/298.15)).
func ThermistorOhms(r25, beta, celsius float64) float64 {
	return r25 * math.Exp(beta*(1/(celsius+kelvin)-1/(25+kelvin)))
}

// SteinhartHart gives the three coefficients of 1/T = a + b·lnR + c·(lnR)³
// through three points of ohms and °C.
func SteinhartHart(ohms, celsius [3]float64) (a, b, c float64) {
	var l, y [3]float64
	for i := range 3 {
		l[i], y[i] = math.Log(ohms[i]), 1/(celsius[i]+kelvin)
	}
	g2, g3 := (y[1]-y[0])/(l[1]-l[0]), (y[2]-y[0])/(l[2]-l[0])
	c = (g3 - g2) / (l[2] - l[1]) / (l[0] + l[1] + l[2])
	b = g2 - c*(l[0]*l[0]+l[0]*l[1]+l[1]*l[1])
	a = y[0] - (b+l[0]*l[0]*c)*l[0]
	return a, b, c
}

// SteinhartHartCelsius is the temperature at so many ohms.
func SteinhartHartCelsius(a, b, c, ohms float64) float64 {
	l := math.Log(ohms)
	return 1/(a+b*l+c*l*l*l) - kelvin
}

// CopperOhms brings the resistance of a copper winding at 20 °C to another
// temperature: α₂₀ = 0.00393 per kelvin (IACS).
func CopperOhms(at20, celsius float64) float64 { return at20 * (1 + 0.00393*(celsius-20)) }

// ElementWatts is what an element of so many ohms makes at a supply voltage.
func ElementWatts(ohms, volts float64) float64 { return volts * volts / ohms }
