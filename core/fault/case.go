package fault

import (
	"slices"
	"strings"

	"evensteps/core/machine"
	"evensteps/core/plan"
)

// Other is what the map does not know. It is always a suspect.
const Other = "other"

// What is judgement and no measurement, kept in one place.
const (
	mapJobs      = 10.0  // the map's weights count as so many closed jobs
	uniform      = 0.005 // share of every likelihood that is spread evenly
	otherShare   = 0.02  // weight of Other where a complaint gives it none
	finalMisses  = 0.03  // a right fix still fails its final with this chance
	leastGain    = 0.1   // minutes from which a test is advised
	speaks       = 3.0   // a result that is so many times likelier under a fault speaks for it
	looksFirst   = 0.5   // a look that costs no opening goes first from this share of the greatest gain
	tells        = 0.025 // a test that changes what is fitted less often is no choice
	surprise     = 0.05  // a result less likely than this contradicts the rest
	otherMinutes = 120.0 // finding out what the map does not know
	walkMinutes  = 1.0   // a continuity test along a circuit
	walkHit      = 0.98  // it is open where the fault lies between its points
	walkFalse    = 0.01  // and where it does not
	seenHit      = 0.9   // what a look speaks for is seen where that is the fault
	seenFalse    = 0.05  // and where it is not
)

// Result is what one test showed, and how many fixes had been tried by then.
type Result struct {
	Test    string
	Outcome string
	Tried   int
}

// Case is what is asked: a complaint on a machine in a state, with what is known.
type Case struct {
	Map       *machine.Map // whole; its options are applied here
	Answers   map[string]string
	Complaint string
	Results   []Result // in order; a repeated test replaces its earlier result
	Tried     []string // fixes that were made and whose final still failed, in order; Other: one looked wider
	Standing  []string // moves that stand, in the order they were made
	Found     map[string]machine.Level
	People    int            // 0 means not stated: 1, and 2 where 1 has no way
	Rate      float64        // price of a minute, to reckon parts in minutes; 0 means 1
	Closed    map[string]int // the company's closed jobs of this complaint, by fault
	NotDone   []string       // tests that cannot be made
	memory    *memory        // what is worked out already for this machine and complaint; see Remember
	played    *played        // in a trial: what is true of it, whatever the search believes
}

// Suspect is a fault with its chance now, and before the last result.
type Suspect struct {
	Fault string
	P     float64
	Was   float64
}

// search is a case with what is worked out of it once.
type search struct {
	c         Case
	m         *machine.Map // options applied
	complaint *machine.Complaint
	faults    []string // suspects in the map's order, Other last
	tests     []test
	made      []Result // all, those that are void, too
	*memory
}

// memory is what is worked out once for a machine and a complaint and serves
// every state of the search.
type memory struct {
	maps  map[string]*machine.Map // options applied, by what stands
	known map[*machine.Map]*known // what is read of each of those
	costs map[string]*costs       // of attempts, by what stands
	ways  map[string]way          // to tests, by what stands
}

// known is what is read of a map for a complaint: its suspects, and its tests.
type known struct {
	complaint *machine.Complaint
	faults    []string
	tests     []test
}

type way struct {
	access   []string
	minutes  float64
	standing []string
	ok       bool
}

// costs are what attempts cost from one state of the machine.
type costs struct {
	s     *search
	from  []*plan.Costs      // by as many people as are stated; else by one, and by two where one has no way
	known map[string]float64 // fixes made in one opening -> minutes, parts in them
}

// test is a test of the map, or one along a circuit, with the chance of each
// outcome under each fault, mixed with a little of the even chance.
type test struct {
	id       string
	of       *machine.Test // nil of one along a circuit
	needs    machine.Needs // of one along a circuit: what must be open, and proven off
	outcomes []string
	given    [][]float64 // outcome x fault, as faults are ordered
	parts    bool        // it tells some two suspects apart
	passing  bool        // seen in passing at a step: it weighs, and is never advised
}

// Advice is what the search comes to.
type Advice struct {
	Suspects      []Suspect // the likeliest first
	Next          []Step    // in order of worth; the first is advised
	Expected      float64   // minutes of the whole repair, going on as advised
	Contradiction bool      // the last result was hardly to be expected: repeat it, or look wider
}

// Step is a test worth making, or fixes to make in one opening.
type Step struct {
	Test    string
	Fix     []string
	Gain    float64  // of a test: minutes that it saves on the whole, its own taken off
	Free    bool     // of a test: it opens nothing and undoes nothing
	P       float64  // of fixes: the chance that one of them is right
	Goals   []string // of fixes: what a plan has to reach for them
	Minutes float64  // of a test, its own and the way in to it; of fixes, the attempt without prices
	Prices  float64  // of the fixes' parts
	Access  []string // moves that a test needs first, in order
	Ticket  string
	Why     string
	Shows   []Shows // of a test: what it can show
}

// Shows is one outcome of a test: how likely it is, and who is the likeliest
// suspect after it.
type Shows struct {
	Outcome string
	P       float64
	Top     string
	TopP    float64
	fix     []string // what would be fitted after it, the likeliest first
}

// Trial plays simulated jobs on one machine. Advice is remembered by complaint,
// results and state.
type Trial struct {
	Map     *machine.Map
	Answers map[string]string
	Rate    float64
	advice  map[string]Step
	exact   map[string]float64
	memory  map[string]*memory // by complaint
}

// World is what is true on simulated jobs, besides what the map says. Its zero
// value is the map's own.
type World struct {
	// Off is how far the truth lies from the map: each weight, and each chance of an
	// outcome, is multiplied by something between 1/Off and Off. 0 and 1 change nothing.
	Off  float64
	Seed uint64 // of one such truth
}

// A Policy decides what to do next on a simulated job.
type Policy string

// Played is how one simulated job went.
type Played struct {
	Minutes float64 // to a proven repair, prices of parts in them
	Tests   int
	Wasted  int     // parts fitted that were not at fault
	Claimed float64 // chance that was claimed for the first fix
	Right   bool    // and whether it was
}

// played is what is true of a trial so far: what was done, and the chances after
// all of it, nothing void and nothing replaced.
type played struct {
	exact   bool // whoever acts reckons with that, too
	done    []string
	chances []float64
}

// state names all that the rest of a search hangs on.
func state(c Case) string {
	var results []string
	for _, r := range c.Results {
		results = append(results, r.Test+"="+r.Outcome)
	}
	slices.Sort(results)
	return c.Complaint + "|" + strings.Join(c.Standing, ",") + "|" + strings.Join(c.Tried, ",") + "|" + strings.Join(results, ",")
}

// Remember gives a case a memory: whoever asks of it again, with other results,
// other fixes tried or other moves standing, waits less. Map, answers, complaint,
// what was found, people and closed jobs must stay the same.
func Remember(c Case) Case {
	c.memory = &memory{maps: map[string]*machine.Map{}, known: map[*machine.Map]*known{}, costs: map[string]*costs{}, ways: map[string]way{}}
	return c
}

func (y *memory) with(c Case) *machine.Map {
	key := strings.Join(c.Standing, ",")
	if y.maps[key] == nil {
		y.maps[key] = c.Map.With(c.Answers, c.Standing...)
	}
	return y.maps[key]
}

// on is the map to plan on from these standing moves: the one with the options
// applied where they are the present ones, else the whole.
func (s *search) on(standing []string) *machine.Map {
	if slices.Equal(standing, s.c.Standing) {
		return s.m
	}
	return s.c.Map
}
