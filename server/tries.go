package server

import (
	"net/http"
	"time"

	"github.com/ccojocar/zxcvbn-go"
	"github.com/danielgtaylor/huma/v2"
	"golang.org/x/time/rate"

	"evensteps/store"
)

// tries counts wrong passwords, and nothing else: whoever knows theirs is never
// kept waiting by others. An account at one address has so many a minute, an
// address ten times as many, whatever the accounts. There is no limit of an account
// over all addresses: it would let anybody lock a technician out.
type tries struct {
	perMinute int
	pairs     memory[*rate.Limiter] // account and address
	addresses memory[*rate.Limiter]
}

// mostTries is how many of each are remembered; the one not used longest goes.
const mostTries = 50_000

func newTries(perMinute int) *tries {
	return &tries{perMinute, newMemory[*rate.Limiter](mostTries), newMemory[*rate.Limiter](mostTries)}
}

func pair(account, address string) string { return account + "\x00" + address }

// tooMany tells whether an account has used up its wrong tries at an address, or
// the address all of its own.
func (t *tries) tooMany(account, address string) bool {
	one, known := t.pairs.Get(pair(account, address))
	if known && one.Tokens() < 1 {
		return true
	}
	all, known := t.addresses.Get(address)
	return known && all.Tokens() < 1
}

// failed counts one wrong password.
func (t *tries) failed(account, address string) {
	count := func(in memory[*rate.Limiter], name string, most int) {
		in.orElse(name, rate.NewLimiter(rate.Every(time.Minute/time.Duration(most)), most)).Allow()
	}
	count(t.pairs, pair(account, address), t.perMinute)
	count(t.addresses, address, 10*t.perMinute)
}

var (
	errTooMany = huma.ErrorWithHeaders(huma.Error429TooManyRequests("Too many wrong tries. Wait a minute, then try again."), http.Header{"Retry-After": {"60"}})
	errWeak    = huma.Error422UnprocessableEntity("This password is guessed too easily. Take several words that do not belong together.")
)

// weak tells whether a password is guessed too easily: below 2 of 4 by zxcvbn,
// which is about a hundred thousand guesses (its authors' scale).
func weak(password string, p store.Person) bool {
	return zxcvbn.PasswordStrength(password, []string{p.SignIn, p.Name, "even", "steps"}).Score < 2
}
