package store

import (
	"context"
	"encoding/json"
	"errors"
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

// NewJob makes a job of a call and gives it its number, unless a device has begun it
// under an id of its own. A call that comes again makes no second one: it returns the
// job it made. ErrTaken: the id is another call's.
func (s *Store) NewJob(ctx context.Context, j Job) (Job, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if j.ID == "" {
			var n int
			if err := tx.Raw("select nextval('job_numbers')").Scan(&n).Error; err != nil {
				return err
			}
			j.ID = fmt.Sprintf("j-%d", n)
		}
		return tx.Omit("Appliance").Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "call"}}, DoNothing: true}).Create(&j).Error
	})
	if errors.Is(err, gorm.ErrDuplicatedKey) { // the same call at the same moment, or an id of another
		var kept Job
		if s.db.WithContext(ctx).Preload("Appliance.Site").Take(&kept, "call = ?", j.Call).Error == nil {
			return kept, nil
		}
		return j, ErrTaken
	}
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

// OnMachine is a job with what Today shows of it.
type OnMachine struct {
	Job Job
	TodayRow
}

// JobsOn lists the jobs on a machine, the latest first.
func (s *Store) JobsOn(ctx context.Context, appliance string, most int) ([]OnMachine, error) {
	var lines []struct {
		Job  Job      `gorm:"embedded;embeddedPrefix:job_"`
		Row  TodayRow `gorm:"embedded;embeddedPrefix:row_"`
		Who  string
		Done string
	}
	err := s.db.WithContext(ctx).Raw(`select j.id as job_id, j.appliance_id as job_appliance_id, j.complaint as job_complaint, j.words as job_words, j.map_id as job_map_id,
			j.map_revision as job_map_revision, j.last_num as job_last_num, j.created_at as job_created_at,
			r.job_id as row_job_id, r.num as row_num, r.version as row_version, r.body as row_body, r.stage as row_stage, r.whose::text as who, r.did::text as done
		from jobs j join today_rows r on r.job_id = j.id where j.appliance_id = ? order by j.created_at desc, j.id desc limit ?`, appliance, most).Scan(&lines).Error
	if err != nil {
		return nil, fmt.Errorf("looking for the jobs on %q: %w", appliance, err)
	}
	out := make([]OnMachine, 0, len(lines))
	for _, l := range lines {
		if err := errors.Join(json.Unmarshal([]byte(l.Who), &l.Row.Whose), json.Unmarshal([]byte(l.Done), &l.Row.Did)); err != nil {
			return nil, fmt.Errorf("reading what Today shows of %q: %w", l.Job.ID, err)
		}
		out = append(out, OnMachine{l.Job, l.Row})
	}
	return out, nil
}
