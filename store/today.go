package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"time"

	"evensteps/core/journey"
)

// TodayRow is what Today shows of a job, as the server made it, and what it is
// put in order by. It is derived: dropping it loses nothing.
type TodayRow struct {
	JobID   string
	Num     int // the job's latest event that it knows
	Version int // of what makes rows
	Body    json.RawMessage
	Stage   journey.Stage
	Rank    int // within a place, the lowest first
	Place   string
	Opened  *time.Time // since when the machine is open
	Signed  *time.Time
	Stops   []journey.TicketStop `gorm:"serializer:json"` // where somebody without a ticket stops
	Whose   []string             `gorm:"-"`
	Mended  []string             `gorm:"-"` // faults of the complaint that were proven mended
	Did     []string             `gorm:"-"` // what was done, in lines
}

// Today is one page of a list of jobs.
type Today struct {
	Rows  []Shown
	Jobs  int   // in the whole list
	Open  int   // machines that are open, of those
	After Place // where the page after this one begins; the zero value where there is none
}

// Shown is a row on a page, without what is only looked for.
type Shown struct {
	TodayRow
	LastNum int // the job's latest event
	Mine    bool
	MadeAt  time.Time
}

// Place is a place in a list, as its order has it.
type Place struct {
	Mine  bool       `json:"m,omitempty"`
	Group string     `json:"g,omitempty"` // what the company's jobs are grouped by
	Rank  int        `json:"r,omitempty"`
	Time  *time.Time `json:"t,omitempty"`
	Place string     `json:"p,omitempty"`
	Job   string     `json:"j"`
}

// Now lists the jobs that are not signed off: those of the person first, the
// machines they left open at the top; then the company's, by place. Both come in
// the order of an index, from where the page begins.
func (s *Store) Now(ctx context.Context, person string, after Place, most int) (Today, error) {
	first := Place{Rank: -99, Time: new(time.Time)}
	mine, others := after, after
	switch {
	case after.Job == "":
		mine, others = first, first
	case after.Mine:
		others = first
	}
	return s.page(ctx, `with mine as (select job_id, true as mine, '' as "group", rank, coalesce(opened, timestamptz '9999-01-01 00:00:00+00') as at, place
			from today_rows where stage <> 'signed' and whose @> to_jsonb(cast(@person as text)) and @withmine
				and (rank, coalesce(opened, timestamptz '9999-01-01 00:00:00+00'), place, job_id) > (@minerank, @minetime, @mineplace, @minejob)
			order by rank, at, place, job_id limit @most),
		others as (select job_id, false as mine, place as "group", rank, coalesce(opened, timestamptz '9999-01-01 00:00:00+00') as at, place
			from today_rows where stage <> 'signed' and not whose @> to_jsonb(cast(@person as text))
				and (place, rank, coalesce(opened, timestamptz '9999-01-01 00:00:00+00'), job_id) > (@place, @rank, @time, @job)
			order by place, rank, at, job_id limit @most),
		page as (select * from mine union all select * from others order by mine desc, "group", rank, at, place, job_id limit @most),
		counts as (select count(*) as jobs, count(*) filter (where stage = 'open') as open from today_rows where stage <> 'signed')
		select page.*, r.body, r.version, r.num, r.made_at, r.opened, r.stops, j.last_num, counts.jobs, counts.open
		from counts left join page on true left join today_rows r using (job_id) left join jobs j on j.id = job_id
		order by mine desc, "group", rank, at, page.place, job_id`,
		most, sql.Named("person", person), sql.Named("withmine", after.Job == "" || after.Mine), sql.Named("minerank", mine.Rank), sql.Named("minetime", mine.Time), sql.Named("mineplace", mine.Place),
		sql.Named("minejob", mine.Job), sql.Named("place", others.Place), sql.Named("rank", others.Rank), sql.Named("time", others.Time), sql.Named("job", others.Job))
}

// Earlier lists the jobs that are signed off, the latest first.
func (s *Store) Earlier(ctx context.Context, person string, after Place, most int) (Today, error) {
	return s.page(ctx, `with page as (select job_id, stage, whose @> to_jsonb(cast(@person as text)) as mine, '' as "group", 0 as rank, signed as at, '' as place
			from today_rows where stage = 'signed' and (@first or (signed, job_id) < (@time, @job)) order by signed desc, job_id desc limit @most)
		select page.*, r.body, r.version, r.num, r.made_at, r.opened, r.stops, j.last_num, 0 as jobs, 0 as open
		from (select 1) one left join page on true left join today_rows r using (job_id) left join jobs j on j.id = job_id
		order by at desc, job_id desc`,
		most, sql.Named("person", person), sql.Named("first", after.Job == ""), sql.Named("time", after.Time), sql.Named("job", after.Job))
}

func (s *Store) page(ctx context.Context, query string, most int, args ...any) (Today, error) {
	type line struct {
		Shown
		Group string
		At    *time.Time
		Jobs  int
		Open  int
	}
	var lines []line
	err := s.db.WithContext(ctx).Raw(query, append(args, sql.Named("most", most+1))...).Scan(&lines).Error
	if err != nil || len(lines) == 0 {
		return Today{}, fmt.Errorf("reading what Today shows: %w", err)
	}
	out := Today{Jobs: lines[0].Jobs, Open: lines[0].Open}
	for i, l := range lines {
		switch {
		case l.JobID == "": // an empty page has one line, for the counts
		case i < most:
			out.Rows = append(out.Rows, l.Shown)
		default:
			last := lines[most-1]
			out.After = Place{last.Mine, last.Group, last.Rank, last.At, last.Place, last.JobID}
		}
	}
	return out, nil
}

// PutTodayRow keeps a row, unless one that knows more is there. It does not wait
// for the disk: what a crash takes is stale, and made again.
func (s *Store) PutTodayRow(ctx context.Context, r TodayRow) error {
	lists := make([]string, 4)
	for i, list := range []any{append([]string{}, r.Whose...), append([]string{}, r.Mended...), append([]string{}, r.Did...), append([]journey.TicketStop{}, r.Stops...)} {
		text, err := json.Marshal(list)
		if err != nil {
			return fmt.Errorf("keeping what Today shows of %q: %w", r.JobID, err)
		}
		lists[i] = string(text)
	}
	err := s.db.WithContext(ctx).Exec(`with quick as materialized (select set_config('synchronous_commit', 'off', true)),
			seen as (update jobs set shown = @num where id = @job and shown < @num)
		insert into today_rows (job_id, num, version, body, stage, rank, place, opened, signed, whose, mended, did, stops, made_at)
		select @job, @num, @version, @body, @stage, @rank, @place, @opened, @signed, @whose, @mended, @did, @stops, now() from quick
		on conflict (job_id) do update set num = excluded.num, version = excluded.version, body = excluded.body, stage = excluded.stage, rank = excluded.rank, place = excluded.place,
			opened = excluded.opened, signed = excluded.signed, whose = excluded.whose, mended = excluded.mended, did = excluded.did, stops = excluded.stops, made_at = excluded.made_at
		where today_rows.num <= excluded.num or today_rows.version <> excluded.version`,
		sql.Named("job", r.JobID), sql.Named("num", r.Num), sql.Named("version", r.Version), sql.Named("body", string(r.Body)), sql.Named("stage", r.Stage), sql.Named("rank", r.Rank),
		sql.Named("place", r.Place), sql.Named("opened", r.Opened), sql.Named("signed", r.Signed), sql.Named("whose", lists[0]), sql.Named("mended", lists[1]), sql.Named("did", lists[2]), sql.Named("stops", lists[3])).Error
	if err != nil {
		return fmt.Errorf("keeping what Today shows of %q: %w", r.JobID, err)
	}
	return nil
}

// StaleJobs are jobs whose facts are newer than what Today shows of them, those
// first whose row is the oldest.
func (s *Store) StaleJobs(ctx context.Context, most int) ([]Job, error) {
	var out []Job
	if err := s.db.WithContext(ctx).Joins("Appliance").Joins("Appliance.Site").Joins("left join today_rows r on r.job_id = jobs.id").
		Where("shown < last_num").Order("r.made_at, jobs.id").Limit(most).Find(&out).Error; err != nil {
		return nil, fmt.Errorf("looking for what Today does not show yet: %w", err)
	}
	return out, nil
}

// OutdateRows marks the rows of another version as stale, so that they are made
// again. It returns how many there were.
func (s *Store) OutdateRows(ctx context.Context, version int) (int, error) {
	done := s.db.WithContext(ctx).Exec("update jobs set shown = -1 from today_rows r where r.job_id = jobs.id and r.version <> ? and shown >= 0", version)
	if done.Error != nil {
		return 0, fmt.Errorf("looking for old rows: %w", done.Error)
	}
	return int(done.RowsAffected), nil
}

// DropTodayRows forgets all rows; they are made again.
func (s *Store) DropTodayRows(ctx context.Context) error {
	err := s.db.WithContext(ctx).Exec("delete from today_rows").Error
	if err != nil {
		return fmt.Errorf("dropping what Today shows: %w", err)
	}
	return nil
}
