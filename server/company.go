package server

import (
	"context"
	"net/http"
	"slices"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/core/company"
	"evensteps/core/english"
	"evensteps/core/reading"
	"evensteps/core/scene"
	"evensteps/store"
)

// Version is how often something was changed, by whom and when: who changes it says
// which version they saw.
type Version struct {
	Version   int        `json:"version" doc:"To be sent back with a change; 0 for something new"`
	ChangedBy string     `json:"changed_by,omitempty"`
	ChangedAt *time.Time `json:"changed_at,omitempty"`
}

func versionOf(c store.Changed) Version {
	v := Version{Version: c.Version, ChangedAt: c.ChangedAt}
	if c.ChangedBy != nil {
		v.ChangedBy = *c.ChangedBy
	}
	return v
}

// seen is which version whoever asks has seen.
func seen(ctx context.Context, v Version) store.Seen {
	return store.Seen{Version: v.Version, By: person(ctx).ID}
}

// CompanyPage is the company itself, and what it can be.
type CompanyPage struct {
	company.Details
	Version
	Regions []string `json:"regions" doc:"All that there are"`
	Systems []string `json:"systems" doc:"Of units, all that there are"`
}

// Gauge is one of the company's meters.
type Gauge struct {
	company.Meter
	Version
	Overdue bool `json:"overdue" doc:"Its calibration is over"`
}

// refused is what is wrong with what somebody wrote, a detail for each field.
func refused(faults company.Faults) error {
	if len(faults) == 0 {
		return nil
	}
	details := make([]error, 0, len(faults))
	for _, f := range faults {
		details = append(details, &huma.ErrorDetail{Location: "body." + f.Field, Message: f.Say})
	}
	return huma.Error422UnprocessableEntity(faults.Error(), details...)
}

// company is what the company knows of itself and its meters: everybody may read
// it, supervisors change it.
func (s *Server) firm() {
	supervisors := huma.Middlewares{s.supervisorsOnly}
	type firmOut struct{ Body CompanyPage }
	read := func(ctx context.Context) (*firmOut, error) {
		c, err := s.store.Company(ctx)
		if err != nil {
			return nil, s.problem(ctx, err)
		}
		return &firmOut{CompanyPage{c.Details, versionOf(c.Changed), english.Regions, reading.Systems}}, nil
	}
	huma.Register(s.api, huma.Operation{OperationID: "get-company", Method: http.MethodGet, Path: "/company", Summary: "What is known of the company itself"},
		func(ctx context.Context, _ *struct{}) (*firmOut, error) { return read(ctx) })
	type firmIn struct {
		Body struct {
			company.Details
			Version int `json:"version"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "change-company", Method: http.MethodPut, Path: "/company", Summary: "Change what is known of the company; for supervisors", Middlewares: supervisors},
		func(ctx context.Context, in *firmIn) (*firmOut, error) {
			d := in.Body.Details
			if err := refused(d.Check()); err != nil {
				return nil, err
			}
			if err := s.store.SaveCompany(ctx, d, seen(ctx, Version{Version: in.Body.Version})); err != nil {
				return nil, s.problem(ctx, err)
			}
			s.audit(ctx, person(ctx).ID, "company changed", "")
			s.itself.forget()
			return read(ctx)
		})

	type gaugesOut struct {
		Body struct {
			Meters []Gauge `json:"meters"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "list-meters", Method: http.MethodGet, Path: "/meters", Summary: "The company's meters, with their calibration"},
		func(ctx context.Context, _ *struct{}) (*gaugesOut, error) {
			out := &gaugesOut{}
			out.Body.Meters = []Gauge{}
			meters, err := s.store.Meters(ctx)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			zone := s.zone(ctx)
			for i := range meters {
				m := meters[i].Company()
				out.Body.Meters = append(out.Body.Meters, Gauge{m, versionOf(meters[i].Changed), m.Due.Past(time.Now(), zone)})
			}
			return out, nil
		})
	type gaugeIn struct {
		Meter string `path:"meter" maxLength:"80"`
		Body  struct {
			company.Meter
			Version int `json:"version"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "save-meter", Method: http.MethodPut, Path: "/meters/{meter}", Summary: "A new meter, or a change of one; for supervisors", DefaultStatus: http.StatusNoContent, Middlewares: supervisors},
		func(ctx context.Context, in *gaugeIn) (*struct{}, error) {
			m := in.Body.Meter
			m.ID = in.Meter
			if err := refused(m.Check()); err != nil {
				return nil, err
			}
			if err := s.store.SaveMeter(ctx, m, seen(ctx, Version{Version: in.Body.Version}), s.zone(ctx)); err != nil {
				return nil, s.problem(ctx, err)
			}
			return nil, nil
		})
}

// itself is what is known of the company, as it was a moment ago.
type itself struct {
	mu   sync.Mutex
	at   time.Time
	firm store.Company
	zone *time.Location
}

func (c *itself) forget() {
	c.mu.Lock()
	c.at = time.Time{}
	c.mu.Unlock()
}

// companyItself is what is known of the company, with its time zone.
func (s *Server) companyItself(ctx context.Context) (store.Company, *time.Location, error) {
	s.itself.mu.Lock()
	firm, zone, at := s.itself.firm, s.itself.zone, s.itself.at
	s.itself.mu.Unlock()
	if time.Since(at) < s.knownFor {
		return firm, zone, nil
	}
	now, err := s.store.Company(ctx)
	if err != nil && zone != nil { // as it was known before: better than another time of day
		s.log.WarnContext(ctx, "the company cannot be read; it stands as it was", "err", err)
		return firm, zone, nil
	}
	if err != nil {
		return now, time.UTC, err
	}
	firm = now
	zone, err = company.Zone(firm.Details.Zone)
	if err != nil { // the system's database has it no longer
		s.log.WarnContext(ctx, "the company's time zone", "err", err)
		zone = time.UTC
	}
	s.itself.mu.Lock()
	s.itself.firm, s.itself.zone, s.itself.at = firm, zone, time.Now()
	s.itself.mu.Unlock()
	return firm, zone, nil
}

// zone is the company's time zone; UTC where it was never known.
func (s *Server) zone(ctx context.Context) *time.Location {
	_, zone, err := s.companyItself(ctx)
	if err != nil {
		return time.UTC
	}
	return zone
}

// firmOf is what a job knows of the company.
func firmOf(c store.Company) *scene.Firm {
	d := c.Details
	if d == (company.Details{}) {
		return nil
	}
	return &scene.Firm{Name: d.Name, Address: d.Address, Number: d.Number, Zone: d.Zone, Region: d.Region, Units: d.Units, Currency: d.Currency, Tax: d.Tax, CallOut: d.CallOut}
}

// ratesOf are the prices of a minute, each for its time.
func ratesOf(c store.Company) []scene.Price {
	var out []scene.Price
	var since *time.Time
	for _, r := range slices.Backward(c.Rates) { // the oldest first
		until := r.Until
		out = append(out, scene.Price{Rate: r.Rate / 60, From: since, Until: &until})
		since = &until
	}
	if c.Details.Rate > 0 {
		out = append(out, scene.Price{Rate: c.Details.Rate / 60, From: since})
	}
	return out
}

// heldOf are tickets with their times as facts are judged by them.
func heldOf(tickets []company.Ticket, zone *time.Location) []scene.Held {
	out := make([]scene.Held, 0, len(tickets))
	for _, t := range tickets {
		h := scene.Held{Ticket: t.Ticket}
		if from := t.From.Start(zone); !from.IsZero() {
			h.From = &from
		}
		if until := t.Until.End(zone); !until.IsZero() {
			h.Until = &until
		}
		out = append(out, h)
	}
	return out
}
