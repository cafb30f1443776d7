package store_test

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/company"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/library"
	"evensteps/store"
	"evensteps/store/cluster"
)

var db *cluster.Cluster

func TestMain(m *testing.M) {
	os.Exit(cluster.ForTests(m.Run, func(c *cluster.Cluster) { db = c }))
}

func open(t *testing.T) (*store.Store, string) {
	t.Helper()
	url, err := db.Database(t.Context())
	require.NoError(t, err)
	s, err := store.Open(t.Context(), url)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	return s, url
}

func filled(t *testing.T) (*store.Store, string, *machine.Map) {
	t.Helper()
	s, url := open(t)
	maps, err := library.Maps()
	require.NoError(t, err)
	ctx := t.Context()
	require.NoError(t, s.PutMap(ctx, maps[0]))
	require.NoError(t, s.PutPerson(ctx, store.Person{ID: "jonna", Name: "Jonna", SignIn: "jonna", PasswordHash: "x", Role: "technician", Held: []company.Ticket{{Ticket: "gas"}}}))
	require.NoError(t, s.SaveSite(ctx, company.Site{ID: "yard", Name: "Boat-yard canteen", Island: "Holm"}, store.Seen{}))
	require.NoError(t, s.SaveMachine(ctx, company.Machine{ID: "yard-2", Site: "yard", Name: "dryer 2"}, store.Seen{}))
	require.NoError(t, s.PutJob(ctx, store.Job{ID: "j-1", ApplianceID: "yard-2", MapID: maps[0].ID, MapRevision: maps[0].Revision, Words: "it thumps"}))
	return s, url, maps[0]
}

func event(n int, device, body string) record.Event {
	return record.Event{
		ID: uuid.Must(uuid.NewV7()).String(), Job: "j-1", By: "jonna", Device: device, N: n, Run: "r-1", Since: float64(n),
		Wall: time.Date(2026, 11, 25, 11, 0, n, 0, time.FixedZone("", 2*3600)), Kind: "note", Body: json.RawMessage(body),
	}
}

func sent(since float64) record.Sent {
	now := time.Now()
	return record.Sent{Run: "r-1", Since: since, Wall: now, Received: now}
}

func TestWhatIsKeptComesBack(t *testing.T) {
	s, _, m := filled(t)
	ctx := t.Context()
	require.NoError(t, s.Ready(ctx))
	j, err := s.Job(ctx, "j-1")
	require.NoError(t, err)
	assert.Equal(t, "Boat-yard canteen", j.Appliance.Site.Name)
	_, err = s.Job(ctx, "j-9")
	assert.ErrorIs(t, err, store.ErrNotFound)
	same, err := s.SameMap(ctx, m)
	require.NoError(t, err)
	assert.True(t, same, "a map comes back as it went in")
	_, err = s.Map(ctx, m.ID, 99)
	assert.ErrorIs(t, err, store.ErrNotFound)
	p, err := s.PersonBySignIn(ctx, "jonna")
	require.NoError(t, err)
	assert.Equal(t, []company.Ticket{{Ticket: "gas"}}, p.Held)

	e := event(1, "tab-1", `{"text": "x"}`)
	kept, err := s.Append(ctx, e, sent(5))
	require.NoError(t, err)
	assert.Equal(t, 1, kept.Num)
	events, err := s.Events(ctx, "j-1", 0, 100)
	require.NoError(t, err)
	require.Len(t, events, 1)
	assert.Equal(t, "2026-11-25T11:00:01+02:00", events[0].Wall.Format(time.RFC3339), "the offset of the device's clock is kept")
	assert.Equal(t, kept.T, *events[0].T)
}

func TestTheSameEventTwiceIsKeptOnce(t *testing.T) {
	s, _, m := filled(t)
	require.NoError(t, s.PutPerson(t.Context(), store.Person{ID: "odda", Name: "Odda", SignIn: "odda", Role: "technician"}))
	require.NoError(t, s.PutJob(t.Context(), store.Job{ID: "j-2", ApplianceID: "yard-2", MapID: m.ID, MapRevision: m.Revision}))
	e := event(1, "tab-1", `{"text": "x", "on": "top-off"}`)
	first, err := s.Append(t.Context(), e, sent(5))
	require.NoError(t, err)
	e.Body = json.RawMessage(`{"on":"top-off","text":"x"}`) // the same, spelt otherwise
	again, err := s.Append(t.Context(), e, sent(9))
	require.NoError(t, err)
	assert.True(t, again.Known)
	assert.Equal(t, first.Num, again.Num)
	assert.Equal(t, first.T, again.T)
	for what, change := range map[string]func(*record.Event){
		"body":   func(e *record.Event) { e.Body = json.RawMessage(`{"text": "y"}`) },
		"none":   func(e *record.Event) { e.Body = nil },
		"person": func(e *record.Event) { e.By = "odda" },
		"kind":   func(e *record.Event) { e.Kind = "rung.out" },
		"job":    func(e *record.Event) { e.Job = "j-2" },
	} {
		other := e
		change(&other)
		_, err = s.Append(t.Context(), other, sent(9))
		assert.ErrorIs(t, err, store.ErrOtherBody, what)
	}
	events, err := s.Events(t.Context(), "j-1", 0, 100)
	require.NoError(t, err)
	assert.Len(t, events, 1)
	assert.JSONEq(t, `{"text": "x", "on": "top-off"}`, string(events[0].Body), "the first stays")
}

// A fact of a job that is not there is told so; one without a body says nothing,
// and is kept.
func TestFactsOfNoJobAndWithoutABody(t *testing.T) {
	s, _, _ := filled(t)
	e := event(1, "tab-1", `{}`)
	e.Job = "j-9"
	_, err := s.Append(t.Context(), e, sent(1))
	assert.ErrorIs(t, err, store.ErrNotFound)
	e = event(2, "tab-1", "")
	_, err = s.Append(t.Context(), e, sent(1))
	require.NoError(t, err)
	again, err := s.Append(t.Context(), e, sent(1))
	require.NoError(t, err)
	assert.True(t, again.Known)
	events, err := s.Events(t.Context(), "j-1", 0, 10)
	require.NoError(t, err)
	require.Len(t, events, 1)
	assert.JSONEq(t, "{}", string(events[0].Body))
}

// Many at once: numbers without gaps, none twice, each device's facts in its
// own order by stamp.
func TestNumbersHaveNoGapsWhenManyAppendAtOnce(t *testing.T) {
	s, _, _ := filled(t)
	const devices, each = 6, 15
	var all sync.WaitGroup
	for d := range devices {
		all.Go(func() {
			for n := 1; n <= each; n++ {
				_, err := s.Append(t.Context(), event(n, fmt.Sprintf("tab-%d", d), `{"text": "x"}`), sent(float64(each)))
				assert.NoError(t, err)
			}
		})
	}
	all.Wait()
	events, err := s.Events(t.Context(), "j-1", 0, 1000)
	require.NoError(t, err)
	require.Len(t, events, devices*each)
	last := map[string]time.Time{}
	for i, e := range events {
		assert.Equal(t, i+1, e.Num)
		assert.False(t, e.T.Before(last[e.Device]))
		last[e.Device] = *e.T
	}
	rest, err := s.Events(t.Context(), "j-1", 80, 1000)
	require.NoError(t, err)
	assert.Len(t, rest, 10)
}

// Two servers on one database: whoever comes second stamps and numbers again,
// so that there is no gap, nothing twice, and nothing lost.
func TestTwoServersOnOneDatabase(t *testing.T) {
	one, url, _ := filled(t)
	two, err := store.Open(t.Context(), url)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, two.Close()) })
	const each = 25
	same := event(1, "tab-0", `{"text": "the same by both ways"}`)
	var all sync.WaitGroup
	for k, s := range []*store.Store{one, two} {
		all.Go(func() {
			_, err := s.Append(t.Context(), same, sent(each))
			assert.NoError(t, err)
			for n := 1; n <= each; n++ {
				e := event(n, fmt.Sprintf("tab-%d", k+1), `{"text": "x"}`)
				e.Seen = 1
				kept, err := s.Append(t.Context(), e, sent(each))
				assert.NoError(t, err)
				assert.False(t, kept.Known)
			}
		})
	}
	all.Wait()
	events, err := one.Events(t.Context(), "j-1", 0, 1000)
	require.NoError(t, err)
	require.Len(t, events, 2*each+1)
	for i, e := range events {
		assert.Equal(t, i+1, e.Num)
		assert.False(t, e.T.Before(*events[0].T), "none is earlier than what it had seen")
	}
}

func TestEventsAreOnlyAdded(t *testing.T) {
	s, url, _ := filled(t)
	_, err := s.Append(t.Context(), event(1, "tab-1", `{"text": "x"}`), sent(1))
	require.NoError(t, err)
	conn, err := pgx.Connect(t.Context(), url)
	require.NoError(t, err)
	defer func() { assert.NoError(t, conn.Close(context.Background())) }()
	for _, sql := range []string{"update events set kind = 'x'", "delete from events", "truncate events"} {
		_, err := conn.Exec(t.Context(), sql)
		assert.ErrorContains(t, err, "never changed or deleted", sql)
	}
}

func TestSessionsExpire(t *testing.T) {
	s, _ := open(t)
	sessions := s.Sessions()
	require.NoError(t, sessions.Commit("a", []byte("1"), time.Now().Add(time.Hour)))
	require.NoError(t, sessions.Commit("b", []byte("2"), time.Now().Add(-time.Second)))
	require.NoError(t, sessions.Commit("a", []byte("1"), time.Now().Add(time.Hour)))
	data, found, err := sessions.Find("a")
	require.NoError(t, err)
	assert.True(t, found, "one is not ended by another")
	assert.Equal(t, []byte("1"), data)
	_, found, err = sessions.Find("b")
	require.NoError(t, err)
	assert.False(t, found)
	require.NoError(t, sessions.Delete("a"))
	_, found, err = sessions.Find("a")
	require.NoError(t, err)
	assert.False(t, found)
}

// Servers that start together on an empty database take turns at its tables.
func TestServersThatStartTogether(t *testing.T) {
	url, err := db.Database(t.Context())
	require.NoError(t, err)
	var all sync.WaitGroup
	for range 5 {
		all.Go(func() {
			s, err := store.Open(t.Context(), url)
			if assert.NoError(t, err) {
				assert.NoError(t, s.Ready(t.Context()))
				assert.NoError(t, s.Close())
			}
		})
	}
	all.Wait()
}

// Whatever a server remembers of how a job stands, each fact gets the stamp that
// looking it all up would give: by two servers in turn, from devices that send
// late, out of order, again, and have seen more or less of the job.
func TestWhatIsRememberedStampsAsWhatIsLookedUp(t *testing.T) {
	one, url, _ := filled(t)
	two, err := store.Open(t.Context(), url)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, two.Close()) })
	random := rand.New(rand.NewPCG(10, 6))
	var all []record.Event // as kept, by number
	next := map[string]int{}
	held := []record.Event{} // made and not sent yet
	for range 600 {
		device := fmt.Sprintf("tab-%d", random.IntN(3))
		next[device]++
		e := event(next[device], device, `{"text": "x"}`)
		e.Seen = random.IntN(len(all) + 3)
		if random.IntN(4) > 0 {
			e.Seen = len(all)
		}
		e.Wall = time.Now().Add(-time.Duration(random.IntN(1e6)) * time.Microsecond)
		e.Run = "another"
		switch {
		case random.IntN(5) == 0:
			held = append(held, e)
			continue
		case len(held) > 0 && random.IntN(3) == 0:
			e, held = held[0], append(held[1:], e)
		}
		s := one
		if random.IntN(6) == 0 {
			s = two
		}
		how := sent(0)
		kept, err := s.Append(t.Context(), e, how)
		require.NoError(t, err)
		var after time.Time
		n := 0
		for _, o := range all {
			if o.Num <= e.Seen && o.T.After(after) {
				after = *o.T
			}
		}
		var before time.Time
		for _, o := range all {
			if o.Device == e.Device && o.N < e.N && o.N > n {
				n, before = o.N, *o.T
			}
		}
		if before.After(after) {
			after = before
		}
		require.Equal(t, record.Stamp(&e, how, after), kept.T, "fact %d", len(all)+1)
		require.Equal(t, len(all)+1, kept.Num)
		e.Num, e.T = kept.Num, &kept.T
		all = append(all, e)
		if random.IntN(8) == 0 {
			again, err := s.Append(t.Context(), all[random.IntN(len(all))], how)
			require.NoError(t, err)
			assert.True(t, again.Known)
		}
	}
}
