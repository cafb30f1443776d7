package server

import (
	"context"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/core/call"
	"evensteps/core/company"
	"evensteps/core/journey"
	"evensteps/core/machine"
	"evensteps/store"
)

// Place is a site with its machines.
type Place struct {
	company.Site
	Version
	Machines []PlaceMachine `json:"machines"`
}

// PlaceMachine is one machine that the company looks after.
type PlaceMachine struct {
	company.Machine
	Version
}

// MachinePage is all that is known of one machine.
type MachinePage struct {
	PlaceMachine
	Place  company.Site   `json:"place"`
	MapIs  string         `json:"map_is" doc:"The map that is used for it; empty where none covers it"`
	Knows  []OptionIs     `json:"options_of" doc:"What can be known of it, by that map"`
	Merged []PlaceMachine `json:"merged" doc:"Others that were found to be this one"`
	Jobs   []MachineJob   `json:"jobs" doc:"The latest first"`
	Maps   []MapName      `json:"maps" doc:"All that it can be worked by"`
}

// OptionIs is one option of a machine's map.
type OptionIs struct {
	ID     string   `json:"id"`
	Ask    string   `json:"ask"`
	Values []string `json:"values"`
}

// MapName is a machine map by its name.
type MapName struct {
	ID    string `json:"id"`
	Title string `json:"title"`
}

// Goer is somebody who can go to a job.
type Goer struct {
	ID      string   `json:"id"`
	Name    string   `json:"name"`
	Tickets []string `json:"tickets" doc:"Held now"`
}

// MachineJob is one job on a machine.
type MachineJob struct {
	ID       string        `json:"id"`
	At       time.Time     `json:"at" doc:"When the call came"`
	Words    string        `json:"words"`
	Stage    journey.Stage `json:"stage"`
	Headline string        `json:"headline"`
	Standing string        `json:"standing"`
	Whose    []string      `json:"whose" doc:"The names of those who go or went"`
	Did      []string      `json:"did" doc:"What was done, and notes, once it is signed off"`
}

// places are the sites with their machines: everybody may read them, supervisors
// change them.
func (s *Server) places() {
	supervisors := huma.Middlewares{s.supervisorsOnly}
	type placesOut struct {
		Body struct {
			Places []Place   `json:"places"`
			Kinds  []string  `json:"kinds"`
			Maps   []MapName `json:"maps"`
			Goers  []Goer    `json:"goers" doc:"The people who can go to a job"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "list-places", Method: http.MethodGet, Path: "/places", Summary: "The sites with their machines"},
		func(ctx context.Context, _ *struct{}) (*placesOut, error) {
			out := &placesOut{}
			var err error
			if out.Body.Places, err = s.allPlaces(ctx); err != nil {
				return nil, s.problem(ctx, err)
			}
			maps, err := s.store.Maps(ctx)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			out.Body.Kinds, out.Body.Maps = kinds(maps), mapNames(maps)
			out.Body.Goers, err = s.goers(ctx)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			return out, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "add-site", Method: http.MethodPost, Path: "/sites", Summary: "A new site; for supervisors", DefaultStatus: http.StatusNoContent, Middlewares: supervisors},
		func(ctx context.Context, in *struct{ Body struct{ company.Site } }) (*struct{}, error) {
			there, err := s.store.Sites(ctx)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			v := in.Body.Site
			if err := refused(company.Sites.Add(&v, rowsOf(there, (*store.Site).Company), company.Known{})); err != nil {
				return nil, err
			}
			if err := s.store.SaveSite(ctx, v, seen(ctx, Version{})); err != nil {
				return nil, s.problem(ctx, err)
			}
			return nil, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "add-machine", Method: http.MethodPost, Path: "/machines", Summary: "A new machine at a site; for supervisors", DefaultStatus: http.StatusNoContent, Middlewares: supervisors},
		func(ctx context.Context, in *struct{ Body struct{ company.Machine } }) (*struct{}, error) {
			known, err := s.knownRows(ctx)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			there, err := s.store.Appliances(ctx)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			v := in.Body.Machine
			if err := refused(company.Machines.Add(&v, rowsOf(there, (*store.Appliance).Company), known)); err != nil {
				return nil, err
			}
			if err := s.store.SaveMachine(ctx, v, seen(ctx, Version{})); err != nil {
				return nil, s.problem(ctx, err)
			}
			return nil, nil
		})
	type siteIn struct {
		Site string `path:"site" maxLength:"80"`
		Body struct {
			company.Site
			Version int `json:"version"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "save-site", Method: http.MethodPut, Path: "/sites/{site}", Summary: "A change of a site; for supervisors", DefaultStatus: http.StatusNoContent, Middlewares: supervisors},
		func(ctx context.Context, in *siteIn) (*struct{}, error) {
			if in.Body.Version < 1 {
				return nil, errUnseen
			}
			v := in.Body.Site
			v.ID = in.Site
			if err := refused(v.Check()); err != nil {
				return nil, err
			}
			if err := s.store.SaveSite(ctx, v, seen(ctx, Version{Version: in.Body.Version})); err != nil {
				return nil, s.problem(ctx, err)
			}
			return nil, nil
		})
	type machineIn struct {
		Machine string `path:"machine" maxLength:"80"`
		Body    struct {
			company.Machine
			Version int `json:"version"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "save-machine", Method: http.MethodPut, Path: "/machines/{machine}", Summary: "A change of a machine; for supervisors", DefaultStatus: http.StatusNoContent, Middlewares: supervisors},
		func(ctx context.Context, in *machineIn) (*struct{}, error) {
			if in.Body.Version < 1 {
				return nil, errUnseen
			}
			v := in.Body.Machine
			v.ID = in.Machine
			faults := v.Check()
			known, err := s.knownRows(ctx)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			if err := refused(append(faults, company.Machines.Fits(&v, known)...)); err != nil {
				return nil, err
			}
			if err := s.store.SaveMachine(ctx, v, seen(ctx, Version{Version: in.Body.Version})); err != nil {
				return nil, s.problem(ctx, err)
			}
			return nil, nil
		})
	type mergeIn struct {
		Machine string `path:"machine" maxLength:"80"`
		Body    struct {
			Into string `json:"into" maxLength:"80" doc:"The machine that it is; empty: it is one of its own after all"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "merge-machine", Method: http.MethodPost, Path: "/machines/{machine}/merge", Summary: "Say that a machine is the same as another, or no longer; for supervisors", DefaultStatus: http.StatusNoContent, Middlewares: supervisors},
		func(ctx context.Context, in *mergeIn) (*struct{}, error) {
			var err error
			if in.Body.Into == "" {
				err = s.store.PartMachine(ctx, in.Machine)
			} else {
				err = s.store.MergeMachine(ctx, in.Machine, in.Body.Into, person(ctx).ID)
			}
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			return nil, nil
		})
	type pageIn struct {
		Machine string `path:"machine" maxLength:"80"`
	}
	type pageOut struct{ Body MachinePage }
	huma.Register(s.api, huma.Operation{OperationID: "get-machine", Method: http.MethodGet, Path: "/machines/{machine}", Summary: "All that happened to one machine"},
		func(ctx context.Context, in *pageIn) (*pageOut, error) {
			page, err := s.machinePage(ctx, in.Machine)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			return &pageOut{page}, nil
		})
}

// errUnseen refuses a change of what nobody saw.
var errUnseen = huma.Error422UnprocessableEntity("Say which version of it you saw.")

// goers are the people who can go to a job: all but the office, whose accounts are
// open.
func (s *Server) goers(ctx context.Context) ([]Goer, error) {
	people, err := s.store.People(ctx)
	if err != nil {
		return nil, err
	}
	zone, out := s.zone(ctx), []Goer{}
	for _, p := range people {
		if p.Role != company.Office && p.ClosedAt == nil {
			out = append(out, Goer{p.ID, p.Name, company.HeldNow(p.Held, time.Now(), zone)})
		}
	}
	return out, nil
}

// knownRows is what machines refer to.
func (s *Server) knownRows(ctx context.Context) (company.Known, error) {
	known := company.Known{Zone: s.zone(ctx)}
	sites, err := s.store.Sites(ctx)
	if err != nil {
		return known, err
	}
	known.Sites = rowsOf(sites, (*store.Site).Company)
	if known.Merged, err = s.store.Merged(ctx); err != nil {
		return known, err
	}
	maps, err := s.store.Maps(ctx)
	for _, m := range maps {
		known.Maps = append(known.Maps, m.ID)
	}
	return known, err
}

func placeMachine(a *store.Appliance) PlaceMachine {
	return PlaceMachine{a.Company(), versionOf(a.Changed)}
}

func (s *Server) allPlaces(ctx context.Context) ([]Place, error) {
	sites, err := s.store.Sites(ctx)
	if err != nil {
		return nil, err
	}
	machines, err := s.store.Appliances(ctx)
	if err != nil {
		return nil, err
	}
	at := map[string][]PlaceMachine{}
	for i := range machines {
		at[machines[i].SiteID] = append(at[machines[i].SiteID], placeMachine(&machines[i]))
	}
	out := make([]Place, 0, len(sites))
	for i := range sites {
		out = append(out, Place{sites[i].Company(), versionOf(sites[i].Changed), append([]PlaceMachine{}, at[sites[i].ID]...)})
	}
	return out, nil
}

func kinds(all []*machine.Map) []string {
	out := []string{}
	for _, m := range all {
		if !slices.Contains(out, m.Kind) {
			out = append(out, m.Kind)
		}
	}
	slices.Sort(out)
	return out
}

func mapNames(all []*machine.Map) []MapName {
	out := []MapName{}
	for _, m := range all {
		if !m.Plain() {
			out = append(out, MapName{m.ID, m.Title})
		}
	}
	return out
}

// mostJobs is how many jobs of a machine its page shows.
const mostJobs = 100

func (s *Server) machinePage(ctx context.Context, id string) (MachinePage, error) {
	page := MachinePage{Knows: []OptionIs{}, Merged: []PlaceMachine{}, Jobs: []MachineJob{}}
	a, err := s.store.Appliance(ctx, id)
	if err != nil {
		return page, err
	}
	page.PlaceMachine, page.Place = placeMachine(&a), a.Site.Company()
	maps, err := s.store.Maps(ctx)
	if err != nil {
		return page, err
	}
	page.Maps = mapNames(maps)
	if found, ok := call.MapOf(maps, machineOf(&a), ""); ok && found.Pattern != "" {
		page.MapIs = found.Map.Title
		for i := range found.Map.Options {
			o := &found.Map.Options[i]
			page.Knows = append(page.Knows, OptionIs{o.ID, o.Ask, o.Values})
		}
	}
	merged, err := s.store.MergedInto(ctx, a.ID)
	if err != nil {
		return page, err
	}
	for i := range merged {
		page.Merged = append(page.Merged, placeMachine(&merged[i]))
	}
	page.Jobs, err = s.machineJobs(ctx, a.ID)
	return page, err
}

// machineJobs are the jobs on a machine; what is stale of them is made again.
func (s *Server) machineJobs(ctx context.Context, id string) ([]MachineJob, error) {
	jobs, err := s.store.JobsOn(ctx, id, mostJobs)
	if err != nil {
		return nil, err
	}
	people, err := s.store.People(ctx)
	if err != nil {
		return nil, err
	}
	name := map[string]string{}
	for _, p := range people {
		name[p.ID] = p.Name
	}
	out := make([]MachineJob, 0, len(jobs))
	for i := range jobs {
		j := &jobs[i]
		row := j.TodayRow
		if row.Version != rowVersion || row.Num < j.Job.LastNum {
			whole, err := s.store.Job(ctx, j.Job.ID)
			if err != nil {
				return nil, err
			}
			if row, err = s.shownRow(ctx, whole); err != nil {
				return nil, err
			}
		}
		var made RowMade
		if err := unmarshalRow(row.Body, &made); err != nil {
			return nil, err
		}
		one := MachineJob{j.Job.ID, j.Job.CreatedAt, j.Job.Words, row.Stage, made.Headline, made.Standing, []string{}, append([]string{}, row.Did...)}
		for _, p := range row.Whose {
			if n := name[p]; n != "" {
				p = n
			}
			one.Whose = append(one.Whose, p)
		}
		out = append(out, one)
	}
	return out, nil
}
