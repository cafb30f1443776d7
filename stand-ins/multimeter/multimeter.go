// Package multimeter is a stand-in for a bench multimeter on the network: a
// small TCP server that speaks SCPI. It answers the common commands of IEEE
// 488.2 and the MEASure queries of SCPI-99 (both from memory), a line for a
// line, from a simulated machine with a fault in it. It has an error of its own,
// as every meter has, and now and then it drops its line.
//
// Where its probes are put is told by SIMulate:PROBes "one","other": a real
// meter has hands for that.
package multimeter

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"net"
	"regexp"
	"strings"
	"sync"
	"time"

	"evensteps/core/fault"
	"evensteps/core/machine"
	"evensteps/core/reading"
)

// Overload is what SCPI answers where a value is over the range.
const Overload = 9.9e37

// Name is how the meter names itself when asked *IDN?.
const Name = "EVEN STEPS,SIMULATED MULTIMETER,SIM-1,1"

// Meter is one simulated meter before one simulated machine.
type Meter struct {
	Map   *machine.Map
	Fault string // what is wrong with the machine
	// Percent is the meter's own error: each answer is out by up to so many
	// percent, either way.
	Percent float64
	// DropEvery drops the line at every so many measurements, unanswered; 0 means
	// never.
	DropEvery int
	Seed      uint64

	mu       sync.Mutex
	random   *rand.Rand
	measured int
	probes   []string
}

// Serve answers until the context ends.
func (m *Meter) Serve(ctx context.Context, l net.Listener) error {
	stop := context.AfterFunc(ctx, func() { _ = l.Close() })
	defer stop()
	for {
		conn, err := l.Accept()
		if err != nil {
			if ctx.Err() != nil || errors.Is(err, net.ErrClosed) {
				return nil
			}
			return fmt.Errorf("the meter: %w", err)
		}
		go m.talk(ctx, conn)
	}
}

// longest is the longest line that is read; quiet is how long a line may rest.
const (
	longest = 1024
	quiet   = 2 * time.Minute
)

func (m *Meter) talk(ctx context.Context, conn net.Conn) {
	defer func() { _ = conn.Close() }()
	stop := context.AfterFunc(ctx, func() { _ = conn.Close() })
	defer stop()
	var mistakes []string
	lines := bufio.NewScanner(conn)
	lines.Buffer(make([]byte, longest), longest)
	for {
		_ = conn.SetDeadline(time.Now().Add(quiet))
		if !lines.Scan() {
			return
		}
		for command := range strings.SplitSeq(lines.Text(), ";") {
			answer, err := m.Answer(strings.TrimSpace(command), &mistakes)
			if err != nil { // the line drops, as lines do
				return
			}
			if answer == "" {
				continue
			}
			if _, err := fmt.Fprintln(conn, answer); err != nil {
				return
			}
		}
	}
}

var (
	errDropped = errors.New("the line drops")
	measure    = regexp.MustCompile(`(?i)^:?MEAS(?:URE)?(?::SCALAR)?:(RES|FRES|VOLT|CURR|CAP|TEMP|CONT)(?:ISTANCE|ESISTANCE|AGE|ENT|ACITANCE|ERATURE|INUITY)?(?::(?:AC|DC))?\?(?:\s+.*)?$`)
	probes     = regexp.MustCompile(`(?i)^:?SIM(?:ULATE)?:PROB(?:ES)?\s+"([^"]*)"\s*,\s*"([^"]*)"$`)
)

var quantities = map[string]reading.Quantity{
	"RES": reading.Resistance, "FRES": reading.Resistance, "CONT": reading.Resistance, "VOLT": reading.Voltage,
	"CURR": reading.Current, "CAP": reading.Capacitance, "TEMP": reading.Temperature,
}

// Answer answers one command; "" where it has no answer. The error is of a line
// that drops. mistakes is the queue that SYSTem:ERRor? empties.
func (m *Meter) Answer(command string, mistakes *[]string) (string, error) {
	switch strings.ToUpper(command) {
	case "", "*RST", "*CLS", "*OPC", "*WAI":
		if strings.EqualFold(command, "*CLS") {
			*mistakes = nil
		}
		return "", nil
	case "*IDN?":
		return Name, nil
	case "*OPC?":
		return "1", nil
	case "*TST?", "*ESR?", "*STB?":
		return "0", nil
	case "SYST:ERR?", "SYSTEM:ERROR?", ":SYST:ERR?", "SYST:ERR:NEXT?", "SYSTEM:ERROR:NEXT?":
		if len(*mistakes) == 0 {
			return `0,"No error"`, nil
		}
		first := (*mistakes)[0]
		*mistakes = (*mistakes)[1:]
		return first, nil
	}
	if found := probes.FindStringSubmatch(command); found != nil {
		m.mu.Lock()
		m.probes = found[1:]
		m.mu.Unlock()
		return "", nil
	}
	if found := measure.FindStringSubmatch(command); found != nil {
		return m.measure(quantities[strings.ToUpper(found[1])])
	}
	if len(*mistakes) < 20 {
		*mistakes = append(*mistakes, `-113,"Undefined header"`)
	}
	return "", nil
}

func (m *Meter) measure(q reading.Quantity) (string, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.random == nil {
		m.random = rand.New(rand.NewPCG(m.Seed, 1))
	}
	m.measured++
	if m.DropEvery > 0 && m.measured%m.DropEvery == 0 {
		return "", errDropped
	}
	v := m.Reads(q, m.probes)
	if q == reading.Capacitance {
		v *= 1e-6 // SCPI answers in SI units, farads
	}
	if v < Overload {
		v *= 1 + (2*m.random.Float64()-1)*m.Percent/100
	}
	return fmt.Sprintf("%+.8E", v), nil
}

// Reads is what a meter without error reads between two points: what the test
// between them expects, or what the fault makes of it. Between points that no
// test knows nothing conducts, and nothing is live.
func (m *Meter) Reads(q reading.Quantity, between []string) float64 {
	for i := range m.Map.Tests {
		t := &m.Map.Tests[i]
		if t.Measure == nil || t.Expect == nil || reading.Quantity(t.Measure.Quantity) != q || !same(t.Measure.Between, between) {
			continue
		}
		warm := roomCelsius
		if l, err := reading.Within(t.Expect, reading.Setting{Ambient: &warm}); err == nil {
			return l.Typical(fault.VerdictOf(t, m.Fault))
		}
	}
	if q == reading.Resistance {
		return Overload
	}
	return 0
}

// roomCelsius is how warm the simulated kitchen is.
var roomCelsius = 20.0

func same(a, b []string) bool {
	return len(a) == 2 && len(b) == 2 && (a[0] == b[0] && a[1] == b[1] || a[0] == b[1] && a[1] == b[0])
}
