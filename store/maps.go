package store

import (
	"context"
	"encoding/json"
	"fmt"

	"gorm.io/gorm/clause"

	"evensteps/core/machine"
)

// MapRevision is one revision of a machine map, as checked JSON.
type MapRevision struct {
	ID       string `gorm:"primaryKey"`
	Revision int    `gorm:"primaryKey"`
	Title    string
	Body     *machine.Map `gorm:"serializer:json"`
}

// PutMap keeps a revision. One that is there already stays as it is: jobs are
// pinned to it.
func (s *Store) PutMap(ctx context.Context, m *machine.Map) error {
	row := MapRevision{m.ID, m.Revision, m.Title, m}
	if err := s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&row).Error; err != nil {
		return fmt.Errorf("keeping revision %d of the map %q: %w", m.Revision, m.ID, err)
	}
	return nil
}

// PutMaps keeps the maps that ship with the program, each where its revision is not
// there yet. It returns those that are kept already and say something else.
func (s *Store) PutMaps(ctx context.Context, maps []*machine.Map) (others []string, err error) {
	for _, m := range maps {
		if err := s.PutMap(ctx, m); err != nil {
			return nil, err
		}
		same, err := s.SameMap(ctx, m)
		if err != nil {
			return nil, err
		}
		if !same {
			others = append(others, fmt.Sprintf("%s, revision %d", m.ID, m.Revision))
		}
	}
	return others, nil
}

// Map returns one revision.
func (s *Store) Map(ctx context.Context, id string, revision int) (*machine.Map, error) {
	var row MapRevision
	if err := s.db.WithContext(ctx).Take(&row, "id = ? and revision = ?", id, revision).Error; err != nil {
		return nil, missing(err, "the map", fmt.Sprintf("%s, revision %d", id, revision))
	}
	return row.Body, nil
}

// SameMap tells whether a revision that is kept says the same as this one.
func (s *Store) SameMap(ctx context.Context, m *machine.Map) (bool, error) {
	kept, err := s.Map(ctx, m.ID, m.Revision)
	if err != nil {
		return false, err
	}
	a, err := json.Marshal(kept)
	if err != nil {
		return false, fmt.Errorf("comparing the map %q: %w", m.ID, err)
	}
	b, err := json.Marshal(m)
	if err != nil {
		return false, fmt.Errorf("comparing the map %q: %w", m.ID, err)
	}
	return string(a) == string(b), nil
}

// Maps returns the newest revision of every map.
func (s *Store) Maps(ctx context.Context) ([]*machine.Map, error) {
	var rows []MapRevision
	if err := s.db.WithContext(ctx).Raw("select distinct on (id) * from map_revisions order by id, revision desc").Scan(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading the maps: %w", err)
	}
	out := make([]*machine.Map, 0, len(rows))
	for _, r := range rows {
		out = append(out, r.Body)
	}
	return out, nil
}
