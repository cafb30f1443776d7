package record

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Limits on what an event may hold. They stand at the door only: what is kept is
// read for ever, whatever the limits become.
const (
	MostBody  = 16 << 10 // bytes of a body as it is kept, see stored
	MostText  = 2000     // characters
	MostID    = 80       // bytes
	MostCount = 1000

	mostDepth  = 20 // lists and objects in one another
	mostDigits = 30 // of a number, before and after its point
	mostNumber = 1<<31 - 1
)

// MostBatch is how many events one batch holds, MostBatchBytes how many bytes.
// A batch of one event of the largest body fits, whatever its escapes.
const (
	MostBatch      = 100
	MostBatchBytes = 1 << 20
)

// tooMuch says that something is above a limit of the door.
type tooMuch struct{ reason string }

func (e *tooMuch) Error() string { return e.reason }

func most(format string, args ...any) error { return &tooMuch{fmt.Sprintf(format, args...)} }

// onlyTooMuch tells whether nothing but limits stands against a body.
func onlyTooMuch(err error) bool {
	return !slices.ContainsFunc(apart(err), func(e error) bool { return !isTooMuch(e) })
}

// firstOf is the first of joined errors, what weighs most before mere limits.
func firstOf(err error) string {
	all := apart(err)
	for _, e := range all {
		if !isTooMuch(e) {
			return e.Error()
		}
	}
	return all[0].Error()
}

func isTooMuch(err error) bool {
	var limit *tooMuch
	return errors.As(err, &limit)
}

// apart are the errors that were joined.
func apart(err error) (all []error) {
	many, is := err.(interface{ Unwrap() []error })
	if !is {
		return []error{err}
	}
	for _, e := range many.Unwrap() {
		all = append(all, apart(e)...)
	}
	return all
}

// word refuses a name of the envelope that no database and no screen can keep as
// it is: control characters, and bytes that are no letters.
func word(what, s string) error {
	switch {
	case s == "" && what != "run":
		return refuse("the event names no %s", what)
	case len(s) > MostID:
		return refuse("the %s has %d letters; %d are taken at most", what, len(s), MostID)
	case !utf8.ValidString(s) || strings.ContainsFunc(s, func(r rune) bool { return unicode.IsControl(r) || r == utf8.RuneError }):
		return refuse("the %s %q has a letter that cannot be kept", what, short(s))
	}
	return nil
}

// keepable refuses a body that a database cannot keep or would give back as
// another: half letters, the letter of number 0, numbers beyond all measure, and
// more than a body may hold as it is kept.
func keepable(kind string, body []byte) error {
	if !utf8.Valid(body) {
		return refuse("the body of %s holds bytes that are no letters", kind)
	}
	if len(body) > 4*MostBody {
		return refuse("the event's body has %d bytes; %d are taken at most", len(body), MostBody)
	}
	if !json.Valid(body) {
		return refuse("the body of %s cannot be read: it is no JSON", kind)
	}
	size, depth := 0, 0
	for i := 0; i < len(body); i++ {
		switch c := body[i]; {
		case c == ' ' || c == '\t' || c == '\n' || c == '\r':
		case c == '"':
			end, why := letters(body[i:])
			if why != "" {
				return refuse("the body of %s %s", kind, why)
			}
			size += end
			i += end - 1
		case c == '{' || c == '[':
			size++
			if depth++; depth > mostDepth {
				return refuse("the body of %s is nested more than %d deep", kind, mostDepth)
			}
		case c == '}' || c == ']':
			size++
			depth--
		case c == ':' || c == ',':
			size += 2 // a space is kept after each
		case c == '-' || c >= '0' && c <= '9':
			end := i + 1
			for end < len(body) && strings.IndexByte("+-.eE0123456789", body[end]) >= 0 {
				end++
			}
			digits := digitsOf(string(body[i:end]))
			if digits > mostDigits {
				return refuse("the body of %s holds the number %s, which nothing here counts or measures", kind, short(string(body[i:end])))
			}
			size += digits + 2
			i = end - 1
		default: // true, false, null
			size++
		}
	}
	if size > MostBody {
		return refuse("the event's body has %d bytes as it is kept; %d are taken at most", size, MostBody)
	}
	return nil
}

// letters reads a string of valid JSON. It returns its length with its quotes,
// and why it cannot be kept.
func letters(s []byte) (length int, why string) {
	escape := func(i int) rune { // \uXXXX at i, or -1
		if i+6 > len(s) || s[i] != '\\' || s[i+1] != 'u' {
			return -1
		}
		n, err := strconv.ParseUint(string(s[i+2:i+6]), 16, 16)
		if err != nil {
			return -1
		}
		return rune(n)
	}
	for i := 1; i < len(s); i++ {
		switch s[i] {
		case '"':
			return i + 1, ""
		case '\\':
			switch r := escape(i); {
			case r == 0:
				return i, "holds a NUL, which is no letter"
			case r >= 0xD800 && r < 0xDC00:
				if low := escape(i + 6); low < 0xDC00 || low > 0xDFFF {
					return i, "holds half a letter (a picture letter cut in two)"
				}
				i += 11
			case r >= 0xDC00 && r < 0xE000:
				return i, "holds half a letter (a picture letter cut in two)"
			case r >= 0:
				i += 5
			default:
				i++
			}
		}
	}
	return len(s), ""
}

// digitsOf is how many digits a number has when it is written out.
func digitsOf(number string) int {
	mantissa, exponent, _ := strings.Cut(strings.ToLower(number), "e")
	whole, fraction, _ := strings.Cut(strings.TrimLeft(mantissa, "-"), ".")
	shift := 0
	if exponent != "" {
		n, err := strconv.Atoi(exponent)
		if err != nil || n > 1000 || n < -1000 {
			return mostDigits + 1
		}
		shift = n
	}
	return max(len(whole)+max(shift, 0)+max(len(fraction)-max(shift, 0), 0), len(whole)+len(fraction)+max(-shift, 0))
}
