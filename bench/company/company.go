package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"net/http"
	"net/http/cookiejar"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"evensteps/core/journey"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/demo"
	"evensteps/e2e/stage"
	"evensteps/library"
	"evensteps/server"
	"evensteps/store"
	"evensteps/store/cluster"
)

// company is the program on its database, with people who work.
type company struct {
	o        options
	dir      string
	data     string
	db       *cluster.Cluster
	programs []*stage.Program
	front    *front // between the technicians and the program
	scripts  []script
	people   []*technician
	took     times
	asked    atomic.Int64
	failed   atomic.Int64
	nextJob  atomic.Int64
}

// script is a whole job as the core's own player plays it.
type script struct {
	goal string
	acts []record.Event
}

// again is a script for another job: its facts have ids of their own, and name
// each other by those.
func again(acts []record.Event) []record.Event {
	out := slices.Clone(acts)
	var pairs []string
	for i := range out {
		out[i].ID = uuid.Must(uuid.NewV7()).String()
		pairs = append(pairs, acts[i].ID, out[i].ID)
	}
	ids := strings.NewReplacer(pairs...)
	for i := range out {
		if bytes.Contains(out[i].Body, []byte(`"closes"`)) {
			out[i].Body = []byte(ids.Replace(string(out[i].Body)))
		}
	}
	return out
}

func plays() ([]script, error) {
	m, err := library.Map("tidemoor-tv6")
	if err != nil {
		return nil, err
	}
	var out []script
	for i, goal := range []string{"replace:rollers", "replace:drum-belt", "replace:blower-wheel"} {
		p := demo.NewPlayer(m, scene.Job{ID: "script", Complaint: "thumps"}, "jonna", "script", time.Now().Add(-2*time.Hour), uint64(i))
		err := errors.Join(p.Record("visit.began", record.VisitBegan{}), p.Record("goal.added", record.GoalAdded{Goal: goal}))
		for more := true; more && err == nil; {
			more, err = p.Step()
		}
		if err == nil {
			err = p.Record("signed-off", record.SignedOff{})
		}
		if err != nil {
			return nil, fmt.Errorf("playing %s: %w", goal, err)
		}
		if v := p.View(); v.Visit.Stage != journey.SignedOff || len(p.Events()) < 20 {
			return nil, fmt.Errorf("playing %s: it ends with %q", goal, v.Headline)
		}
		out = append(out, script{goal, p.Events()})
	}
	return out, nil
}

// found sets the company up: a database with its writes forced to disk, the
// demo's sites and machines, the technicians, and the jobs that were there
// before.
func found(ctx context.Context, o options) (c *company, err error) {
	c = &company{o: o}
	if c.scripts, err = plays(); err != nil {
		return c, err
	}
	if c.dir, err = os.MkdirTemp("", "evensteps-company-*"); err != nil {
		return c, fmt.Errorf("making a folder: %w", err)
	}
	if err := os.Chmod(c.dir, 0o755); err != nil { // the database's user must be able to pass
		return c, fmt.Errorf("making a folder: %w", err)
	}
	c.data = filepath.Join(c.dir, "db")
	if o.full != "" {
		c.data = filepath.Join(o.full, "db")
	}
	if c.db, err = cluster.Start(ctx, c.data, cluster.Options{}); err != nil {
		return c, err
	}
	kept, err := store.Open(ctx, c.db.URL)
	if err != nil {
		return c, err
	}
	defer func() { err = errors.Join(err, kept.Close()) }()
	if err := demo.Fill(ctx, kept, server.HashPassword, time.Now()); err != nil {
		return c, err
	}
	hash, err := server.HashPassword(demo.Password)
	if err != nil {
		return c, err
	}
	for n := range o.people {
		id := fmt.Sprintf("tech-%03d", n)
		if err := kept.PutPerson(ctx, store.Person{ID: id, Name: "Technician " + id[5:], SignIn: id, PasswordHash: hash, Role: "technician"}); err != nil {
			return c, err
		}
	}
	binary, err := stage.Build(ctx, c.dir)
	if err != nil {
		return c, err
	}
	if err := c.fill(ctx); err != nil {
		return c, err
	}
	var addresses []string
	for n := range o.servers {
		one, err := stage.NewProgram(binary, filepath.Join(c.dir, fmt.Sprintf("server-%d.log", n)), c.db.URL, "EVENSTEPS_SIGN_INS_PER_MINUTE=1000")
		if err != nil {
			return c, err
		}
		if err := one.Start(ctx); err != nil {
			return c, err
		}
		c.programs, addresses = append(c.programs, one), append(addresses, one.URL)
	}
	if c.front, err = newFront(addresses...); err != nil {
		return c, err
	}
	for n := range o.people {
		jar, err := cookiejar.New(nil)
		if err != nil {
			return c, fmt.Errorf("making a cookie jar: %w", err)
		}
		id := fmt.Sprintf("tech-%03d", n)
		c.people = append(c.people, &technician{
			c: c, id: id, device: "load-" + id, run: uuid.NewString(), began: time.Now(), random: rand.New(rand.NewPCG(o.seed, uint64(n))),
			http: &http.Client{Jar: jar, Timeout: 30 * time.Second, Transport: &http.Transport{MaxIdleConnsPerHost: 2}},
		})
	}
	return c, nil
}

func (c *company) close() error {
	var err error
	if c.front != nil {
		c.front.close()
	}
	for _, one := range c.programs {
		err = errors.Join(err, one.End(syscall.SIGTERM))
	}
	if c.db != nil {
		err = errors.Join(err, c.db.Stop())
	}
	if err == nil {
		return os.RemoveAll(c.dir)
	}
	return fmt.Errorf("%w (the folder %s is left)", err, c.dir)
}

// fill puts jobs there by COPY: most of them signed off, as after some years.
func (c *company) fill(ctx context.Context) error {
	conn, err := pgx.Connect(ctx, c.db.URL)
	if err != nil {
		return fmt.Errorf("reaching the database: %w", err)
	}
	defer func() { _ = conn.Close(ctx) }()
	if c.o.jobs > 0 {
		if err := c.copyIn(ctx, conn); err != nil {
			return err
		}
	}
	// As many jobs as everybody can work at that pace.
	_, err = conn.Exec(ctx, `insert into jobs (id, appliance_id, complaint, words, map_id, map_revision, created_at)
		select 'work-' || n, a.id, 'thumps', 'thumps when it turns', j.map_id, j.map_revision, now()
		from generate_series(1, $1::int) n, (select map_id, map_revision from jobs where id = 'j-101') j,
			lateral (select id from appliances where model like 'TV6%' order by id offset n % 10 limit 1) a`, c.o.people*(2+int(c.o.during/c.o.pace/30)))
	if err != nil {
		return fmt.Errorf("making the jobs: %w", err)
	}
	if _, err = conn.Exec(ctx, "vacuum analyze"); err != nil {
		return fmt.Errorf("after the copying: %w", err)
	}
	return nil
}

// settle waits until Today shows what there is.
func (c *company) settle(ctx context.Context) error {
	conn, err := pgx.Connect(ctx, c.db.URL)
	if err != nil {
		return fmt.Errorf("reaching the database: %w", err)
	}
	defer func() { _ = conn.Close(ctx) }()
	for stale := true; stale; time.Sleep(200 * time.Millisecond) {
		if err := conn.QueryRow(ctx, "select exists (select 1 from jobs where shown < last_num)").Scan(&stale); err != nil {
			return fmt.Errorf("waiting for Today: %w", err)
		}
	}
	return nil
}

// arrive lets everybody sign in, before the time is taken.
func (c *company) arrive(ctx context.Context) error {
	began := time.Now()
	var all sync.WaitGroup
	errs := make([]error, len(c.people))
	for i, t := range c.people {
		all.Go(func() { errs[i] = t.ask(ctx, "first page", http.MethodGet, "/api/jobs", nil, nil) })
	}
	all.Wait()
	fmt.Printf("%d signed in at once, in %s\n", len(c.people), time.Since(began).Round(time.Millisecond))
	c.took.report()
	c.took.clear()
	return errors.Join(errs...)
}

func (c *company) copyIn(ctx context.Context, conn *pgx.Conn) error {
	began := time.Now()
	each := max(1, c.o.events/c.o.jobs)
	first := began.AddDate(-5, 0, 0)
	at := func(job int) time.Time {
		return first.Add(time.Duration(job) * began.Sub(first) / time.Duration(c.o.jobs+1))
	}
	appliances := []string{"boat-yard-dryer-1", "boat-yard-dryer-2", "school-dryer", "smokehouse-dryer", "point-dryer", "chapel-dryer", "cabin-3-dryer", "cabin-7-dryer"}
	m, err := library.Map("tidemoor-tv6")
	if err != nil {
		return err
	}
	open := c.o.jobs - 600                                                                  // the last ones are not signed off
	short := []record.Event{c.scripts[0].acts[0], {Kind: "signed-off", Body: []byte("{}")}} // nothing was opened
	all := 0
	acts := func(job int) []record.Event {
		s := c.scripts[job%len(c.scripts)].acts
		switch {
		case job >= open:
			return s[:len(s)/2]
		case job >= len(c.scripts) && all+len(s) > (job+1)*each:
			return short
		}
		return s
	}
	random := rand.NewChaCha8([32]byte{byte(c.o.seed)})
	uuid.SetRand(random)
	defer uuid.SetRand(nil)
	var jobs, facts [][]any
	for job := range c.o.jobs {
		id := fmt.Sprintf("old-%d", job)
		list := again(acts(job))
		all += len(list)
		jobs = append(jobs, []any{id, appliances[job%len(appliances)], "thumps", "thumps when it turns", m.ID, m.Revision, len(list), at(job)})
		for i, e := range list {
			t := at(job).Add(time.Duration(i) * time.Minute)
			facts = append(facts, []any{e.ID, id, i + 1, t, t, "jonna", "old", i + 1, t.Format(time.RFC3339Nano), float64(i), "old", i, e.Kind, string(e.Body), t})
		}
		if len(facts) > 50_000 || job == c.o.jobs-1 {
			if _, err := conn.CopyFrom(ctx, pgx.Identifier{"jobs"}, []string{"id", "appliance_id", "complaint", "words", "map_id", "map_revision", "last_num", "created_at"}, pgx.CopyFromRows(jobs)); err != nil {
				return fmt.Errorf("copying jobs: %w", err)
			}
			if _, err := conn.CopyFrom(ctx, pgx.Identifier{"events"}, []string{"id", "job_id", "num", "t", "t_max", "by", "device", "n", "wall", "since", "run", "seen", "kind", "body", "received"}, pgx.CopyFromRows(facts)); err != nil {
				return fmt.Errorf("copying facts: %w", err)
			}
			jobs, facts = nil, nil
		}
	}
	fmt.Printf("%d facts of %d jobs copied in %s\n", all, c.o.jobs, time.Since(began).Round(time.Second))
	return c.copyRows(ctx, conn, open)
}

// copyRows gives the old jobs what Today shows of them: the program makes the
// rows of a few, and the others, which went the same way, get theirs.
func (c *company) copyRows(ctx context.Context, conn *pgx.Conn, open int) error {
	kept, err := store.Open(ctx, c.db.URL)
	if err != nil {
		return err
	}
	defer func() { _ = kept.Close() }()
	// Jobs of as many facts went the same way: the first of each is the model.
	_, err = conn.Exec(ctx, `create temp table models as select distinct on (last_num, substr(id, 5)::int >= $1) id, last_num, substr(id, 5)::int >= $1 as open
		from jobs where id like 'old-%' order by last_num, substr(id, 5)::int >= $1, id`, open)
	if err != nil {
		return fmt.Errorf("rows of the old jobs: %w", err)
	}
	if _, err = conn.Exec(ctx, `update jobs set shown = last_num where id like 'old-%' and id not in (select id from models)`); err != nil {
		return fmt.Errorf("rows of the old jobs: %w", err)
	}
	if _, err := server.New(server.Options{Store: kept}).Remake(ctx); err != nil {
		return err
	}
	_, err = conn.Exec(ctx, `update today_rows o set (num, version, body, stage, rank, place, opened, signed, whose, mended, did) = (
			select r.num, r.version, jsonb_set(r.body, '{id}', to_jsonb(j.id)), r.stage, r.rank, r.place,
				case when r.opened is not null then j.created_at end, case when r.signed is not null then j.created_at + interval '2 hours' end, r.whose, r.mended, r.did
			from today_rows r join models m on m.id = r.job_id where m.last_num = j.last_num and m.open = (substr(j.id, 5)::int >= $1))
		from jobs j where j.id = o.job_id and j.id like 'old-%' and o.version = 0`, open)
	if err != nil {
		return fmt.Errorf("rows of the old jobs: %w", err)
	}
	return nil
}

// work lets everybody work until the context ends, and then send what they have.
func (c *company) work(ctx context.Context) error {
	var all sync.WaitGroup
	errs := make([]error, len(c.people))
	for i, t := range c.people {
		all.Go(func() { errs[i] = t.work(ctx) })
	}
	all.Wait()
	return errors.Join(errs...)
}

// check looks that every fact that was acknowledged is there once, where the
// answer said, and that no number of a job is missing.
func (c *company) check(ctx context.Context) error {
	conn, err := pgx.Connect(ctx, c.db.URL)
	if err != nil {
		return fmt.Errorf("reaching the database: %w", err)
	}
	defer func() { _ = conn.Close(ctx) }()
	rows, err := conn.Query(ctx, "select id::text, job_id, num from events where device like 'load-%'")
	if err != nil {
		return fmt.Errorf("reading the facts: %w", err)
	}
	type place struct {
		job string
		num int
	}
	there := map[string]place{}
	n := 0
	for rows.Next() {
		var id string
		var p place
		if err := rows.Scan(&id, &p.job, &p.num); err != nil {
			return fmt.Errorf("reading the facts: %w", err)
		}
		there[id] = p
		n++
	}
	if err := rows.Err(); err != nil {
		return fmt.Errorf("reading the facts: %w", err)
	}
	var wrong []string
	acked := 0
	for _, t := range c.people {
		for _, f := range t.facts {
			if f.num == 0 {
				wrong = append(wrong, fmt.Sprintf("%s was never taken", f.ID))
				continue
			}
			acked++
			if p, is := there[f.ID]; !is || p.job != f.Job || p.num != f.num && !c.renumbered() {
				wrong = append(wrong, fmt.Sprintf("%s of %s at %d is %v", f.ID, f.Job, f.num, p))
			}
		}
	}
	var gaps int
	err = conn.QueryRow(ctx, `select count(*) from (select job_id, count(*) n, max(num) m from events group by job_id) e join jobs j on j.id = e.job_id where e.n <> e.m or j.last_num <> e.m`).Scan(&gaps)
	if err != nil {
		return fmt.Errorf("reading the numbers: %w", err)
	}
	fmt.Printf("%d facts acknowledged, %d kept, %d jobs with a gap\n", acked, n, gaps)
	if n != acked {
		wrong = append(wrong, fmt.Sprintf("%d facts are there, %d were acknowledged", n, acked))
	}
	if gaps > 0 {
		wrong = append(wrong, fmt.Sprintf("%d jobs have gaps", gaps))
	}
	if len(wrong) > 0 {
		return fmt.Errorf("%d things are wrong:\n%s", len(wrong), strings.Join(wrong[:min(10, len(wrong))], "\n"))
	}
	return nil
}

func (c *company) renumbered() bool { return c.front.epochs() > 1 }

// size says how large the database is.
func (c *company) size(ctx context.Context) error {
	conn, err := pgx.Connect(ctx, c.db.URL)
	if err != nil {
		return fmt.Errorf("reaching the database: %w", err)
	}
	defer func() { _ = conn.Close(ctx) }()
	var bytes, events int64
	if err := conn.QueryRow(ctx, "select pg_database_size(current_database()), (select count(*) from events)").Scan(&bytes, &events); err != nil {
		return fmt.Errorf("reading the size of the database: %w", err)
	}
	fmt.Printf("the database holds %d facts in %d MB\n", events, bytes>>20)
	return nil
}

// watch follows the servers' memory until the context ends; the answer is the
// most that one of them held, in megabytes.
func (c *company) watch(ctx context.Context) func() float64 {
	var mu sync.Mutex
	most := 0.0
	go func() {
		for ctx.Err() == nil {
			for _, one := range c.programs {
				now := one.Resident()
				mu.Lock()
				most = max(most, now)
				mu.Unlock()
			}
			time.Sleep(200 * time.Millisecond)
		}
	}()
	return func() float64 {
		mu.Lock()
		defer mu.Unlock()
		return most
	}
}
