package demo

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"evensteps/core/company"
	"evensteps/core/job"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/library"
	"evensteps/store"
)

// Password is what all demo sign-ins share. It opens invented data on loopback
// and nothing else.
const Password = "ferry-0640"

// People of the demo's company, all invented.
var People = []store.Person{
	{ID: "jonna", Name: "Jonna Hallvik", SignIn: "jonna", Role: "technician", Held: []company.Ticket{{Ticket: "live-testing"}}},
	{ID: "ilse", Name: "Ilse Brandmo", SignIn: "ilse", Role: "technician", Held: []company.Ticket{{Ticket: "gas"}}},
	{ID: "odda", Name: "Odda Fennrick", SignIn: "odda", Role: "technician", Held: []company.Ticket{{Ticket: "high-voltage"}, {Ticket: "live-testing"}}},
	{ID: "tuure", Name: "Tuure Askelo", SignIn: "tuure", Role: "technician"},
	{ID: "pell", Name: "Pell Ostmarker", SignIn: "pell", Role: "office"},
	{ID: "mira", Name: "Mira Oxley-Tarn", SignIn: "mira", Role: "supervisor", Held: []company.Ticket{{Ticket: "gas"}, {Ticket: "live-testing"}, {Ticket: "high-voltage"}}},
	{ID: "benno", Name: "Benno Quaymark", SignIn: "benno", Role: "supervisor", Held: []company.Ticket{{Ticket: "gas"}}},
}

// The boats of the demo.
const (
	inner = "07:40 to the inner islands · back 16:10"
	outer = "09:10 to the outer islands · back 17:25"
)

var sites = []company.Site{
	{ID: "boat-yard", Name: "Boat-yard canteen", Island: "Stora Lanne", Ferry: inner, Address: "Slip 1\n10900 Ankarvik", Contact: "Runa Sjovald", Phone: "+00 555 0101", Access: "Through the yard gate, open from six; the canteen is up the ramp."},
	{ID: "school", Name: "School kitchen", Island: "Stora Lanne", Ferry: inner, Address: "Long Hill 4\n10910 Stora Lanne", Contact: "Maths Ekvall, caretaker", Phone: "+00 555 0102", Access: "Ring at the kitchen door. Not between 11 and 13: the children eat."},
	{ID: "smokehouse", Name: "Smokehouse", Island: "Stora Lanne", Ferry: inner},
	{ID: "point", Name: "Guest house on the point", Island: "Lillan", Ferry: inner, Address: "Lighthouse Road 9\n10930 Lillan", Contact: "Ida Stormlund", Phone: "+00 555 0107", Access: "Key under the blue bench; the dog is friendly."},
	{ID: "chapel", Name: "Chapel hall", Island: "Lillan", Ferry: inner},
	{ID: "cabin-3", Name: "Cabin 3", Island: "Ytterskar", Ferry: outer},
	{ID: "cabin-7", Name: "Cabin 7", Island: "Ytterskar", Ferry: outer},
	{ID: "cabin-14", Name: "Cabin 14", Island: "Ytterskar", Ferry: outer},
	{ID: "pilot", Name: "Pilot station", Island: "Ytterskar", Ferry: outer, Address: "Pilot Quay\n10950 Ytterskar", Contact: "the watch", Phone: "+00 555 0115", Access: "Report to the watch first."},
	{ID: "inn", Name: "Inn at the narrows", Island: "Grimsholm", Ferry: outer, Address: "The Narrows 1\n10960 Grimsholm", Contact: "Oskar Brann", Phone: "+00 555 0120", Access: "Cellar door on the water side. Low beam."},
	{ID: "cabin-21", Name: "Cabin 21", Island: "Grimsholm", Ferry: outer},
	{ID: "camp", Name: "Camp laundry", Island: "Grimsholm", Ferry: outer},
}

// details of the demo's company.
var details = company.Details{
	Name: "Skerry Appliance Service", Address: "Net Loft 3\n10900 Ankarvik", Number: "R 0000-000", Zone: "Europe/Helsinki", Region: "en-GB", Units: "metric",
	Currency: "EUR", Tax: 24, Rate: 60, CallOut: 45,
}

// meters of the demo's company. The accuracy is of an invented handheld meter.
var meters = []company.Meter{
	{ID: "m-9", Name: "High-voltage probe 9, to 5 kV", Accuracy: map[string]string{"voltage": "3%+5@1V"}, Category: "CAT III 5000 V", Calibrated: "2025-10-06", Due: "2026-10-06"},
	{ID: "m-4", Name: "Handheld meter 4", Accuracy: map[string]string{"resistance": "0.9%+3@0.1ohm", "voltage": "1.2%+5@0.1V"}, Category: "CAT III 600 V", Calibrated: "2026-03-02", Due: "2027-03-02"},
	{ID: "sim-1", Name: "Simulated multimeter", Accuracy: map[string]string{"resistance": "0.5%+2@0.01ohm", "voltage": "0.5%+2@0.01V"}, Category: "CAT III 600 V"},
}

var machines = []company.Machine{
	{ID: "boat-yard-dryer-1", Site: "boat-yard", Name: "dryer 1", Model: "TV6-230", Serial: "L-20417"},
	{ID: "boat-yard-dryer-2", Site: "boat-yard", Name: "dryer 2", Model: "TV6-230", Serial: "L-20418", Stands: "Laundry behind the canteen, on the left"},
	{ID: "boat-yard-range", Site: "boat-yard", Name: "range", Model: "FR4-240", Serial: "K-00311"},
	{ID: "school-dryer", Site: "school", Name: "dryer", Model: "TV6-230", Serial: "L-20977"},
	{ID: "school-oven", Site: "school", Name: "oven", Model: "BO2", Serial: "B-11720"},
	{ID: "smokehouse-dryer", Site: "smokehouse", Name: "dryer", Model: "TV6-230-G", Serial: "L-22816"},
	{ID: "smokehouse-oven", Site: "smokehouse", Name: "oven", Model: "QX7", Serial: "Q-00912"},
	{ID: "point-dryer", Site: "point", Name: "dryer", Model: "TV6-230", Serial: "L-18873"},
	{ID: "point-dishwasher", Site: "point", Name: "dishwasher", Model: "SD1", Serial: "S-40206"},
	{ID: "chapel-dryer", Site: "chapel", Name: "dryer", Model: "TV6-230", Serial: "L-19005"},
	{ID: "cabin-3-dryer", Site: "cabin-3", Name: "dryer", Model: "TV6-230", Serial: "L-21344"},
	{ID: "cabin-7-dryer", Site: "cabin-7", Name: "dryer", Model: "TV6-230", Serial: "L-21347"},
	{ID: "cabin-14-dryer", Site: "cabin-14", Name: "dryer", Model: "TV6-230", Serial: "L-21350"},
	{ID: "cabin-14-microwave", Site: "cabin-14", Name: "microwave", Model: "MW9", Serial: "M-70031"},
	{ID: "pilot-dryer", Site: "pilot", Name: "dryer", Model: "TV6-230", Serial: "L-20003"},
	{ID: "inn-dryer-1", Site: "inn", Name: "dryer 1", Model: "TV6-230-G", Serial: "L-22819"},
	{ID: "inn-dryer-2", Site: "inn", Name: "dryer 2", Model: "TV6-230-G", Serial: "L-22820"},
	{ID: "inn-dishwasher", Site: "inn", Name: "dishwasher", Model: "SD1", Serial: "S-40377"},
	{ID: "cabin-21-dryer", Site: "cabin-21", Name: "dryer", Model: "TV6-230", Serial: "L-21358"},
	{ID: "camp-dryer-1", Site: "camp", Name: "dryer 1", Model: "TV6-230", Serial: "L-20551"},
	{ID: "camp-dryer-2", Site: "camp", Name: "dryer 2", Model: "TV6-230", Serial: "L-20552"},
}

// act is one job of the demo: who works it and how far it has come.
type act struct {
	id, appliance, complaint, words string
	by                              string
	goes                            string // who was named to go
	ago                             time.Duration
	goal                            string
	answers                         map[string]string
	machine                         string // a map's id; the dryer's where it is empty
	play                            func(*Player) error
}

var acts = []act{
	{
		id: "j-101", appliance: "boat-yard-dryer-2", complaint: "thumps", words: "thumps when it turns, worse when full",
		by: "pell", goes: "jonna", ago: 26 * time.Hour, goal: "replace:rollers",
		play: func(*Player) error { return nil },
	},
	{
		id: "j-102", appliance: "point-dryer", complaint: "thumps", words: "knocks like a boat at the jetty",
		by: "jonna", ago: 75 * time.Minute, goal: "replace:rollers",
		play: func(p *Player) error {
			return p.begunUntil(func(v *job.View) bool { return v.Current.Kind == "back" && v.Current.Move == "front-off" })
		},
	},
	{
		id: "j-103", appliance: "school-dryer", complaint: "not-turning", words: "hums, but the drum stands still",
		by: "pell", goes: "odda", ago: 20 * time.Hour, goal: "replace:drum-belt",
		play: func(*Player) error { return nil },
	},
	{
		// Left open overnight: the proof has ended, and says so.
		id: "j-104", appliance: "cabin-14-dryer", complaint: "squeals", words: "screams like a gull when it starts",
		by: "ilse", ago: 19 * time.Hour, goal: "replace:rollers",
		play: func(p *Player) error {
			if err := p.begunUntil(func(v *job.View) bool { return v.Current.Kind == "work" }); err != nil {
				return err
			}
			return p.Record("left", record.Left{Tag: "rollers come with the morning ferry"})
		},
	},
	{
		// Even and signed off, with one thing explained.
		id: "j-105", appliance: "boat-yard-dryer-1", complaint: "thumps", words: "bumps at every turn",
		by: "ilse", ago: 51 * time.Hour, goal: "replace:rollers",
		play: func(p *Player) error {
			if err := p.begunUntil(func(v *job.View) bool { return v.Current.Move == "toe-off" && v.Current.Kind == "back" }); err != nil {
				return err
			}
			// One screw hole was stripped before: one of two goes home.
			if err := p.Record("lot.counted", record.LotCounted{Lot: "toe-off/1", Side: "back", Count: 1}); err != nil {
				return err
			}
			if err := p.Record("confirmed", record.Confirmed{Confirm: "toe-off/confirm/1"}); err != nil {
				return err
			}
			if err := p.Record("rung.back", record.RungBack{Move: "toe-off"}); err != nil {
				return err
			}
			for _, s := range p.View().Snags {
				if s.Kind == "fastener-short" {
					if err := p.Record("snag.explained", record.SnagExplained{Snag: s.ID, Reason: "The left hole is stripped; the screw is taped inside the panel, shown to the customer."}); err != nil {
						return err
					}
				}
			}
			if err := p.Until(func(*job.View) bool { return false }); err != nil {
				return err
			}
			p.Take(4 * time.Minute)
			return p.Record("signed-off", record.SignedOff{Customer: "the cook"})
		},
	},
	{
		// Declined once the price was known: closed again, not repaired.
		id: "j-106", appliance: "point-dryer", complaint: "squeals", words: "whistles when it is cold",
		by: "jonna", ago: 9 * 24 * time.Hour, goal: "replace:idler-wheel",
		play: func(p *Player) error {
			if err := p.begunUntil(func(v *job.View) bool { return v.Current.Move == "belt-slack-toe" }); err != nil {
				return err
			}
			if err := p.Record("goal.dropped", record.GoalDropped{Goal: "replace:idler-wheel", Reason: "declined"}); err != nil {
				return err
			}
			if err := p.Until(func(*job.View) bool { return false }); err != nil {
				return err
			}
			return p.Record("signed-off", record.SignedOff{Customer: "the host"})
		},
	},
	{
		// A gas machine: whoever has no gas ticket stops on the way.
		id: "j-107", appliance: "inn-dryer-1", complaint: "no-heat", words: "turns and turns, stays cold",
		by: "benno", ago: 5 * time.Hour, goal: "replace:gas-valve", answers: map[string]string{"fuel": "gas"},
		play: func(*Player) error { return nil },
	},
	{
		// Going in, right now.
		id: "j-108", appliance: "chapel-dryer", complaint: "no-heat", words: "blows cold since the storm",
		by: "odda", ago: 50 * time.Minute, goal: "replace:element-kit",
		play: func(p *Player) error {
			return p.begunUntil(func(v *job.View) bool { return v.Current.Move == "heater-box-off" })
		},
	},
	{
		// At the bottom, two people at it.
		id: "j-109", appliance: "camp-dryer-1", complaint: "not-turning", words: "hums once, then nothing",
		by: "ilse", ago: 95 * time.Minute, goal: "replace:motor",
		play: func(p *Player) error {
			if err := p.Record("person.here", record.PersonHere{Person: "tuure"}); err != nil {
				return err
			}
			return p.begunUntil(func(v *job.View) bool { return v.Current.Kind == "work" })
		},
	},
	{
		// Even, and not yet signed off.
		id: "j-110", appliance: "cabin-3-dryer", complaint: "not-turning", words: "the drum went still with a bang",
		by: "jonna", ago: 4 * time.Hour, goal: "replace:drum-belt",
		play: func(p *Player) error { return p.begunUntil(func(*job.View) bool { return false }) },
	},
	{
		// Closed again until the part comes.
		id: "j-111", appliance: "cabin-7-dryer", complaint: "slow", words: "three hours for four towels",
		by: "tuure", ago: 3 * 24 * time.Hour, goal: "replace:blower-wheel",
		play: func(p *Player) error {
			if err := p.begunUntil(func(v *job.View) bool { return v.Current.Kind == "work" }); err != nil {
				return err
			}
			if err := p.Record("goal.dropped", record.GoalDropped{Goal: "replace:blower-wheel", Reason: "waiting"}); err != nil {
				return err
			}
			return p.Until(func(*job.View) bool { return false })
		},
	},
	{
		// A call just taken: what is wrong is still to be found.
		id: "j-113", appliance: "camp-dryer-2", complaint: "no-heat", words: "runs all night and the towels stay wet and cold",
		by: "mira", ago: 2 * time.Hour,
		play: func(*Player) error { return nil },
	},
	{
		// A power cut in the night: the clock is the first suspect.
		id: "j-114", appliance: "school-oven", complaint: "dead", words: "dead since the power cut, but for the lamp",
		machine: "lanvik-bo2", by: "benno", ago: 90 * time.Minute,
		play: func(*Player) error { return nil },
	},
	{
		// Boxed in by a floor that was laid later: the loom is changed in place.
		id: "j-115", appliance: "inn-dishwasher", complaint: "burnt", words: "smells of burnt hair under the door",
		machine: "sundmarr-sd1", by: "ilse", ago: 100 * time.Minute, goal: "replace:loom", answers: map[string]string{"floor": "boxed"},
		play: func(p *Player) error {
			return p.begunUntil(func(v *job.View) bool { return v.Current.Move == "joints-blind" })
		},
	},
	{
		// Hung over a range: a ticket holder and a helper.
		id: "j-116", appliance: "cabin-14-microwave", complaint: "hums", words: "growls like a boat engine and nothing gets warm",
		machine: "halvarsk-mw9", by: "odda", ago: 4 * time.Hour, goal: "replace:capacitor",
		play: func(*Player) error { return nil },
	},
	{
		// A substitute that looks different: wired lead by lead.
		id: "j-117", appliance: "cabin-21-dryer", complaint: "not-turning", words: "the knob turns and nothing happens",
		by: "jonna", ago: 5 * time.Hour, goal: "replace:timer",
		play: func(*Player) error { return nil },
	},
	{
		// No map covers it: worked on rungs of one's own.
		id: "j-118", appliance: "smokehouse-oven", words: "the door hangs and the smoke comes out",
		machine: "plain-oven", by: "tuure", ago: 6 * time.Hour, goal: record.Work,
		play: func(*Player) error { return nil },
	},
	{
		// Even and signed off, with the cause of the failure found.
		id: "j-112", appliance: "pilot-dryer", complaint: "no-heat", words: "cold, and it smelled of dust before",
		by: "odda", ago: 6 * 24 * time.Hour, goal: "replace:cutoff",
		play: func(p *Player) error {
			if err := p.begunUntil(func(v *job.View) bool { return v.Current.Kind == "back" }); err != nil {
				return err
			}
			if err := p.Record("belonging", record.Belonging{What: "a brass button", Where: "base"}); err != nil {
				return err
			}
			if err := p.Record("cause.answered", record.CauseAnswered{Fault: "cutoff-open", Cause: "air-path", Answer: "no: the flap at the wall was shut with a nest; cleared"}); err != nil {
				return err
			}
			if err := p.Until(func(*job.View) bool { return false }); err != nil {
				return err
			}
			return p.Record("signed-off", record.SignedOff{Customer: "the pilot on watch"})
		},
	},
}

// begunUntil begins a visit and plays on.
func (p *Player) begunUntil(stop func(*job.View) bool) error {
	if err := p.Record("visit.began", record.VisitBegan{}); err != nil {
		return err
	}
	return p.Until(stop)
}

// Fill puts the demo's company, machines and jobs into a database. What is
// there already stays, so that a job goes on where it was.
func Fill(ctx context.Context, s *store.Store, hash func(string) (string, error), now time.Time) error {
	password, err := hash(Password)
	if err != nil {
		return err
	}
	for _, p := range People {
		p.PasswordHash = password
		if _, err := s.AddPerson(ctx, p); err != nil {
			return err
		}
	}
	zone, err := fillCompany(ctx, s)
	if err != nil {
		return err
	}
	maps, err := library.Maps()
	if err != nil {
		return err
	}
	others, err := s.PutMaps(ctx, maps)
	if err != nil {
		return err
	}
	if len(others) > 0 {
		return fmt.Errorf("the database holds other maps by these names: %s; start with --fresh, or give them new revisions", strings.Join(others, "; "))
	}
	for i, sc := range acts {
		m := maps[slices.IndexFunc(maps, func(m *machine.Map) bool { return m.ID == cmp.Or(sc.machine, "tidemoor-tv6") })]
		if err := sc.fill(ctx, s, m, uint64(i+1), now, zone); err != nil {
			return fmt.Errorf("the demo's job %s: %w", sc.id, err)
		}
	}
	return nil
}

// fillCompany puts the company itself, its sites, machines and meters.
func fillCompany(ctx context.Context, s *store.Store) (*time.Location, error) {
	kept, err := s.Company(ctx)
	if err != nil {
		return nil, err
	}
	zone, err := company.Zone(details.Zone)
	if err != nil {
		return nil, err
	}
	if kept.Version == 1 {
		if err := s.SaveCompany(ctx, details, store.Seen{Version: 1, By: "mira"}); err != nil {
			return nil, err
		}
	}
	const by = "mira"
	return zone, errors.Join(
		s.ImportSites(ctx, by, missing(sites, func(v company.Site) string { return v.ID })),
		s.ImportMeters(ctx, by, zone, missing(meters, func(v company.Meter) string { return v.ID })),
		s.ImportMachines(ctx, by, missing(machines, func(v company.Machine) string { return v.ID })),
	)
}

// missing leaves of the demo's rows those that are not there yet.
func missing[T any](rows []T, id func(T) string) func([]T) []T {
	return func(now []T) (out []T) {
		for _, row := range rows {
			if !slices.ContainsFunc(now, func(there T) bool { return id(there) == id(row) }) {
				out = append(out, row)
			}
		}
		return out
	}
}

func (sc *act) fill(ctx context.Context, s *store.Store, m *machine.Map, seed uint64, now time.Time, zone *time.Location) error {
	began := now.Add(-sc.ago).Truncate(time.Second)
	if err := s.PutJob(ctx, store.Job{ID: sc.id, ApplianceID: sc.appliance, Complaint: sc.complaint, Words: sc.words, MapID: m.ID, MapRevision: m.Revision, CreatedAt: began}); err != nil {
		return err
	}
	kept, err := s.Job(ctx, sc.id)
	if err != nil {
		return err
	}
	if kept.LastNum > 0 {
		return nil
	}
	trays := scene.UsualTrays
	job := scene.Job{ID: sc.id, Complaint: sc.complaint, Words: sc.words, People: map[string]scene.Person{}, Meters: map[string]scene.Meter{}, Trays: &trays}
	for _, person := range People {
		job.People[person.ID] = scene.Person{Name: person.Name, Role: person.Role, Tickets: company.HeldNow(person.Held, now, zone)}
	}
	for _, m := range meters {
		job.Meters[m.ID] = scene.Meter{Name: m.Name, Accuracy: m.Accuracy, Category: m.Category}
	}
	p := NewPlayer(m, job, sc.by, "demo-tablet", began, seed)
	if sc.goal != "" || len(sc.answers) > 0 {
		if err := p.Answer(sc.answers); err != nil {
			return err
		}
	}
	if sc.goal != "" {
		if err := p.Record("goal.added", record.GoalAdded{Goal: sc.goal}); err != nil {
			return err
		}
	}
	if sc.goes != "" {
		if err := p.Record("job.given", record.JobGiven{To: []string{sc.goes}}); err != nil {
			return err
		}
	}
	p.Take(10 * time.Minute)
	if err := sc.play(p); err != nil {
		return err
	}
	for _, e := range p.Events() {
		if err := s.AppendStamped(ctx, e); err != nil {
			return err
		}
	}
	return nil
}
