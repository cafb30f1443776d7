package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"sync/atomic"
	"time"

	"evensteps/core/record"
	"evensteps/demo"
	"evensteps/server"
)

// technician works jobs through, each touch a fact that is sent until it is
// taken, as the pages do it.
type technician struct {
	c      *company
	id     string
	device string
	run    string
	began  time.Time
	random *rand.Rand
	http   *http.Client
	n      int
	facts  []*fact // all of them, as the device keeps them
	epoch  string
	in     bool
	missed int          // answers that did not come
	sent   atomic.Int64 // when a touch was sent of which the mate was not told yet, in nanoseconds; 0: none
}

type fact struct {
	record.Event
	num int
}

// errEnded says that the day is over.
var errEnded = errors.New("the day is over")

func (t *technician) work(ctx context.Context) error {
	pause(ctx, time.Duration(t.random.Int64N(int64(2*t.c.o.pace)))) // not all begin at the same moment
	for ctx.Err() == nil {
		err := t.job(ctx)
		if err != nil && !errors.Is(err, errEnded) {
			return fmt.Errorf("%s: %w", t.id, err)
		}
	}
	last, cancel := context.WithTimeout(context.Background(), 2*time.Minute)
	defer cancel()
	for {
		if err := t.send(last); err != nil {
			return fmt.Errorf("%s, at the end of the day: %w", t.id, err)
		}
		if t.waiting() == nil || last.Err() != nil { // what was never taken the check tells
			return nil
		}
	}
}

// job works one job of its own from the first step to signing off.
func (t *technician) job(ctx context.Context) error {
	id := fmt.Sprintf("work-%d", t.c.nextJob.Add(1))
	if err := t.ask(ctx, "list", http.MethodGet, "/api/jobs", nil, nil); err != nil {
		return err
	}
	for _, open := range []string{"/api/jobs/" + id, "/api/jobs/" + id + "/events?after=0"} {
		if err := t.ask(ctx, "open", http.MethodGet, open, nil, nil); err != nil {
			return err
		}
	}
	if t.c.o.live {
		watching, end := context.WithCancel(ctx)
		defer end()
		go t.watched(watching, id)
	}
	for i, act := range again(t.c.scripts[t.random.IntN(len(t.c.scripts))].acts) {
		if pause(ctx, t.c.o.pace/2+time.Duration(t.random.Int64N(int64(t.c.o.pace)))); ctx.Err() != nil {
			return errEnded
		}
		t.n++
		t.facts = append(t.facts, &fact{Event: record.Event{
			ID: act.ID, Job: id, By: t.id, Device: t.device, N: t.n, Wall: time.Now(), Since: time.Since(t.began).Seconds(), Run: t.run, Seen: i, Kind: act.Kind, Body: act.Body,
		}})
		t.sent.CompareAndSwap(0, time.Now().UnixNano())
		if err := t.send(ctx); err != nil {
			return err
		}
		if i%12 == 11 {
			if err := t.ask(ctx, "list", http.MethodGet, "/api/jobs", nil, nil); err != nil {
				return err
			}
		}
		if i%20 == 19 {
			if err := t.ask(ctx, "view", http.MethodGet, "/api/jobs/"+id+"/view", nil, nil); err != nil {
				return err
			}
		}
	}
	return nil
}

// waiting are the facts of one job that were not taken yet, the oldest first.
func (t *technician) waiting() []*fact {
	var out []*fact
	for _, f := range t.facts {
		if f.num == 0 && (len(out) == 0 || out[0].Job == f.Job) && len(out) < record.MostBatch {
			out = append(out, f)
		}
	}
	return out
}

// send sends what waits of one job, once. No answer leaves it for the next time.
func (t *technician) send(ctx context.Context) error {
	batch := t.waiting()
	if batch == nil {
		return nil
	}
	events := []record.Event{}
	for _, f := range batch {
		events = append(events, f.Event)
	}
	var got struct{ Answers []server.Answer }
	body := map[string]any{"run": t.run, "since": time.Since(t.began).Seconds(), "wall": time.Now(), "events": events}
	if err := t.ask(ctx, "append", http.MethodPost, "/api/jobs/"+batch[0].Job+"/events", body, &got); err != nil {
		return err
	}
	for i, a := range got.Answers {
		if a.Outcome == "refused" || a.ID != batch[i].ID {
			return fmt.Errorf("the fact %s was refused: %s", batch[i].ID, a.Problem)
		}
		batch[i].num = a.Num
	}
	return nil
}

// ask asks the server and notes how long it took. What will pass is counted as
// failed and is no error: it is asked again later.
func (t *technician) ask(ctx context.Context, what, method, path string, body, into any) error {
	if !t.in && path != "/api/sign-in" {
		if err := t.ask(ctx, "sign in", http.MethodPost, "/api/sign-in", map[string]string{"name": t.id, "password": demo.Password}, nil); err != nil || !t.in {
			return err
		}
	}
	raw, err := json.Marshal(body)
	if err != nil {
		return fmt.Errorf("writing a request: %w", err)
	}
	r, err := http.NewRequestWithContext(context.WithoutCancel(ctx), method, t.c.front.url+path, bytes.NewReader(raw))
	if err != nil {
		return fmt.Errorf("making a request: %w", err)
	}
	r.Header.Set("Content-Type", "application/json")
	began := time.Now()
	t.c.asked.Add(1)
	answer, err := t.http.Do(r)
	if err == nil {
		defer answer.Body.Close()
		raw, err = io.ReadAll(answer.Body)
	}
	took := time.Since(began)
	if err != nil || answer.StatusCode >= 500 {
		t.c.failed.Add(1)
		t.missed++
		if err == nil {
			t.c.took.wrong(answer.StatusCode)
		}
		pause(ctx, 200*time.Millisecond) // as a device waits for signal
		return nil
	}
	if answer.StatusCode != http.StatusOK {
		return fmt.Errorf("%s: the server answered %d: %s", path, answer.StatusCode, raw)
	}
	t.in = true
	t.c.took.add(what, took)
	t.heard(answer.Header.Get(server.EpochHeader))
	if into == nil {
		return nil
	}
	if err := json.Unmarshal(raw, into); err != nil {
		return fmt.Errorf("%s: reading the answer: %w", path, err)
	}
	return nil
}

// heard puts all back that was sent to another database, as the pages do.
func (t *technician) heard(epoch string) {
	if epoch == "" || epoch == t.epoch {
		return
	}
	t.c.front.hear(epoch)
	if t.epoch != "" {
		for _, f := range t.facts {
			f.num = 0
		}
	}
	t.epoch = epoch
}
