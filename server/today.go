package server

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"reflect"
	"runtime/debug"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/core/company"
	"evensteps/core/job"
	"evensteps/core/journey"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/store"
)

// JobRow is one job in the list: what is wrong, and its ladder in short.
type JobRow struct {
	RowMade
	RowAsked
}

// RowMade is what does not hang on who looks, or when: it is made once and kept.
type RowMade struct {
	ID       string        `json:"id"`
	Title    string        `json:"title"`
	Place    string        `json:"place"`
	Ferry    string        `json:"ferry" doc:"The boat that goes there"`
	Words    string        `json:"words"`
	Machine  string        `json:"machine"`
	Headline string        `json:"headline"`
	Standing string        `json:"standing"`
	Stage    journey.Stage `json:"stage" enum:"new,open,closed,waiting,signed,called-off"`
	Goes     string        `json:"goes" doc:"Who goes, or is there; empty where nobody is named"`
	Even     bool          `json:"even"`
	Goal     string        `json:"goal"`
	Warn     string        `json:"warn" doc:"What can hurt most now"`
	Urgent   bool          `json:"urgent" doc:"An emergency was told of, and nobody has looked at it yet"`
	Bring    []string      `json:"bring"`
	P50      float64       `json:"p50" doc:"Minutes still to go, the median"`
	P80      float64       `json:"p80" doc:"And the 80th percentile"`
	Marks    []JobMarks    `json:"marks"`
	Signed   *time.Time    `json:"signed,omitempty" doc:"When it was signed off"`
}

// RowAsked is what hangs on that.
type RowAsked struct {
	Since string `json:"since" doc:"For how long the machine has been open"`
	Stops string `json:"stops" doc:"Where this person has to stop for want of a ticket"`
	Mine  bool   `json:"mine" doc:"This person was at the machine, and nobody took it over since"`
}

// shownRow is a JobRow whose kept part is passed on as it is kept.
type shownRow struct {
	made json.RawMessage
	RowAsked
}

// MarshalJSON joins the two parts; both are objects with fields.
func (r shownRow) MarshalJSON() ([]byte, error) {
	asked, err := json.Marshal(r.RowAsked)
	if err != nil {
		return nil, fmt.Errorf("writing a row: %w", err)
	}
	end := len(r.made) - 1
	return append(append(append(make([]byte, 0, end+1+len(asked)), r.made[:end]...), ','), asked[1:]...), nil
}

// Schema is a row's.
func (shownRow) Schema(r huma.Registry) *huma.Schema {
	return r.Schema(reflect.TypeFor[JobRow](), true, "JobRow")
}

// JobMarks are the two sides of one rung.
type JobMarks struct {
	Out  steps.Mark `json:"out"`
	Back steps.Mark `json:"back"`
}

// rowVersion counts up when rows are made otherwise, so that those kept by an
// older program are made again.
const rowVersion = 6

// mostRows is how many jobs a page of a list has.
const mostRows = 50

func (s *Server) today() {
	type rowsIn struct {
		List  string `query:"list" enum:"now,earlier" default:"now" doc:"Those that are not signed off, one's own first, then by place; or those that are, the latest first"`
		After string `query:"after" maxLength:"1000" doc:"Where the page before it ended: its after"`
	}
	type rowsOut struct {
		Body struct {
			Jobs  []shownRow `json:"jobs"`
			After string     `json:"after" doc:"Where the next page begins; empty where there is none"`
			All   int        `json:"all" doc:"How many jobs are not signed off; 0 on the list of the others"`
			Open  int        `json:"open" doc:"How many of those machines are open"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "list-jobs", Method: http.MethodGet, Path: "/jobs", Summary: "A page of jobs, each with its ladder in short"},
		func(ctx context.Context, in *rowsIn) (*rowsOut, error) {
			after, err := placeOf(in.After)
			if err != nil {
				return nil, huma.Error400BadRequest("Where this page begins cannot be read. Ask for the first one.")
			}
			list, err := s.rows(ctx, in.List, after)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			out := &rowsOut{}
			out.Body.After, out.Body.All, out.Body.Open = afterOf(list.After), list.Jobs, list.Open
			out.Body.Jobs = make([]shownRow, 0, len(list.Rows))
			zone := s.zone(ctx)
			now := time.Now().In(zone)
			held := company.HeldNow(person(ctx).Held, now, zone)
			for _, k := range list.Rows {
				asked := RowAsked{journey.OpenFor(k.Opened, now), journey.StopsAt(k.Stops, held), k.Mine}
				out.Body.Jobs = append(out.Body.Jobs, shownRow{k.Body, asked})
			}
			return out, nil
		})
}

// placeOf and afterOf read and write where a page begins.
func placeOf(after string) (p store.Place, err error) {
	if after == "" {
		return p, nil
	}
	text, err := base64.RawURLEncoding.DecodeString(after)
	if err != nil {
		return p, fmt.Errorf("reading a place in a list: %w", err)
	}
	if err := json.Unmarshal(text, &p); err != nil || p.Time == nil || p.Job == "" {
		return p, fmt.Errorf("reading a place in a list: %w", errors.Join(err, errors.New("it names no job")))
	}
	return p, nil
}

func afterOf(p store.Place) string {
	if p.Job == "" {
		return ""
	}
	text, _ := json.Marshal(p) // plain values alone
	return base64.RawURLEncoding.EncodeToString(text)
}

// rows are one page of a list. Stale rows on it are made again, those of others'
// jobs not at every fact; the page is read once more then, so that each stands
// where it belongs now. What is stale on another page the worker makes.
func (s *Server) rows(ctx context.Context, name string, after store.Place) (page store.Today, err error) {
	list := s.store.Now
	if name == "earlier" {
		list = s.store.Earlier
	}
	for again := false; ; again = true {
		if page, err = list(ctx, person(ctx).ID, after, mostRows); err != nil {
			return page, err
		}
		fresh := true
		for i, k := range page.Rows {
			old := k.Num < k.LastNum && (k.Mine || time.Since(k.MadeAt) > s.rowsFor)
			if k.Version == rowVersion && !old {
				continue
			}
			j, err := s.store.Job(ctx, k.JobID)
			if err != nil {
				return page, err
			}
			made, err := s.shownRow(ctx, j)
			if err != nil {
				return page, err
			}
			fresh, page.Rows[i].TodayRow = false, made
		}
		if fresh || again { // what came meanwhile shows the next time
			return page, nil
		}
	}
}

// remakeStale makes rows again whose jobs have newer facts, at most so many. It
// returns how many it made.
func (s *Server) remakeStale(ctx context.Context, most int) (int, error) {
	jobs, err := s.store.StaleJobs(ctx, most)
	if err != nil {
		return 0, err
	}
	for _, j := range jobs {
		if _, err := s.shownRow(ctx, j); err != nil {
			return 0, err
		}
	}
	return len(jobs), nil
}

// shownRow is a job's row made again, or one that says that it cannot be shown:
// an error is of the database alone, not of this job.
func (s *Server) shownRow(ctx context.Context, j store.Job) (store.TodayRow, error) {
	r, err := s.oneRow(ctx, j)
	if err == nil {
		return r, nil
	}
	if s.store.Ready(ctx) != nil {
		return r, err
	}
	s.log.ErrorContext(ctx, "a job cannot be shown", "job", j.ID, "err", err)
	return s.putRow(ctx, j, unshown(j), store.TodayRow{Stage: journey.LeftOpen}) // of no version: it is tried again when it is read
}

// ranks put the jobs of a place in order: machines that are open, those to go to,
// and what waits.
var ranks = map[journey.Stage]int{journey.LeftOpen: 0, journey.NotBegun: 1, journey.Closed: 1, journey.SignedOff: 1, journey.Waiting: 2}

// putRow keeps a row with what it is put in order by: what is urgent first, then
// by place; there by rank, the machine that is open for the longest first.
func (s *Server) putRow(ctx context.Context, j store.Job, made RowMade, row store.TodayRow) (store.TodayRow, error) {
	body, err := json.Marshal(made)
	if err != nil {
		return row, fmt.Errorf("keeping what Today shows of %q: %w", j.ID, err)
	}
	row.JobID, row.Num, row.Body, row.Place, row.Rank = j.ID, j.LastNum, body, made.Ferry+" "+made.Place, ranks[row.Stage]
	if made.Urgent { // before all places
		row.Place, row.Rank = "", -1
	}
	return row, s.store.PutTodayRow(ctx, row)
}

// madeRow is a row that was made just now.
type madeRow struct {
	row store.TodayRow
	at  time.Time
}

const (
	madeFor  = time.Second
	mostMade = 64
)

// unshown is the row of a job that cannot be shown: it stands in its place with
// a sentence, so that nothing of one job takes the list from anybody.
func unshown(j store.Job) RowMade {
	return RowMade{
		ID: j.ID, Title: j.Appliance.Site.Name + ", " + j.Appliance.Name, Place: j.Appliance.Site.Island, Ferry: j.Appliance.Site.Ferry, Words: j.Words,
		Headline: "This job cannot be shown", Standing: "Its record is kept. Tell your supervisor.", Stage: journey.LeftOpen, Bring: []string{}, Marks: []JobMarks{},
	}
}

// oneRow makes a stale row once, however many ask for it at the same time. It is
// made for all of them, so who gives up does not take it from the others.
func (s *Server) oneRow(ctx context.Context, j store.Job) (store.TodayRow, error) {
	key := fmt.Sprintf("%s/%d", j.ID, j.LastNum)
	made := s.making.DoChan(key, func() (any, error) {
		if r, is := s.made.Get(key); is && time.Since(r.at) < madeFor {
			return r.row, nil // by who looked at the same time, and was a little quicker
		}
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), requestTimeout)
		defer cancel()
		r, err := s.makeRow(ctx, j)
		if err == nil {
			s.made.Add(key, madeRow{r, time.Now()})
		}
		return r, err
	})
	select {
	case <-ctx.Done():
		return store.TodayRow{}, fmt.Errorf("making the row of %q: %w", j.ID, ctx.Err())
	case r := <-made:
		return r.Val.(store.TodayRow), r.Err
	}
}

// makeRow makes a job's row from its facts, and keeps it. What goes wrong in one
// job is that job's error, a panic, too.
func (s *Server) makeRow(ctx context.Context, j store.Job) (made store.TodayRow, err error) {
	defer func() {
		if v := recover(); v != nil {
			s.log.ErrorContext(ctx, "panic", "job", j.ID, "value", v, "stack", string(debug.Stack()))
			err = fmt.Errorf("making the row of %q: %v", j.ID, v)
		}
	}()
	var v *job.View
	known, err := s.workers.known(ctx, s, j)
	if err != nil {
		return made, err
	}
	err = s.books.with(ctx, j, known, func(b *job.Book) { v = b.View(scene.Viewer{}, time.Now()) })
	if err != nil {
		return made, err
	}
	s.log.DebugContext(ctx, "row made", "job", j.ID, "num", j.LastNum)
	row := store.TodayRow{Version: rowVersion, Stage: v.Visit.Stage, Opened: v.Visit.Opened, Signed: v.Visit.Signed, Stops: v.Visit.Stops, Whose: v.Visit.Whose, Mended: v.Visit.Mended, Did: v.Visit.Did}
	if row.Stage == journey.CalledOff { // it stands with the earlier ones
		row.Stage = journey.SignedOff
	}
	return s.putRow(ctx, j, rowOf(v, j.Appliance.Site.Ferry), row)
}

func unmarshalRow(body json.RawMessage, made *RowMade) error {
	if err := json.Unmarshal(body, made); err != nil {
		return fmt.Errorf("reading what Today shows: %w", err)
	}
	return nil
}

func rowOf(v *job.View, ferry string) RowMade {
	r := RowMade{
		ID: v.Job, Title: v.Title, Place: v.Place, Ferry: ferry, Words: v.Words, Machine: v.Machine, Headline: v.Headline, Standing: v.Standing,
		Stage: v.Visit.Stage, Even: v.Even, Goal: v.Foot.Title, Bring: v.Visit.Bring, P50: v.Foot.P50, P80: v.Foot.P80, Marks: []JobMarks{}, Signed: v.Visit.Signed,
	}
	if len(v.Visit.Whose) > 0 {
		r.Goes = v.About.Goes
	}
	for _, e := range v.Energies {
		if v.Visit.Stage == journey.LeftOpen && e.Warn && e.Energy == v.Worst {
			r.Warn = e.Name + " " + e.Say
		}
	}
	for _, o := range v.OutOfUse {
		r.Urgent, r.Warn = true, "Out of use: "+o.Name
	}
	for _, g := range v.Rungs {
		r.Marks = append(r.Marks, JobMarks{g.Out, g.Back})
	}
	return r
}

// How often the worker looks for stale rows, how many it makes before it rests,
// and how long it rests for each time that it worked: it takes no more than a
// third of a processor from who waits.
const (
	workEvery = time.Second
	mostMakes = 5
	rests     = 2
)

// Work makes stale rows again until the context ends: of jobs with new facts, and
// of an older program. Without it they are made when they are read.
func (s *Server) Work(ctx context.Context) {
	if _, err := s.store.OutdateRows(ctx, rowVersion); err != nil && ctx.Err() == nil {
		s.log.WarnContext(ctx, "what an older program made is found when it is read", "err", err)
	}
	for wait := time.Duration(0); ; {
		select {
		case <-ctx.Done():
			return
		case <-time.After(wait):
		}
		began := time.Now()
		n, err := s.remakeStale(ctx, mostMakes)
		if err != nil && ctx.Err() == nil {
			s.log.WarnContext(ctx, "what Today shows is made when it is read", "err", err)
		}
		wait = rests * time.Since(began)
		if n == 0 {
			wait = workEvery
		}
	}
}

// Remake makes stale rows again until there are none, and returns how many it
// made.
func (s *Server) Remake(ctx context.Context) (all int, err error) {
	for {
		n, err := s.remakeStale(ctx, mostRows)
		all += n
		if err != nil || n == 0 {
			return all, err
		}
	}
}

// Rebuild drops all that is derived and makes it again from the events. It
// returns the number of jobs.
func (s *Server) Rebuild(ctx context.Context) (int, error) {
	s.made.Purge()
	if err := s.store.DropTodayRows(ctx); err != nil {
		return 0, err
	}
	return s.Remake(ctx)
}
