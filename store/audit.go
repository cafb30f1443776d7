package store

import (
	"context"
	"fmt"
	"time"
)

// Audit is one line of what was done with accounts, rights and lists, or tried.
type Audit struct {
	ID      int64     `json:"id"`
	At      time.Time `json:"at" gorm:"default:now()"`
	By      string    `json:"by" doc:"A person's id, or the name that was tried"`
	What    string    `json:"what"`
	Whom    string    `json:"whom" doc:"A person's id, or what it was done with"`
	Address string    `json:"address" doc:"Where it came from"`
}

// TableName of the audit list.
func (Audit) TableName() string { return "audit" }

// Note adds a line to the audit list.
func (s *Store) Note(ctx context.Context, a Audit) error {
	if err := s.db.WithContext(ctx).Omit("ID", "At").Create(&a).Error; err != nil {
		return fmt.Errorf("keeping a line of the audit list: %w", err)
	}
	return nil
}

// AuditBefore are the lines before one, the latest first; 0 is the end.
func (s *Store) AuditBefore(ctx context.Context, id int64, most int) ([]Audit, error) {
	out := []Audit{}
	q := s.db.WithContext(ctx).Order("id desc").Limit(most)
	if id > 0 {
		q = q.Where("id < ?", id)
	}
	if err := q.Find(&out).Error; err != nil {
		return nil, fmt.Errorf("reading the audit list: %w", err)
	}
	return out, nil
}
