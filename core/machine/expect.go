package machine

// What a reading is measured against.

// Measure is what is read, and between which points.
type Measure struct {
	Quantity string   `json:"quantity" yaml:"quantity"`
	Between  []string `json:"between,omitempty" yaml:"between"`
}

// Expect is what a reading should be: one of its fields.
type Expect struct {
	Ohms        []float64    `json:"ohms,omitempty" yaml:"ohms"`
	Element     *Element     `json:"element,omitempty" yaml:"element"`
	Platinum    *Platinum    `json:"platinum,omitempty" yaml:"platinum"`
	Thermistor  *Thermistor  `json:"thermistor,omitempty" yaml:"thermistor"`
	Winding     *Winding     `json:"winding,omitempty" yaml:"winding"`
	Continuity  string       `json:"continuity,omitempty" yaml:"continuity"`
	Volts       *Nominal     `json:"volts,omitempty" yaml:"volts"`
	Capacitance *Capacitance `json:"capacitance,omitempty" yaml:"capacitance"`
	Insulation  *Insulation  `json:"insulation,omitempty" yaml:"insulation"`
	Temperature []float64    `json:"temperature,omitempty" yaml:"temperature"`
	Amps        []float64    `json:"amps,omitempty" yaml:"amps"`
	Mbar        []float64    `json:"mbar,omitempty" yaml:"mbar"`
	Seconds     []float64    `json:"seconds,omitempty" yaml:"seconds"`
	Length      []float64    `json:"length,omitempty" yaml:"length"`
	Leakage     *Leakage     `json:"leakage,omitempty" yaml:"leakage"`
	WaterHeated *WaterHeated `json:"water_heated,omitempty" yaml:"water_heated"`
	VentRun     *VentRun     `json:"vent_run,omitempty" yaml:"vent_run"`
}

// Element is a heating element by its rating: watts at volts.
type Element struct {
	Watts                 float64   `json:"watts" yaml:"watts"`
	Volts                 float64   `json:"volts" yaml:"volts"`
	TolerancePercent      float64   `json:"tolerance_percent,omitempty" yaml:"tolerance_percent"`
	PowerTolerancePercent []float64 `json:"power_tolerance_percent,omitempty" yaml:"power_tolerance_percent"`
}

// Platinum is a platinum probe: ohms at 0 °C and its curve.
type Platinum struct {
	R0               float64 `json:"r0" yaml:"r0"`
	Curve            string  `json:"curve" yaml:"curve"`
	TolerancePercent float64 `json:"tolerance_percent,omitempty" yaml:"tolerance_percent"`
}

// Thermistor is an NTC probe: ohms at 25 °C and beta in kelvin.
type Thermistor struct {
	R25              float64 `json:"r25" yaml:"r25"`
	Beta             float64 `json:"beta" yaml:"beta"`
	TolerancePercent float64 `json:"tolerance_percent,omitempty" yaml:"tolerance_percent"`
}

// Winding is a copper winding: ohms at 20 °C.
type Winding struct {
	OhmsAt20         float64 `json:"ohms_at_20" yaml:"ohms_at_20"`
	TolerancePercent float64 `json:"tolerance_percent,omitempty" yaml:"tolerance_percent"`
}

// Nominal is a supply voltage with its tolerance.
type Nominal struct {
	Nominal          float64 `json:"nominal" yaml:"nominal"`
	TolerancePercent float64 `json:"tolerance_percent,omitempty" yaml:"tolerance_percent"`
}

// Capacitance is a capacitor in microfarads.
type Capacitance struct {
	Microfarads      float64 `json:"microfarads" yaml:"microfarads"`
	TolerancePercent float64 `json:"tolerance_percent,omitempty" yaml:"tolerance_percent"`
}

// Insulation is a least insulation resistance in megohms.
type Insulation struct {
	MegohmsAtLeast float64 `json:"megohms_at_least" yaml:"megohms_at_least"`
}

// Leakage is a greatest microwave leakage in mW/cm².
type Leakage struct {
	MWPerCM2AtMost float64 `json:"mw_per_cm2_at_most" yaml:"mw_per_cm2_at_most"`
}

// WaterHeated judges a temperature rise in kelvin as watts.
type WaterHeated struct {
	Litres  float64   `json:"litres" yaml:"litres"`
	Seconds float64   `json:"seconds" yaml:"seconds"`
	Watts   []float64 `json:"watts" yaml:"watts"`
}

// VentRun judges a vent by its straight metres and bends.
type VentRun struct {
	MetresAtMost  float64 `json:"metres_at_most" yaml:"metres_at_most"`
	MetresPerBend float64 `json:"metres_per_bend" yaml:"metres_per_bend"`
}
