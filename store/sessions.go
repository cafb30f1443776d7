package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Sessions keeps sign-in sessions. It is a store of scs; the tokens that reach
// it are hashed already.
type Sessions struct{ db *gorm.DB }

// Sessions of this database.
func (s *Store) Sessions() *Sessions { return &Sessions{s.db} }

type sessionRow struct {
	Token  string `gorm:"primaryKey"`
	Data   []byte
	Expiry time.Time
}

func (sessionRow) TableName() string { return "sessions" }

// FindCtx returns a session's data, and whether there is one that has not expired.
func (s *Sessions) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	var row sessionRow
	err := s.db.WithContext(ctx).Take(&row, "token = ? and expiry > now()", token).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, false, nil
	}
	if err != nil {
		return nil, false, fmt.Errorf("finding the session: %w", err)
	}
	return row.Data, true, nil
}

// CommitCtx keeps a session's data until its expiry, and clears away old ones.
func (s *Sessions) CommitCtx(ctx context.Context, token string, data []byte, expiry time.Time) error {
	db := s.db.WithContext(ctx)
	if err := db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&sessionRow{token, data, expiry}).Error; err != nil {
		return fmt.Errorf("keeping the session: %w", err)
	}
	if err := db.Delete(&sessionRow{}, "expiry < now()").Error; err != nil {
		return fmt.Errorf("clearing old sessions: %w", err)
	}
	return nil
}

// DeleteCtx ends a session.
func (s *Sessions) DeleteCtx(ctx context.Context, token string) error {
	if err := s.db.WithContext(ctx).Delete(&sessionRow{}, "token = ?", token).Error; err != nil {
		return fmt.Errorf("ending the session: %w", err)
	}
	return nil
}

// Find is FindCtx without a context.
func (s *Sessions) Find(token string) ([]byte, bool, error) {
	return s.FindCtx(context.Background(), token)
}

// Commit is CommitCtx without a context.
func (s *Sessions) Commit(token string, data []byte, expiry time.Time) error {
	return s.CommitCtx(context.Background(), token, data, expiry)
}

// Delete is DeleteCtx without a context.
func (s *Sessions) Delete(token string) error { return s.DeleteCtx(context.Background(), token) }
