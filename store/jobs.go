package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Job is what is known of a job apart from its facts. LastNum is the number of
// its latest event.
type Job struct {
	ID          string `gorm:"primaryKey"`
	ApplianceID string
	Appliance   Appliance
	Complaint   string
	Words       string
	MapID       string
	MapRevision int
	LastNum     int
	Call        *string // the device's own id of the call that made it
	CreatedAt   time.Time
}

// PutJob adds a job. One that is there already is left as it is.
func (s *Store) PutJob(ctx context.Context, j Job) error {
	if err := s.db.WithContext(ctx).Omit("Appliance").Clauses(clause.OnConflict{DoNothing: true}).Create(&j).Error; err != nil {
		return fmt.Errorf("keeping the job %q: %w", j.ID, err)
	}
	return nil
}

// NewJob makes a job of a call and gives it its number. A call that comes again
// makes no second one: it returns the job it made.
func (s *Store) NewJob(ctx context.Context, j Job) (Job, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var n int
		if err := tx.Raw("select nextval('job_numbers')").Scan(&n).Error; err != nil {
			return err
		}
		j.ID = fmt.Sprintf("j-%d", n)
		return tx.Omit("Appliance").Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "call"}}, DoNothing: true}).Create(&j).Error
	})
	if err != nil {
		return j, fmt.Errorf("keeping the call: %w", err)
	}
	var kept Job
	if err := s.db.WithContext(ctx).Preload("Appliance.Site").Take(&kept, "call = ?", j.Call).Error; err != nil {
		return kept, missing(err, "the job of the call", *j.Call)
	}
	return kept, nil
}

// Job returns one job with its appliance and site.
func (s *Store) Job(ctx context.Context, id string) (Job, error) {
	var j Job
	if err := s.db.WithContext(ctx).Joins("Appliance").Joins("Appliance.Site").Take(&j, "jobs.id = ?", id).Error; err != nil {
		return j, missing(err, "the job", id)
	}
	return j, nil
}
