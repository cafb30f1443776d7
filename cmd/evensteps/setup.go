package main

import (
	"context"
	"errors"
	"fmt"
	"regexp"
	"strings"

	"github.com/spf13/cobra"

	"evensteps/server"
	"evensteps/store"
)

func setupCommand() *cobra.Command {
	var name, signIn string
	var again bool
	cmd := onDatabase("setup", "The first supervisor of a company, with a one-time code; --again where all supervisors are locked out", func(ctx context.Context, s *store.Store) (string, error) {
		return setUp(ctx, s, name, signIn, again)
	})
	cmd.Flags().StringVar(&name, "name", "", "what the supervisor is called")
	cmd.Flags().StringVar(&signIn, "sign-in", "", "the name to sign in with: small letters, digits and dashes")
	cmd.Flags().BoolVar(&again, "again", false, "another code for a supervisor who is there already")
	return cmd
}

var signInName = regexp.MustCompile(`^[a-z0-9-]{1,80}$`)

// setUp makes the first supervisor, or gives one another code, and says how to sign in.
// Whoever can run it has the database anyway.
func setUp(ctx context.Context, s *store.Store, name, signIn string, again bool) (string, error) {
	if !signInName.MatchString(signIn) {
		return "", fmt.Errorf("--sign-in is %q: write small letters, digits and dashes, such as mira", signIn)
	}
	code, hash, until, err := server.NewCode()
	if err != nil {
		return "", err
	}
	if again {
		p, err := s.PersonBySignIn(ctx, signIn)
		if errors.Is(err, store.ErrNotFound) || err == nil && p.Role != "supervisor" {
			return "", fmt.Errorf("no supervisor signs in as %q; the supervisors are %s", signIn, supervisors(ctx, s))
		}
		if err != nil {
			return "", err
		}
		if err := s.SetCode(ctx, p.ID, hash, until); err != nil {
			return "", err
		}
		return told(p.Name, signIn, code), nil
	}
	if name = strings.TrimSpace(name); name == "" {
		return "", errors.New("--name is missing: say what the supervisor is called")
	}
	first, err := s.FirstSupervisor(ctx, store.Person{ID: signIn, Name: name, SignIn: signIn, PasswordHash: hash, CodeUntil: &until})
	if err != nil {
		return "", err
	}
	if !first {
		return "", fmt.Errorf("there is a supervisor already: %s. They give others a one-time code; where all are locked out, run setup --again", supervisors(ctx, s))
	}
	return told(name, signIn, code), nil
}

func told(name, signIn, code string) string {
	return fmt.Sprintf("%s signs in as %s with the code %s, once, within a day, and then chooses a password.", name, signIn, code)
}

func supervisors(ctx context.Context, s *store.Store) string {
	people, err := s.People(ctx)
	if err != nil {
		return "not to be read"
	}
	var names []string
	for _, p := range people {
		if p.Role == "supervisor" {
			names = append(names, p.SignIn)
		}
	}
	if len(names) == 0 {
		return "none yet"
	}
	return strings.Join(names, ", ")
}
