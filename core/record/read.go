package record

import (
	"bytes"
	"encoding/json"
	"errors"
	"strings"
)

// Read checks an event at the door and reads its body. The error is a *Refused.
// A kind that this version does not know is kept unread.
func Read(e Event) (Fact, error) {
	if err := envelope(e); err != nil {
		return Fact{Event: e}, err
	}
	if len(e.Body) == 0 {
		e.Body = json.RawMessage("{}")
	}
	if err := keepable(e.Kind, e.Body); err != nil {
		return Fact{Event: e}, err
	}
	f := Fact{Event: e}
	body, err := open(e.Kind, e.Body)
	if err != nil || body == nil {
		return f, err
	}
	if err := body.check(); err != nil {
		return f, refuse("the body of %s: %s", e.Kind, firstOf(err))
	}
	f.Of = body
	return f, nil
}

func envelope(e Event) error {
	if !uuid.MatchString(e.ID) {
		return refuse("the event's id %q is no UUID", short(e.ID))
	}
	for _, w := range []struct{ what, is string }{{"job", e.Job}, {"person", e.By}, {"device", e.Device}, {"run", e.Run}, {"kind", e.Kind}} {
		if err := word(w.what, w.is); err != nil {
			return err
		}
	}
	switch {
	case e.N < 1 || e.N > mostNumber:
		return refuse("the device numbers its facts from 1, not %d", e.N)
	case e.Seen < 0 || e.Seen > mostNumber:
		return refuse("seen is %d; job numbers count from 1", e.Seen)
	case e.Since < 0 || e.Since > 1e10 || e.Since > 0 && e.Since < 1e-9:
		return refuse("since is %g seconds", e.Since)
	case e.Wall.Year() < 2000 || e.Wall.Year() > 2200:
		return refuse("the device's clock reads %s; set it", e.Wall.Format("2006-01-02"))
	}
	return nil
}

// open reads a body of a known kind; it is nil for a kind that is not known.
func open(kind string, data []byte) (body, error) {
	k, known := kinds[kind]
	if !known {
		return nil, nil
	}
	b := k.new()
	d := json.NewDecoder(bytes.NewReader(data))
	d.DisallowUnknownFields()
	if err := d.Decode(b); err != nil {
		var kindOf *json.UnmarshalTypeError
		if errors.As(err, &kindOf) {
			return nil, refuse("the body of %s: %s cannot be %s", kind, kindOf.Field, kindOf.Value)
		}
		return nil, refuse("the body of %s cannot be read: %s", kind, strings.TrimPrefix(err.Error(), "json: "))
	}
	return b, nil
}

// ReadKept reads an event that is kept already. It never fails, and no limit of
// the door holds: the door's rules may have changed since, and what one event
// says must not take the others from anybody. One that cannot be read, or that
// says more than this version knows, is a fact with a Problem and no body.
func ReadKept(e Event) Fact {
	f := Fact{Event: e}
	body, err := open(e.Kind, e.Body)
	if err == nil && body != nil {
		if err = body.check(); err == nil || onlyTooMuch(err) {
			f.Of = body
			return f
		}
		err = refuse("the body of %s: %s", e.Kind, firstOf(err))
	}
	if err != nil {
		f.Problem = err.Error()
	}
	return f
}
