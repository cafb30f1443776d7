package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"
)

// News says that something became other on a job. Who has need of it looks.
type News struct {
	Job string `json:"j"`
	// Facts came: all of them from one device, or from several where it is empty.
	Facts  bool   `json:"f,omitempty"`
	Device string `json:"d,omitempty"`
	// Here: who is there became other.
	Here bool `json:"h,omitempty"`
}

// and is both news of one job in one.
func (n News) and(o News) News {
	if n.Facts && o.Facts && n.Device != o.Device {
		n.Device = ""
	} else if o.Facts {
		n.Device = o.Device
	}
	n.Facts, n.Here = n.Facts || o.Facts, n.Here || o.Here
	return n
}

const (
	liveChannel = "evensteps_live"
	// gather is how long news waits for more of its kind: a notice takes a lock of the
	// whole database as it is committed, so that one for many keeps appends quick.
	gather = 25 * time.Millisecond
	// mostNotice is what one notice holds, in bytes; the database takes 7999.
	mostNotice = 7500
	// mostWaiting jobs have news that was not told yet; more are found by asking.
	mostWaiting = 10_000
)

// tell notes that a job has news. Tell sends it to all that hear.
func (s *Store) tell(n News) {
	s.newsTurn.Lock()
	defer s.newsTurn.Unlock()
	if len(s.news) >= mostWaiting { // the database is away, and nobody hears
		return
	}
	if before, is := s.news[n.Job]; is {
		n = before.and(n)
	}
	s.news[n.Job] = n
	select {
	case s.newsCame <- struct{}{}:
	default:
	}
}

// Tell sends the news of this process to all processes, this one too, until the
// context ends. What cannot be sent is tried again; wrong hears why.
func (s *Store) Tell(ctx context.Context, wrong func(error)) {
	for {
		select {
		case <-ctx.Done():
			return
		case <-s.newsCame:
		}
		time.Sleep(gather)
		for {
			some := s.takeNews()
			if len(some) == 0 {
				break
			}
			if err := s.notify(ctx, some); err != nil {
				if ctx.Err() != nil {
					return
				}
				wrong(err)
				for _, n := range some {
					s.tell(n)
				}
				time.Sleep(time.Second)
				break
			}
		}
	}
}

// takeNews takes what goes into one notice.
func (s *Store) takeNews() (some []News) {
	s.newsTurn.Lock()
	defer s.newsTurn.Unlock()
	bytes := 0
	for id, n := range s.news {
		text, err := json.Marshal(n)
		if bytes += len(text) + 1; err != nil || bytes > mostNotice {
			break
		}
		some = append(some, n)
		delete(s.news, id)
	}
	return some
}

func (s *Store) notify(ctx context.Context, some []News) error {
	text, err := json.Marshal(some)
	if err != nil {
		return fmt.Errorf("writing news: %w", err)
	}
	if err := s.db.WithContext(ctx).Exec("select pg_notify(?, ?)", liveChannel, string(text)).Error; err != nil {
		return fmt.Errorf("telling news: %w", err)
	}
	return nil
}

// Hear calls back with the news of all processes until the context ends. Where the
// line to the database broke, news may have been missed: missed is called once it
// is there again, and wrong when it breaks.
func (s *Store) Hear(ctx context.Context, heard func(News), missed func(), wrong func(error)) {
	for {
		err := s.hear(ctx, heard, missed)
		if ctx.Err() != nil {
			return
		}
		wrong(err)
		select {
		case <-ctx.Done():
			return
		case <-time.After(time.Second):
		}
	}
}

func (s *Store) hear(ctx context.Context, heard func(News), missed func()) error {
	conn, err := pgx.ConnectConfig(ctx, s.config.Copy())
	if err != nil {
		return fmt.Errorf("reaching the database to hear news: %w", err)
	}
	defer func() {
		last, cancel := context.WithTimeout(context.WithoutCancel(ctx), time.Second)
		defer cancel()
		_ = conn.Close(last)
	}()
	if _, err := conn.Exec(ctx, "listen "+liveChannel); err != nil {
		return fmt.Errorf("listening for news: %w", err)
	}
	missed()
	for {
		said, err := conn.WaitForNotification(ctx)
		if err != nil {
			return fmt.Errorf("hearing news: %w", err)
		}
		var some []News
		if err := json.Unmarshal([]byte(said.Payload), &some); err != nil {
			continue // somebody else's: whoever may write to the database may say anything on it
		}
		for _, n := range some {
			heard(n)
		}
	}
}

// Here is somebody who looks at a job.
type Here struct {
	JobID  string    `json:"-"`
	Device string    `json:"device"`
	Person string    `json:"person"`
	Name   string    `json:"name"`
	Stream string    `json:"-"`
	Step   string    `json:"step,omitempty" doc:"The step that is on there"`
	At     time.Time `json:"-"`
}

// HereFor is how long a device counts as there that says nothing more.
const HereFor = 60 * time.Second

// Come says that a device looks at a job over a line, at a step, and tells the
// others where that is other than before.
func (s *Store) Come(ctx context.Context, h Here) error {
	var other bool
	err := s.db.WithContext(ctx).Raw(`with before as (select step, at from here where job_id = @job and person = @person and device = @device),
		now as (insert into here (job_id, device, person, stream, step) values (@job, @device, @person, @stream, @step)
			on conflict (job_id, person, device) do update set stream = excluded.stream, step = excluded.step, at = now())
		select coalesce((select step <> @step or at < now() - make_interval(secs => @for) from before), true)`,
		map[string]any{"job": h.JobID, "device": h.Device, "person": h.Person, "stream": h.Stream, "step": h.Step, "for": HereFor.Seconds()}).Row().Scan(&other)
	if err != nil {
		return fmt.Errorf("noting who is at %q: %w", h.JobID, err)
	}
	if other {
		s.tell(News{Job: h.JobID, Here: true})
	}
	return nil
}

// Step says at which step a device is that looks at a job already.
func (s *Store) Step(ctx context.Context, h Here) error {
	done := s.db.WithContext(ctx).Exec("update here set step = ?, at = now() where job_id = ? and person = ? and device = ? and step <> ?", h.Step, h.JobID, h.Person, h.Device, h.Step)
	if done.Error != nil {
		return fmt.Errorf("noting the step at %q: %w", h.JobID, done.Error)
	}
	if done.RowsAffected > 0 {
		s.tell(News{Job: h.JobID, Here: true})
	}
	return nil
}

// Stay says that a device is still there, and who else is.
func (s *Store) Stay(ctx context.Context, h Here) ([]Here, error) {
	if err := s.db.WithContext(ctx).Exec("update here set at = now() where job_id = ? and person = ? and device = ? and stream = ?", h.JobID, h.Person, h.Device, h.Stream).Error; err != nil {
		return nil, fmt.Errorf("noting who is at %q: %w", h.JobID, err)
	}
	return s.At(ctx, h.JobID)
}

// At are those who look at a job, by name.
func (s *Store) At(ctx context.Context, job string) ([]Here, error) {
	out := []Here{}
	err := s.db.WithContext(ctx).Raw(`select h.*, p.name from here h join people p on p.id = h.person
		where h.job_id = ? and h.at > now() - make_interval(secs => ?) order by p.name, h.device limit 50`, job, HereFor.Seconds()).Scan(&out).Error
	if err != nil {
		return nil, fmt.Errorf("looking who is at %q: %w", job, err)
	}
	return out, nil
}

// Leave says that a line has ended. A device that is told over another by now stays.
func (s *Store) Leave(ctx context.Context, h Here) error {
	done := s.db.WithContext(ctx).Exec("delete from here where job_id = ? and person = ? and device = ? and stream = ? or at < now() - interval '1 day'", h.JobID, h.Person, h.Device, h.Stream)
	if done.Error != nil {
		return fmt.Errorf("noting who left %q: %w", h.JobID, done.Error)
	}
	if done.RowsAffected > 0 {
		s.tell(News{Job: h.JobID, Here: true})
	}
	return nil
}
