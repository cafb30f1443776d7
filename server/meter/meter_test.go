package meter

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"net"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/reading"
	"evensteps/library"
	"evensteps/stand-ins/multimeter"
)

func standIn(t *testing.T, dropEvery int) string {
	t.Helper()
	m, err := library.Map("tidemoor-tv6")
	require.NoError(t, err)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	meter := &multimeter.Meter{Map: m, Fault: "element-open", Percent: 0.4, DropEvery: dropEvery, Seed: 1}
	ended := make(chan error, 1)
	ctx, stop := context.WithCancel(context.Background())
	go func() { ended <- meter.Serve(ctx, l) }()
	t.Cleanup(func() {
		stop()
		assert.NoError(t, <-ended)
	})
	return l.Addr().String()
}

// A meter whose every third line drops is asked again, and nobody notices.
func TestReadingsOverALineThatDrops(t *testing.T) {
	at := standIn(t, 3)
	for range 7 {
		r, err := Take(t.Context(), at, reading.Resistance, []string{"element 1", "element 2"})
		require.NoError(t, err)
		assert.Equal(t, Reading{Value: "OL", Meter: "sim-1"}, r, "the element is open")
	}
	r, err := Take(t.Context(), at, reading.Voltage, []string{"L", "N"})
	require.NoError(t, err)
	v, err := reading.Parse(reading.Voltage, r.Value)
	require.NoError(t, err)
	assert.InEpsilon(t, 230, v, 0.005)
	_, err = Take(t.Context(), at, reading.Pressure, nil)
	assert.ErrorIs(t, err, ErrQuantity)
}

// odd is a meter that answers each measurement in its own way.
func odd(t *testing.T, answer func(net.Conn)) string {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { _ = l.Close() })
	go func() {
		for {
			c, err := l.Accept()
			if err != nil {
				return
			}
			go func() {
				defer func() { _ = c.Close() }()
				lines := bufio.NewScanner(c)
				for lines.Scan() {
					if strings.HasPrefix(lines.Text(), "*IDN?") {
						fmt.Fprintln(c, "MAKER,MODEL,77,1")
						continue
					}
					answer(c)
				}
			}()
		}
	}()
	return l.Addr().String()
}

func TestMetersThatMisbehave(t *testing.T) {
	for name, c := range map[string]struct {
		answer func(net.Conn)
		want   error
	}{
		"lies":           {func(c net.Conn) { fmt.Fprintln(c, "about nine") }, ErrNonsense},
		"is no number":   {func(c net.Conn) { fmt.Fprintln(c, "NAN") }, ErrNonsense},
		"never ends":     {func(c net.Conn) { fmt.Fprint(c, strings.Repeat("9", 4000)) }, ErrNonsense},
		"hangs up":       {func(c net.Conn) { _ = c.Close() }, ErrSilent},
		"ends in middle": {func(c net.Conn) { fmt.Fprint(c, "+1.2"); _ = c.Close() }, ErrSilent},
	} {
		_, err := Take(t.Context(), odd(t, c.answer), reading.Resistance, []string{"a", "b"})
		assert.ErrorIs(t, err, c.want, name)
	}
	_, err := Take(t.Context(), "127.0.0.1:1", reading.Resistance, nil)
	assert.ErrorIs(t, err, ErrSilent, "nothing listens there")
	// One that stalls is given up when whoever asked gives up.
	ctx, stop := context.WithTimeout(t.Context(), 50*time.Millisecond)
	defer stop()
	_, err = Take(ctx, odd(t, func(net.Conn) {}), reading.Resistance, nil)
	require.Error(t, err)
	assert.False(t, errors.Is(err, ErrNonsense))
}

func TestUnitsOfAMeter(t *testing.T) {
	at := odd(t, func(c net.Conn) { fmt.Fprintln(c, "+8.0E-06") })
	r, err := Take(t.Context(), at, reading.Capacitance, nil)
	require.NoError(t, err)
	assert.Equal(t, Reading{Value: "8 uF", Meter: "77"}, r, "farads become microfarads")
}
