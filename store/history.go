package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"
)

// Past is an earlier job with what Today shows of it.
type Past struct {
	JobID       string
	ApplianceID string
	MapID       string
	Complaint   string
	CreatedAt   time.Time
	Body        json.RawMessage
}

// Past lists the jobs beside one that have to do with it: those on the same
// appliance, and those of the same complaint on machines of the same map. The
// newest come first; no more than the latest five hundred.
func (s *Store) Past(ctx context.Context, j Job) ([]Past, error) {
	var out []Past
	err := s.db.WithContext(ctx).Table("today_rows").Select("today_rows.job_id, jobs.appliance_id, jobs.map_id, jobs.complaint, jobs.created_at, today_rows.body").
		Joins("join jobs on jobs.id = today_rows.job_id").
		Where("jobs.id <> ? and (jobs.appliance_id = ? or jobs.map_id = ? and jobs.complaint = ?)", j.ID, j.ApplianceID, j.MapID, j.Complaint).
		Order("jobs.created_at desc, jobs.id").Limit(500).Scan(&out).Error
	if err != nil {
		return nil, fmt.Errorf("looking for earlier jobs: %w", err)
	}
	return out, nil
}
