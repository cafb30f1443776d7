// Package meter takes readings from a meter on the network that speaks SCPI, a
// line for a line over TCP, as bench meters do. A meter can stall, drop its line
// or answer nonsense: each try has its time, a dropped line is tried again, and
// what is no number is said as it came.
package meter

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"math"
	"net"
	"strconv"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"evensteps/core/reading"
)

// How long one try may take, and how often a dropped line is tried.
const (
	patience = 2 * time.Second
	tries    = 3
)

// overRange is from where on SCPI means that a value is over the range.
const overRange = 9e37

// queries ask for each quantity.
var queries = map[reading.Quantity]string{
	reading.Resistance: "MEAS:RES?", reading.Voltage: "MEAS:VOLT:AC?", reading.Current: "MEAS:CURR:AC?",
	reading.Capacitance: "MEAS:CAP?", reading.Temperature: "MEAS:TEMP?",
}

// Errors that a caller can tell apart.
var (
	ErrQuantity = errors.New("a multimeter does not measure that")
	ErrSilent   = errors.New("the meter does not answer: see that it is on and joined, then take the reading again or type it")
	ErrOver     = errors.New("the meter is over its range: set a larger one, then take the reading again")
	ErrNonsense = errors.New("the meter answers with no number: type what its display shows")
)

// Say is what to tell somebody whose reading did not come.
func Say(err error) string {
	for _, known := range []error{ErrQuantity, ErrSilent, ErrOver, ErrNonsense} {
		if errors.Is(err, known) {
			text := known.Error()
			return strings.ToUpper(text[:1]) + text[1:] + "."
		}
	}
	return "The reading was given up. Take it again, or type it."
}

// Reading is what a meter read, written as people write it.
type Reading struct {
	Value string // "21.33 ohm", or OL
	Meter string // how the meter names itself
}

// Take asks the meter at an address for one reading. between are the points its
// probes are on; a simulated meter is told them.
func Take(ctx context.Context, address string, q reading.Quantity, between []string) (Reading, error) {
	query, known := queries[q]
	if !known {
		return Reading{}, fmt.Errorf("%s: %w", q, ErrQuantity)
	}
	var last error
	for range tries {
		r, err := try(ctx, address, q, query, between)
		if err == nil || errors.Is(err, ErrNonsense) || errors.Is(err, ErrOver) || ctx.Err() != nil {
			return r, err
		}
		last = err
	}
	return Reading{}, fmt.Errorf("%w (%w)", ErrSilent, last)
}

func try(ctx context.Context, address string, q reading.Quantity, query string, between []string) (r Reading, err error) {
	ctx, done := context.WithTimeout(ctx, patience)
	defer done()
	var dial net.Dialer
	conn, err := dial.DialContext(ctx, "tcp", address)
	if err != nil {
		return r, fmt.Errorf("joining the meter: %w", err)
	}
	defer func() { _ = conn.Close() }()
	until, _ := ctx.Deadline()
	_ = conn.SetDeadline(until)
	lines := bufio.NewReaderSize(conn, 512)
	name, err := ask(conn, lines, "*IDN?")
	if err != nil {
		return r, err
	}
	r.Meter = short(name)
	if strings.Contains(strings.ToUpper(name), "SIMULATED") && len(between) == 2 {
		// Where its probes are; quotation marks cannot stand in a SCPI string.
		place := strings.NewReplacer(`"`, "", ";", "", "\n", "", "\r", "")
		if _, err := fmt.Fprintf(conn, "SIM:PROB \"%s\",\"%s\"\n", place.Replace(between[0]), place.Replace(between[1])); err != nil {
			return r, fmt.Errorf("placing the probes: %w", err)
		}
	}
	text, err := ask(conn, lines, query)
	if err != nil {
		return r, err
	}
	v, err := strconv.ParseFloat(text, 64)
	if err != nil || math.IsNaN(v) {
		return r, fmt.Errorf("%w; it said %q", ErrNonsense, short(text))
	}
	if math.Abs(v) >= overRange {
		v = math.Inf(1)
	}
	r.Value = reading.Write(q, unit(q, v))
	if _, err := reading.Parse(q, r.Value); err != nil { // over-range says something of a resistance, and nothing of a current
		return r, ErrOver
	}
	return r, nil
}

// unit turns what SCPI gives, in SI units, into the quantity's own.
func unit(q reading.Quantity, v float64) float64 {
	if q == reading.Capacitance {
		return v * 1e6 // farads
	}
	return v
}

func ask(conn net.Conn, lines *bufio.Reader, query string) (string, error) {
	if _, err := fmt.Fprintln(conn, query); err != nil {
		return "", fmt.Errorf("asking the meter %s: %w", query, err)
	}
	line, err := lines.ReadSlice('\n')
	if errors.Is(err, bufio.ErrBufferFull) {
		return "", fmt.Errorf("%w; it said more than a line", ErrNonsense)
	}
	if err != nil {
		return "", fmt.Errorf("waiting for the meter's answer to %s: %w", query, err)
	}
	return strings.TrimSpace(string(line)), nil
}

// short is the maker's number of a meter that names itself, or a text cut short:
// letters that can be kept alone.
func short(text string) string {
	text = strings.Map(func(r rune) rune {
		if r == utf8.RuneError || unicode.IsControl(r) {
			return -1
		}
		return r
	}, text)
	if f := strings.Split(text, ","); len(f) == 4 {
		text = strings.ToLower(strings.TrimSpace(f[2]))
	}
	if r := []rune(text); len(r) > 40 {
		return string(r[:40]) + "…"
	}
	return text
}
