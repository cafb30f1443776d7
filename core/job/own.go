package job

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"evensteps/core/english"
	"evensteps/core/machine"
	"evensteps/core/named"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/view"
)

// OwnSort is what holds something that the map does not know: the word that a
// technician has for it, and what is asked of it.
type OwnSort struct {
	Name    string `json:"name"`
	Counted bool   `json:"counted"` // how many there are
	Driven  bool   `json:"driven"`  // with which driver
	Leads   bool   `json:"leads"`   // which leads it parts
	drive   string
	of      string // the type of the item
}

// ownSorts are the sorts, the usual first.
var ownSorts = []OwnSort{
	{Name: "screw", Counted: true, Driven: true, of: "part"},
	{Name: "clip", Counted: true, drive: "clip", of: "part"},
	{Name: "plug", Leads: true, of: "connector"},
	{Name: "cover", Counted: true, Driven: true, of: "cover"},
	{Name: "belt", of: "belt"},
	{Name: "other", Counted: true, drive: "loose", of: "part"},
}

// Driver is what turns a fastener.
type Driver struct {
	Name  string `json:"name"`
	Drive string `json:"drive"`
	Size  string `json:"size"`
	// Turns tells that it is turned with a driver of that size.
	Turns bool `json:"turns"`
}

// usualDrivers are met on most machines (common practice, no source).
var usualDrivers = []string{
	"hex 1/4 in", "hex 5/16 in", "hex 7 mm", "hex 8 mm", "hex 10 mm", "phillips 1", "phillips 2", "pozidriv 2", "torx T15", "torx T20", "torx-pin T20", "slotted", "square 2", "nut 7/16 in", "clip",
}

// drivers are those of the machine's fasteners, then the usual ones.
func drivers(sc *scene.Scene) []Driver {
	var out []Driver
	add := func(drive, size string) {
		d := Driver{Name: strings.TrimSpace(english.Spaced(drive) + " " + size), Drive: drive, Size: size, Turns: size != "" || drive == "slotted"}
		if !slices.ContainsFunc(out, func(o Driver) bool { return o.Name == d.Name }) {
			out = append(out, d)
		}
	}
	for i := range sc.Map.Fasteners {
		f := &sc.Map.Fasteners[i]
		add(f.Drive, f.Size)
	}
	for _, d := range usualDrivers {
		drive, size, _ := strings.Cut(d, " ")
		add(drive, size)
	}
	return out
}

// OwnStepIn is what is typed of a step that the map does not know.
type OwnStepIn struct {
	ID     string `json:"id" maxLength:"40" doc:"What the step is called in the record: own- and a few letters or digits"`
	Sort   string `json:"sort" maxLength:"20" doc:"What holds it: one of the sorts of the lists"`
	Title  string `json:"title" maxLength:"60" doc:"What it is called"`
	Face   string `json:"face" maxLength:"10" doc:"Where it is; the front where nothing is said"`
	Before string `json:"before" maxLength:"80" doc:"The move that it must be out before"`
	Driver string `json:"driver" maxLength:"40" doc:"The driver, as the lists name it; the machine's first where nothing is said"`
	Count  int    `json:"count" minimum:"0" maximum:"999"`
	Keyed  bool   `json:"keyed" doc:"It goes on one way"`
	Earth  bool   `json:"earth" doc:"It is an earth"`
	Leads  string `json:"leads" maxLength:"400" doc:"The colours of its leads from left to right, commas between"`
	Photo  string `json:"photo" maxLength:"64" doc:"The SHA-256 of a photo of it; empty where none was taken"`
}

// OwnStep is what a step that the map does not know would change, and what records it.
type OwnStep struct {
	Tried Tried `json:"tried"`
	// Now records that it is out; where its leads look alike, that it comes next,
	// so that its tags stand before it is out.
	Now view.Touch `json:"now"`
	// Later adds it to the plan.
	Later view.Touch `json:"later"`
}

// Own says what a step that the map does not know would change. The error is of
// what cannot be recorded.
func (b *Book) Own(viewer scene.Viewer, now time.Time, in OwnStepIn) (*OwnStep, error) {
	i := slices.IndexFunc(ownSorts, func(s OwnSort) bool { return s.Name == in.Sort })
	if i < 0 {
		return nil, fmt.Errorf("nothing is held by %q; choose one of those that are offered", in.Sort)
	}
	sort := ownSorts[i]
	body := record.RungOwn{
		ID: in.ID, Title: strings.TrimSpace(in.Title), Face: in.Face, Type: sort.of, Keyed: sort.Leads && in.Keyed, Earth: sort.Leads && in.Earth,
		Minutes: machine.Minutes{Out: 1, Back: 1}, // until somebody times it
	}
	if body.Title == "" {
		body.Title = english.Upper(sort.Name) + " that the map does not know"
	}
	if body.Face == "" {
		body.Face = "front"
	}
	if in.Before != "" {
		body.Before = []string{in.Before}
	}
	if sort.Counted && in.Count > 0 {
		lot := record.OwnLot{Drive: sort.drive, Count: in.Count}
		if sort.Driven {
			kinds := drivers(b.look(viewer, now))
			d := max(0, slices.IndexFunc(kinds, func(d Driver) bool { return d.Name == in.Driver }))
			lot.Drive, lot.Size = kinds[d].Drive, kinds[d].Size
		}
		body.Lots = []record.OwnLot{lot}
	}
	if sort.Leads {
		for i, colour := range strings.Split(in.Leads, ",") {
			if colour = strings.TrimSpace(colour); colour != "" {
				body.Wires = append(body.Wires, record.OwnWire{Terminal: strconv.Itoa(i + 1), Colour: colour})
			}
		}
	}
	own := view.Made("rung.own", body)
	goal := view.Made("goal.added", record.GoalAdded{Goal: "item:" + in.ID + "=away"})
	// What is entered here was counted: it goes on the record as a count, with the
	// tray that was said on the button.
	out := func(trays []Goes) []view.Make {
		makes := []view.Make{own}
		for i, l := range body.Lots {
			lot := record.LotCounted{Lot: named.LotID(&machine.Move{ID: in.ID}, i), Side: "out", Count: l.Count}
			for _, g := range trays {
				if g.Lot == lot.Lot {
					lot.Tray = g.Tray
				}
			}
			makes = append(makes, view.Made("lot.counted", lot))
		}
		return append(makes, view.Made("rung.out", record.RungOut{Move: in.ID}))
	}
	tried, err := b.Try(viewer, now, out(nil))
	if err != nil {
		return nil, err
	}
	w := &OwnStep{Tried: *tried, Now: view.Button("It is out", "", out(tried.Trays)...), Later: view.Button("Not out yet: add to plan", "", own)}
	var trays []string
	for _, g := range tried.Trays {
		trays = append(trays, g.Say)
	}
	if len(trays) > 0 {
		w.Now.Label += ": " + strings.Join(trays, ", ")
	}
	if n := len(tried.Leads); n > 0 { // its leads look alike: the card with the tags stands before it is out
		w.Now = view.Button("First its leads: "+tried.Leads[0], "", own, goal)
		if n > 1 {
			w.Now.Label += fmt.Sprintf(", and %d more", n-1)
		}
	}
	if len(body.Before) == 0 {
		w.Later.Makes = append(w.Later.Makes, goal)
	}
	if in.Photo != "" {
		photo := view.Made("photo", record.Photo{SHA256: in.Photo, On: in.ID})
		w.Now.Makes, w.Later.Makes = append(w.Now.Makes, photo), append(w.Later.Makes, photo)
	}
	return w, nil
}
