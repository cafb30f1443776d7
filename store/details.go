package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"evensteps/core/company"
)

// Company is what is known of the company itself.
type Company struct {
	One     bool            `gorm:"primaryKey"`
	Details company.Details `gorm:"serializer:json"`
	Rates   []Rate          `gorm:"serializer:json"` // what an hour cost before, the latest first
	Changed `gorm:"embedded"`
}

// Rate is what an hour of work cost until a moment.
type Rate struct {
	Rate  float64   `json:"rate"`
	Until time.Time `json:"until"`
}

// TableName of the company.
func (Company) TableName() string { return "company" }

// Company returns what is known of the company.
func (s *Store) Company(ctx context.Context) (Company, error) {
	var c Company
	if err := s.db.WithContext(ctx).Take(&c).Error; err != nil {
		return c, missing(err, "the company", "")
	}
	return c, nil
}

// SaveCompany changes it. What an hour cost before stays for the facts of its time.
func (s *Store) SaveCompany(ctx context.Context, d company.Details, seen Seen) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var c Company
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Take(&c).Error; err != nil {
			return err
		}
		if err := seen.is(c.Changed); err != nil {
			return err
		}
		now := time.Now()
		if c.Details.Rate > 0 && c.Details.Rate != d.Rate {
			c.Rates = append([]Rate{{c.Details.Rate, now}}, c.Rates...)
		}
		c.Details, c.Changed = d, c.next(seen.By, now)
		return tx.Select("*").Updates(&c).Error
	})
	if err != nil {
		return fmt.Errorf("keeping the company: %w", err)
	}
	return nil
}
