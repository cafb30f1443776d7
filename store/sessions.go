package store

import (
	"context"
	"errors"
	"fmt"
	"sync/atomic"
	"time"

	"github.com/alexedwards/scs/v2"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Sessions keeps sign-in sessions. It is a store of scs; the tokens that reach
// it are hashed already.
type Sessions struct {
	db    *gorm.DB
	epoch atomic.Pointer[epoch]
}

// epoch is which database it was a moment ago.
type epoch struct {
	value string
	at    time.Time
}

// epochFor is how long it is taken for the same.
const epochFor = 2 * time.Second

// Sessions of this database.
func (s *Store) Sessions() *Sessions { return &Sessions{db: s.db} }

type sessionRow struct {
	Token  string `gorm:"primaryKey"`
	Data   []byte
	Expiry time.Time
	Person *string
	// Device and Address are where it was begun.
	Device  string
	Address string
}

// SessionPerson is where a session holds whose it is; the others, where it was begun.
const (
	SessionPerson  = "person"
	SessionDevice  = "device"
	SessionAddress = "address"
)

// seenEvery is how seldom it is noted that a session is used.
const seenEvery = 5 * time.Minute

// Caller is who asks and which database answers, found with their session in one
// look. Person is nil where there is no session, or its person is gone.
type Caller struct {
	Person *Person
	Epoch  string
}

type callerKey struct{}

// WithCaller makes room for the caller in a context; CallerOf finds it there.
func WithCaller(ctx context.Context) context.Context {
	return context.WithValue(ctx, callerKey{}, &Caller{})
}

// CallerOf is the caller of a context, empty where none was looked for.
func CallerOf(ctx context.Context) *Caller {
	c, _ := ctx.Value(callerKey{}).(*Caller)
	if c == nil {
		return &Caller{}
	}
	return c
}

func (sessionRow) TableName() string { return "sessions" }

// FindCtx returns a session's data, and whether there is one that has not expired.
func (s *Sessions) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	var row struct {
		Data   []byte
		Epoch  string
		SeenAt time.Time
		Person
	}
	which := "database_epoch()"
	last := s.epoch.Load()
	if last != nil && time.Since(last.at) < epochFor {
		which = "''"
	}
	err := s.db.WithContext(ctx).Raw(`select s.data, s.seen_at, `+which+` as epoch, p.* from sessions s left join people p on p.id = s.person
		where s.token = ? and s.expiry > now()`, token).Take(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, false, nil
	}
	if err != nil {
		return nil, false, fmt.Errorf("finding the session: %w", err)
	}
	if time.Since(row.SeenAt) > seenEvery {
		s.db.WithContext(ctx).Exec("update sessions set seen_at = now() where token = ?", token) // one that takes nothing just now is read all the same
	}
	caller := CallerOf(ctx)
	if row.Epoch == "" {
		row.Epoch = last.value
	} else {
		s.epoch.Store(&epoch{row.Epoch, time.Now()})
	}
	caller.Epoch = row.Epoch
	if row.Person.ID != "" {
		caller.Person = &row.Person
	}
	return row.Data, true, nil
}

// CommitCtx keeps a session's data until its expiry, and clears away old ones.
func (s *Sessions) CommitCtx(ctx context.Context, token string, data []byte, expiry time.Time) error {
	db := s.db.WithContext(ctx)
	row := sessionRow{Token: token, Data: data, Expiry: expiry}
	if _, values, err := (scs.GobCodec{}).Decode(data); err == nil {
		if id, is := values[SessionPerson].(string); is {
			row.Person = &id
		}
		row.Device, _ = values[SessionDevice].(string)
		row.Address, _ = values[SessionAddress].(string)
	}
	if err := db.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "token"}}, DoUpdates: clause.AssignmentColumns([]string{"data", "expiry", "person", "device", "address"})}).Create(&row).Error; err != nil {
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

// Restored says that the database was put back to an earlier state: whatever
// devices sent may be gone, and they send it again.
func (s *Store) Restored(ctx context.Context) error {
	if err := s.db.WithContext(ctx).Exec("update epoch set salt = gen_random_uuid()").Error; err != nil {
		return fmt.Errorf("marking the database as restored: %w", err)
	}
	return nil
}
