package ladder

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"evensteps/core/fault"
	"evensteps/core/machine"
	"evensteps/core/plan"
	"evensteps/core/reading"
	"evensteps/core/record"
	"evensteps/core/worth"
)

// Figures are what the customer's choice is reckoned on. Prices are in the
// company's money, interest in per cent a year.
type Figures struct {
	New      float64 `json:"new"`        // price of a new machine, set up
	Left     float64 `json:"years_left"` // years that this one lasts, repaired
	Lasts    float64 `json:"years_new"`  // years that a new one lasts
	RunThis  float64 `json:"run_this"`   // what this one costs to run, a year
	RunNew   float64 `json:"run_new"`
	Interest float64 `json:"interest"`
}

// Usual are the figures that stand where nobody has said others: judgement, no
// source. The price of a new machine must be said.
var Usual = Figures{Left: 4, Lasts: 10, Interest: 5}

// Decide is what to fit, how to get there, what to bring, and whether to repair
// at all, as its screen shows it.
type Decide struct {
	Say     string   `json:"say"`   // why there is nothing to decide yet
	Title   string   `json:"title"` // the likeliest suspect; or what is set to be done
	Known   []Row    `json:"known"` // what speaks for the likeliest suspect, and how it is known
	Fits    []Fit    `json:"fits"`  // the cheapest on the whole first
	Why     []Row    `json:"why"`   // what will be asked before the job is even
	Ways    []WayIn  `json:"ways"`  // the best first
	Bring   []Row    `json:"bring"`
	Who     []string `json:"who"`   // for which stretch somebody else is needed
	Stops   []string `json:"stops"` // where this viewer has to stop for a ticket
	Go      string   `json:"go"`    // go, or what speaks against it
	Earlier []Row    `json:"earlier"`
	Worth   *Worth   `json:"worth"`
	Else    []Touch  `json:"else"` // what else can be decided
	Usual   Figures  `json:"usual"`
	Decided string   `json:"decided"` // the last decision, in words
}

// Fit is one thing that can be fitted, or the test that may spare it.
type Fit struct {
	Title   string   `json:"title"`
	Says    []string `json:"says"`
	Price   float64  `json:"price"`
	P50     float64  `json:"p50"` // minutes of this opening with its finals; of a test, its own
	P80     float64  `json:"p80"`
	Holds   float64  `json:"holds"` // the chance that it mends it
	About   string   `json:"about"`
	Minutes float64  `json:"minutes"` // expected on the whole, to a proven repair
	Money   float64  `json:"money"`   // and the prices of parts
	Test    bool     `json:"test"`
	Accept  *Touch   `json:"accept"`
	goals   []string
	mended  []string // faults, where nothing has to be opened
}

// WayIn is one way in and back.
type WayIn struct {
	Title  string  `json:"title"`
	Says   string  `json:"says"`
	P50    float64 `json:"p50"`
	P80    float64 `json:"p80"`
	Rungs  int     `json:"rungs"`
	People int     `json:"people"`
	Accept *Touch  `json:"accept"` // takes this way; none of the one that is planned
}

// Worth is repair and replacement beside each other, each a year.
type Worth struct {
	Cost    float64 `json:"cost"`  // of the repair: work and parts, with the company's tax
	Money   string  `json:"money"` // the currency, ISO 4217; empty where nobody has said
	Note    string  `json:"note"`  // what is in the cost, and what comes either way
	Repair  float64 `json:"repair"`
	Replace float64 `json:"replace"`
	Says    string  `json:"says"`
	Problem string  `json:"problem"` // what is wrong with the figures
	Left    float64 `json:"years_left"`
	Lasts   float64 `json:"years_new"`
}

// Typed is what somebody wrote into the figures, by their names in JSON. What
// is not written stands at the usual; without a price of a new machine nothing
// is compared.
type Typed map[string]string

// read gives the figures as written; nil where no new machine has a price yet.
func (t Typed) read() (*Figures, error) {
	f := Usual
	priced := false
	for name, into := range map[string]*float64{
		"new": &f.New, "years_left": &f.Left, "years_new": &f.Lasts, "run_this": &f.RunThis, "run_new": &f.RunNew, "interest": &f.Interest,
	} {
		text := strings.TrimSpace(t[name])
		if text == "" {
			continue
		}
		value, err := reading.Parse(reading.Count, text)
		if err != nil {
			return nil, fmt.Errorf("%q is no number; write it like 900 or 4.5", text)
		}
		*into = value
		priced = priced || name == "new"
	}
	if !priced {
		return nil, nil
	}
	return &f, nil
}

// Decide compares what can be done from all that is known of the job. Without a
// price of a new machine, repair and replacement are not compared.
func (b *Book) Decide(viewer Viewer, now time.Time, typed Typed) *Decide {
	figures, wrong := typed.read()
	v := b.begin(viewer, now)
	out := &Decide{Known: []Row{}, Fits: []Fit{}, Why: []Row{}, Ways: []WayIn{}, Bring: []Row{}, Who: []string{}, Stops: []string{}, Earlier: []Row{}, Else: []Touch{}, Usual: Usual}
	for _, e := range b.Job.Earlier {
		out.Earlier = append(out.Earlier, Row{What: e.When, Say: e.Say})
	}
	if v.Decided != nil {
		d := v.Decided.Of.(*record.Decided)
		out.Decided = upper(v.name(v.Decided.By)) + " wrote down: " + spaced(d.Choice) + "."
		if d.By == "customer" {
			out.Decided = "The customer said: " + spaced(d.Choice) + "."
		}
	}
	c, shown := v.weighed()
	advice, _ := fault.Find(c)
	goals := v.mending()
	if len(goals) == 0 {
		out.Fits = v.fits(c)
		for _, f := range out.Fits {
			if !f.Test {
				goals = f.goals
				break
			}
		}
	}
	if len(out.Fits) == 0 && len(goals) == 0 {
		out.Say = "Nothing is suspected and no part is set: find the fault first, or set a goal."
		return out
	}
	out.Known = v.known(advice, c, shown)
	if len(out.Known) > 0 {
		out.Title, out.Known = out.Known[0].What, slices.Concat([]Row{{What: out.Known[0].Say}}, out.Known[1:])
	}
	if set := v.mending(); len(set) > 0 {
		var names []string
		out.Known = []Row{}
		for _, g := range set {
			names = append(names, lower(v.goalName(g)))
			if p := v.Map.Part(strings.TrimPrefix(g, "replace:")); p != nil {
				for _, say := range v.partSays(p) {
					out.Known = append(out.Known, Row{What: p.Name, Say: say})
				}
			}
		}
		out.Title = upper(and(names))
	}
	out.Why = v.willAsk(goals)
	v.journey(out, advice, goals)
	out.Worth = v.compared(out, goals, figures)
	if wrong != nil {
		out.Worth.Problem = upper(wrong.Error())
	}
	for _, f := range out.Fits {
		if !f.Test {
			f.Accept.Makes = append([]Make{decided("repair", figures, out.Worth, f.mended)}, f.Accept.Makes...)
		}
	}
	out.Else = v.elseDecided(figures, out.Worth)
	return out
}

// mending are the open goals that mend something.
func (v *viewing) mending() (goals []string) {
	for _, g := range v.rest {
		if t, err := plan.Reads(v.Map, g); err == nil && t.ByMove {
			goals = append(goals, g)
		}
	}
	return goals
}

// fits are the options of the search, in words.
func (v *viewing) fits(c fault.Case) []Fit {
	out := []Fit{}
	options, _ := fault.Options(c)
	for _, o := range options {
		f := Fit{Holds: o.Holds, About: fault.About(o.Holds), Minutes: o.Minutes, Money: o.Money, Test: o.Test != "", goals: o.Goals, Says: []string{}}
		if f.Test {
			f.Title, f.P50, f.P80 = "First: "+lower(v.testTitle(o.Test)), o.Own, o.Own
			f.Says = append(f.Says, fmt.Sprintf("%.0f min, and it changes what is fitted %s", math.Ceil(o.Own), often(o.Changes)))
			f.Accept = &Touch{Label: "Measure first", Says: lower(v.testTitle(o.Test)), Open: []string{}, Makes: added(o.Goals), Half: []Make{}}
			out = append(out, f)
			continue
		}
		var names, faults []string
		for _, id := range o.Parts {
			p := v.Map.Part(id)
			f.Price += p.Price
			names = append(names, p.Name)
			f.Says = append(f.Says, v.partSays(p)...)
		}
		for _, id := range o.Fixes {
			faults = append(faults, lower(fault.Name(v.Map, id)))
		}
		f.Title = and(names)
		if len(names) == 0 {
			f.Title = upper(and(faults))
		} else {
			f.Says = append(f.Says, "mends: "+and(faults))
		}
		p := v.planOf(o.Goals)
		if p == nil {
			continue
		}
		f.P50, f.P80 = v.band(p, o.Own)
		f.Accept = &Touch{Label: "Fit it now", Says: lower(f.Title), Open: []string{}, Half: []Make{}, Makes: added(o.Goals)}
		if len(o.Goals) == 0 {
			f.Accept.Label, f.mended = "It is mended", o.Fixes
		}
		out = append(out, f)
	}
	return out
}

// often says how often something comes about.
func often(p float64) string {
	switch {
	case p >= 0.985:
		return "nearly always"
	case p < 0.025:
		return "hardly ever"
	}
	return strings.Replace(fault.About(p), "about", "in about", 1)
}

// decided is what was decided, with the figures it was decided on. A repair
// that is made already, with nothing opened, is nobody's decision.
func decided(choice string, figures *Figures, w *Worth, mended []string) Make {
	d := record.Decided{Choice: choice, By: "customer", Figures: map[string]any{}}
	if len(mended) > 0 {
		d.Figures["mended"], d.By = mended, ""
	}
	if w != nil {
		d.Figures["cost"] = math.Round(100*w.Cost) / 100
	}
	if figures != nil && w != nil && w.Problem == "" {
		d.Figures["reckoned_on"] = *figures
		d.Figures["repair_a_year"], d.Figures["replace_a_year"] = math.Round(w.Repair), math.Round(w.Replace)
	}
	return made("decided", d)
}

// partSays is what there is to know of a part before it is ordered.
func (v *viewing) partSays(p *machine.Part) (out []string) {
	number := "number " + p.Number
	if len(p.Was) > 0 {
		number += ", takes the place of " + and(p.Was)
	}
	out = append(out, number)
	var pieces []string
	for _, id := range p.Pieces() {
		pieces = append(pieces, lower(v.itemName(id)))
	}
	switch {
	case p.FitTogether && p.SetOf == 2:
		out = append(out, "fitted as a pair; to keep one asks for a reason")
	case p.FitTogether:
		out = append(out, "fitted as a set; to keep one asks for a reason")
	case len(pieces) > 1:
		out = append(out, and(pieces)+": each fitted, kept or returned")
	}
	if len(p.CarryOver) > 0 {
		var names []string
		for _, id := range p.CarryOver {
			names = append(names, lower(v.itemName(id)))
		}
		out = append(out, "carry over "+and(names))
	}
	if p.Unlike {
		out = append(out, "looks different: wired one lead at a time")
	}
	return out
}

// grades are how a thing is known, the best first.
var grades = []string{"measured", "seen", "told", "assumed"}

// evidence is how it is known that a part is at fault: by the best result that
// speaks for one of its faults; assumed where none does.
func (v *viewing) evidence(p *machine.Part) string {
	c, _ := v.weighed()
	best := len(grades) - 1
	speaks := fault.Speaks(c)
	if speaks == nil {
		return grades[best]
	}
	for i := range v.Map.Faults {
		f := &v.Map.Faults[i]
		if !v.Map.Renews(p, f) {
			continue
		}
		for _, r := range c.Results {
			if speaks(r, f.ID) {
				best = min(best, v.knownBy(r))
			}
		}
	}
	return grades[best]
}

// knownBy is how the last result of a test is known, as a place in grades.
func (v *viewing) knownBy(r fault.Result) int {
	if v.Readings[r.Test] != nil {
		return 0
	}
	if f := v.State.Results[r.Test]; f != nil {
		if k := slices.Index(grades, f.Of.(*record.TestResult).Evidence); k >= 0 {
			return k
		}
	}
	return 1
}

// known is what speaks for the likeliest suspect.
func (v *viewing) known(a *fault.Advice, c fault.Case, shown []Finding) []Row {
	out := []Row{}
	if a == nil {
		return out
	}
	top := a.Suspects[0]
	out = append(out, Row{What: fault.Name(v.Map, top.Fault), Say: fmt.Sprintf("%s · %.0f %%", fault.About(top.P), min(99, 100*top.P))})
	speaks := fault.Speaks(c)
	for _, r := range c.Results {
		if !speaks(r, top.Fault) {
			continue
		}
		for _, s := range shown {
			if s.Test == r.Test {
				out = append(out, Row{What: upper(grades[v.knownBy(r)]), Say: s.Title + ": " + lower(s.Say)})
				break
			}
		}
	}
	if len(out) == 1 {
		out = append(out, Row{What: "Assumed", Say: "nothing was measured or seen that shows it"})
	}
	return out
}

// willAsk is what a fitted part will ask for before the job is even.
func (v *viewing) willAsk(goals []string) []Row {
	out := []Row{}
	for _, g := range goals {
		p := v.Map.Part(strings.TrimPrefix(g, "replace:"))
		if p == nil {
			continue
		}
		for i := range v.Map.Faults {
			f := &v.Map.Faults[i]
			if !v.Map.Renews(p, f) {
				continue
			}
			for _, c := range f.Because {
				say := c.Ask
				if a := v.causeOf(c); a != nil {
					say += " " + upper(a.Of.(*record.CauseAnswered).Answer) + "."
				}
				if !slices.ContainsFunc(out, func(r Row) bool { return r.Say == say }) {
					out = append(out, Row{What: "Why: " + lower(f.Name) + "?", Say: say})
				}
			}
		}
	}
	return out
}

// journey is what there is to know before setting out, and before going on: the
// ways, what to bring, for which stretch somebody else must come, and where a
// ticket stops this viewer.
func (v *viewing) journey(out *Decide, a *fault.Advice, goals []string) {
	p := v.planOf(goals)
	if p == nil {
		out.Go = "No go: there is no way to that and back as things stand."
		return
	}
	out.Ways = v.ways(p, goals)
	rows := v.partsToBring(goals)
	if len(v.mending()) == 0 {
		rows = append(rows, v.maybe(a)...)
	}
	rows = append(rows, v.kitToBring(p)...)
	if n := v.fewestTrays(p.WayIn); n > 0 {
		rows = append(rows, Row{What: count(n, "tray"), Say: "at the least, to keep look-alikes apart"})
	}
	out.Bring = unlike(rows)
	out.Who = v.helped(p)
	out.Go = "Go."
	if len(out.Who) > 0 {
		out.Go = "Go, with somebody else for a stretch."
	}
	for _, s := range v.ticketStops(p) {
		if v.has(v.viewer.Person, s.Ticket) {
			continue
		}
		say := s.Name + ". " + s.say() + "."
		if s.More > 0 {
			say += fmt.Sprintf(" So do %d after it.", s.More)
		}
		out.Stops = append(out.Stops, say)
	}
	if len(out.Stops) > 0 {
		out.Go = "No go alone: you have to stop for a ticket."
	}
}

// maybe tells of what may be needed besides: the parts of the likelier
// suspects, and the tools of the tests that would be advised first.
func (v *viewing) maybe(a *fault.Advice) (rows []Row) {
	if a == nil {
		return nil
	}
	for _, s := range a.Suspects {
		if f := v.Map.Fault(s.Fault); f != nil && s.P >= likely {
			for _, r := range v.partsToBring([]string{"replace:" + f.Part}) {
				rows = append(rows, Row{What: r.What, Say: "perhaps, " + fault.About(s.P)})
			}
		}
	}
	for k, step := range a.Next {
		if t := v.Map.Test(step.Test); t != nil && k < 3 {
			for _, tool := range t.Tools {
				rows = append(rows, Row{What: upper(tool), Say: "to measure"})
			}
		}
	}
	return rows
}

// ways are the best way in and the others, each with what it takes.
func (v *viewing) ways(p *plan.Plan, goals []string) []WayIn {
	says := func(people, blind, rungs int) string {
		say := count(rungs, "rung") + ", alone"
		if people > 1 {
			say = count(rungs, "rung") + ", two people"
		}
		if blind > 0 {
			return say + fmt.Sprintf(", %d by feel", blind)
		}
		return say + ", nothing by feel"
	}
	blind := 0
	for _, id := range p.WayIn {
		if v.Map.Move(id).Blind {
			blind++
		}
	}
	p50, p80 := v.band(p)
	out := []WayIn{{Title: v.wayTitle(p.WayIn, nil), Says: says(p.People, blind, len(p.WayIn)), P50: p50, P80: p80, Rungs: len(p.WayIn), People: p.People}}
	if len(v.without) > 0 {
		out[0].Accept = &Touch{Label: "The shortest again", Says: "whatever it is", Open: []string{}, Half: []Make{}, Makes: []Make{made("way.chosen", record.WayChosen{Without: []string{}})}}
	}
	r := v.request()
	r.Goals = goals
	for _, w := range plan.OtherWays(v.Whole, r, p) {
		p50, p80 := v.bandOf(w.WayIn, w.WayBack, w.Minutes.TurnsAndToolsIn+w.Minutes.TurnsAndToolsBack)
		accept := v.takeWay(r, p, w.WayIn)
		out = append(out, WayIn{Accept: accept, Title: v.wayTitle(w.WayIn, w.Differs), Says: says(w.People, len(w.Blind), len(w.WayIn)), P50: p50, P80: p80, Rungs: len(w.WayIn), People: w.People})
	}
	return out
}

// takeWay is the touch that takes another way: whatever the planner would rather do
// is left out, until it does this. nil where it never does.
func (v *viewing) takeWay(r plan.Request, best *plan.Plan, way []string) *Touch {
	without := slices.Clone(v.without)
	for p := best; p != nil; {
		more := slices.DeleteFunc(slices.Clone(p.WayIn), func(id string) bool { return slices.Contains(way, id) })
		if len(more) == 0 {
			if len(p.WayIn) != len(way) {
				return nil
			}
			return &Touch{Label: "Go this way", Says: "the ladder follows it", Open: []string{}, Half: []Make{}, Makes: []Make{made("way.chosen", record.WayChosen{Without: without})}}
		}
		without = append(without, more...)
		r.BarredOut = append(slices.Clone(r.BarredOut), more...)
		p = v.book.plan(v.Whole, r).plan
	}
	return nil
}

// wayTitle names a way by what it does that the best does not; the best by
// where it ends.
func (v *viewing) wayTitle(in, differs []string) string {
	var names []string
	for _, id := range differs {
		names = append(names, lower(v.moveName(id)))
	}
	switch {
	case len(names) > 0:
		return upper("by " + and(names[:min(2, len(names))]))
	case len(in) == 0:
		return "Nothing to open"
	}
	return "To the " + lower(v.moveName(in[len(in)-1]))
}

// helped says for which stretch somebody else must be there: from the first
// step that takes two to the last.
func (v *viewing) helped(p *plan.Plan) []string {
	type step struct {
		name    string
		minutes float64
		people  int
	}
	var steps []step
	for _, id := range p.WayIn {
		mv := v.Map.Move(id)
		steps = append(steps, step{mv.Name(), mv.Minutes.Out, max(mv.People, v.Map.Poses[mv.Pose].People)})
	}
	for _, s := range p.WayBack {
		if s.Undo != "" {
			mv := v.Map.Move(s.Undo)
			people := mv.People
			if mv.Back != nil && mv.Back.People != nil {
				people = *mv.Back.People
			}
			steps = append(steps, step{mv.Name() + " back", v.stepMinutes(s), max(people, v.Map.Poses[mv.Pose].People)})
		}
	}
	first := slices.IndexFunc(steps, func(s step) bool { return s.people > 1 })
	if first < 0 {
		return []string{}
	}
	last, sum := first, 0.0
	for k := first; k < len(steps); k++ {
		if steps[k].people > 1 {
			last = k
		}
	}
	for _, s := range steps[first : last+1] {
		sum += s.minutes
	}
	return []string{fmt.Sprintf("Two people from “%s” to “%s”, about %.0f min.", lower(steps[first].name), lower(steps[last].name), math.Ceil(sum))}
}

// compared is repair and replacement a year, with what would tip it.
func (v *viewing) compared(out *Decide, goals []string, figures *Figures) *Worth {
	w := &Worth{}
	if len(out.Fits) > 0 {
		for _, f := range out.Fits {
			if !f.Test {
				w.Cost = f.P50*v.rate() + f.Price
				break
			}
		}
	} else if p := v.planOf(goals); p != nil {
		p50, _ := v.band(p)
		w.Cost = p50 * v.rate()
		for _, g := range goals {
			if q := v.Map.Part(strings.TrimPrefix(g, "replace:")); q != nil {
				w.Cost += q.Price
			}
		}
	}
	v.firmCosts(w)
	if figures == nil {
		return w
	}
	repair := worth.Course{Price: w.Cost, Years: figures.Left, Running: figures.RunThis}
	replace := worth.Course{Price: figures.New, Years: figures.Lasts, Running: figures.RunNew}
	interest := figures.Interest / 100
	if err := errors.Join(repair.Sound(), replace.Sound()); err != nil {
		w.Problem = strings.ReplaceAll(err.Error(), "\n", "; ")
		return w
	}
	if !(interest >= 0 && interest <= 1) {
		w.Problem = "Write the interest in per cent a year, from 0 to 100."
		return w
	}
	w.Repair, w.Replace = repair.Yearly(interest), replace.Yearly(interest)
	w.Left, w.Lasts = figures.Left, figures.Lasts
	tip := worth.Tip(repair, replace, interest)
	less := w.Replace - w.Repair
	switch {
	case math.Abs(less) < 0.5:
		w.Says = "Both cost the same a year."
	case less > 0:
		w.Says = fmt.Sprintf("Repair is cheaper by %s a year.", v.money(less))
		if tip.Years > 0 {
			w.Says += fmt.Sprintf(" It tips if the machine lasts less than %s, or the repair costs over %s.", years(tip.Years), v.money(tip.Price))
		}
	default:
		w.Says = fmt.Sprintf("A new one is cheaper by %s a year.", v.money(-less))
		if tip.Years > 0 && tip.Years <= 40 {
			w.Says += fmt.Sprintf(" It tips if this one lasts more than %s, or the repair costs under %s.", years(tip.Years), v.money(tip.Price))
		} else {
			w.Says += " No number of years tips it."
		}
	}
	return w
}

// firmCosts adds the company's tax, and says what comes either way.
func (v *viewing) firmCosts(w *Worth) {
	f := v.book.Job.Firm
	if f == nil {
		return
	}
	w.Money = f.Currency
	tax := 1 + f.Tax/100
	w.Cost *= tax
	if f.Tax > 0 {
		w.Note = fmt.Sprintf("With %s %% tax.", strconv.FormatFloat(f.Tax, 'f', -1, 64))
	}
	if f.CallOut > 0 {
		w.Note = noted(w.Note, "The call-out, "+v.money(f.CallOut*tax)+", comes either way.")
	}
}

// money is an amount in whole units, with the company's currency.
func (v *viewing) money(amount float64) string {
	say := fmt.Sprintf("%.0f", amount)
	if f := v.book.Job.Firm; f != nil && f.Currency != "" {
		return f.Currency + " " + say
	}
	return say
}

func years(n float64) string {
	if n < 1.95 {
		return fmt.Sprintf("%.0f months", n*12)
	}
	return fmt.Sprintf("%.1f years", n)
}

func (v *viewing) rate() float64 { return v.book.Job.rate(v.now) }

// elseDecided is what can be decided instead of going on now.
func (v *viewing) elseDecided(figures *Figures, w *Worth) []Touch {
	touch := func(label, says, choice, reason string) Touch {
		t := Touch{Label: label, Says: says, Open: []string{}, Makes: []Make{decided(choice, figures, w, nil)}, Half: []Make{}}
		for _, g := range v.rest {
			t.Makes = append(t.Makes, made("goal.dropped", map[string]string{"goal": g, "reason": reason}))
		}
		return t
	}
	return []Touch{
		touch("Second visit", "with the parts; close it now", "second-visit", "waiting"),
		touch("Replace", "a new machine; close it now", "replace", "declined"),
		touch("Leave", "not repaired; close it now", "leave", "declined"),
	}
}
