package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"reflect"
	"sync"
	"time"

	"gorm.io/gorm"

	"evensteps/core/record"
)

// eventRow is one event as the table keeps it. The wall time is kept as text,
// so that its offset is not lost.
type eventRow struct {
	ID     string `gorm:"primaryKey"`
	JobID  string
	Num    int
	T      time.Time
	TMax   time.Time // the latest stamp of the job so far
	By     string
	Device string
	N      int
	Wall   string
	Since  float64
	Run    string
	Seen   int
	Kind   string
	Body   json.RawMessage `gorm:"type:jsonb"`
	// Received is when it came in.
	Received time.Time
}

func (eventRow) TableName() string { return "events" }

func (r eventRow) event() (record.Event, error) {
	wall, err := time.Parse(time.RFC3339Nano, r.Wall)
	if err != nil {
		return record.Event{}, fmt.Errorf("the wall time of the event %s: %w", r.ID, err)
	}
	t, received := r.T.UTC(), r.Received.UTC()
	return record.Event{
		ID: r.ID, Job: r.JobID, By: r.By, Device: r.Device, N: r.N, Wall: wall, Since: r.Since, Run: r.Run, Seen: r.Seen,
		Kind: r.Kind, Body: r.Body, Num: r.Num, T: &t, Received: &received,
	}, nil
}

// Kept is the answer to one event.
type Kept struct {
	Num   int
	T     time.Time
	Known bool // it was there already
}

// ErrOtherBody says that an event of that id is there with another body. The
// first stays.
var ErrOtherBody = errors.New("an event with this id is kept already, and says something else")

// Append keeps one event of a job and gives it its number and stamp. The number
// is taken only if nothing came to the job since the fact was stamped; the
// update that takes it holds the job's row until all is kept, so that no reader
// skips one, and makes what Today shows of the job stale. An event that is there
// already keeps the number it has.
func (s *Store) Append(ctx context.Context, e record.Event, sent record.Sent) (Kept, error) {
	turn := s.turn(e.Job) // those of this process wait here instead of trying again
	turn.Lock()
	defer turn.Unlock()
	return s.append(ctx, e, sent)
}

// append is Append while it is this event's turn.
func (s *Store) append(ctx context.Context, e record.Event, sent record.Sent) (Kept, error) {
	tail, _ := s.tails.Get(e.Job)
	at, is := tail.before(e) // mostly it is known how the job stands: then one statement does it
	for {
		if !is {
			var err error
			if at, err = s.standing(ctx, e); err != nil {
				return Kept{}, err
			}
			if at.old != nil {
				return Kept{at.old.Num, at.old.T.UTC(), true}, same(*at.old, e)
			}
			tail = tail.learn(at, e)
		}
		row := newRow(e)
		row.Num, row.T = at.last+1, record.Stamp(&e, sent, at.notBefore)
		row.TMax, row.Received = later(row.T, at.latest), sent.Received
		err := s.insert(ctx, row)
		if errors.Is(err, errMeanwhile) {
			is = false
			continue
		}
		if err != nil {
			s.tails.Remove(e.Job) // it may be there all the same
			return Kept{}, err
		}
		tail.add(row)
		s.tails.Add(e.Job, tail)
		s.tell(News{Job: e.Job, Facts: true, Device: e.Device})
		return Kept{Num: row.Num, T: row.T}, nil
	}
}

// tail is how a job stood after the last event that this process kept of it. It
// holds while nothing else came to the job, which the insert looks at.
type tail struct {
	last   int
	maxes  map[int]time.Time  // number -> the latest stamp up to it, of the last few
	latest map[string]stamped // device -> the last of its events
}

type stamped struct {
	n int
	t time.Time
}

const (
	mostTails = 1024 // jobs
	mostMaxes = 200  // numbers of a job
)

// learn is the tail with what was looked up for an event, or a new one where
// something else came to the job.
func (t *tail) learn(at standing, e record.Event) *tail {
	if t == nil || t.last != at.last {
		t = &tail{last: at.last, maxes: map[int]time.Time{}, latest: map[string]stamped{}}
	}
	t.maxes[at.last], t.maxes[min(e.Seen, at.last)] = at.latest, at.seen
	if at.highest < e.N { // else another of the device is later than this
		t.latest[e.Device] = stamped{at.highest, at.before}
	}
	return t
}

// before is how the job stands for an event, where that is known.
func (t *tail) before(e record.Event) (at standing, is bool) {
	if t == nil {
		return at, false
	}
	seen, sawIs := t.maxes[min(e.Seen, t.last)]
	device, deviceIs := t.latest[e.Device]
	if !sawIs || !deviceIs || device.n >= e.N {
		return at, false
	}
	return standing{last: t.last, latest: t.maxes[t.last], notBefore: later(seen, device.t)}, true
}

func (t *tail) add(r eventRow) {
	if len(t.maxes) > mostMaxes {
		clear(t.maxes)
	}
	t.last = r.Num
	t.maxes[r.Num] = r.TMax
	if d, is := t.latest[r.Device]; is && d.n < r.N {
		t.latest[r.Device] = stamped{r.N, r.T}
	}
}

// errMeanwhile says that another event came to the job in between.
var errMeanwhile = errors.New("another event came meanwhile")

// insert keeps an event under the job's next number, or says errMeanwhile.
func (s *Store) insert(ctx context.Context, r eventRow) error {
	done := s.db.WithContext(ctx).Exec(`with next as (update jobs set last_num = @num where id = @job and last_num = @num - 1 returning id)
		insert into events (id, job_id, num, t, t_max, by, device, n, wall, since, run, seen, kind, body, received)
		select @id, next.id, @num, @t, @tmax, @by, @device, @n, @wall, @since, @run, @seen, @kind, @body, @received from next`,
		sql.Named("id", r.ID), sql.Named("job", r.JobID), sql.Named("num", r.Num), sql.Named("t", r.T), sql.Named("tmax", r.TMax), sql.Named("by", r.By),
		sql.Named("device", r.Device), sql.Named("n", r.N), sql.Named("wall", r.Wall), sql.Named("since", r.Since), sql.Named("run", r.Run), sql.Named("seen", r.Seen),
		sql.Named("kind", r.Kind), sql.Named("body", string(r.Body)), sql.Named("received", r.Received))
	switch {
	case errors.Is(done.Error, gorm.ErrDuplicatedKey): // the same event by another way
		return errMeanwhile
	case done.Error != nil:
		return fmt.Errorf("keeping the event %s: %w", r.ID, done.Error)
	case done.RowsAffected == 0:
		return errMeanwhile
	}
	return nil
}

// turn is where appends to one job take turns.
func (s *Store) turn(job string) *sync.Mutex {
	h := fnv.New32a()
	_, _ = h.Write([]byte(job))
	return &s.turns[h.Sum32()%uint32(len(s.turns))]
}

func newRow(e record.Event) eventRow {
	body := e.Body
	if len(body) == 0 {
		body = json.RawMessage("{}")
	}
	return eventRow{
		ID: e.ID, JobID: e.Job, By: e.By, Device: e.Device, N: e.N,
		Wall: e.Wall.Format(time.RFC3339Nano), Since: e.Since, Run: e.Run, Seen: e.Seen, Kind: e.Kind, Body: body,
	}
}

func later(a, b time.Time) time.Time {
	if b.After(a) {
		return b
	}
	return a
}

// standing is how a job stands for an event that is about to be kept.
type standing struct {
	last      int       // the job's latest number
	latest    time.Time // the latest stamp of the job
	seen      time.Time // the latest stamp of what the fact had seen
	before    time.Time // the stamp of its device's previous fact
	notBefore time.Time // the later of the two
	highest   int       // the device's highest own number
	old       *eventRow // the event itself, if it is there already
}

func (s *Store) standing(ctx context.Context, e record.Event) (standing, error) {
	var at standing
	var seen, before, all, t sql.NullTime
	var job, by, kind, body sql.NullString
	var num, highest sql.NullInt64
	err := s.db.WithContext(ctx).Raw(`select j.last_num,
			(select t_max from events where job_id = j.id and num = least(@seen, j.last_num)),
			(select t from events where job_id = j.id and device = @device and n < @n order by n desc limit 1),
			(select t_max from events where job_id = j.id and num = j.last_num),
			(select n from events where job_id = j.id and device = @device order by n desc limit 1),
			o.job_id, o.by, o.kind, o.body::text, o.num, o.t
		from jobs j left join events o on o.id = @id where j.id = @job`,
		sql.Named("job", e.Job), sql.Named("seen", e.Seen), sql.Named("device", e.Device), sql.Named("n", e.N), sql.Named("id", e.ID)).
		Row().Scan(&at.last, &seen, &before, &all, &highest, &job, &by, &kind, &body, &num, &t)
	if errors.Is(err, sql.ErrNoRows) {
		return at, missing(gorm.ErrRecordNotFound, "the job", e.Job)
	}
	if err != nil {
		return at, fmt.Errorf("looking for what the event %s had seen: %w", e.ID, err)
	}
	at.latest, at.seen, at.before, at.highest = all.Time, seen.Time, before.Time, int(highest.Int64)
	at.notBefore = later(at.seen, at.before)
	if num.Valid {
		at.old = &eventRow{ID: e.ID, JobID: job.String, By: by.String, Kind: kind.String, Body: json.RawMessage(body.String), Num: int(num.Int64), T: t.Time}
	}
	return at, nil
}

// AppendStamped keeps an event that has its number and stamp already, as the
// demo's players and imports make them. They come in the order of number.
func (s *Store) AppendStamped(ctx context.Context, e record.Event) error {
	at, err := s.standing(ctx, e)
	if err != nil || at.old != nil {
		return err
	}
	row := newRow(e)
	row.Num, row.T, row.TMax, row.Received = e.Num, *e.T, later(*e.T, at.latest), *e.T
	if e.Received != nil {
		row.Received = *e.Received
	}
	return s.insert(ctx, row)
}

func same(old eventRow, e record.Event) error {
	var a, b any
	body := e.Body
	if len(body) == 0 {
		body = json.RawMessage("{}")
	}
	if err := json.Unmarshal(old.Body, &a); err != nil {
		return fmt.Errorf("reading the event %s: %w", old.ID, err)
	}
	if err := json.Unmarshal(body, &b); err != nil {
		return fmt.Errorf("reading the event %s: %w", e.ID, err)
	}
	if old.JobID != e.Job || old.By != e.By || old.Kind != e.Kind || !reflect.DeepEqual(a, b) {
		return ErrOtherBody
	}
	return nil
}

// Events returns a job's events after a number, in their order of number, at
// most so many.
func (s *Store) Events(ctx context.Context, job string, after, most int) ([]record.Event, error) {
	var rows []eventRow
	if err := s.db.WithContext(ctx).Where("job_id = ? and num > ?", job, after).Order("num").Limit(most).Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading the events of %q: %w", job, err)
	}
	out := make([]record.Event, 0, len(rows))
	for _, r := range rows {
		e, err := r.event()
		if err != nil {
			return nil, err
		}
		out = append(out, e)
	}
	return out, nil
}
