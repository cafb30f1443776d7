package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm/clause"

	"evensteps/core/ladder"
)

// Meter is one of the company's meters, with its accuracy for each quantity.
type Meter struct {
	ID       string `gorm:"primaryKey"`
	Name     string
	Accuracy map[string]string `gorm:"serializer:json"`
	Category string            // what stands on it: "CAT III 600 V"
	// ValidFrom and ValidUntil are when it was so; Was is how it was before.
	ValidFrom, ValidUntil *time.Time
	Was                   []ladder.Meter `gorm:"serializer:json"`
}

// PutMeter adds a meter or changes it.
func (s *Store) PutMeter(ctx context.Context, m Meter) error {
	if m.Accuracy == nil {
		m.Accuracy = map[string]string{}
	}
	if m.Was == nil {
		m.Was = []ladder.Meter{}
	}
	if err := s.db.WithContext(ctx).Clauses(clause.OnConflict{UpdateAll: true}).Create(&m).Error; err != nil {
		return fmt.Errorf("keeping the meter %q: %w", m.ID, err)
	}
	return nil
}

// Meters lists all meters.
func (s *Store) Meters(ctx context.Context) ([]Meter, error) {
	var out []Meter
	if err := s.db.WithContext(ctx).Order("id").Find(&out).Error; err != nil {
		return nil, fmt.Errorf("listing meters: %w", err)
	}
	return out, nil
}
