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

// Appliances lists all appliances with their sites.
func (s *Store) Appliances(ctx context.Context) ([]Appliance, error) {
	var out []Appliance
	if err := s.db.WithContext(ctx).Preload("Site").Order("site_id, name, id").Find(&out).Error; err != nil {
		return nil, fmt.Errorf("listing appliances: %w", err)
	}
	return out, nil
}

// Sites lists all sites.
func (s *Store) Sites(ctx context.Context) ([]Site, error) {
	var out []Site
	if err := s.db.WithContext(ctx).Order("island, name, id").Find(&out).Error; err != nil {
		return nil, fmt.Errorf("listing sites: %w", err)
	}
	return out, nil
}

// Appliance returns one appliance with its site.
func (s *Store) Appliance(ctx context.Context, id string) (Appliance, error) {
	var a Appliance
	if err := s.db.WithContext(ctx).Preload("Site").Take(&a, "id = ?", id).Error; err != nil {
		return a, missing(err, "the appliance", id)
	}
	return a, nil
}
