// Package demo plays the demo scenario: an invented service company that looks
// after the kitchens and laundries of holiday cabins, guest houses and a
// boat-yard canteen along a chain of lake islands. Nothing in it is written
// into a record by hand: every job is made by playing events through the core,
// as a technician would by touching Done.
package demo

import (
	"encoding/binary"
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"

	"evensteps/core/energy"
	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/reading"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/core/view"
)

// Player records events on one job as one person with one device would.
type Player struct {
	Book   *job.Book
	By     string
	Device string
	Clock  time.Time
	began  time.Time
	last   time.Time // the latest stamp
	n      map[string]int
	num    int
	random *rand.Rand
	events []record.Event
}

// NewPlayer begins a job's record at a moment. seed makes its ids the same each
// time.
func NewPlayer(m *machine.Map, known scene.Job, by, device string, at time.Time, seed uint64) *Player {
	return &Player{Book: job.Open(m, known), By: by, Device: device, Clock: at, began: at, n: map[string]int{}, random: rand.New(rand.NewPCG(seed, 7))}
}

// Events are all that was recorded, stamped in the order of recording.
func (p *Player) Events() []record.Event { return p.events }

// View is the job as this person sees it now.
func (p *Player) View() *job.View {
	return p.Book.View(scene.Viewer{Person: p.By, Device: p.Device}, p.Clock)
}

// Record makes one event and adds it to the record.
func (p *Player) Record(kind string, body any) error {
	raw, err := json.Marshal(body)
	if err != nil {
		return fmt.Errorf("playing %s: %w", kind, err)
	}
	return p.record(kind, raw)
}

func (p *Player) record(kind string, body json.RawMessage) error {
	p.n[p.Device]++
	p.num++
	at := p.Clock.UTC()
	if !at.After(p.last) { // after all that it had seen, as the server stamps it
		at = p.last.Add(time.Microsecond)
	}
	p.last = at
	e := record.Event{
		ID: p.id(), Job: p.Book.Job.ID, By: p.By, Device: p.Device, N: p.n[p.Device], Wall: p.Clock, Since: p.Clock.Sub(p.began).Seconds(),
		Run: "demo", Seen: p.num - 1, Kind: kind, Body: body, Num: p.num, T: &at,
	}
	f, err := record.Read(e)
	if err != nil {
		return fmt.Errorf("playing %s: %w", kind, err)
	}
	p.Book.Add(f)
	p.events = append(p.events, e)
	return nil
}

// id is a UUIDv7 of the player's clock.
func (p *Player) id() string {
	var b [16]byte
	binary.BigEndian.PutUint64(b[:8], uint64(p.Clock.UnixMilli())<<16|p.random.Uint64()&0xfff)
	binary.BigEndian.PutUint64(b[8:], p.random.Uint64())
	b[6] = b[6]&0x0f | 0x70
	b[8] = b[8]&0x3f | 0x80
	return uuid.UUID(b).String()
}

// Answer answers what shows from outside, as it is asked with the call: as given,
// and otherwise as is usual.
func (p *Player) Answer(answers map[string]string) error {
	for _, o := range p.Book.Map.Options {
		value := answers[o.ID]
		if value == "" && len(o.Needs) == 0 && p.Book.Map.Agrees(o.When, answers) {
			value = o.Usual
		}
		if value == "" {
			continue
		}
		if err := p.Record("option.answered", record.OptionAnswered{Option: o.ID, Value: value}); err != nil {
			return err
		}
	}
	return nil
}

// Take lets time pass.
func (p *Player) Take(d time.Duration) { p.Clock = p.Clock.Add(d) }

// Step does what the view says is next, whole: counts what must be counted,
// ticks what must be true, proves with readings, and touches Done. It returns
// false when nothing is left but signing off.
func (p *Player) Step() (bool, error) {
	v := p.View()
	c := v.Current
	switch c.Kind {
	case "work", "final", "test":
		p.Take(3 * time.Minute)
		if c.Task.Done == nil && len(c.Task.Choices) == 0 {
			return false, fmt.Errorf("%s: %s", c.Task.Title, c.Task.Ticket)
		}
		if c.Task.Done == nil {
			return true, p.make(c.Task.Choices[0].Makes, "")
		}
		if len(c.Task.Done.Open) > 0 {
			return true, p.lines(c.Task.Lines)
		}
		return true, p.touch(c.Task.Done, p.value(c.Task, c.Move+c.Goal))
	case "out", "back", "check":
		for _, r := range v.Rungs {
			if !r.Current {
				continue
			}
			side := r.Home
			if c.Kind == "out" {
				side = r.OutSide
			}
			return true, p.side(r.ID, side)
		}
		return false, fmt.Errorf("the view has no rung %s", c.Move)
	case "sign-off":
		for _, snag := range v.Snags { // what only a word settles: a cause, a belonging
			if len(snag.Touches) > 0 && snag.Explained == nil {
				return true, p.make(snag.Touches[0].Makes, "")
			}
		}
		return false, nil
	case "signed", "find":
		return false, nil
	case "survey": // an option that shows now is mostly as usual
		if i := slices.IndexFunc(c.Task.Choices, func(k view.Choice) bool { return k.Says == "the usual" }); i >= 0 {
			return true, p.make(c.Task.Choices[i].Makes, "")
		}
	}
	return false, fmt.Errorf("the job is %s: %s", c.Kind, c.Say)
}

func (p *Player) side(id string, s *steps.Side) error {
	p.Take(45 * time.Second)
	for _, l := range s.Lots {
		if l.MustCount && l.Counted == nil {
			body := record.LotCounted{Lot: l.Lot, Side: l.Side, Count: l.Count}
			if l.Side == "out" {
				body.Tray = l.Tray
			}
			if err := p.Record("lot.counted", body); err != nil {
				return err
			}
			p.Take(5 * time.Second)
		}
	}
	for _, g := range s.Plugs {
		if err := p.leads(&g); err != nil {
			return err
		}
	}
	if err := p.lines(s.Lines); err != nil {
		return err
	}
	// The side is looked at again: what Done records depends on what was counted.
	v := p.View()
	for _, r := range v.Rungs {
		if r.ID != id || !r.Current {
			continue
		}
		s = r.Home
		if v.Current.Side == "out" {
			s = r.OutSide
		}
		switch {
		case s.Done == nil:
			return fmt.Errorf("%s: %s", id, s.Ticket)
		case s.Proof != nil:
			p.Take(time.Minute)
			return p.prove(id)
		}
		return p.touch(s.Done, p.value(s, id))
	}
	return fmt.Errorf("the view has no current rung %s", id)
}

// leads tags, moves or confirms each lead of a card that still wants it, and
// writes down what a photo would show.
func (p *Player) leads(g *steps.Plug) error {
	if g.Picture && !g.Pictured {
		if err := p.make([]view.Make{*g.Instead}, ""); err != nil {
			return err
		}
	}
	for _, w := range g.Wires {
		var err error
		switch {
		case w.Confirm != nil && !w.Confirmed:
			err = p.record(w.Confirm.Kind, w.Confirm.Body)
		case w.Tick == nil || w.Ticked:
		case w.Tick.Kind == "lead.moved":
			err = p.Record("lead.moved", record.LeadMoved{From: w.Wire, To: w.Terminal, Proof: "one for one"})
		default:
			err = p.record(w.Tick.Kind, w.Tick.Body)
		}
		if err != nil {
			return err
		}
		p.Take(6 * time.Second)
	}
	return nil
}

// lines ticks what must be true, or gives it its value. What may be left out is.
func (p *Player) lines(lines []view.Line) error {
	for _, l := range lines {
		if l.Ticked || l.May {
			continue
		}
		if err := p.make([]view.Make{l.Tick}, p.lineValue(l)); err != nil {
			return err
		}
		p.Take(4 * time.Second)
	}
	return nil
}

// prove does what a proof asks for, step by step, and touches Done with that.
func (p *Player) prove(on string) error {
	viewer := scene.Viewer{Person: p.By, Device: p.Device}
	draft := map[string]string{}
	for range 40 {
		pr, err := p.Book.Prove(viewer, p.Clock, on, draft)
		if err != nil {
			return fmt.Errorf("playing %s: %w", on, err)
		}
		next := slices.IndexFunc(pr.Proof.Steps, func(s energy.ProofStep) bool { return draft[s.Key] == "" && !s.May })
		if next < 0 {
			return p.touch(&pr.Done, "")
		}
		draft[pr.Proof.Steps[next].Key] = Good(&pr.Proof, pr.Proof.Steps[next])
	}
	return fmt.Errorf("%s: the proof does not come to an end", on)
}

// Good is what one writes down at a step of a proof where all is as it should be.
func Good(ask *steps.ProofAsk, s energy.ProofStep) string {
	if len(s.Answers) > 0 {
		return s.Answers[0].Value
	}
	dc := slices.ContainsFunc(ask.Steps, func(o energy.ProofStep) bool { return o.Key == "source" })
	switch s.Key {
	case "meter":
		return map[bool]string{true: "m-9", false: map[string]string{energy.Meter: "m-4", energy.Warm: "t-1"}[ask.Way]}[dc] + map[string]string{energy.LetBy: "g-2", energy.Detector: "d-1"}[ask.Way]
	case "category":
		return "CAT III 600 V"
	case "rated":
		return "5000 V"
	case "held":
		return "a strap"
	case "standing":
		return "21 mbar"
	case "rise":
		return "0.1 mbar"
	case "before", "after":
		switch {
		case dc:
			return map[string]string{"before": "9.1 V", "after": "9.0 V"}[s.Key]
		case ask.Way == energy.Detector:
			return "20 % LEL"
		}
		return map[string]string{"before": "230 V", "after": "231 V"}[s.Key]
	}
	switch ask.Way {
	case energy.Warm:
		return "24 C"
	case energy.Detector:
		return "0 % LEL"
	}
	return "0.3 V"
}

// value is a good one for what Done asks for, empty where it asks for none.
func (p *Player) value(s *steps.Side, id string) string {
	if s.Value == "" {
		return ""
	}
	m := p.Book.Map
	var e *machine.Expect
	if c := m.Check(id); c != nil {
		e = c.Expect
	} else if f := m.Final(id); f != nil {
		e = f.Expect
	} else if t := m.Test(strings.TrimPrefix(id, "test:")); t != nil {
		e = t.Expect
	}
	return inside(e)
}

// lineValue is a good value for a line: what was recorded, the middle of what
// is asked, or something of the right quantity.
func (p *Player) lineValue(l view.Line) string {
	switch {
	case l.Ask == "":
		return ""
	case l.Kind == "compare":
		return l.Ask
	case l.Was != "":
		return l.Was
	case l.Kind == "earth":
		return "0.1 ohm"
	case l.Kind == "record":
		if l.Ask == "in your words" {
			return "as on the photo"
		}
		return l.Ask
	}
	move, rest, _ := strings.Cut(l.Line, "/confirm/")
	if mv := p.Book.Map.Move(move); mv != nil && mv.Back != nil {
		if k, err := strconv.Atoi(rest); err == nil && k <= len(mv.Back.Confirm) {
			return inside(mv.Back.Confirm[k-1].Expect)
		}
	}
	return l.Ask
}

// inside is a value in the middle of what is asked.
func inside(e *machine.Expect) string {
	l, err := reading.Within(e, reading.Setting{})
	switch {
	case err != nil:
		return "1"
	case e.WaterHeated != nil: // written as the rise that makes so many watts
		return fmt.Sprintf("%.1f K", (l.Low+l.High)/2*e.WaterHeated.Seconds/e.WaterHeated.Litres/4187)
	case math.IsInf(l.High, 1):
		return fmt.Sprintf("%.0f", 2*l.Low)
	case math.IsInf(l.Low, -1):
		return fmt.Sprintf("%g", l.High/2)
	}
	return strings.TrimSpace(fmt.Sprintf("%.3g %s", (l.Low+l.High)/2, strings.TrimPrefix(l.Quantity.Unit(), "°")))
}

func (p *Player) touch(t *view.Touch, value string) error {
	if len(t.Open) > 0 {
		return fmt.Errorf("%s is not whole: %v", t.Label, t.Open)
	}
	return p.make(t.Makes, value)
}

// make records what a touch makes; a value goes into its body.
func (p *Player) make(makes []view.Make, value string) error {
	for _, m := range makes {
		body := m.Body
		if value != "" {
			var with map[string]any
			err := json.Unmarshal(body, &with)
			if err == nil {
				with["value"] = value
				body, err = json.Marshal(with)
			}
			if err != nil {
				return fmt.Errorf("playing %s: %w", m.Kind, err)
			}
		}
		if err := p.record(m.Kind, body); err != nil {
			return err
		}
	}
	return nil
}

// Until plays on until the view says so, or nothing is left to do.
func (p *Player) Until(stop func(*job.View) bool) error {
	for range 500 {
		if stop(p.View()) {
			return nil
		}
		more, err := p.Step()
		if err != nil {
			return err
		}
		if !more {
			return nil
		}
	}
	return fmt.Errorf("the job %s does not come to an end", p.Book.Job.ID)
}
