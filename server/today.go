package server

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"runtime/debug"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/core/ladder"
	"evensteps/store"
)

// JobRow is one job in the list: what is wrong, and its ladder in short.
type JobRow struct {
	ID       string       `json:"id"`
	Title    string       `json:"title"`
	Place    string       `json:"place"`
	Ferry    string       `json:"ferry" doc:"The boat that goes there"`
	Words    string       `json:"words"`
	Machine  string       `json:"machine"`
	Headline string       `json:"headline"`
	Standing string       `json:"standing"`
	Stage    ladder.Stage `json:"stage" enum:"new,open,closed,waiting,signed"`
	Since    string       `json:"since" doc:"For how long the machine has been open"`
	Even     bool         `json:"even"`
	Goal     string       `json:"goal"`
	Warn     string       `json:"warn" doc:"The energy that can hurt most now"`
	Bring    []string     `json:"bring"`
	Stops    string       `json:"stops" doc:"Where this person has to stop for want of a ticket"`
	P50      float64      `json:"p50" doc:"Minutes still to go, the median"`
	P80      float64      `json:"p80" doc:"And the 80th percentile"`
	Marks    []JobMarks   `json:"marks"`
}

// JobMarks are the two sides of one rung.
type JobMarks struct {
	Out  ladder.Mark `json:"out"`
	Back ladder.Mark `json:"back"`
}

// keptRow is a row as it is kept: what does not hang on who looks, or when.
type keptRow struct {
	JobRow
	Opened      *time.Time          `json:"opened"`
	TicketStops []ladder.TicketStop `json:"ticket_stops"`
	Mended      []string            `json:"mended"` // faults of the complaint that were proven mended
	Did         []string            `json:"did"`    // what was done, in a line or two
}

// rowVersion counts up when rows are made otherwise, so that those kept by an
// older program are made again.
const rowVersion = 2

func (s *Server) today() {
	type rowsOut struct {
		Body struct {
			Jobs []JobRow `json:"jobs"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "list-jobs", Method: http.MethodGet, Path: "/jobs", Summary: "All jobs, each with its ladder in short"},
		func(ctx context.Context, _ *struct{}) (*rowsOut, error) {
			rows, err := s.rows(ctx)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			out := &rowsOut{}
			out.Body.Jobs = []JobRow{}
			for _, r := range rows {
				r.Since = ladder.OpenFor(r.Opened, time.Now())
				r.Stops = ladder.StopsAt(r.TicketStops, person(ctx).Tickets)
				out.Body.Jobs = append(out.Body.Jobs, r.JobRow)
			}
			return out, nil
		})
}

// rows are the rows of all jobs, those that are stale made again.
func (s *Server) rows(ctx context.Context) ([]keptRow, error) {
	jobs, err := s.store.Jobs(ctx)
	if err != nil {
		return nil, err
	}
	kept, err := s.store.TodayRows(ctx)
	if err != nil {
		return nil, err
	}
	rows := make([]keptRow, 0, len(jobs))
	for _, j := range jobs {
		var r keptRow
		k, known := kept[j.ID]
		if known && k.Num >= j.LastNum && k.Version == rowVersion && json.Unmarshal(k.Body, &r) == nil {
			rows = append(rows, r)
			continue
		}
		if r, err = s.oneRow(ctx, j); err != nil {
			if s.store.Ready(ctx) != nil {
				return nil, err // of the database, not of this job
			}
			s.log.ErrorContext(ctx, "a job cannot be shown", "job", j.ID, "err", err)
			r = unshown(j)
		}
		rows = append(rows, r)
	}
	slices.SortStableFunc(rows, before)
	return rows, nil
}

// before puts machines left open first, the longest open at the top; then those
// to go to, by their boat; then what waits, and what is signed off.
func before(a, b keptRow) int {
	rank := func(r keptRow) int {
		switch r.Stage {
		case ladder.LeftOpen:
			return 0
		case ladder.Waiting:
			return 2
		case ladder.SignedOff:
			return 3
		}
		return 1
	}
	if c := cmp.Compare(rank(a), rank(b)); c != 0 {
		return c
	}
	if a.Opened != nil && b.Opened != nil {
		return a.Opened.Compare(*b.Opened)
	}
	return cmp.Compare(a.Ferry, b.Ferry)
}

// unshown is the row of a job that cannot be shown: it stands in its place with
// a sentence, so that nothing of one job takes the list from anybody.
func unshown(j store.Job) keptRow {
	return keptRow{JobRow: JobRow{
		ID: j.ID, Title: j.Appliance.Site.Name + ", " + j.Appliance.Name, Place: j.Appliance.Site.Island, Ferry: j.Appliance.Site.Ferry, Words: j.Words,
		Headline: "This job cannot be shown", Standing: "Its record is kept. Tell your supervisor.", Stage: ladder.LeftOpen, Bring: []string{}, Marks: []JobMarks{},
	}}
}

// oneRow makes a stale row once, however many ask for it at the same time. It is
// made for all of them, so who gives up does not take it from the others.
func (s *Server) oneRow(ctx context.Context, j store.Job) (keptRow, error) {
	made := s.making.DoChan(fmt.Sprintf("%s/%d", j.ID, j.LastNum), func() (any, error) {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), requestTimeout)
		defer cancel()
		return s.makeRow(ctx, j)
	})
	select {
	case <-ctx.Done():
		return keptRow{}, fmt.Errorf("making the row of %q: %w", j.ID, ctx.Err())
	case r := <-made:
		return r.Val.(keptRow), r.Err
	}
}

// makeRow makes a job's row from its facts, and keeps it. What goes wrong in one
// job is that job's error, a panic, too.
func (s *Server) makeRow(ctx context.Context, j store.Job) (made keptRow, err error) {
	defer func() {
		if v := recover(); v != nil {
			s.log.ErrorContext(ctx, "panic", "job", j.ID, "value", v, "stack", string(debug.Stack()))
			err = fmt.Errorf("making the row of %q: %v", j.ID, v)
		}
	}()
	var v *ladder.View
	known, err := s.known(ctx, j)
	if err != nil {
		return keptRow{}, err
	}
	err = s.books.with(ctx, j, known, func(b *ladder.Book) { v = b.View(ladder.Viewer{}, time.Now()) })
	if err != nil {
		return keptRow{}, err
	}
	r := row(v)
	r.Ferry = j.Appliance.Site.Ferry
	body, err := json.Marshal(r)
	if err != nil {
		return r, fmt.Errorf("keeping what Today shows of %q: %w", j.ID, err)
	}
	return r, s.store.PutTodayRow(ctx, store.TodayRow{JobID: j.ID, Num: j.LastNum, Version: rowVersion, Body: body})
}

func row(v *ladder.View) keptRow {
	r := keptRow{JobRow: JobRow{
		ID: v.Job, Title: v.Title, Place: v.Place, Words: v.Words, Machine: v.Machine, Headline: v.Headline, Standing: v.Standing,
		Stage: v.Visit.Stage, Even: v.Even, Goal: v.Foot.Title, Bring: v.Visit.Bring, P50: v.Foot.P50, P80: v.Foot.P80, Marks: []JobMarks{},
	}, Opened: v.Visit.Opened, TicketStops: v.Visit.Stops, Mended: v.Visit.Mended, Did: v.Visit.Did}
	for _, e := range v.Energies {
		if v.Visit.Stage == ladder.LeftOpen && e.Warn && e.Energy == v.Worst {
			r.Warn = e.Name + " " + e.Say
		}
	}
	for _, g := range v.Rungs {
		r.Marks = append(r.Marks, JobMarks{g.Out, g.Back})
	}
	return r
}

// Work makes stale rows again as facts come in, until the context ends. Without
// it they are made when they are read.
func (s *Server) Work(ctx context.Context) {
	for {
		select {
		case <-ctx.Done():
			return
		case job := <-s.stale:
			if err := s.remake(ctx, job); err != nil && ctx.Err() == nil {
				s.log.WarnContext(ctx, "what Today shows is made when it is read", "job", job, "err", err)
			}
		}
	}
}

// changed tells the worker that a job has new facts. A full queue loses
// nothing: the row is stale all the same.
func (s *Server) changed(job string) {
	select {
	case s.stale <- job:
	default:
	}
}

func (s *Server) remake(ctx context.Context, job string) error {
	j, err := s.store.Job(ctx, job)
	if err != nil {
		return err
	}
	_, err = s.oneRow(ctx, j)
	return err
}

// Rebuild drops all that is derived and makes it again from the events. It
// returns the number of jobs.
func (s *Server) Rebuild(ctx context.Context) (int, error) {
	if err := s.store.DropTodayRows(ctx); err != nil {
		return 0, err
	}
	rows, err := s.rows(ctx)
	return len(rows), err
}
