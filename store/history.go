package store

import (
	"context"
	"fmt"
	"time"
)

// Past is what was done on an earlier job, in lines.
type Past struct {
	CreatedAt time.Time
	Did       []string `gorm:"serializer:json"`
}

// Before is what was done earlier on a job's machine, by its latest jobs.
func (s *Store) Before(ctx context.Context, j Job, most int) ([]Past, error) {
	var out []Past
	err := s.db.WithContext(ctx).Table("today_rows").Select("jobs.created_at, today_rows.did").Joins("join jobs on jobs.id = today_rows.job_id").
		Where("jobs.appliance_id = ? and jobs.id <> ? and did <> '[]'", j.ApplianceID, j.ID).Order("jobs.created_at desc, jobs.id").Limit(most).Find(&out).Error
	if err != nil {
		return nil, fmt.Errorf("looking for earlier jobs: %w", err)
	}
	return out, nil
}

// mostPast is how many jobs of a complaint weigh in, the latest.
const mostPast = 500

// Mended counts the faults that were proven mended on the latest jobs of the same
// complaint on machines of the same map.
func (s *Store) Mended(ctx context.Context, j Job) (map[string]int, error) {
	var counts []struct {
		Fault string
		N     int
	}
	err := s.db.WithContext(ctx).Raw(`select fault, count(*) as n from (
			select r.mended from jobs left join today_rows r on r.job_id = jobs.id
			where map_id = ? and complaint = ? and jobs.id <> ? order by created_at desc limit ?) latest,
		jsonb_array_elements_text(mended) fault group by fault`, j.MapID, j.Complaint, j.ID, mostPast).Scan(&counts).Error
	if err != nil {
		return nil, fmt.Errorf("looking for what was mended: %w", err)
	}
	out := map[string]int{}
	for _, c := range counts {
		out[c.Fault] = c.N
	}
	return out, nil
}
