package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"evensteps/core/ladder"
)

// Person is one of the company's people.
type Person struct {
	ID           string `gorm:"primaryKey"`
	Name         string
	SignIn       string
	PasswordHash string
	Role         string   // technician or lead
	Tickets      []string `gorm:"serializer:json"`
	// Held are tickets with their times; a fact is judged by those of its own.
	Held []ladder.Held `gorm:"serializer:json"`
	// CodeUntil says that the password is a one-time code, and until when it is good
	// for signing in; nil where it is their own.
	CodeUntil *time.Time
}

// TableName of people.
func (Person) TableName() string { return "people" }

// PutPerson adds a person, or changes all of one but the password.
func (s *Store) PutPerson(ctx context.Context, p Person) error {
	if p.Tickets == nil {
		p.Tickets = []string{}
	}
	if p.Held == nil {
		p.Held = []ladder.Held{}
	}
	err := s.db.WithContext(ctx).Clauses(clause.OnConflict{
		Columns: []clause.Column{{Name: "id"}}, DoUpdates: clause.AssignmentColumns([]string{"name", "sign_in", "role", "tickets", "held"}),
	}).Create(&p).Error
	if err != nil {
		return fmt.Errorf("keeping the person %q: %w", p.ID, err)
	}
	return nil
}

// SetPassword keeps a new password hash for a person.
func (s *Store) SetPassword(ctx context.Context, id, hash string) error {
	if err := s.db.WithContext(ctx).Model(&Person{}).Where("id = ?", id).Updates(map[string]any{"password_hash": hash, "code_until": nil}).Error; err != nil {
		return fmt.Errorf("keeping the password of %q: %w", id, err)
	}
	return nil
}

// ErrLastLead says that nobody would be a lead any more.
var ErrLastLead = errors.New("the last lead stays one")

// AddPerson adds somebody new. It is false where the id or the name to sign in with
// is somebody's already.
func (s *Store) AddPerson(ctx context.Context, p Person) (bool, error) {
	if p.Tickets == nil {
		p.Tickets = []string{}
	}
	p.Held = []ladder.Held{}
	added := s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&p)
	if added.Error != nil {
		return false, fmt.Errorf("adding the person %q: %w", p.ID, added.Error)
	}
	return added.RowsAffected == 1, nil
}

// ChangePerson changes what somebody is called, their role and tickets. The last
// lead stays one, also where two leads make each other something else at once.
func (s *Store) ChangePerson(ctx context.Context, id, name, role string, tickets []string) error {
	err := s.oneAtATime(ctx, func(tx *gorm.DB) error {
		var p Person
		if err := tx.Take(&p, "id = ?", id).Error; err != nil {
			return missing(err, "the person", id)
		}
		if p.Role == "lead" && role != "lead" {
			var others int64
			if err := tx.Model(&Person{}).Where("role = 'lead' and id <> ?", id).Count(&others).Error; err != nil {
				return err
			}
			if others == 0 {
				return ErrLastLead
			}
		}
		p.Name, p.Role, p.Tickets = name, role, tickets
		return tx.Select("Name", "Role", "Tickets").Updates(&p).Error
	})
	if err != nil {
		return fmt.Errorf("changing the person %q: %w", id, err)
	}
	return nil
}

// oneAtATime does what hangs on who else there is, while nobody else is added or
// changed.
func (s *Store) oneAtATime(ctx context.Context, do func(*gorm.DB) error) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("lock table people in share row exclusive mode").Error; err != nil {
			return err
		}
		return do(tx)
	})
}

// SetCode gives a person a one-time code in the place of their password.
func (s *Store) SetCode(ctx context.Context, id, hash string, until time.Time) error {
	if err := s.db.WithContext(ctx).Model(&Person{}).Where("id = ?", id).Updates(map[string]any{"password_hash": hash, "code_until": until}).Error; err != nil {
		return fmt.Errorf("keeping the code of %q: %w", id, err)
	}
	return nil
}

// UseCode uses a person's one-time code up. It is false where that was done before,
// by whoever came first, or where it has run out.
func (s *Store) UseCode(ctx context.Context, id string) (bool, error) {
	used := s.db.WithContext(ctx).Exec("update people set code_until = now() where id = ? and code_until > now()", id)
	if used.Error != nil {
		return false, fmt.Errorf("using the code of %q: %w", id, used.Error)
	}
	return used.RowsAffected == 1, nil
}

// FirstLead adds a lead where there is none yet. It is false where there is one,
// also where two come at once.
func (s *Store) FirstLead(ctx context.Context, p Person) (bool, error) {
	first := false
	err := s.oneAtATime(ctx, func(tx *gorm.DB) error {
		added := tx.Exec(`insert into people (id, name, sign_in, password_hash, role, code_until)
			select ?, ?, ?, ?, 'lead', ? where not exists (select from people where role = 'lead')`, p.ID, p.Name, p.SignIn, p.PasswordHash, p.CodeUntil)
		first = added.RowsAffected == 1
		return added.Error
	})
	if err != nil {
		return false, fmt.Errorf("adding the first lead: %w", err)
	}
	return first, nil
}

// Person returns the person with that id.
func (s *Store) Person(ctx context.Context, id string) (Person, error) {
	var p Person
	if err := s.db.WithContext(ctx).Take(&p, "id = ?", id).Error; err != nil {
		return p, missing(err, "the person", id)
	}
	return p, nil
}

// PersonBySignIn returns the person who signs in by that name.
func (s *Store) PersonBySignIn(ctx context.Context, name string) (Person, error) {
	var p Person
	if err := s.db.WithContext(ctx).Take(&p, "sign_in = ?", name).Error; err != nil {
		return p, missing(err, "the sign-in", name)
	}
	return p, nil
}

// People lists everybody, by name.
func (s *Store) People(ctx context.Context) ([]Person, error) {
	var out []Person
	if err := s.db.WithContext(ctx).Order("name, id").Find(&out).Error; err != nil {
		return nil, fmt.Errorf("listing people: %w", err)
	}
	return out, nil
}
