package ladder

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"evensteps/core/fault"
	"evensteps/core/machine"
	"evensteps/core/reading"
	"evensteps/core/record"
)

// work is the step between the two ways: what to fit, what to compare, what to
// carry over.
func (v *viewing) work(goal string) *Side {
	s := v.side(v.goalName(goal), "front", "", nil, nil, nil, nil, 1)
	s.Stand, s.View = "At the bench.", "The way in is open; nothing more has to come off."
	kind, id, _ := strings.Cut(goal, ":")
	part := v.Map.Part(id)
	if kind != "replace" || part == nil {
		s.Done = &Touch{Label: "Done, " + lower(s.Title), Open: []string{}, Makes: []Make{made("goal.dropped", map[string]string{"goal": goal, "reason": "replaced"})}, Half: []Make{}}
		return s
	}
	s.Do = append(s.Do, fmt.Sprintf("New part: *%s*, number %s.", part.Name, part.Number), "Lay new beside old and compare.")
	if part.Unlike {
		s.Do = append(s.Do, "It *looks different*: its leads go over one at a time, each to the terminal that the diagram names.")
	}
	s.Lines = v.compare(part)
	number, compared, carried := comparedOf(part, s.Lines)
	d := &Touch{Open: append([]string{}, openLines(s.Lines)...), Makes: []Make{}, Half: []Make{}}
	var names []string
	for _, piece := range part.Pieces() {
		fit := made("part.fitted", record.PartFitted{Part: part.ID, Piece: piece, Number: number, Evidence: v.evidence(part), Compared: compared, Carried: carried})
		c := Choice{Label: v.itemName(piece), Says: "new one in hand, compared", Makes: []Make{fit}}
		if f := v.Pieces[part.ID+"/"+piece]; f != nil {
			c.Done, c.Says = true, "new, "+v.name(f.By)
			if as := fittedAs(f); as != "fitted" {
				c.Says = as + ", " + v.name(f.By)
			}
		} else {
			d.Makes = append(d.Makes, fit)
			names = append(names, lower(v.itemName(piece)))
		}
		s.Choices = append(s.Choices, c)
	}
	s.Keep = append(s.Keep, v.keeping(part)...)
	d.Label = "Done, " + lower(part.Name) + " new"
	d.Says = strings.Join(names, ", ") + ": new in place of old"
	if part.FitTogether && len(names) == len(part.Pieces()) {
		d.Says = "both fitted together: " + strings.Join(names, ", ")
		if len(names) != 2 {
			d.Says = "the set fitted together: " + strings.Join(names, ", ")
		}
	}
	s.Done = d
	return v.ticketed(s, part.Ticket)
}

// keeping are the pieces of a set or kit that may stay: one touch each, with the
// reason where they are sold to be fitted together.
func (v *viewing) keeping(part *machine.Part) (out []Choice) {
	pieces := part.Pieces()
	if len(pieces) < 2 {
		return nil
	}
	for _, piece := range pieces {
		if v.Pieces[part.ID+"/"+piece] != nil {
			continue
		}
		kept := record.PartFitted{Part: part.ID, Piece: piece, As: "kept"}
		says := "the old one goes back in"
		if part.FitTogether {
			kept.Reason = "tried and looked at: sound"
			says += "; tried and looked at, it is sound"
		}
		out = append(out, Choice{Label: "Keep: " + lower(v.itemName(piece)), Says: says, Makes: []Make{made("part.fitted", kept)}})
	}
	return out
}

func (v *viewing) final(f *machine.Final) *Side {
	s := v.task(&f.Task, f.Pass)
	passed, failed := made("final.result", map[string]any{"final": f.ID, "passed": true}), made("final.result", map[string]any{"final": f.ID, "passed": false})
	v.verdict(s, &f.Task, f.Pass, passed, failed, "the job stays open")
	for _, t := range v.Temps { // it counts on a whole machine
		if t.Inside() {
			s.Lines = append(s.Lines, Line{Line: t.ID, Kind: "temporary", Say: t.Name + " is out", Tick: made("temporary.out", named(t)), Or: []Choice{}})
		}
	}
	s.Done.Open = append(s.Done.Open, openLines(s.Lines)...)
	return v.ticketed(s, f.Ticket)
}

// verdict gives a check or final its two touches; one that is measured asks for
// its value instead, and the core judges it.
func (v *viewing) verdict(s *Side, t *machine.Task, pass string, passed, failed Make, then string) {
	s.Failed = &Touch{Label: "Failed", Says: then, Open: []string{}, Makes: []Make{failed}, Half: []Make{}}
	s.Done = &Touch{Label: "Passed", Says: lower(pass), Open: []string{}, Makes: []Make{passed}, Half: []Make{}}
	if limits, err := reading.Within(t.Expect, reading.Setting{}); err == nil {
		s.Value = v.units().ExampleFor(t.Expect, limits.Quantity)
		s.Done.Label, s.Done.Says = "Record the value", limits.Say()
		if s.Pass == "" {
			s.Pass = upper(limits.Say())
		}
	}
}

// test is a test that somebody set as a goal: its outcomes, or its value.
func (v *viewing) test(t *machine.Test) *Side {
	s := v.task(&t.Task, "")
	s.Photos = v.photosOf(func(on string) bool { return on == t.ID }, nil)
	for _, h := range t.Hold {
		s.Do = append(s.Do, h+".")
	}
	if t.Limits != "" {
		s.Said = t.Limits
	}
	if t.Measure != nil {
		q := reading.Quantity(t.Measure.Quantity)
		s.Value = v.units().ExampleFor(t.Expect, q)
		if s.Value == "" {
			s.Value = "as the meter shows it"
		}
		s.Asks = v.circumstances(t.Expect, q)
		reads := map[string]any{"test": t.ID}
		for _, id := range t.Lift {
			if v.at[id].Rank() == 0 {
				reads["fitted"] = true // another path may lie beside what is still wired in
				s.Do = append(s.Do, "*"+v.itemName(id)+" is still on*: another path beside it can pass for this one. Part it first, dead, or the reading tells nothing for sure.")
			}
		}
		if slices.Contains(t.Tools, "multimeter") && reading.OfMultimeter(q) {
			s.Meter = &MeterAsk{Quantity: t.Measure.Quantity, Between: t.Measure.Between}
		}
		s.Done = &Touch{Label: "Record the value", Open: []string{}, Makes: []Make{made("reading.taken", reads)}, Half: []Make{}}
		if limits, err := reading.Within(t.Expect, reading.Setting{}); err == nil {
			s.Done.Says = limits.Say()
		}
		return v.ticketed(s, t.Ticket)
	}
	if t.Ask != "" {
		s.Do = append(s.Do, "*"+t.Ask+"*")
	}
	for _, o := range t.Outcomes {
		if o.Say == "" {
			o.Say = o.ID
		}
		s.Choices = append(s.Choices, Choice{Label: o.Say, Makes: []Make{made("test.result", map[string]any{"test": t.ID, "outcome": o.ID, "evidence": "seen"})}})
	}
	return v.ticketed(s, t.Ticket)
}

// circumstances are what a reading of this expectation is judged by besides its
// value.
func (v *viewing) circumstances(e *machine.Expect, q reading.Quantity) []Circumstance {
	asks := []Circumstance{}
	if e == nil {
		return asks
	}
	if reading.HangsOnWarmth(e) {
		asks = append(asks, Circumstance{"ambient", "How warm is it?", v.warm(), "its resistance hangs on that", true})
	}
	if q == reading.Resistance && e.Insulation == nil {
		asks = append(asks, Circumstance{"leads", "The leads add", "0.2 ohm", "touch the probes together; empty where they are zeroed", false})
	}
	if e.Element != nil {
		asks = append(asks, Circumstance{"supply", "Volts of the supply", "230 V", "says what the element makes here; empty where they were not measured", false})
	}
	return asks
}

// has tells whether a person holds a ticket. Where the job names no people,
// everyone is taken to have every ticket.
func (v *viewing) has(person, ticket string) bool {
	return v.book.Job.heldBy(person, ticket, v.now)
}

// ticketed leaves a side as it is for who holds its ticket. Nobody else is led
// into it: it says to leave it, and who has the ticket.
func (v *viewing) ticketed(s *Side, ticket string) *Side {
	if v.has(v.viewer.Person, ticket) {
		return s
	}
	s.Ticket = fmt.Sprintf("Stop: %s ticket needed. Leave this as it is.", spaced(ticket))
	if who := v.holders(ticket); len(who) > 0 {
		s.Ticket += " " + haveOne(who) + "."
	}
	s.Do, s.Lines, s.Plugs, s.Lots, s.Choices, s.Done, s.Failed, s.Proof, s.Value = []string{}, []Line{}, []Plug{}, []Lot{}, []Choice{}, nil, nil, nil, ""
	s.Asks, s.Meter = []Circumstance{}, nil
	return s
}

// holders are the names of those of the company who hold a ticket.
func (v *viewing) holders(ticket string) []string {
	who := []string{}
	for _, id := range sorted(v.book.Job.People) {
		if v.has(id, ticket) && !v.book.Job.People[id].Closed {
			who = append(who, v.fullName(id))
		}
	}
	return who
}

func haveOne(who []string) string {
	if len(who) == 1 {
		return and(who) + " has one"
	}
	return and(who) + " have one"
}

// Stops are the reasons for a stop, each with what to do first. Local emergency
// numbers and the company's own rule come before them (common practice).
var Stops = []struct{ Why, First string }{
	{"gas smell", "No switch, no flame. Shut the gas outside, open up, everyone out. Phone the gas emergency line from outside."},
	{"smoke or scorching", "Off at the breaker, not at the machine. Everyone back. Call the fire service now, unless it has stopped."},
	{"shock felt", "Do not touch the machine. Off at the breaker. See to the person first."},
	{"water at live parts", "Off at the breaker from a dry place. Then shut the water."},
	{"something else", "Hands out, energy off where that can be done without reach into the machine."},
}

func (v *viewing) stopped(f *record.Fact) *Side {
	why := f.Of.(*record.Stopped).Why
	s := v.side("Stopped: "+why, "front", "", nil, nil, nil, nil, 1)
	s.Stand, s.View = "Stopped by "+v.name(f.By)+".", "Nothing is led on until the stop is lifted."
	for _, r := range Stops {
		if r.Why == why {
			s.Do = append(s.Do, strings.SplitAfter(r.First, ". ")...)
		}
	}
	if len(s.Do) == 0 {
		s.Do = append(s.Do, Stops[len(Stops)-1].First)
	}
	for i := range s.Do {
		s.Do[i] = strings.TrimSpace(s.Do[i])
	}
	s.Do = append(s.Do, "Then call your supervisor.")
	return s
}

// Sheet is what the customer gets: who found and did what, when and with which
// instrument, and what was not tested.
type Sheet struct {
	Title     string   `json:"title"`
	Firm      []string `json:"firm"`  // the company, a line at a time
	About     []Row    `json:"about"` // the machine and the job
	Zone      string   `json:"zone"`  // of the times on it; empty: of whoever reads it
	Region    string   `json:"region"`
	Wrong     []string `json:"wrong"`
	Found     []string `json:"found"` // as it was found, with who says so and when
	Done      []string `json:"done"`
	Measured  []Figure `json:"measured"`
	NotTested []string `json:"not_tested"`
	Who       []string `json:"who"`
	Explained []string `json:"explained"`
	Signed    *Stamp   `json:"signed"`
	Note      string   `json:"note"`
	Markdown  string   `json:"markdown"` // the same, as it is saved
}

// Figure is one measured value with how it was taken.
type Figure struct {
	What  string     `json:"what"`
	Value string     `json:"value"`
	Meter string     `json:"meter"`
	By    string     `json:"by"`
	At    *time.Time `json:"at"`
	Note  string     `json:"note"` // what stands beside a proof
}

// passed is the line of a check or final that passed, with what it showed.
func passed(t *machine.Task, pass string) string {
	if pass == "" {
		return t.Title + ": passed." // its value stands with what was measured
	}
	return t.Title + ": passed. " + pass + "."
}

func (v *viewing) sheet() {
	job := v.book.Job
	s := Sheet{
		Title: job.Title, Wrong: []string{}, Found: []string{}, Done: []string{}, Measured: []Figure{}, NotTested: []string{}, Who: []string{}, Explained: []string{},
		Note: "Local codes, the maker's data and licensed practice come first. This sheet says who found what, when and with which instrument.",
	}
	s.heads(v)
	if job.Words != "" {
		s.Wrong = append(s.Wrong, "“"+job.Words+"”")
	}
	for _, c := range v.complaints() {
		s.Wrong = append(s.Wrong, c.Name+".")
	}
	for _, f := range v.Told {
		s.Wrong = append(s.Wrong, "Told by telephone: "+lower(f.Of.(*record.Told).Name)+". Out of use until it was looked at.")
	}
	for _, key := range sorted(v.Pieces) {
		if fittedAs(v.Pieces[key]) != "fitted" {
			s.Done = append(s.Done, v.pieceLine(v.Pieces[key].Of.(*record.PartFitted)))
		}
	}
	s.Done = append(s.Done, v.mendedLines()...)
	for i := range v.Map.Faults {
		failed := &v.Map.Faults[i]
		for _, c := range failed.Because {
			if f := v.Causes[failed.ID+"/"+c.ID]; f != nil {
				s.Done = append(s.Done, fmt.Sprintf("%s: cause looked for. %s %s.", failed.Name, c.Ask, f.Of.(*record.CauseAnswered).Answer))
			}
		}
	}
	for _, id := range sorted(v.OldParts) {
		if p := v.Map.Part(id); p != nil {
			s.Done = append(s.Done, fmt.Sprintf("Old %s: %s.", lower(p.Name), oldTo[v.OldParts[id].Of.(*record.OldPart).To]))
		}
	}
	if used := v.usedUp(); len(used) > 0 {
		s.Done = append(s.Done, "Used up: "+strings.Join(used, ", ")+".")
	}
	seen, done, left := v.looked()
	s.Found = append(v.asFound(), seen...)
	s.Done = append(s.Done, done...)
	s.NotTested = append(s.NotTested, left...)
	for _, own := range v.view.Belongings {
		if own.To != "" {
			s.Done = append(s.Done, fmt.Sprintf("Found inside: %s, given to %s.", own.What, own.To))
		}
	}
	for _, g := range v.Goals {
		if g.Reason != "" && g.Goal != record.Work {
			s.Done = append(s.Done, fmt.Sprintf("%s: not done, %s.", v.goalName(g.Goal), g.Reason))
		}
	}
	for _, id := range sorted(v.Checks) {
		if c := v.Map.Check(id); c != nil && v.Checks[id].Passed != nil {
			s.Done = append(s.Done, passed(&c.Task, c.Pass))
		}
	}
	for i := range v.Map.Finals {
		f := &v.Map.Finals[i]
		r := v.Finals[f.ID]
		switch {
		case r == nil:
			s.NotTested = append(s.NotTested, f.Title+".")
		case v.FinalPassed(f.ID):
			s.Done = append(s.Done, passed(&f.Task, f.Pass))
		default:
			s.NotTested = append(s.NotTested, f.Title+": failed.")
		}
	}
	for _, id := range sorted(v.Proofs) {
		p := v.Proofs[id]
		at := p.Fact.When()
		fig := Figure{What: v.itemName(id) + ", before work", Value: p.Highest, By: v.fullName(p.Fact.By), At: &at, Note: p.Note}
		if p.Proof != nil {
			fig.Meter = p.Proof.Meter
			fig.Note = noted(fig.Note, v.overdue(fig.Meter, at))
		}
		s.Measured = append(s.Measured, fig)
	}
	s.Measured = append(s.Measured, v.readings()...)
	s.Measured = append(s.Measured, v.measuredBack()...)
	if v.SignedBy != nil {
		at := v.SignedBy.When()
		s.Signed = &Stamp{v.fullName(v.SignedBy.By), at}
		s.NotTested = append(s.NotTested, v.SignedBy.Of.(*record.SignedOff).NotTested...)
	}
	did := map[string][]string{}
	for i := range v.Facts {
		f := &v.Facts[i]
		word := ""
		switch f.Of.(type) {
		case *record.RungOut:
			word = "took it apart"
		case *record.PartFitted:
			word = "fitted the parts"
		case *record.RungBack:
			word = "closed it"
		case *record.FinalResult:
			word = "ran it"
		}
		if word != "" && !slices.Contains(did[f.By], word) {
			did[f.By] = append(did[f.By], word)
		}
	}
	for _, p := range sorted(did) {
		s.Who = append(s.Who, v.fullName(p)+" "+and(did[p])+".")
	}
	for _, snag := range v.view.Snags {
		if snag.Explained != nil {
			s.Explained = append(s.Explained, fmt.Sprintf("%s %s (%s)", snag.Say, snag.Explained.Text, snag.Explained.By))
		}
	}
	s.Markdown = s.markdown(v)
	v.view.Sheet = s
}

// heads says whose sheet it is, and of what.
func (s *Sheet) heads(v *viewing) {
	job := v.book.Job
	s.Firm, s.About = []string{}, []Row{}
	add := func(what, say string) {
		if say != "" {
			s.About = append(s.About, Row{What: what, Say: say})
		}
	}
	if f := job.Firm; f != nil {
		s.Zone, s.Region = f.Zone, f.Region
		for _, line := range append(append([]string{f.Name}, strings.Split(f.Address, "\n")...), f.Number) {
			if line != "" {
				s.Firm = append(s.Firm, line)
			}
		}
	}
	if w := job.Where; w != nil {
		add("Site", w.Site)
		add("Address", strings.ReplaceAll(w.Address, "\n", ", "))
		add("Machine", w.Name)
		add("Model", w.Model)
		add("Serial", w.Serial)
		add("Where it stands", w.Stands)
	}
	add("Job", job.ID)
}

// mendedLines are what was renewed or mended, a sentence each.
func (v *viewing) mendedLines() []string {
	lines := []string{}
	fitted, how := map[string][]string{}, map[string]string{}
	for _, key := range sorted(v.Pieces) {
		b := v.Pieces[key].Of.(*record.PartFitted)
		if fittedAs(v.Pieces[key]) != "fitted" {
			continue
		}
		fitted[b.Part] = append(fitted[b.Part], lower(v.itemName(b.Piece)))
		if v.Map.Part(b.Part) != nil {
			how[b.Part] = evidenceSays(b.Evidence)
		} else if b.Number != "" { // a part that no map knows
			how[b.Part] = " Number " + b.Number + "."
		}
	}
	for _, id := range sorted(fitted) {
		name, number := id, ""
		if p := v.Map.Part(id); p != nil {
			name, number = p.Name, ", number "+p.Number
		}
		lines = append(lines, fmt.Sprintf("%s replaced (%s)%s.%s", name, strings.Join(fitted[id], ", "), number, how[id]))
	}
	if v.Decided != nil {
		for _, id := range mended(v.Decided.Of.(*record.Decided)) {
			lines = append(lines, fault.Name(v.Map, id)+": mended, nothing was opened.")
		}
	}
	return lines
}

// evidenceSays is how it was known that a part was at fault.
func evidenceSays(grade string) string {
	switch grade {
	case "measured", "seen", "told":
		return " At fault: " + grade + "."
	case "assumed":
		return " At fault: assumed, nothing was measured or seen that shows it."
	}
	return ""
}

// pieceLine is a piece of a kit or set that was not fitted.
func (v *viewing) pieceLine(b *record.PartFitted) string {
	say := fmt.Sprintf("%s %s", v.itemName(b.Piece), b.As)
	if b.Reason != "" {
		say += ": " + b.Reason
	}
	return say + "."
}

// readings are those of the search. One that was taken again after a part was
// fitted stands as a pair, before and after.
func (v *viewing) readings() []Figure {
	fitted, taken := map[int]bool{}, map[string]int{}
	after := false
	for i := range v.Facts {
		switch b := v.Facts[i].Of.(type) {
		case *record.PartFitted:
			after = true
		case *record.ReadingTaken:
			fitted[i] = after
			taken[b.Test]++
		}
	}
	var out []Figure
	for i := range v.Facts {
		b, is := v.Facts[i].Of.(*record.ReadingTaken)
		if !is || v.testOf(b.Test) == nil && b.Test != record.EarthPath {
			continue
		}
		what := v.testTitle(b.Test)
		switch {
		case taken[b.Test] > 1 && fitted[i]:
			what += ", after"
		case taken[b.Test] > 1:
			what += ", before"
		}
		at := v.Facts[i].When()
		out = append(out, Figure{What: what, Value: b.Value, Meter: b.Meter, By: v.fullName(v.Facts[i].By), At: &at, Note: v.overdue(b.Meter, at)})
	}
	return out
}

// measuredBack are the values taken on the way back and in the finals.
func (v *viewing) measuredBack() []Figure {
	var out []Figure
	add := func(what, value, meter string, f *record.Fact) {
		at := f.When()
		out = append(out, Figure{What: what, Value: value, Meter: meter, By: v.fullName(f.By), At: &at, Note: v.overdue(meter, at)})
	}
	for _, t := range v.Turns {
		for _, id := range sorted(t.Earths) {
			b := t.Earths[id].Of.(*record.ReadingTaken)
			add(v.itemName(id)+" to the frame", b.Value, b.Meter, t.Earths[id])
		}
		for _, id := range sorted(t.Confirms) {
			if b := t.Confirms[id].Of.(*record.Confirmed); b.Value != "" {
				add(v.confirmWords(id), b.Value, "", t.Confirms[id])
			}
		}
	}
	for _, id := range sorted(v.Finals) {
		if b := v.Finals[id].Of.(*record.FinalResult); b.Value != nil {
			add(v.moveName(id), *b.Value, "", v.Finals[id])
		}
	}
	return out
}

// confirmWords is what a confirmation says.
func (v *viewing) confirmWords(id string) string {
	move, n, _ := strings.Cut(id, "/confirm/")
	mv := v.Map.Move(move)
	if k, err := strconv.Atoi(n); mv != nil && mv.Back != nil && err == nil && k >= 1 && k <= len(mv.Back.Confirm) {
		return mv.Back.Confirm[k-1].Say
	}
	return id
}

// markdown is the sheet as CommonMark. What people typed is escaped, so that it
// stays text.
func (s *Sheet) markdown(v *viewing) string {
	var b strings.Builder
	fmt.Fprintf(&b, "# %s\n\n%s. %s\n", plainText(s.Title), v.view.Headline, v.view.Standing)
	part := func(title string, lines []string) {
		if len(lines) == 0 {
			return
		}
		fmt.Fprintf(&b, "\n## %s\n\n", title)
		for _, l := range lines {
			fmt.Fprintf(&b, "- %s\n", plainText(l))
		}
	}
	if len(s.Firm) > 0 {
		fmt.Fprintf(&b, "\n%s\n", plainText(strings.Join(s.Firm, ", ")))
	}
	lines := []string{}
	for _, r := range s.About {
		lines = append(lines, r.What+": "+r.Say)
	}
	part("Machine and job", lines)
	part("What was wrong", s.Wrong)
	part("As found", s.Found)
	part("What was done", s.Done)
	if len(s.Measured) > 0 {
		b.WriteString("\n## Measured\n\n| what | value | meter | by | when (UTC) |\n|---|---|---|---|---|\n")
		for _, m := range s.Measured {
			value := plainText(m.Value)
			if m.Note != "" {
				value += ". " + plainText(m.Note)
			}
			fmt.Fprintf(&b, "| %s | %s | %s | %s | %s |\n", plainText(m.What), value, plainText(m.Meter), plainText(m.By), m.At.UTC().Format("2006-01-02 15:04"))
		}
	}
	part("Not tested", s.NotTested)
	part("Explained", s.Explained)
	part("Who", s.Who)
	fmt.Fprintf(&b, "\n%s\n", s.Note)
	return b.String()
}

// plainText keeps text from being read as markup or breaking its line.
func plainText(s string) string {
	s = strings.Join(strings.Fields(s), " ")
	return markup.Replace(s)
}

var markup = strings.NewReplacer(`\`, `\\`, "*", `\*`, "_", `\_`, "`", "\\`", "[", `\[`, "]", `\]`, "<", "&lt;", ">", "&gt;", "&", "&amp;", "|", `\|`, "#", `\#`)

func and(words []string) string {
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
}
