package energy

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"evensteps/core/machine"
)

var known = Rating{Category: 3, Volts: 600}

func mains() Ask {
	return For(&machine.Energy{ID: "mains", Kind: "mains"}, &machine.Supply{System: "single-phase", Volts: 230}, Meter, "")
}

func charge() Ask {
	return For(&machine.Energy{ID: "charge", Kind: "charge", Capacitor: &machine.Capacitor{Microfarads: 0.95, Volts: 2100, BleedMegohms: 10}}, nil, Meter, "")
}

func good() Proof {
	return Proof{Way: Meter, Meter: "m-4", Before: "230 V", After: "231 V", Readings: []Reading{
		{[]string{"L", "N"}, "0.3 V"}, {[]string{"PE", "L"}, "0.1"}, {[]string{"N", "PE"}, "0,2 V"},
	}}
}

func discharged() Proof {
	return Proof{Way: Meter, Meter: "m-9", Rated: "5 kV", Before: "9.1 V", After: "9 V DC", Readings: []Reading{
		{[]string{"terminal 1", "frame"}, "0 V"}, {[]string{"terminal 2", "frame"}, "0.1 VDC"}, {[]string{"terminal 2", "terminal 1"}, "-2 V"},
	}}
}

func TestTheMainsAreProvenDead(t *testing.T) {
	j := mains().Judge(good(), known)
	assert.True(t, j.Off, j.Why)
	assert.Equal(t, "0.3 V", j.Highest)
	assert.Contains(t, j.Why, "checked before and after")
	assert.Empty(t, j.Note)

	for name, c := range map[string]struct {
		spoil func(*Proof)
		says  string
	}{
		"a pair reads live":            {func(p *Proof) { p.Readings[1].Value = "117 V" }, "L to PE reads 117 V. Not dead yet: treat as live"},
		"with swapped probes":          {func(p *Proof) { p.Readings[1].Value = "-117 V" }, "L to PE reads -117 V"},
		"with another minus":           {func(p *Proof) { p.Readings[1].Value = "−117" }, "L to PE reads −117"},
		"a number without its unit":    {func(p *Proof) { p.Readings[1].Value = "117" }, "117 V"},
		"in the DC range":              {func(p *Proof) { p.Readings[0].Value = "0 VDC" }, "set the meter to AC volts"},
		"a comma that groups":          {func(p *Proof) { p.Readings[0].Value = "1,800 V" }, `"1,800 V" may be 1.8 V or 1800 V`},
		"a point that groups":          {func(p *Proof) { p.Readings[0].Value = "1.800 V" }, "may be 1.8 V or 1800 V"},
		"thousandths":                  {func(p *Proof) { p.Readings[0].Value = "117 mV" }, "whole volts"},
		"a word":                       {func(p *Proof) { p.Readings[0].Value = "dead" }, `"dead" cannot be read`},
		"over the range":               {func(p *Proof) { p.Readings[0].Value = "OL" }, `"OL" cannot be read`},
		"a pair is missing":            {func(p *Proof) { p.Readings = p.Readings[:2] }, "Measure N to PE"},
		"one pair three times":         {func(p *Proof) { p.Readings[1], p.Readings[2] = p.Readings[0], p.Readings[0] }, "Measure L to PE"},
		"a pair twice, once live":      {func(p *Proof) { p.Readings = append(p.Readings, Reading{[]string{"L", "N"}, "229 V"}) }, "L to N reads 229 V"},
		"between the wrong points":     {func(p *Proof) { p.Readings[0].Between = []string{"L1", "L2"} }, "L1 to L2 is no pair to measure here. Measure L to N"},
		"between one point":            {func(p *Proof) { p.Readings[0].Between = []string{"L"} }, "no pair to measure here"},
		"no check before":              {func(p *Proof) { p.Before = "" }, "known live source before"},
		"no check after":               {func(p *Proof) { p.After = " " }, "known live source after"},
		"the meter was dead":           {func(p *Proof) { p.Before = "0 V" }, "proves nothing"},
		"a check at 49 V":              {func(p *Proof) { p.Before = "49 V" }, "proves nothing"},
		"a check at 1100 V":            {func(p *Proof) { p.Before = "1100 V" }, "No source here gives that much"},
		"the meter died on the way":    {func(p *Proof) { p.After = "2 V" }, "after the readings, so it proves nothing"},
		"the checks differ by half":    {func(p *Proof) { p.After = "115 V" }, "more than 10 % apart"},
		"a check in the DC range":      {func(p *Proof) { p.Before = "230 VDC" }, "The mains are AC"},
		"a check that groups":          {func(p *Proof) { p.Before = "0.230 kV"; p.After = "1,230 V" }, "may be 1.23 V or 1230 V"},
		"a ghost that stays":           {func(p *Proof) { p.Readings[0].Value = "41 V"; p.Again = []Reading{{[]string{"N", "L"}, "38 V"}} }, "reads 38 V again. Not dead"},
		"a ghost not measured again":   {func(p *Proof) { p.Readings[0].Value = "10 V" }, "Measure it again on the low-impedance range"},
		"again in the DC range":        {func(p *Proof) { p.Readings[0].Value = "41 V"; p.Again = []Reading{{[]string{"N", "L"}, "0 VDC"}} }, "set the meter to AC volts"},
		"again for another pair":       {func(p *Proof) { p.Readings[0].Value = "41 V"; p.Again = []Reading{{[]string{"N", "PE"}, "0 V"}} }, "Measure it again"},
		"a category that is too low":   {func(p *Proof) { p.Category = "CAT II 600 V" }, "take one of CAT III or IV"},
		"rated below the supply":       {func(p *Proof) { p.Category = "CAT III 150 V" }, "rated for 150 V, the supply is 230 V"},
		"a category that is no such":   {func(p *Proof) { p.Category = "good" }, "is no category"},
		"exactly at the limit, again":  {func(p *Proof) { p.Readings[0].Value = "40 V"; p.Again = []Reading{{[]string{"L", "N"}, "34 V"}} }, "Not dead"},
		"a proof of another kind":      {func(p *Proof) { p.Readings[0].Value = "3 mbar" }, "cannot be read"},
		"a list where a pair is empty": {func(p *Proof) { p.Readings[2].Value = "" }, "N to PE: write down"},
	} {
		p := good()
		c.spoil(&p)
		m := known
		if p.Category != "" {
			m = Rating{}
		}
		j := mains().Judge(p, m)
		assert.False(t, j.Off, name)
		assert.Contains(t, j.Why, c.says, name)
	}
}

// Beside a live lead a dead one may show volts on a meter of high impedance:
// under a load they vanish (common practice, no source).
func TestAGhostVoltageIsMeasuredAgain(t *testing.T) {
	p := good()
	p.Readings[0].Value = "41 V"
	p.Again = []Reading{{[]string{"L", "N"}, "2 V"}}
	j := mains().Judge(p, known)
	assert.True(t, j.Off, j.Why)
	assert.Equal(t, "41 V", j.Highest, "what was read stays on the record")
	p.Readings[0].Value = "9.9 V"
	p.Again = nil
	assert.True(t, mains().Judge(p, known).Off, "under 10 V nobody is asked again")
	keys := func(d Draft) (out []string) {
		for _, s := range mains().Steps(d, known) {
			out = append(out, s.Key)
		}
		return out
	}
	assert.Equal(t, []string{"meter", "before", "L-N", "L-PE", "N-PE", "after"}, keys(nil))
	assert.Equal(t, []string{"meter", "before", "L-N", "again:L-N", "L-PE", "N-PE", "after"}, keys(Draft{"L-N": "-41"}), "it is asked for where the volts are")
}

// The measurement categories are those of IEC 61010-2-030: II for what is plugged
// into an outlet, III for the wiring of the building, IV for its source (from
// memory). III is wanted at outlets and blocks.
func TestTheMeterItself(t *testing.T) {
	for text, want := range map[string]Rating{
		"CAT III 600 V": {3, 600}, "iii": {3, 0}, "cat 4 / 1000V": {4, 1000}, "CAT II 300V": {2, 300}, "IV 600 V": {4, 600}, "CAT III 1,000 V": {3, 1000}, "2": {2, 0},
	} {
		r, ok := ReadRating(text)
		assert.True(t, ok, text)
		assert.Equal(t, want, r, text)
	}
	for _, text := range []string{"", "V", "CAT", "CAT VI", "III volts", "9", "CAT III -600 V"} {
		_, ok := ReadRating(text)
		assert.False(t, ok, text)
	}
	j := mains().Judge(good(), Rating{})
	assert.True(t, j.Off)
	assert.Contains(t, j.Note, "category is not known", "it is said beside the proof")
	p := good()
	p.Category = "CAT III 600 V"
	assert.Empty(t, mains().Judge(p, Rating{}).Note, "asked once")
	assert.False(t, mains().Judge(p, Rating{Category: 2, Volts: 600}).Off, "the company's list counts, not what is typed")
	assert.True(t, mains().Judge(good(), Rating{Category: 4, Volts: 230}).Off)
	assert.Equal(t, "category", mains().Steps(nil, Rating{})[1].Key)
	assert.True(t, mains().Steps(nil, Rating{})[1].May)
	assert.NotEqual(t, "category", mains().Steps(nil, known)[1].Key, "known from the list: not asked")
}

func TestAChargeIsProvenByDirectVolts(t *testing.T) {
	j := charge().Judge(discharged(), Rating{})
	assert.True(t, j.Off, j.Why)
	for name, c := range map[string]struct {
		spoil func(*Proof)
		says  string
	}{
		"with swapped probes":       {func(p *Proof) { p.Readings[0].Value = "-1800 V" }, "terminal 1 to frame reads -1800 V. Still charged"},
		"in kilovolts":              {func(p *Proof) { p.Readings[1].Value = "1.4 kV" }, "terminal 2 to frame reads 1.4 kV"},
		"in the AC range":           {func(p *Proof) { p.Readings[0].Value = "0 VAC" }, "reads about 0 on the AC range"},
		"a comma that groups":       {func(p *Proof) { p.Readings[0].Value = "1,800 V" }, "may be 1.8 V or 1800 V"},
		"at the limit":              {func(p *Proof) { p.Readings[2].Value = "34" }, "Still charged"},
		"checked on a socket":       {func(p *Proof) { p.Before = "230 V" }, "The source gives 9 V"},
		"checked on a socket, said": {func(p *Proof) { p.Before = "230 VAC" }, "never on a socket"},
		"a source that is AC":       {func(p *Proof) { p.Source, p.Before = "230 VAC", "230 V" }, "never on a socket"},
		"the source was not shown":  {func(p *Proof) { p.After = "7 V" }, "The source gives 9 V"},
		"no check":                  {func(p *Proof) { p.Before = "" }, "known DC source before"},
		"the frame left out":        {func(p *Proof) { p.Readings = p.Readings[1:] }, "Measure terminal 1 to frame"},
		"terminal to terminal left": {func(p *Proof) { p.Readings = p.Readings[:2] }, "Measure terminal 1 to terminal 2"},
		"a meter for too little":    {func(p *Proof) { p.Rated = "1000 V" }, "Up to 2970 V may stand here"},
		"a meter that nobody knows": {func(p *Proof) { p.Rated = "" }, "Up to 2970 V may stand here"},
		"rated in thousandths":      {func(p *Proof) { p.Rated = "5000 mV" }, "Up to 2970 V may stand here"},
		"a rating that groups":      {func(p *Proof) { p.Rated = "5,000 V" }, "Up to 2970 V may stand here"},
	} {
		p := discharged()
		c.spoil(&p)
		j := charge().Judge(p, Rating{})
		assert.False(t, j.Off, name)
		assert.Contains(t, j.Why, c.says, name)
	}
	p := discharged()
	p.Source, p.Before, p.After = "1000 V DC", "1020 V", "980 V"
	assert.True(t, charge().Judge(p, Rating{}).Off, "a probe is checked on its maker's own source")
	p = discharged()
	p.Rated = ""
	assert.True(t, charge().Judge(p, Rating{Volts: 5000}).Off, "the company's list knows it")
	assert.False(t, charge().Judge(p, Rating{Volts: 2969}).Off, "rated above the peak, not at it")
}

// No sign, separator, unit or prefix turns live into off: whatever people and
// meters write of a voltage that is live by any reading of it.
func TestNothingWrittenTurnsLiveIntoOff(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v := rapid.Float64Range(SafeVolts, 3000).Draw(t, "volts")
		digits := rapid.IntRange(0, 3).Draw(t, "digits")
		v = math.Ceil(v*math.Pow10(digits)) / math.Pow10(digits)
		unit := rapid.SampledFrom([]string{"", " V", "V", " v", " VAC", " V AC", " V~", " VDC", " V DC", " V=", " volts", " Vrms", " ACV", " DCV"}).Draw(t, "unit")
		text := fmt.Sprintf("%.*f", digits, v)
		if k := rapid.SampledFrom([]string{"", "k", "K", "m"}).Draw(t, "prefix"); k != "" && strings.Contains(unit, "V") {
			scale := map[string]float64{"k": 1e-3, "K": 1e-3, "m": 1}[k]
			text, unit = fmt.Sprintf("%.*f", digits+int(3*math.Round(1-scale)), v*scale), strings.Replace(unit, "V", k+"V", 1)
		}
		switch rapid.SampledFrom([]string{"as it is", "comma", "grouped by comma", "grouped by point"}).Draw(t, "separator") {
		case "comma":
			text = strings.ReplaceAll(text, ".", ",")
		case "grouped by comma":
			if whole := fmt.Sprintf("%.0f", v); len(whole) == 4 {
				text = whole[:1] + "," + whole[1:]
			}
		case "grouped by point":
			if whole := fmt.Sprintf("%.0f", v); len(whole) == 4 {
				text = whole[:1] + "." + whole[1:]
			}
		}
		text = rapid.SampledFrom([]string{"", "-", "−", "+", "–"}).Draw(t, "sign") + text + unit

		p := good()
		k := rapid.IntRange(0, 2).Draw(t, "pair")
		p.Readings[k].Value = text
		j := mains().Judge(p, known)
		require.False(t, j.Off, "%q proves the mains dead: %s", text, j.Why)
		require.NotEmpty(t, j.Why)
		p.Readings[k].Value = "41 V"
		p.Again = []Reading{{p.Readings[k].Between, text}}
		require.False(t, mains().Judge(p, known).Off, "%q on the second reading", text)

		c := discharged()
		c.Readings[k].Value = text
		require.False(t, charge().Judge(c, Rating{}).Off, "%q proves the charge gone", text)
	})
}

func TestEverySystemMeasuresEachLivePointToEarth(t *testing.T) {
	for system, n := range map[string]int{"single-phase": 3, "split-phase": 6, "three-phase": 10} {
		pairs := For(&machine.Energy{Kind: "mains"}, &machine.Supply{System: system}, Meter, "").Points
		assert.Len(t, pairs, n, system)
		live := map[string]bool{}
		earthed := map[string]bool{}
		for _, p := range pairs {
			live[p[0]] = true
			if p[1] == "PE" {
				earthed[p[0]] = true
			}
		}
		assert.Equal(t, live, earthed, system)
	}
}

// The ways without volts, and their limits: 0.5 mbar in two minutes, 1 % of the
// lower explosive limit, 48 °C (common practice, no source).
func TestTheOtherWays(t *testing.T) {
	gas, water, heat := &machine.Energy{Kind: "gas"}, &machine.Energy{Kind: "water"}, &machine.Energy{Kind: "heat"}
	for name, c := range map[string]struct {
		of   *machine.Energy
		p    Proof
		off  bool
		says string
	}{
		"let-by, it holds":       {gas, Proof{Way: LetBy, Standing: "21 mbar", Rise: "0.1 mbar"}, true, "the cock holds"},
		"at the limit":           {gas, Proof{Way: LetBy, Standing: "5 mbar", Rise: "0.5 mbar"}, true, "the cock holds"},
		"in inches of water":     {gas, Proof{Way: LetBy, Standing: "7 inwc", Rise: "0.1 inwc"}, true, "the cock holds"},
		"it rises":               {gas, Proof{Way: LetBy, Standing: "21 mbar", Rise: "0.6 mbar"}, false, "lets by"},
		"it rises, in minus":     {gas, Proof{Way: LetBy, Standing: "21 mbar", Rise: "-20 mbar"}, false, "lets by"},
		"it never stood":         {gas, Proof{Way: LetBy, Standing: "4.9 mbar", Rise: "0 mbar"}, false, "proves nothing"},
		"the rise is missing":    {gas, Proof{Way: LetBy, Standing: "21 mbar"}, false, "rise in two minutes"},
		"in hectopascals":        {gas, Proof{Way: LetBy, Standing: "21 hPa", Rise: "0.04 kPa"}, true, "the cock holds"},
		"the flame died":         {gas, Proof{Way: BurnOff, Flame: "died", Tried: "no-light"}, true, "did not light"},
		"the flame burns on":     {gas, Proof{Way: BurnOff, Flame: "burns", Tried: "no-light"}, false, "lets by"},
		"it lit again":           {gas, Proof{Way: BurnOff, Flame: "died", Tried: "lit"}, false, "lit again"},
		"nobody tried":           {gas, Proof{Way: BurnOff, Flame: "died"}, false, "Try to light it"},
		"the detector":           {gas, Proof{Way: Detector, Before: "20 %", After: "21 % LEL", Readings: []Reading{{[]string{"joint", "air"}, "0"}}}, true, "two minutes"},
		"a detector in ppm":      {gas, Proof{Way: Detector, Before: "2000 ppm", After: "2100 ppm", Readings: []Reading{{[]string{"joint", "air"}, "100 ppm"}}}, true, "two minutes"},
		"gas at the joint":       {gas, Proof{Way: Detector, Before: "20 %", After: "20 %", Readings: []Reading{{[]string{"joint", "air"}, "1 % LEL"}}}, false, "Not off"},
		"gas at the joint, ppm":  {gas, Proof{Way: Detector, Before: "20 %", After: "20 %", Readings: []Reading{{[]string{"joint", "air"}, "170 ppm"}}}, false, "Not off"},
		"a dead detector":        {gas, Proof{Way: Detector, Before: "4.9 %", After: "20 %", Readings: []Reading{{[]string{"joint", "air"}, "0"}}}, false, "proves nothing"},
		"a detector that died":   {gas, Proof{Way: Detector, Before: "20 %", After: "0 %", Readings: []Reading{{[]string{"joint", "air"}, "0"}}}, false, "proves nothing"},
		"never checked before":   {gas, Proof{Way: Detector, Readings: []Reading{{[]string{"joint", "air"}, "1 % LEL"}}}, false, "source, before"},
		"never checked after":    {gas, Proof{Way: Detector, Before: "20 %", Readings: []Reading{{[]string{"joint", "air"}, "0"}}}, false, "source, after"},
		"nothing at the joint":   {gas, Proof{Way: Detector, Before: "20 %"}, false, "joint"},
		"no standing pressure":   {gas, Proof{Way: LetBy, Rise: "0 mbar"}, false, "standing pressure with the cock open"},
		"it ran dry":             {water, Proof{Way: RunsDry, Stopped: "stopped", Came: "nothing"}, true, "nothing came"},
		"it runs on":             {water, Proof{Way: RunsDry, Stopped: "runs"}, false, "lets by"},
		"it drips":               {water, Proof{Way: RunsDry, Stopped: "stopped", Came: "drips"}, false, "drips on"},
		"nobody waited":          {water, Proof{Way: RunsDry, Stopped: "stopped"}, false, "two minutes"},
		"cool":                   {heat, Proof{Way: Warm, Readings: []Reading{{[]string{"hottest part", "air"}, "41"}}}, true, "41 °C"},
		"hot":                    {heat, Proof{Way: Warm, Readings: []Reading{{[]string{"hottest part", "air"}, "160 F"}}}, false, "Too hot"},
		"at 48 °C":               {heat, Proof{Way: Warm, Readings: []Reading{{[]string{"hottest part", "air"}, "48 C"}}}, false, "Too hot"},
		"hot, written in minus":  {heat, Proof{Way: Warm, Readings: []Reading{{[]string{"hottest part", "air"}, "-60 C"}}}, false, "Too hot"},
		"held":                   {&machine.Energy{Kind: "spring"}, Proof{Way: Held, Held: "a clamp", Tried: "holds"}, true, "that was tried"},
		"held by nothing":        {&machine.Energy{Kind: "weight"}, Proof{Way: Held, Tried: "holds"}, false, "what holds it"},
		"it moved":               {&machine.Energy{Kind: "weight"}, Proof{Way: Held, Held: "a prop", Tried: "moves"}, false, "not held"},
		"plug in the hand":       {&machine.Energy{Kind: "mains"}, Proof{Way: InHand}, true, "in sight"},
		"a way that is none":     {gas, Proof{Way: "by smell"}, false, "cannot be tested off in that way"},
		"an answer that is none": {gas, Proof{Way: BurnOff, Flame: "yes", Tried: "no-light"}, false, "lets by"},
	} {
		j := For(c.of, nil, c.p.Way, "").Judge(c.p, Rating{})
		assert.Equal(t, c.off, j.Off, "%s: %s", name, j.Why)
		assert.Contains(t, j.Why, c.says, name)
	}
}

// A flame proves the gas off only where one was seen burning.
func TestWaysThatCanBeHad(t *testing.T) {
	gas := &machine.Energy{Kind: "gas"}
	mv := &machine.Move{Proof: machine.Values{BurnOff, LetBy, Detector}}
	assert.Equal(t, []string{BurnOff, LetBy, Detector}, Offered(gas, mv, true))
	assert.Equal(t, []string{LetBy, Detector}, Offered(gas, mv, false))
	for kind, way := range map[string]string{"mains": Meter, "charge": Meter, "gas": LetBy, "water": RunsDry, "heat": Warm, "spring": Held, "weight": Held} {
		assert.Equal(t, []string{way}, Offered(&machine.Energy{Kind: kind}, &machine.Move{}, true), "what the map leaves out is the usual way of %s", kind)
	}
}

// Each way's steps, done one after the other, make a proof that holds; with any
// one of them left out it does not.
func TestStepsMakeTheProof(t *testing.T) {
	for _, c := range []struct {
		kind, way string
		d         Draft
	}{
		{"mains", Meter, Draft{"meter": "4", "before": "230", "L-N": "0,3", "L-PE": "0", "N-PE": "0", "after": "231"}},
		{"mains", Meter, Draft{"meter": "4", "before": "230", "L-N": "20", "again:L-N": "1", "L-PE": "0", "N-PE": "0", "after": "231"}},
		{"charge", Meter, Draft{"meter": "9", "rated": "5000", "before": "9", "terminal 1-frame": "0", "terminal 2-frame": "0", "terminal 1-terminal 2": "0", "after": "9"}},
		{"gas", LetBy, Draft{"meter": "g-2", "standing": "21", "rise": "0.2"}},
		{"gas", BurnOff, Draft{"flame": "died", "tried": "no-light"}},
		{"gas", Detector, Draft{"meter": "d-1", "before": "20", "joint-air": "0", "after": "20"}},
		{"water", RunsDry, Draft{"stopped": "stopped", "came": "nothing"}},
		{"heat", Warm, Draft{"meter": "t", "hottest part-air": "30"}},
		{"weight", Held, Draft{"held": "a strap", "tried": "holds"}},
	} {
		e := &machine.Energy{Kind: c.kind}
		if c.kind == "charge" {
			e.Capacitor = &machine.Capacitor{Volts: 2100}
		}
		a := For(e, nil, c.way, "")
		assert.Empty(t, a.Open(c.d, known), "%s %s", c.kind, c.way)
		m := Rating{Category: 3}
		j := a.Judge(a.Of(c.d), m)
		assert.True(t, j.Off, "%s %s: %s", c.kind, c.way, j.Why)
		for _, s := range a.Steps(c.d, m) {
			if s.May {
				continue
			}
			without := Draft{}
			for k, v := range c.d {
				if k != s.Key {
					without[k] = v
				}
			}
			assert.NotEmpty(t, a.Open(without, m), "%s %s without %s", c.kind, c.way, s.Key)
			if s.Key != "meter" {
				assert.False(t, a.Judge(a.Of(without), m).Off, "%s %s without %s", c.kind, c.way, s.Key)
			}
			assert.NotEmpty(t, s.Do, s.Key)
		}
		for _, s := range a.Steps(c.d, m) { // a wrong answer never proves
			for _, answer := range s.Answers[min(1, len(s.Answers)):] {
				wrong := Draft{}
				for k, v := range c.d {
					wrong[k] = v
				}
				wrong[s.Key] = answer.Value
				assert.False(t, a.Judge(a.Of(wrong), m).Off, "%s %s: %s", c.kind, c.way, answer.Say)
			}
		}
	}
}

// At its very limit each rule holds as it says: what is a source, what a ghost,
// what the least that an instrument must show.
func TestTheLimitsOfAProof(t *testing.T) {
	source := func(before string) bool {
		p := good()
		p.Before, p.After = before, before
		return mains().Judge(p, known).Off
	}
	for before, off := range map[string]bool{"50 V": true, "49.9 V": false, "1000 V": true, "1001 V": false, "-120 V": true} {
		assert.Equal(t, off, source(before), before)
	}
	thousandths := func(reading string) bool {
		p := good()
		p.Readings[1].Value = reading
		return mains().Judge(p, known).Off
	}
	for reading, off := range map[string]bool{"9.9 mV": true, "10 mV": false, "300 mV": false} {
		assert.Equal(t, off, thousandths(reading), reading)
	}
	probe := func(rated string) Judgement {
		p := discharged()
		p.Rated = rated
		return charge().Judge(p, Rating{})
	}
	assert.False(t, probe("").Off)
	assert.True(t, probe("").Missing, "what it is rated for is asked")
	assert.False(t, probe("1 kV").Off)
	assert.False(t, probe("1 kV").Missing, "another probe is wanted, not another word")
	assert.True(t, probe("5 kV").Off)
}
