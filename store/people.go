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

// Person is one of the company's people.
type Person struct {
	ID           string `gorm:"primaryKey"`
	Name         string
	SignIn       string
	PasswordHash string
	Role         string // technician, office or supervisor
	// Held are tickets, those too that they held before; a fact is judged by those of
	// its own time.
	Held []company.Ticket `gorm:"serializer:json"`
	// CodeUntil says that the password is a one-time code, and until when it is good
	// for signing in; nil where it is their own.
	CodeUntil *time.Time
	ClosedAt  *time.Time // since when nobody signs in by it
	// Second is the secret of the second factor; empty where there is none. Spares are
	// the hashes of the spare codes that are left.
	Second  string   `gorm:"->"`
	Spares  []string `gorm:"->;serializer:json"`
	Changed `gorm:"embedded"`
}

// Company is the person as supervisors and CSV have it.
func (p *Person) Company() company.Person {
	return company.Person{SignIn: p.SignIn, Name: p.Name, Role: p.Role, Tickets: p.Held, Closed: p.ClosedAt != nil}
}

// TableName of people.
func (Person) TableName() string { return "people" }

// PutPerson adds a person, or changes all of one but the password.
func (s *Store) PutPerson(ctx context.Context, p Person) error {
	p.Version = max(p.Version, 1)
	if p.Held == nil {
		p.Held = []company.Ticket{}
	}
	err := s.db.WithContext(ctx).Clauses(clause.OnConflict{
		Columns: []clause.Column{{Name: "id"}}, DoUpdates: clause.AssignmentColumns([]string{"name", "sign_in", "role", "held"}),
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

// ErrLastSupervisor says that nobody would be a supervisor any more.
var ErrLastSupervisor = errors.New("the last supervisor stays one")

// AddPerson adds somebody new. It is false where the id or the name to sign in with
// is somebody's already.
func (s *Store) AddPerson(ctx context.Context, p Person) (bool, error) {
	p.Version = 1
	if p.Held == nil {
		p.Held = []company.Ticket{}
	}
	added := s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&p)
	if added.Error != nil {
		return false, fmt.Errorf("adding the person %q: %w", p.ID, added.Error)
	}
	return added.RowsAffected == 1, nil
}

// ChangePerson changes what somebody is called, their role and tickets, and whether
// they sign in. Tickets that they no longer hold end now. The last supervisor stays
// one, also where two make each other something else at once.
func (s *Store) ChangePerson(ctx context.Context, said company.Person, seen Seen, zone *time.Location) error {
	err := s.locked(ctx, "people", func(tx *gorm.DB) error {
		var p Person
		if err := tx.Take(&p, "id = ?", said.SignIn).Error; err != nil {
			return missing(err, "the person", said.SignIn)
		}
		if err := seen.is(p.Changed); err != nil {
			return err
		}
		p.become(said, seen.By, time.Now(), zone)
		if err := tx.Select("*").Omit("PasswordHash", "CodeUntil").Updates(&p).Error; err != nil {
			return err
		}
		return aSupervisorStays(tx)
	})
	if err != nil {
		return fmt.Errorf("changing the person %q: %w", said.SignIn, err)
	}
	return nil
}

// become is the person as it was said. Somebody new is known by the name to sign in
// with.
func (p *Person) become(said company.Person, by string, now time.Time, zone *time.Location) {
	if p.Version == 0 {
		p.ID, p.SignIn = said.SignIn, said.SignIn
	}
	p.Name, p.Role, p.Held = said.Name, said.Role, company.Ended(p.Held, said.Tickets, now, zone)
	switch {
	case !said.Closed:
		p.ClosedAt = nil
	case p.ClosedAt == nil:
		p.ClosedAt = &now
	}
	p.Changed = p.next(by, now)
}

func aSupervisorStays(tx *gorm.DB) error {
	var left int64
	if err := tx.Model(&Person{}).Where("role = 'supervisor' and closed_at is null").Count(&left).Error; err != nil {
		return err
	}
	if left == 0 {
		return ErrLastSupervisor
	}
	return nil
}

// ImportPeople keeps what is made of the people that are there, while nobody else
// changes any. Who is new has no password: they sign in once they are given a code.
func (s *Store) ImportPeople(ctx context.Context, by string, zone *time.Location, of func([]company.Person) []company.Person) error {
	err := s.locked(ctx, "people", func(tx *gorm.DB) error {
		var all []Person
		if err := tx.Order("name, id").Find(&all).Error; err != nil {
			return err
		}
		_, err := imported(tx, all, (*Person).Company, func(p *Person) string { return p.SignIn }, of, func(c company.Person) string { return c.SignIn },
			func(p *Person, said company.Person, now time.Time) { p.become(said, by, now, zone) }, "name", "role", "held", "closed_at")
		if err != nil {
			return err
		}
		return aSupervisorStays(tx)
	})
	if err != nil {
		return fmt.Errorf("keeping the people of a file: %w", err)
	}
	return nil
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

// FirstSupervisor adds a supervisor where there is none yet. It is false where there is one,
// also where two come at once.
func (s *Store) FirstSupervisor(ctx context.Context, p Person) (bool, error) {
	first := false
	err := s.locked(ctx, "people", func(tx *gorm.DB) error {
		added := tx.Exec(`insert into people (id, name, sign_in, password_hash, role, code_until)
			select ?, ?, ?, ?, 'supervisor', ? where not exists (select from people where role = 'supervisor' and closed_at is null)`, p.ID, p.Name, p.SignIn, p.PasswordHash, p.CodeUntil)
		first = added.RowsAffected == 1
		return added.Error
	})
	if err != nil {
		return false, fmt.Errorf("adding the first supervisor: %w", err)
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
