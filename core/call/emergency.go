package call

import (
	"slices"
	"strings"
)

// Emergency is what a caller says that is no booking: somebody can be hurt now.
type Emergency struct {
	Kind string   `json:"kind"`
	Name string   `json:"name"`
	Say  []string `json:"say"` // what to tell the caller now, a line at a time
	By   []string `json:"by"`  // the words that say so
}

// emergencies are the kinds, the most dangerous first, each with what to tell the
// caller (common practice, no source; local emergency numbers and the company's
// own rule come before it).
var emergencies = []struct {
	kind, name string
	say        []string
	heard      func(clause) []string
}{
	{"gas", "Gas smell", []string{
		"Everybody out now. Leave the doors open behind you, and open windows on the way.",
		"Touch no switch, pull no plug, light nothing, and do not telephone from inside.",
		"Shut the gas cock only where it is on your way out.",
		"Phone the gas emergency line from outside. Nobody goes back in until they say so.",
	}, clause.gas},
	{"fire", "Smoke, flames or sparks", []string{
		"If it burns or smokes: everybody out, shut the door of the room behind you, and phone the fire service.",
		"Do not open the machine, and no water on it.",
		"Has it stopped by itself: breaker off, keep its door shut, and stay near until it is cold.",
		"Nobody uses it.",
	}, clause.fire},
	{"shock", "Electric shock", []string{
		"Do not touch the machine, nor anybody who still hangs on to it.",
		"Breaker off, from dry ground.",
		"See to the person first: phone for an ambulance, even if they feel well.",
		"Nobody uses it.",
	}, clause.shock},
	{"water-live", "Water at live parts", []string{
		"Do not touch the machine, its plug or the water.",
		"Breaker off, from dry ground. Then shut the water.",
		"Nobody uses it.",
	}, clause.waterLive},
	{"runs-open", "Runs with its door open", []string{
		"Pull the plug, or breaker off.",
		"Leave its door shut, and nobody uses it: do not try it again.",
	}, clause.runsOpen},
	{"starts-itself", "Starts or stays on by itself", []string{
		"Breaker off, or pull the plug.",
		"Leave it off, and take nothing that burns near it. Nobody uses it.",
	}, clause.startsItself},
	{"glass", "Cracked glass", []string{
		"Off, at the breaker or the plug. Let it cool, and do not touch the glass.",
		"Leave it shut, keep children away, and nobody uses it.",
	}, clause.glass},
}

// Urgent is the most dangerous emergency that a caller's words say, nil for none.
// kind is the machine's, empty where it is not known yet: then anything counts.
func Urgent(said, kind string) *Emergency {
	clauses := clauses(said, kind)
	for _, e := range emergencies {
		for _, c := range clauses {
			if by := e.heard(c); len(by) > 0 {
				return &Emergency{e.kind, e.name, e.say, by}
			}
		}
	}
	return nil
}

// spoken is one word of a caller: as it was said, its stem, and whether a "no"
// or "not" binds to it.
type spoken struct {
	text, stem string
	not        bool
}

// clause is what is said of one thing, with the kind of machine it is said of.
type clause struct {
	words []spoken
	kind  string
	lit   bool // the text tells of a burner and its lighting
}

// clauses parts a text where one thing ends and another begins. Slips of the pen
// are read as the word of danger that they mean.
func clauses(said, kind string) (out []clause) {
	c := clause{kind: kind}
	not, asked := false, false
	end := func() {
		switch {
		case len(c.words) > 0:
			out = append(out, c)
		case not && asked: // "Smoke? No."
			out = out[:max(0, len(out)-1)]
		}
		c.words, not, asked = nil, false, false
	}
	all := tokens(said)
	for i, part := range all {
		switch {
		case part == "." && i+1 < len(all) && slices.Contains([]string{"like", "of", "from"}, all[i+1]): // "a smell, like gas"
			continue
		case part == "." || part == "?" || part == "but":
			end()
			asked = part == "?"
			continue
		case negations[part]:
			not = true
			continue
		case slices.Contains([]string{"a", "an", "the", "any", "to", "be", "it", "its", "do", "does", "is", "of"}, part):
			c.words = append(c.words, spoken{text: part}) // a "not" passes over it
			continue
		}
		c.words = append(c.words, spoken{part, slip(stem(part), danger), not})
		not, asked = false, false
	}
	end()
	lit := slices.ContainsFunc(out, func(c clause) bool { return c.any(burner) }) && kind != "microwave" && kind != "dishwasher"
	for i := range out {
		out[i].lit = lit
	}
	return out
}

// danger are the stems that emergencies hang on; only these are guessed from
// words that are spelt wrongly.
var danger = stems("gas propane butane smell stink reek odour odor whiff leak hiss smoke smoking smoulder smolder flame spark fire burn scorch melt shock electrocute zap tingle prickle water glass crack shatter broken door open itself")

func stems(text string) (out []string) {
	for _, w := range strings.Fields(text) {
		if s := stem(w); !slices.Contains(out, s) {
			out = append(out, s)
		}
	}
	return out
}

// find returns the places of words of a list that were said, and not denied.
func (c clause) find(list string) (at []int) { return c.search(list, false) }

// denied returns those that were denied: "no smell", "won't stop".
func (c clause) denied(list string) (at []int) { return c.search(list, true) }

func (c clause) search(list string, not bool) (at []int) {
	want := stems(list)
	for i, w := range c.words {
		if w.not == not && w.stem != "" && (slices.Contains(want, w.stem) || slices.Contains(strings.Fields(list), w.text)) {
			at = append(at, i)
		}
	}
	return at
}

// any tells whether a word of the list stands in the clause, denied or not.
func (c clause) any(list string) bool { return len(c.find(list))+len(c.denied(list)) > 0 }

// follows tells whether these very words stand in the clause, one after another.
func (c clause) follows(phrases ...string) bool {
	var all []string
	for _, w := range c.words {
		all = append(all, w.text)
	}
	text := " " + strings.Join(all, " ") + " "
	return slices.ContainsFunc(phrases, func(p string) bool { return strings.Contains(text, " "+p+" ") })
}

// said are words of the clause by their places.
func (c clause) said(places ...[]int) (out []string) {
	for i, w := range c.words {
		if slices.Contains(slices.Concat(places...), i) {
			out = append(out, w.text)
		}
	}
	return out
}

// both are the words of two lists where each was said and none denied.
func (c clause) both(one, other string) []string {
	a, b := c.find(one), c.find(other)
	if len(a) == 0 || len(b) == 0 {
		return nil
	}
	return c.said(a, b)
}

func (c clause) gas() []string {
	const smells = "smell stink reek odour odor whiff sniff leak hiss escape"
	if by := c.both("gas propane butane lpg", smells); by != nil && len(c.denied(smells)) == 0 {
		return by
	}
	if c.kind != "dishwasher" && c.kind != "microwave" && len(c.denied(smells)) == 0 { // there it is the drain, or food
		return c.both("egg", smells)
	}
	return nil
}

// burner words: a flame or spark of these is as it should be, or a complaint.
const burner = "burner ring hob igniter ignite ignition pilot light lit lighter yellow blue low small weak uneven click knob"

func (c clause) fire() []string {
	food := c.any("cake toast pizza food pie cookie bread roast meat bacon popcorn") && c.any("burnt burn spill")
	var at []int
	if !food && !c.follows("smoke alarm", "smoke detector") {
		at = c.find("smoke smoking smoky smoulder smolder")
	}
	if c.kind == "microwave" && c.any("room") { // the hood gives the kitchen's smoke back
		at = nil
	}
	if away := c.any("back behind plug socket outlet wire wiring cord door drum wall everywhere"); away || !c.lit {
		at = append(at, c.find("spark sparks sparking arcing ablaze")...)
		if flamed := slices.Contains([]string{"range", "cooktop", "oven", "dryer"}, c.kind); !flamed || away || c.follows("flames inside", "flames in", "big flames", "huge flames") {
			at = append(at, c.find("flame flames")...)
		}
	}
	if c.follows("on fire", "caught fire", "catch fire", "catches fire", "a fire", "the fire", "fire in", "fire inside", "fire behind", "small fire", "electrical fire", "flames out", "flames coming") && !c.follows("fire up") {
		at = append(at, c.find("fire flames")...)
	}
	if c.any("still keep now wall plug socket outlet cord cable wire") {
		at = append(at, c.find("scorch scorching scorched melt melting melted charred blackened")...)
		if c.any("still keep") {
			at = append(at, c.find("burn burning")...)
		}
	}
	return c.said(at)
}

func (c clause) shock() []string {
	if c.any("price bill cost quote invoice absorber") {
		return nil
	}
	return c.said(c.find("shock shocked shocks electrocute electrocuted zap zapped tingle tingles tingling prickle prickles"))
}

func (c clause) waterLive() []string {
	if c.any("unplug unplugged") || c.follows("plug out", "plug pulled", "drain plug", "drain hose") {
		return nil
	}
	live := "outlet socket plug wire wiring wires electrics electrical electricity electric live terminal terminals breaker fuse board control controls panel button buttons keypad display"
	wet := "water wet leak leaks drip drips flood flooded soak soaked pour poured pool puddle ran"
	if c.kind == "dishwasher" { // its panel is where its water is told of
		live = "outlet socket plug wire wiring wires electrics electrical electricity electric live terminal terminals"
	}
	if len(c.denied("water leak drip")) > 0 {
		return nil
	}
	return c.both(live, wet)
}

func (c clause) runsOpen() []string {
	if !slices.Contains([]string{"", "microwave", "dryer", "dishwasher"}, c.kind) || c.any("light lamp bulb hand") {
		return nil
	}
	door, open := c.find("door lid"), c.find("open opened opening")
	if len(door) == 0 || len(open) == 0 || c.follows("only when", "only if") {
		return nil
	}
	for _, w := range []string{"while", "during"} { // the door opens while it runs: a latch
		if i := slices.IndexFunc(c.words, func(s spoken) bool { return s.text == w }); i > open[0] && !c.any("keep still continue") {
			return nil
		}
	}
	runs, stays := c.find("run start work turn spin tumble heat cook continue keep go spray wash hum"), c.denied("stop shut switch turn pause")
	if len(c.denied("run start work turn spin heat cook go")) > 0 && len(stays) == 0 {
		return nil
	}
	if len(runs) == 0 && len(stays) == 0 {
		return nil
	}
	return c.said(door, open, runs, stays)
}

func (c clause) startsItself() []string {
	if c.any("fan light lamp bulb display clock beep beeps alarm indicator water") {
		return nil
	}
	off := c.find("off")
	if stays := c.denied("turn switch shut go power"); len(stays) > 0 && len(off) > 0 {
		return c.said(stays, off)
	}
	if stays := c.denied("off"); len(stays) > 0 && c.any("turn switch shut") { // cannot be switched off
		return c.said(stays)
	}
	if stops := c.denied("stop"); len(stops) > 0 && c.any("run heat turn running heating turning") {
		return c.said(stops)
	}
	if len(off) > 0 || c.any("stop stops") {
		return nil
	}
	self := c.find("itself themselves randomly")
	if c.follows("on its own", "on their own", "by its own") {
		self = append(self, c.find("own")...)
	}
	if len(self) > 0 && !c.any("door open drawer") {
		if goes := c.find("start starts run runs heat heats fire fires on"); len(goes) > 0 {
			return c.said(goes, self)
		}
	}
	if c.kind != "dishwasher" && c.any("burner element oven zone hotplate hob heat it") && len(c.find("stay stays stuck remain")) > 0 && len(c.find("on")) > 0 && !c.follows("full on", "only on") {
		if c.any("hot high full") || c.any("burner element oven zone hotplate hob heat") {
			return c.said(c.find("stay stays stuck remain"), c.find("on"))
		}
	}
	return nil
}

func (c clause) glass() []string {
	if c.kind == "dishwasher" || c.any("turntable plate tray bowl dish jug lamp bulb") {
		return nil
	}
	return c.both("glass cooktop hob ceramic window pane top", "crack cracked cracks shatter shattered broken broke smash smashed explode exploded burst")
}
