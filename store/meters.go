package store

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"time"

	"gorm.io/gorm"

	"evensteps/core/company"
	"evensteps/core/scene"
)

// Meter is one of the company's meters, with its accuracy for each quantity.
type Meter struct {
	ID       string `gorm:"primaryKey"`
	Name     string
	Accuracy map[string]string `gorm:"serializer:json"`
	Category string            // what stands on it: "CAT III 600 V"
	// Calibrated and Due are when it was calibrated, and until when that is good.
	Calibrated, Due company.Time
	// ValidFrom and ValidUntil are when it was so; Was is how it was before.
	ValidFrom, ValidUntil *time.Time
	Was                   []scene.Meter `gorm:"serializer:json"`
	Changed               `gorm:"embedded"`
}

// Company is the meter as supervisors and CSV have it.
func (m *Meter) Company() company.Meter {
	return company.Meter{ID: m.ID, Name: m.Name, Category: m.Category, Accuracy: m.Accuracy, Calibrated: m.Calibrated, Due: m.Due}
}

// Judged is the meter as readings are judged by it.
func (m *Meter) Judged(zone *time.Location) scene.Meter {
	out := scene.Meter{Name: m.Name, Accuracy: m.Accuracy, Category: m.Category, From: m.ValidFrom, Until: m.ValidUntil, Was: m.Was}
	if m.Due != "" {
		due := m.Due.End(zone)
		out.Due = &due
	}
	return out
}

// become is the meter as it was said. How it was before is kept where readings hang
// on it: accuracy, category and calibration.
func (m *Meter) become(said company.Meter, by string, now time.Time, zone *time.Location) {
	before := m.Judged(zone)
	if m.Version > 0 && (!maps.Equal(m.Accuracy, said.Accuracy) || m.Category != said.Category || m.Due != said.Due) {
		before.Until, before.Was = &now, nil
		m.Was, m.ValidFrom = append([]scene.Meter{before}, m.Was...), &now
	}
	m.ID, m.Name, m.Accuracy, m.Category, m.Calibrated, m.Due = said.ID, said.Name, said.Accuracy, said.Category, said.Calibrated, said.Due
	m.Changed = m.next(by, now)
	m.whole()
}

func (m *Meter) whole() {
	if m.Accuracy == nil {
		m.Accuracy = map[string]string{}
	}
	m.Was = slices.Clone(m.Was)
	if m.Was == nil {
		m.Was = []scene.Meter{}
	}
}

// SaveMeter adds a meter, where nobody saw a version of it, or changes it.
func (s *Store) SaveMeter(ctx context.Context, said company.Meter, seen Seen, zone *time.Location) error {
	return save(ctx, s, "the meter", said.ID, seen, func(m *Meter, now time.Time) { m.become(said, seen.By, now, zone) }, func(m *Meter) Changed { return m.Changed },
		func(*gorm.DB) error { return nil })
}

// ImportMeters keeps what is made of the meters that are there, while nobody else
// changes any.
func (s *Store) ImportMeters(ctx context.Context, by string, zone *time.Location, of func([]company.Meter) []company.Meter) error {
	err := s.locked(ctx, "meters", func(tx *gorm.DB) error {
		var all []Meter
		if err := tx.Order("id").Find(&all).Error; err != nil {
			return err
		}
		_, err := imported(tx, all, (*Meter).Company, func(m *Meter) string { return m.ID }, of, func(c company.Meter) string { return c.ID },
			func(m *Meter, said company.Meter, now time.Time) { m.become(said, by, now, zone) }, "name", "accuracy", "category", "calibrated", "due", "valid_from", "was")
		return err
	})
	if err != nil {
		return fmt.Errorf("keeping the meters of a file: %w", err)
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
