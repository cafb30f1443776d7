package meter

import (
	"bufio"
	"net"
	"strings"
	"testing"
	"unicode"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/reading"
)

// Whatever a meter names itself and answers, a reading is one that can be read
// again, with a name that can be kept; or it is said that it is none.
func FuzzMeter(f *testing.F) {
	for _, seed := range [][2]string{
		{"MAKER,DMM-1,sim-7,1.0", "2.133000E+01"},
		{"SIMULATED,X,sim-1,1", "9.9E37"},
		{"", "-9.9E37"},
		{"a,b,c,d", "NaN"},
		{"a,b,\xff\x00,d", "1e999"},
		{strings.Repeat("x", 600), "1"},
		{"one", "+1.0E-300"},
		{"two", "0x1p-2"},
		{"three", "1_000"},
		{"four", "ERR"},
	} {
		f.Add(seed[0], seed[1])
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(f, err)
	f.Cleanup(func() { _ = l.Close() })
	answers := make(chan [2]string, 1)
	go func() {
		for {
			line, err := l.Accept()
			if err != nil {
				return
			}
			said := <-answers
			asked := bufio.NewScanner(line)
			for asked.Scan() {
				switch {
				case strings.HasPrefix(asked.Text(), "*IDN?"):
					_, _ = line.Write([]byte(said[0] + "\n"))
				case strings.HasPrefix(asked.Text(), "MEAS"):
					_, _ = line.Write([]byte(said[1] + "\n"))
				}
			}
			_ = line.Close()
		}
	}()
	f.Fuzz(func(t *testing.T, name, value string) {
		name, value = strings.ReplaceAll(name, "\n", " "), strings.ReplaceAll(value, "\n", " ") // a line is a line
		for q := range queries {
			answers <- [2]string{name, value}
			r, err := Take(t.Context(), l.Addr().String(), q, []string{"a", "b"})
			if err != nil {
				assert.NotEmpty(t, Say(err))
				continue
			}
			_, err = reading.Parse(q, r.Value)
			require.NoError(t, err, "%s: %q of %q", q, r.Value, value)
			require.True(t, utf8.ValidString(r.Meter) && utf8.RuneCountInString(r.Meter) <= 41 && !strings.ContainsFunc(r.Meter, unicode.IsControl), "%q", r.Meter)
		}
	})
}
