package store

import (
	"context"
	"fmt"

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
	if err := s.db.WithContext(ctx).Model(&Person{}).Where("id = ?", id).Update("password_hash", hash).Error; err != nil {
		return fmt.Errorf("keeping the password of %q: %w", id, err)
	}
	return nil
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
