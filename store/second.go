package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"
)

// SetSecond gives a person a second factor with its spare codes, or takes it away
// where the secret is empty.
func (s *Store) SetSecond(ctx context.Context, id, secret string, spares []string) error {
	if spares == nil {
		spares = []string{}
	}
	text, err := json.Marshal(spares)
	if err != nil {
		return fmt.Errorf("keeping the second factor of %q: %w", id, err)
	}
	if err := s.db.WithContext(ctx).Exec("update people set second = ?, second_step = 0, spares = ? where id = ?", secret, string(text), id).Error; err != nil {
		return fmt.Errorf("keeping the second factor of %q: %w", id, err)
	}
	return nil
}

// UseStep uses a step of a person's second factor up. It is false where that step or a
// later one was used before, by whoever came first.
func (s *Store) UseStep(ctx context.Context, id string, step int64) (bool, error) {
	used := s.db.WithContext(ctx).Exec("update people set second_step = ? where id = ? and second_step < ?", step, id, step)
	if used.Error != nil {
		return false, fmt.Errorf("using a code of %q: %w", id, used.Error)
	}
	return used.RowsAffected == 1, nil
}

// UseSpare uses up a spare code, by its hash. It is false where there is none such.
func (s *Store) UseSpare(ctx context.Context, id, hash string) (bool, error) {
	used := s.db.WithContext(ctx).Exec("update people set spares = spares - ? where id = ? and jsonb_exists(spares, ?)", hash, id, hash)
	if used.Error != nil {
		return false, fmt.Errorf("using a spare code of %q: %w", id, used.Error)
	}
	return used.RowsAffected == 1, nil
}

// SignedIn is one place where somebody is signed in.
type SignedIn struct {
	ID      string    `json:"id" gorm:"column:token"`
	Device  string    `json:"device" doc:"The browser, as it names itself"`
	Address string    `json:"address"`
	Made    time.Time `json:"made" gorm:"column:made_at"`
	Seen    time.Time `json:"seen" gorm:"column:seen_at" doc:"To within a few minutes"`
}

// SignedIn are the places where a person is signed in, the one of late first.
func (s *Store) SignedIn(ctx context.Context, person string) ([]SignedIn, error) {
	out := []SignedIn{}
	if err := s.db.WithContext(ctx).Table("sessions").Where("person = ? and expiry > now()", person).Order("seen_at desc").Limit(100).Find(&out).Error; err != nil {
		return nil, fmt.Errorf("listing where %q is signed in: %w", person, err)
	}
	return out, nil
}

// EndOthers ends all sessions of a person but one.
func (s *Store) EndOthers(ctx context.Context, person, but string) error {
	if err := s.db.WithContext(ctx).Exec("delete from sessions where person = ? and token <> ?", person, but).Error; err != nil {
		return fmt.Errorf("ending the other sessions of %q: %w", person, err)
	}
	return nil
}

// EndSessions ends one session of a person, or all where the id is empty. It says how
// many there were.
func (s *Store) EndSessions(ctx context.Context, person, id string) (int64, error) {
	done := s.db.WithContext(ctx).Exec("delete from sessions where person = ? and (token = ? or ? = '')", person, id, id)
	if done.Error != nil {
		return 0, fmt.Errorf("ending the sessions of %q: %w", person, done.Error)
	}
	return done.RowsAffected, nil
}
