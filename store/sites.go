package store

import (
	"context"
	"fmt"

	"gorm.io/gorm/clause"
)

// Site is a place where the company looks after machines.
type Site struct {
	ID     string `gorm:"primaryKey"`
	Name   string
	Island string
	Ferry  string // the boat that goes there
}

// Appliance is one machine at a site.
type Appliance struct {
	ID     string `gorm:"primaryKey"`
	SiteID string
	Site   Site
	Name   string
	Model  string
	Serial string
}

// PutSite adds a site or changes it.
func (s *Store) PutSite(ctx context.Context, v Site) error {
	if err := s.db.WithContext(ctx).Clauses(clause.OnConflict{UpdateAll: true}).Create(&v).Error; err != nil {
		return fmt.Errorf("keeping the site %q: %w", v.ID, err)
	}
	return nil
}

// PutAppliance adds an appliance or changes it. Its site must be there.
func (s *Store) PutAppliance(ctx context.Context, v Appliance) error {
	if err := s.db.WithContext(ctx).Omit("Site").Clauses(clause.OnConflict{UpdateAll: true}).Create(&v).Error; err != nil {
		return fmt.Errorf("keeping the appliance %q: %w", v.ID, err)
	}
	return nil
}
