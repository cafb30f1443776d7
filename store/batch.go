package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"time"

	"gorm.io/gorm"

	"evensteps/core/record"
)

// Appended is what became of one event of a batch.
type Appended struct {
	Kept
	Err error // of this event alone, as Append gives it
}

// AppendAll keeps the events of one job as Append keeps each, in their order. Those that
// follow on what is known of the job go in one statement. The error is of the database,
// and how many there are says how far it came: the rest is sent again.
func (s *Store) AppendAll(ctx context.Context, events []record.Event, sent record.Sent) ([]Appended, error) {
	if len(events) == 0 {
		return nil, nil
	}
	turn := s.turn(events[0].Job)
	turn.Lock()
	defer turn.Unlock()
	var out []Appended
	for len(out) < len(events) {
		rest := events[len(out):]
		if rows := s.following(rest, sent); len(rows) > 1 {
			err := s.insertAll(ctx, rows)
			if err == nil {
				out = append(out, s.followed(rows)...)
				continue
			}
			s.tails.Remove(rows[0].JobID)
			if !errors.Is(err, errMeanwhile) && !Unkeepable(err) {
				return out, err
			}
			// One by one says which of them it is.
		}
		kept, err := s.append(ctx, rest[0], sent)
		if err != nil && !errors.Is(err, ErrOtherBody) && !Unkeepable(err) {
			return out, err
		}
		out = append(out, Appended{kept, err})
	}
	return out, nil
}

// following are the rows of the events that follow on what this process knows of their
// job, up to the first that does not.
func (s *Store) following(events []record.Event, sent record.Sent) (rows []eventRow) {
	known, _ := s.tails.Get(events[0].Job)
	if known == nil {
		return nil
	}
	tail := known.copied()
	for _, e := range events {
		at, is := tail.before(e)
		if !is || e.Job != events[0].Job {
			break
		}
		row := newRow(e)
		row.Num, row.T = at.last+1, record.Stamp(&e, sent, at.notBefore)
		row.TMax, row.Received = later(row.T, at.latest), sent.Received
		tail.add(row)
		rows = append(rows, row)
	}
	return rows
}

// followed notes that rows were kept, and tells of them.
func (s *Store) followed(rows []eventRow) (out []Appended) {
	tail, _ := s.tails.Get(rows[0].JobID)
	for _, row := range rows {
		if tail != nil {
			tail.add(row)
		}
		s.tell(News{Job: row.JobID, Facts: true, Device: row.Device})
		out = append(out, Appended{Kept: Kept{Num: row.Num, T: row.T}})
	}
	return out
}

// insertAll keeps rows of one job that follow on one another, all or none; it says
// errMeanwhile where another came to the job.
func (s *Store) insertAll(ctx context.Context, rows []eventRow) error {
	text, err := json.Marshal(rowsAsJSON(rows))
	if err != nil {
		return fmt.Errorf("writing %d events: %w", len(rows), err)
	}
	first, last := rows[0], rows[len(rows)-1]
	done := s.db.WithContext(ctx).Exec(`with next as (update jobs set last_num = @last where id = @job and last_num = @first - 1 returning id)
		insert into events (id, job_id, num, t, t_max, by, device, n, wall, since, run, seen, kind, body, received)
		select r.id, next.id, r.num, r.t, r.tmax, r.by, r.device, r.n, r.wall, r.since, r.run, r.seen, r.kind, r.body, @received
		from next, jsonb_to_recordset(cast(@rows as jsonb)) as r(id uuid, num int, t timestamptz, tmax timestamptz, by text, device text, n int, wall text, since float8, run text, seen int, kind text, body jsonb)`,
		sql.Named("job", first.JobID), sql.Named("first", first.Num), sql.Named("last", last.Num), sql.Named("received", first.Received), sql.Named("rows", string(text)))
	switch {
	case errors.Is(done.Error, gorm.ErrDuplicatedKey):
		return errMeanwhile
	case done.Error != nil:
		return fmt.Errorf("keeping %d events of %q: %w", len(rows), first.JobID, done.Error)
	case done.RowsAffected == 0:
		return errMeanwhile
	}
	return nil
}

// rowAsJSON is a row as the statement reads it.
type rowAsJSON struct {
	ID     string          `json:"id"`
	Num    int             `json:"num"`
	T      time.Time       `json:"t"`
	TMax   time.Time       `json:"tmax"`
	By     string          `json:"by"`
	Device string          `json:"device"`
	N      int             `json:"n"`
	Wall   string          `json:"wall"`
	Since  float64         `json:"since"`
	Run    string          `json:"run"`
	Seen   int             `json:"seen"`
	Kind   string          `json:"kind"`
	Body   json.RawMessage `json:"body"`
}

func rowsAsJSON(rows []eventRow) (out []rowAsJSON) {
	for _, r := range rows {
		out = append(out, rowAsJSON{r.ID, r.Num, r.T, r.TMax, r.By, r.Device, r.N, r.Wall, r.Since, r.Run, r.Seen, r.Kind, r.Body})
	}
	return out
}

// copied is a tail of its own that stands the same.
func (t *tail) copied() *tail {
	return &tail{last: t.last, maxes: maps.Clone(t.maxes), latest: maps.Clone(t.latest)}
}
