package diagnosis

import (
	"evensteps/core/english"
	"evensteps/core/fault"
	"evensteps/core/findings"
	"evensteps/core/scene"
)

// Find is the search for what is wrong, as its screen shows it.
type Find struct {
	Complaint     string             `json:"complaint"`
	Say           string             `json:"say"` // why there is no advice
	Advice        *Proposal          `json:"advice"`
	Others        []Proposal         `json:"others"` // in order of worth
	Suspects      []Suspect          `json:"suspects"`
	Results       []findings.Finding `json:"results"`
	Expected      float64            `json:"expected"` // minutes to a proven repair
	Contradiction bool               `json:"contradiction"`
	Lines         []CircuitLine      `json:"lines"` // the circuits that bear on the suspects
}

// CircuitLine is a series path as a line: its points, and what is known of the
// gaps between them.
type CircuitLine struct {
	Name   string      `json:"name"`
	Points []LinePoint `json:"points"`
	Gaps   []string    `json:"gaps"` // cleared, suspect, or empty
}

// LinePoint is a point of a line: within reach as the machine stands, or far.
type LinePoint struct {
	Name  string `json:"name"`
	State string `json:"state"` // reach or far
}

// Suspect is a fault with its chance now, and before the last result.
type Suspect struct {
	Fault string  `json:"fault"`
	Name  string  `json:"name"`
	P     float64 `json:"p"`
	Was   float64 `json:"was"`
	About string  `json:"about"` // the chance in words
}

// circuits draws the circuits in which a suspect lies: what is cleared by a test
// that found it closed, what is suspect, what is out of reach.
func circuits(sc *scene.Scene, suspects []fault.Suspect, results []fault.Result) []CircuitLine {
	out := []CircuitLine{}
	p := map[string]float64{}
	for _, s := range suspects {
		p[s.Fault] = s.P
	}
	for i := range sc.Map.Circuits {
		c := &sc.Map.Circuits[i]
		l := CircuitLine{Name: c.Name, Gaps: make([]string, max(0, len(c.Points)-1))}
		for k := range c.Points {
			state := "far"
			if sc.Met(c.Points[k].Reach) {
				state = "reach"
			}
			l.Points = append(l.Points, LinePoint{c.Points[k].Name, state})
		}
		bears := false
		for k := range l.Gaps {
			for _, f := range c.Between[k] {
				_, is := p[f]
				bears = bears || is
				if p[f] >= likely {
					l.Gaps[k] = "suspect"
				}
			}
		}
		for _, r := range results {
			if s, is := sc.Map.Stretch(r.Test); is && s.Circuit == c && r.Outcome == "closed" {
				for k := s.From; k < s.To; k++ {
					l.Gaps[k] = "cleared"
				}
			}
		}
		if bears {
			out = append(out, l)
		}
	}
	return out
}

// Search weighs what is wrong from all that is known of the job.
func Search(sc *scene.Scene) *Find {
	out := &Find{Others: []Proposal{}, Suspects: []Suspect{}, Results: []findings.Finding{}, Lines: []CircuitLine{}}
	if k := sc.Map.Complaint(sc.Complaint()); k != nil {
		out.Complaint = k.Name
	}
	c, shown := findings.Case(sc)
	out.Results = shown
	a, ok := fault.Find(c)
	if !ok {
		out.Say = "No complaint of this map is stated, so nothing can be weighed."
		return out
	}
	out.Expected, out.Contradiction = a.Expected, a.Contradiction
	for _, s := range a.Suspects {
		out.Suspects = append(out.Suspects, Suspect{Fault: s.Fault, Name: fault.Name(sc.Map, s.Fault), P: s.P, Was: s.Was, About: english.Chance(s.P)})
	}
	out.Lines = circuits(sc, a.Suspects, c.Results)
	for k, step := range a.Next {
		p := proposal(sc, step)
		if k == 0 {
			out.Advice = &p
		} else {
			out.Others = append(out.Others, p)
		}
	}
	return out
}
