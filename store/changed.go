package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Changed is who changed a row last, and how often it was changed.
type Changed struct {
	Version   int
	ChangedBy *string
	ChangedAt *time.Time
}

// next is the row after one more change.
func (c Changed) next(by string, now time.Time) Changed { return Changed{c.Version + 1, &by, &now} }

// Seen is which version of a row somebody saw who changes it.
type Seen struct {
	Version int
	By      string
}

// ErrChanged says that a row was changed since it was seen.
var ErrChanged = errors.New("changed meanwhile")

// ChangedError is ErrChanged with who did it.
type ChangedError struct{ Last Changed }

func (e *ChangedError) Error() string {
	return fmt.Sprintf("%s: it is version %d", ErrChanged, e.Last.Version)
}

// Unwrap makes it ErrChanged.
func (e *ChangedError) Unwrap() error { return ErrChanged }

func (s Seen) is(now Changed) error {
	if s.Version != now.Version {
		return &ChangedError{now}
	}
	return nil
}

// locked does what hangs on all rows of a table while nobody else changes any.
func (s *Store) locked(ctx context.Context, table string, do func(*gorm.DB) error) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("lock table " + table + " in share row exclusive mode").Error; err != nil {
			return err
		}
		return do(tx)
	})
}

// keepRows adds rows, or changes those columns of the ones that are there.
func keepRows[R any](tx *gorm.DB, rows []R, columns ...string) error {
	columns = append(columns, "version", "changed_by", "changed_at")
	return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "id"}}, DoUpdates: clause.AssignmentColumns(columns)}).Omit(clause.Associations).CreateInBatches(&rows, 500).Error
}
