package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"evensteps/core/company"
)

// Site is a place where the company looks after machines.
type Site struct {
	ID      string `gorm:"primaryKey"`
	Name    string
	Island  string
	Ferry   string // the boat that goes there
	Address string
	Contact string
	Phone   string
	Access  string // how to get in
	Changed `gorm:"embedded"`
}

// Company is the site as supervisors and CSV have it.
func (v *Site) Company() company.Site {
	return company.Site{ID: v.ID, Name: v.Name, Address: v.Address, Island: v.Island, Ferry: v.Ferry, Contact: v.Contact, Phone: v.Phone, Access: v.Access}
}

func (v *Site) become(said company.Site, by string, now time.Time) {
	*v = Site{said.ID, said.Name, said.Island, said.Ferry, said.Address, said.Contact, said.Phone, said.Access, v.next(by, now)}
}

// Appliance is one machine at a site.
type Appliance struct {
	ID         string `gorm:"primaryKey"`
	SiteID     string
	Site       Site
	Name       string
	Model      string
	Serial     string
	MapID      string            // the map to use; empty: the one that covers the model
	Stands     string            // where it stands
	Options    map[string]string `gorm:"serializer:json"`
	MergedInto *string           // the same machine, kept under another id
	Changed    `gorm:"embedded"`
}

// Company is the machine as supervisors and CSV have it.
func (v *Appliance) Company() company.Machine {
	return company.Machine{ID: v.ID, Site: v.SiteID, Name: v.Name, Model: v.Model, Serial: v.Serial, Map: v.MapID, Stands: v.Stands, Options: v.Options}
}

func (v *Appliance) become(said company.Machine, by string, now time.Time) {
	*v = Appliance{ID: said.ID, SiteID: said.Site, Name: said.Name, Model: said.Model, Serial: said.Serial, MapID: said.Map, Stands: said.Stands, Options: said.Options, MergedInto: v.MergedInto, Changed: v.next(by, now)}
	if v.Options == nil {
		v.Options = map[string]string{}
	}
}

// SaveSite adds a site, where nobody saw a version of it, or changes it.
func (s *Store) SaveSite(ctx context.Context, said company.Site, seen Seen) error {
	return save(ctx, s, "the site", said.ID, seen, func(v *Site, now time.Time) { v.become(said, seen.By, now) }, func(v *Site) Changed { return v.Changed },
		func(tx *gorm.DB) error { return outdateOf(tx, "site_id = ?", said.ID) })
}

// SaveMachine adds a machine, where nobody saw a version of it, or changes it. Its
// site must be there.
func (s *Store) SaveMachine(ctx context.Context, said company.Machine, seen Seen) error {
	return save(ctx, s, "the machine", said.ID, seen, func(v *Appliance, now time.Time) { v.become(said, seen.By, now) }, func(v *Appliance) Changed { return v.Changed },
		func(tx *gorm.DB) error { return outdateOf(tx, "id = ?", said.ID) })
}

// ErrTaken says that an id is another's already.
var ErrTaken = errors.New("taken already")

// save adds a row that nobody saw yet, or changes the one that was seen, and does
// what follows from it.
func save[R any](ctx context.Context, s *Store, what, id string, seen Seen, become func(*R, time.Time), changed func(*R) Changed, after func(*gorm.DB) error) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var row R
		now := time.Now().Truncate(time.Microsecond) // as the database keeps it
		if seen.Version == 0 {
			become(&row, now)
			added := tx.Omit(clause.Associations).Clauses(clause.OnConflict{DoNothing: true}).Create(&row)
			if added.Error == nil && added.RowsAffected == 0 {
				return ErrTaken
			}
			return added.Error
		}
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Take(&row, "id = ?", id).Error; err != nil {
			return missing(err, what, id)
		}
		if err := seen.is(changed(&row)); err != nil {
			return err
		}
		become(&row, now)
		if err := tx.Omit(clause.Associations).Select("*").Updates(&row).Error; err != nil {
			return err
		}
		return after(tx)
	})
	if err != nil {
		return fmt.Errorf("keeping %s %q: %w", what, id, err)
	}
	return nil
}

// outdateOf marks what Today shows of the jobs on some machines as stale: they are
// called otherwise.
func outdateOf(tx *gorm.DB, which string, args ...any) error {
	return tx.Exec("update jobs set shown = -1 where appliance_id in (select id from appliances where "+which+")", args...).Error
}

// ImportSites keeps what is made of the sites that are there, while nobody else
// changes any.
func (s *Store) ImportSites(ctx context.Context, by string, of func([]company.Site) []company.Site) error {
	err := s.locked(ctx, "sites", func(tx *gorm.DB) error {
		var all []Site
		if err := tx.Order("island, name, id").Find(&all).Error; err != nil {
			return err
		}
		at, err := imported(tx, all, (*Site).Company, func(v *Site) string { return v.ID }, of, func(c company.Site) string { return c.ID },
			func(v *Site, said company.Site, now time.Time) { v.become(said, by, now) }, "name", "island", "ferry", "address", "contact", "phone", "access")
		if err != nil {
			return err
		}
		return outdateOf(tx, "site_id in (select id from sites where changed_at = ?)", at)
	})
	if err != nil {
		return fmt.Errorf("keeping the sites of a file: %w", err)
	}
	return nil
}

// ImportMachines keeps what is made of the machines that are there, while nobody
// else changes any.
func (s *Store) ImportMachines(ctx context.Context, by string, of func([]company.Machine) []company.Machine) error {
	err := s.locked(ctx, "appliances", func(tx *gorm.DB) error {
		var all []Appliance
		if err := tx.Where("merged_into is null").Order("site_id, name, id").Find(&all).Error; err != nil {
			return err
		}
		at, err := imported(tx, all, (*Appliance).Company, func(v *Appliance) string { return v.ID }, of, func(c company.Machine) string { return c.ID },
			func(v *Appliance, said company.Machine, now time.Time) { v.become(said, by, now) }, "site_id", "name", "model", "serial", "map_id", "stands", "options")
		if err != nil {
			return err
		}
		return outdateOf(tx, "changed_at = ?", at)
	})
	if err != nil {
		return fmt.Errorf("keeping the machines of a file: %w", err)
	}
	return nil
}

// imported keeps the rows that are made of those that are there, and returns the
// moment that they bear.
func imported[R, C any](tx *gorm.DB, all []R, out func(*R) C, id func(*R) string, of func([]C) []C, cid func(C) string, become func(*R, C, time.Time), columns ...string) (time.Time, error) {
	there, now := map[string]*R{}, time.Now().Truncate(time.Microsecond) // as the database keeps it
	list := make([]C, 0, len(all))
	for i := range all {
		list = append(list, out(&all[i]))
		there[id(&all[i])] = &all[i]
	}
	rows := of(list)
	if len(rows) == 0 {
		return now, nil
	}
	kept := make([]R, 0, len(rows))
	for _, said := range rows {
		row := there[cid(said)]
		if row == nil {
			row = new(R)
		}
		become(row, said, now)
		kept = append(kept, *row)
	}
	return now, keepRows(tx, kept, columns...)
}

// Appliances lists all appliances with their sites, those that were merged into
// another left out.
func (s *Store) Appliances(ctx context.Context) ([]Appliance, error) {
	var out []Appliance
	if err := s.db.WithContext(ctx).Preload("Site").Where("merged_into is null").Order("site_id, name, id").Find(&out).Error; err != nil {
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

// Appliance returns one appliance with its site; where it was merged into another,
// that one.
func (s *Store) Appliance(ctx context.Context, id string) (Appliance, error) {
	var a Appliance
	if err := s.db.WithContext(ctx).Preload("Site").Take(&a, "id = (select coalesce(merged_into, id) from appliances where id = ?)", id).Error; err != nil {
		return a, missing(err, "the appliance", id)
	}
	return a, nil
}

// Merge is one machine that was found to be another, with the jobs that went over.
type Merge struct {
	ApplianceID string `gorm:"primaryKey"` // what was merged
	Into        string
	Jobs        []string `gorm:"serializer:json"`
	By          string
	At          time.Time
}

// ErrItself says that a machine cannot be merged: into itself, or one that was
// merged already.
var ErrItself = errors.New("a machine cannot be merged into itself")

// MergeMachine says that a machine is the same as another: its jobs go over to that
// one, and it is listed no more.
func (s *Store) MergeMachine(ctx context.Context, id, into, by string) error {
	err := s.locked(ctx, "appliances", func(tx *gorm.DB) error {
		var from, to Appliance
		if err := tx.Take(&from, "id = ?", id).Error; err != nil {
			return missing(err, "the machine", id)
		}
		if err := tx.Take(&to, "id = ?", into).Error; err != nil {
			return missing(err, "the machine", into)
		}
		if from.ID == to.ID || from.MergedInto != nil || to.MergedInto != nil {
			return ErrItself
		}
		m := Merge{ApplianceID: id, Into: into, Jobs: []string{}, By: by, At: time.Now()}
		if err := tx.Raw("update jobs set appliance_id = ?, shown = -1 where appliance_id = ? returning id", into, id).Scan(&m.Jobs).Error; err != nil {
			return err
		}
		if m.Jobs == nil {
			m.Jobs = []string{}
		}
		if err := tx.Create(&m).Error; err != nil {
			return err
		}
		return tx.Exec("update appliances set merged_into = ? where id = ? or merged_into = ?", into, id, id).Error
	})
	if err != nil {
		return fmt.Errorf("merging the machine %q: %w", id, err)
	}
	return nil
}

// PartMachine takes a merging back: the jobs that went over go back.
func (s *Store) PartMachine(ctx context.Context, id string) error {
	err := s.locked(ctx, "appliances", func(tx *gorm.DB) error {
		var m Merge
		if err := tx.Take(&m, "appliance_id = ?", id).Error; err != nil {
			return missing(err, "the merging of", id)
		}
		if len(m.Jobs) > 0 {
			if err := tx.Exec("update jobs set appliance_id = ?, shown = -1 where id in ?", id, m.Jobs).Error; err != nil {
				return err
			}
		}
		if err := tx.Exec("update appliances set merged_into = null where id = ?", id).Error; err != nil {
			return err
		}
		return tx.Delete(&m).Error
	})
	if err != nil {
		return fmt.Errorf("parting the machine %q: %w", id, err)
	}
	return nil
}

// MergedInto are the machines that were merged into one.
func (s *Store) MergedInto(ctx context.Context, id string) ([]Appliance, error) {
	var out []Appliance
	if err := s.db.WithContext(ctx).Preload("Site").Where("merged_into = ?", id).Order("id").Find(&out).Error; err != nil {
		return nil, fmt.Errorf("looking for what was merged into %q: %w", id, err)
	}
	return out, nil
}

// Merged are the machines that were merged, each with the id of the one that it is.
func (s *Store) Merged(ctx context.Context) (map[string]string, error) {
	var rows []Appliance
	if err := s.db.WithContext(ctx).Select("id", "merged_into").Where("merged_into is not null").Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("looking for what was merged: %w", err)
	}
	out := map[string]string{}
	for _, r := range rows {
		out[r.ID] = *r.MergedInto
	}
	return out, nil
}
