package steps

import (
	"fmt"
	"maps"
	"slices"

	"evensteps/core/machine"
	"evensteps/core/picture"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// Side is one side of a rung as it is worked: where one stands, what bites,
// what to do, with what, what is counted and confirmed, and what Done records.
type Side struct {
	Title    string          `json:"title"`
	Stand    string          `json:"stand"` // "Front, standing."
	View     string          `json:"view"`  // how left and right are meant
	Hazards  []string        `json:"hazards"`
	Do       []string        `json:"do"`
	Tools    []string        `json:"tools"`
	PPE      []string        `json:"ppe"`
	People   int             `json:"people"`
	Blind    bool            `json:"blind"`
	Lots     []Lot           `json:"lots"`
	Plugs    []Plug          `json:"plugs"`
	Lines    []view.Line     `json:"lines"`
	Proof    *ProofAsk       `json:"proof"`
	Ticket   string          `json:"ticket"` // why this viewer is not led on here
	Pass     string          `json:"pass"`
	Value    string          `json:"value"` // how a value is written, where Done asks for one
	Asks     []Circumstance  `json:"asks"`  // what else a reading is judged by
	Meter    *MeterAsk       `json:"meter"` // what a meter that is joined can take by itself
	Compare  []string        `json:"compare"`
	Schools  []School        `json:"schools"` // ways that practitioners hold to, the company's own first
	Choices  []view.Choice   `json:"choices"`
	Keep     []view.Choice   `json:"keep"` // pieces of a set or kit that may stay
	Mend     []view.Choice   `json:"mend"` // what may be otherwise: other answers to the options that it hangs on, a fault that has undone it
	Said     string          `json:"said"` // why what was recorded does not count
	Picture  picture.Drawing `json:"picture"`
	Photos   []Shown         `json:"photos"` // photos of this rung; on the way back, those from the way in
	Notes    []view.Remark   `json:"notes"`  // what was noted on it
	Then     []Next          `json:"then"`   // what may share its touch
	Together *view.Touch     `json:"together"`
	Done     *view.Touch     `json:"done"`
	Failed   *view.Touch     `json:"failed"`
}

// School is one way of doing it, and why somebody does it so.
type School struct {
	Say string `json:"say"`
	Why string `json:"why"`
}

// Circumstance is one circumstance of a reading, as it is recorded beside the value.
type Circumstance struct {
	Key     string `json:"key"` // leads, ambient or supply
	Label   string `json:"label"`
	Example string `json:"example"`
	Note    string `json:"note"`
	Must    bool   `json:"must"` // without it nothing can be judged
}

// MeterAsk is what a meter is asked to take, and between which points.
type MeterAsk struct {
	Quantity string   `json:"quantity"`
	Between  []string `json:"between"`
}

// ways adds a direction that matters, and the schools.
func (s *Side) ways(t *machine.Turn, schools []machine.School) {
	if t != nil {
		s.Do = append(s.Do, turning(t))
	}
	for _, one := range schools {
		s.Schools = append(s.Schools, School(one))
	}
}

func task(sc *scene.Scene, t *machine.Task, pass string) *Side {
	face := t.Face
	if face == "" {
		face = "front"
	}
	s := side(sc, t.Title, face, t.Pose, t.Hazards, t.Do, t.Tools, t.PPE, t.People)
	s.Pass = pass
	for _, id := range slices.Sorted(maps.Keys(t.Energy)) {
		// What a check sets it puts back: both are steps of it.
		e := sc.Map.Energy(id)
		if e == nil || t.Energy[id] != machine.Live || sc.Level[id].Rank() <= 0 {
			continue
		}
		s.Do = append([]string{fmt.Sprintf("*%s on*, for this alone.", e.Name)}, s.Do...)
		if c := sc.Map.Check(t.ID); c != nil {
			switch levelAfter(sc, c, id) {
			case machine.Proven:
				s.Do = append(s.Do, fmt.Sprintf("*%s off again*, and proven, before the next rung.", e.Name))
			case machine.Shut:
				s.Do = append(s.Do, fmt.Sprintf("*%s off again* before the next rung.", e.Name))
			}
		}
	}
	s.Picture = drawing(sc, nil, face, nil)
	return s
}

func side(sc *scene.Scene, title, face, pose string, hazards []machine.Hazard, do, tools, ppe []string, people int) *Side {
	s := &Side{
		Title: title, Stand: stand(face, pose), View: viewpoint(face), Hazards: []string{}, Do: slices.Clone(List(do)), Tools: List(tools), PPE: List(ppe),
		People: max(people, 1), Lots: []Lot{}, Plugs: []Plug{}, Lines: []view.Line{}, Photos: []Shown{}, Notes: []view.Remark{}, Then: []Next{}, Compare: []string{}, Schools: []School{}, Choices: []view.Choice{}, Keep: []view.Choice{}, Mend: []view.Choice{}, Asks: []Circumstance{}, Picture: picture.Drawing{Strokes: []picture.Stroke{}},
	}
	for _, h := range hazards {
		say := h.Say
		if say == "" {
			say = hazardWords[h.Kind]
		}
		s.Hazards = append(s.Hazards, say)
	}
	return s
}

func List(in []string) []string {
	if in == nil {
		return []string{}
	}
	return in
}

// drawing is the face one stands before: its items, what of them is off, what
// this rung is about, and where its fasteners sit.
func drawing(sc *scene.Scene, mv *machine.Move, face string, lots []Lot) picture.Drawing {
	if mv != nil && mv.ID != sc.On.Move && mv.ID != sc.Viewer.Looking {
		return picture.Drawing{Strokes: []picture.Stroke{}}
	}
	var takes map[string]machine.Level
	var drawn []picture.Lot
	if mv != nil {
		takes = mv.Takes
		for i, l := range lots {
			drive := ""
			if k := sc.Map.Fastener(mv.Fasteners[i].Kind); k != nil {
				drive = k.Drive
			}
			drawn = append(drawn, picture.Lot{Drive: drive, Tray: l.Tray, Hidden: l.Hidden, At: l.At})
		}
	}
	return picture.Face(sc.Map, face, takes, drawn, func(item string) bool { return sc.Level[item] == machine.Away })
}
