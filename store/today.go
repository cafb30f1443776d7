package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"gorm.io/gorm/clause"
)

// TodayRow is what Today shows of a job, as the server made it. It is derived:
// dropping it loses nothing.
type TodayRow struct {
	JobID   string `gorm:"primaryKey"`
	Num     int    // the job's latest event that it knows
	Version int    // of what makes rows
	Body    json.RawMessage
	MadeAt  time.Time
}

// TodayRows returns the rows of all jobs, by job, also stale ones.
func (s *Store) TodayRows(ctx context.Context) (map[string]TodayRow, error) {
	var rows []TodayRow
	if err := s.db.WithContext(ctx).Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading what Today shows: %w", err)
	}
	out := make(map[string]TodayRow, len(rows))
	for _, r := range rows {
		out[r.JobID] = r
	}
	return out, nil
}

// PutTodayRow keeps a row, unless one that knows more is there.
func (s *Store) PutTodayRow(ctx context.Context, r TodayRow) error {
	r.MadeAt = time.Now()
	err := s.db.WithContext(ctx).Clauses(clause.OnConflict{
		Columns:   []clause.Column{{Name: "job_id"}},
		DoUpdates: clause.AssignmentColumns([]string{"num", "version", "body", "made_at"}),
		Where:     clause.Where{Exprs: []clause.Expression{clause.Expr{SQL: "today_rows.num <= excluded.num or today_rows.version <> excluded.version"}}},
	}).Create(&r).Error
	if err != nil {
		return fmt.Errorf("keeping what Today shows of %q: %w", r.JobID, err)
	}
	return nil
}

// DropTodayRows forgets all rows; they are made again.
func (s *Store) DropTodayRows(ctx context.Context) error {
	if err := s.db.WithContext(ctx).Exec("delete from today_rows").Error; err != nil {
		return fmt.Errorf("dropping what Today shows: %w", err)
	}
	return nil
}
