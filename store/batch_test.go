package store_test

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/record"
	"evensteps/store"
)

// A batch is kept as its events are one by one: the same numbers, stamps, what is known
// and what is refused, whatever comes again, late, out of order or by another server.
func TestABatchIsKeptAsItsEventsAre(t *testing.T) {
	s, url, m := filled(t)
	ctx := t.Context()
	require.NoError(t, s.PutJob(ctx, store.Job{ID: "j-2", ApplianceID: "yard-2", MapID: m.ID, MapRevision: m.Revision}))
	other, err := store.Open(ctx, url)
	require.NoError(t, err)
	defer func() { assert.NoError(t, other.Close()) }()
	began := time.Now()
	random := rand.New(rand.NewPCG(5, 6))
	var before []record.Event
	next := map[string]int{}
	for round := range 25 {
		var batch []record.Event
		for range 1 + random.IntN(40) {
			device := fmt.Sprintf("tab-%d", random.IntN(3))
			next[device]++
			e := event(next[device], device, `{"text":"x"}`)
			e.Seen = random.IntN(len(before) + 1)
			e.Since = float64(round)
			switch k := random.IntN(12); {
			case k == 0 && len(before) > 0: // again
				e = before[random.IntN(len(before))]
			case k == 1 && len(before) > 0: // the same id, and something else
				e.ID = before[random.IntN(len(before))].ID
				e.Body = []byte(`{"text":"other"}`)
			case k == 2: // a letter that no database takes
				e.Body = []byte(`{"text":"\\u0000"}`)
			}
			batch = append(batch, e)
		}
		now := began.Add(time.Duration(round) * time.Second)
		said := record.Sent{Run: "r-1", Since: float64(round), Wall: now, Received: now}
		by := s
		if random.IntN(3) == 0 {
			by = other // what s knew of the job is old by then
		}
		got, err := by.AppendAll(ctx, batch, said)
		require.NoError(t, err)
		require.Len(t, got, len(batch))
		for i, e := range batch {
			twin := e
			twin.Job = "j-2"
			twin.ID = twinOf(e.ID)
			want, err := s.Append(ctx, twin, said)
			if err != nil {
				assert.Error(t, got[i].Err, "%d of round %d", i, round)
				continue
			}
			require.NoError(t, got[i].Err, "%d of round %d", i, round)
			assert.Equal(t, want.Known, got[i].Known)
			assert.Equal(t, want.Num, got[i].Num, "%d of round %d", i, round)
			assert.Equal(t, want.T.UTC(), got[i].T.UTC())
			before = append(before, e)
		}
	}
	events, err := s.Events(ctx, "j-1", 0, 10_000)
	require.NoError(t, err)
	twins, err := s.Events(ctx, "j-2", 0, 10_000)
	require.NoError(t, err)
	require.Len(t, events, len(twins))
	for i := range events {
		assert.Equal(t, i+1, events[i].Num)
		assert.Equal(t, events[i].T, twins[i].T)
		assert.Equal(t, twinOf(events[i].ID), twins[i].ID)
		assert.JSONEq(t, string(events[i].Body), string(twins[i].Body))
	}
	_, err = s.AppendAll(ctx, nil, record.Sent{})
	assert.NoError(t, err)
}

// twinOf is another id that hangs on one.
func twinOf(id string) string {
	last := map[byte]string{'0': "1", '1': "0", '2': "3", '3': "2", '4': "5", '5': "4", '6': "7", '7': "6", '8': "9", '9': "8", 'a': "b", 'b': "a", 'c': "d", 'd': "c", 'e': "f", 'f': "e"}
	return last[id[0]] + id[1:]
}
