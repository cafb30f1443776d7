package store_test

import (
	"context"
	"encoding/json"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/ladder"
	"evensteps/core/machine"
	"evensteps/store"
)

// A new password is one person's; a person who is put again keeps theirs.
func TestAPasswordIsOnesOwn(t *testing.T) {
	s, _, _ := filled(t)
	ctx := t.Context()
	require.NoError(t, s.PutPerson(ctx, store.Person{ID: "odda", Name: "Odda", SignIn: "odda", PasswordHash: "y", Role: "technician"}))
	require.NoError(t, s.SetPassword(ctx, "odda", "new"))
	require.NoError(t, s.PutPerson(ctx, store.Person{ID: "odda", Name: "Odda Lien", SignIn: "odda.l", PasswordHash: "z", Role: "lead", Held: []ladder.Held{{Ticket: "gas"}}}))
	odda, err := s.Person(ctx, "odda")
	require.NoError(t, err)
	assert.Equal(t, store.Person{ID: "odda", Name: "Odda Lien", SignIn: "odda.l", PasswordHash: "new", Role: "lead", Tickets: []string{}, Held: []ladder.Held{{Ticket: "gas"}}}, odda)
	jonna, err := s.Person(ctx, "jonna")
	require.NoError(t, err)
	assert.Equal(t, "x", jonna.PasswordHash)
	assert.Equal(t, []ladder.Held{}, jonna.Held)
	people, err := s.People(ctx)
	require.NoError(t, err)
	require.Len(t, people, 2)
	assert.Equal(t, "jonna", people[0].ID, "by name")
	_, err = s.PersonBySignIn(ctx, "odda")
	assert.ErrorIs(t, err, store.ErrNotFound, "the name before is nobody's")
}

// Jobs are pinned to a revision: it never says anything else.
func TestARevisionStaysAsItIs(t *testing.T) {
	s, _, m := filled(t)
	ctx := t.Context()
	same, err := s.SameMap(ctx, m)
	require.NoError(t, err)
	assert.True(t, same)
	other := *m
	other.Title = "something else"
	require.NoError(t, s.PutMap(ctx, &other))
	kept, err := s.Map(ctx, m.ID, m.Revision)
	require.NoError(t, err)
	assert.Equal(t, m.Title, kept.Title)
	same, err = s.SameMap(ctx, &other)
	require.NoError(t, err)
	assert.False(t, same)
	other.Revision = m.Revision + 9
	require.NoError(t, s.PutMap(ctx, &other))
	newest, err := s.Maps(ctx)
	require.NoError(t, err)
	require.Len(t, newest, 1)
	assert.Equal(t, other.Revision, newest[0].Revision)
	_, err = s.SameMap(ctx, &machine.Map{ID: m.ID, Revision: 2000})
	assert.ErrorIs(t, err, store.ErrNotFound)
}

// What is put again is changed; it does not double.
func TestSitesAppliancesAndMeters(t *testing.T) {
	s, _, _ := filled(t)
	ctx := t.Context()
	require.NoError(t, s.PutSite(ctx, store.Site{ID: "yard", Name: "Boat-yard canteen", Island: "Skerry", Ferry: "09:10"}))
	require.NoError(t, s.PutSite(ctx, store.Site{ID: "inn", Name: "The inn", Island: "Holm"}))
	require.NoError(t, s.PutAppliance(ctx, store.Appliance{ID: "yard-2", SiteID: "yard", Name: "dryer 2", Model: "TV6", Serial: "44"}))
	require.NoError(t, s.PutAppliance(ctx, store.Appliance{ID: "inn-1", SiteID: "inn", Name: "oven"}))
	sites, err := s.Sites(ctx)
	require.NoError(t, err)
	assert.Equal(t, []store.Site{{ID: "inn", Name: "The inn", Island: "Holm"}, {ID: "yard", Name: "Boat-yard canteen", Island: "Skerry", Ferry: "09:10"}}, sites)
	machines, err := s.Appliances(ctx)
	require.NoError(t, err)
	require.Len(t, machines, 2)
	assert.Equal(t, "The inn", machines[0].Site.Name)
	one, err := s.Appliance(ctx, "yard-2")
	require.NoError(t, err)
	assert.Equal(t, []string{"44", "Skerry"}, []string{one.Serial, one.Site.Island})

	require.NoError(t, s.PutMeter(ctx, store.Meter{ID: "7", Name: "Meter 7"}))
	from := time.Date(2026, 1, 2, 0, 0, 0, 0, time.UTC)
	was := []ladder.Meter{{Name: "before"}}
	require.NoError(t, s.PutMeter(ctx, store.Meter{ID: "7", Name: "Meter 7", Accuracy: map[string]string{"resistance": "1 %"}, Category: "CAT III 600 V", ValidFrom: &from, Was: was}))
	require.NoError(t, s.PutMeter(ctx, store.Meter{ID: "4", Name: "Meter 4"}))
	meters, err := s.Meters(ctx)
	require.NoError(t, err)
	require.Len(t, meters, 2)
	assert.Equal(t, store.Meter{ID: "4", Name: "Meter 4", Accuracy: map[string]string{}, Was: []ladder.Meter{}}, meters[0])
	assert.Equal(t, was, meters[1].Was)
	assert.Equal(t, "1 %", meters[1].Accuracy["resistance"])
	assert.True(t, from.Equal(*meters[1].ValidFrom))
}

func TestPhotosStayAsTheyAre(t *testing.T) {
	s, _, _ := filled(t)
	ctx := t.Context()
	sum := strings.Repeat("0a", 32)
	first := store.Photo{SHA256: sum, Type: "image/png", Width: 3, Height: 2, Bytes: []byte{1, 2}, By: "jonna"}
	require.NoError(t, s.PutPhoto(ctx, first))
	require.NoError(t, s.PutPhoto(ctx, store.Photo{SHA256: sum, Type: "image/jpeg", Width: 1, Height: 1, Bytes: []byte{9}, By: "jonna"}))
	kept, err := s.Photo(ctx, sum)
	require.NoError(t, err)
	assert.Equal(t, first, kept)
}

// A call makes one job, however often it comes; a job that is there already is
// left as it is.
func TestACallMakesOneJob(t *testing.T) {
	s, _, m := filled(t)
	ctx := t.Context()
	call, another := strings.Repeat("1", 36), strings.Repeat("2", 36)
	asked := store.Job{ApplianceID: "yard-2", MapID: m.ID, MapRevision: m.Revision, Words: "no heat", Call: &call}
	first, err := s.NewJob(ctx, asked)
	require.NoError(t, err)
	assert.Equal(t, "Boat-yard canteen", first.Appliance.Site.Name)
	asked.Words = "said again"
	again, err := s.NewJob(ctx, asked)
	require.NoError(t, err)
	assert.Equal(t, first, again)
	asked.Call = &another
	second, err := s.NewJob(ctx, asked)
	require.NoError(t, err)
	assert.NotEqual(t, first.ID, second.ID)
	third := strings.Repeat("3", 36)
	asked.ApplianceID, asked.Call = "nowhere", &third
	_, err = s.NewJob(ctx, asked)
	assert.ErrorContains(t, err, "keeping the call")

	require.NoError(t, s.PutJob(ctx, store.Job{ID: "j-1", ApplianceID: "yard-2", MapID: m.ID, MapRevision: m.Revision, Words: "other words"}))
	kept, err := s.Job(ctx, "j-1")
	require.NoError(t, err)
	assert.Equal(t, "it thumps", kept.Words)
}

// history puts a row with what was done and mended to each of some jobs.
func history(t *testing.T, s *store.Store, m *machine.Map, jobs ...store.Job) {
	t.Helper()
	for _, j := range jobs {
		j.MapRevision = m.Revision
		require.NoError(t, s.PutJob(t.Context(), j))
		require.NoError(t, s.PutTodayRow(t.Context(), store.TodayRow{JobID: j.ID, Body: json.RawMessage("{}"), Stage: "signed", Mended: []string{"belt-broken"}, Did: []string{"belt fitted on " + j.ID}}))
	}
}

// What was done before is of the same machine, the latest first; what was mended
// counts for the same complaint on the same map.
func TestWhatWasDoneBefore(t *testing.T) {
	s, _, m := filled(t)
	ctx := t.Context()
	require.NoError(t, s.PutAppliance(ctx, store.Appliance{ID: "yard-3", SiteID: "yard", Name: "dryer 3"}))
	at := func(day int) time.Time { return time.Date(2026, 11, day, 8, 0, 0, 0, time.UTC) }
	history(t, s, m,
		store.Job{ID: "old", ApplianceID: "yard-2", MapID: m.ID, Complaint: "thumps", CreatedAt: at(1)},
		store.Job{ID: "older", ApplianceID: "yard-2", MapID: m.ID, Complaint: "no-heat", CreatedAt: at(2)},
		store.Job{ID: "like", ApplianceID: "yard-3", MapID: m.ID, Complaint: "thumps", CreatedAt: at(3)},
		store.Job{ID: "now", ApplianceID: "yard-2", MapID: m.ID, Complaint: "thumps", CreatedAt: at(4)})
	now, err := s.Job(ctx, "now")
	require.NoError(t, err)
	past, err := s.Before(ctx, now, 5)
	require.NoError(t, err)
	require.Len(t, past, 2, "not itself, not that of another machine, none without a thing done")
	assert.Equal(t, []string{"belt fitted on older"}, past[0].Did)
	assert.True(t, past[1].CreatedAt.Equal(at(1)))
	past, err = s.Before(ctx, now, 1)
	require.NoError(t, err)
	assert.Len(t, past, 1)
	mended, err := s.Mended(ctx, now)
	require.NoError(t, err)
	assert.Equal(t, map[string]int{"belt-broken": 2}, mended, "of the same complaint, on another machine, too; not its own")
	none, err := s.Mended(ctx, store.Job{MapID: m.ID, Complaint: "other"})
	require.NoError(t, err)
	assert.Empty(t, none)
}

// Whatever is asked of a database that is gone is an error that says what was
// being done, and that it passes; nothing looks like an empty answer.
func TestADatabaseThatIsGone(t *testing.T) {
	s, _, m := filled(t)
	ctx := t.Context()
	job, err := s.Job(ctx, "j-1")
	require.NoError(t, err)
	_, err = s.Append(ctx, event(1, "tab-1", `{"text": "x"}`), sent(5))
	require.NoError(t, err)
	gone, _ := open(t)
	require.NoError(t, gone.Close())
	call := "c"
	stamped := event(2, "tab-1", `{}`)
	now := time.Now()
	stamped.T, stamped.Num = &now, 2
	for doing, ask := range map[string]func(*store.Store, context.Context) error{
		"reaching":             func(s *store.Store, ctx context.Context) error { return s.Ready(ctx) },
		"keeping the person":   func(s *store.Store, ctx context.Context) error { return s.PutPerson(ctx, store.Person{ID: "a"}) },
		"keeping the password": func(s *store.Store, ctx context.Context) error { return s.SetPassword(ctx, "jonna", "y") },
		"reading the person":   func(s *store.Store, ctx context.Context) error { _, err := s.Person(ctx, "jonna"); return err },
		"reading the sign-in":  func(s *store.Store, ctx context.Context) error { _, err := s.PersonBySignIn(ctx, "jonna"); return err },
		"keeping the code":     func(s *store.Store, ctx context.Context) error { return s.SetCode(ctx, "jonna", "x", now) },
		"using the code":       func(s *store.Store, ctx context.Context) error { _, err := s.UseCode(ctx, "jonna"); return err },
		"adding the first lead": func(s *store.Store, ctx context.Context) error {
			_, err := s.FirstLead(ctx, store.Person{ID: "a"})
			return err
		},
		"listing people":        func(s *store.Store, ctx context.Context) error { _, err := s.People(ctx); return err },
		"keeping the site":      func(s *store.Store, ctx context.Context) error { return s.PutSite(ctx, store.Site{ID: "a"}) },
		"listing sites":         func(s *store.Store, ctx context.Context) error { _, err := s.Sites(ctx); return err },
		"keeping the appliance": func(s *store.Store, ctx context.Context) error { return s.PutAppliance(ctx, store.Appliance{ID: "a"}) },
		"listing appliances":    func(s *store.Store, ctx context.Context) error { _, err := s.Appliances(ctx); return err },
		"reading the appliance": func(s *store.Store, ctx context.Context) error { _, err := s.Appliance(ctx, "yard-2"); return err },
		"keeping the meter":     func(s *store.Store, ctx context.Context) error { return s.PutMeter(ctx, store.Meter{ID: "a"}) },
		"listing meters":        func(s *store.Store, ctx context.Context) error { _, err := s.Meters(ctx); return err },
		"keeping revision":      func(s *store.Store, ctx context.Context) error { return s.PutMap(ctx, m) },
		"reading the map":       func(s *store.Store, ctx context.Context) error { _, err := s.Map(ctx, m.ID, m.Revision); return err },
		"reading the maps":      func(s *store.Store, ctx context.Context) error { _, err := s.Maps(ctx); return err },
		"keeping the photo":     func(s *store.Store, ctx context.Context) error { return s.PutPhoto(ctx, store.Photo{SHA256: "a"}) },
		"reading the photo":     func(s *store.Store, ctx context.Context) error { _, err := s.Photo(ctx, "aa"); return err },
		"keeping the job":       func(s *store.Store, ctx context.Context) error { return s.PutJob(ctx, job) },
		"keeping the call": func(s *store.Store, ctx context.Context) error {
			_, err := s.NewJob(ctx, store.Job{Call: &call})
			return err
		},
		"reading the job":    func(s *store.Store, ctx context.Context) error { _, err := s.Job(ctx, "j-1"); return err },
		"reading the events": func(s *store.Store, ctx context.Context) error { _, err := s.Events(ctx, "j-1", 0, 9); return err },
		"looking for what the event": func(s *store.Store, ctx context.Context) error {
			_, err := s.Append(ctx, event(2, "tab-2", `{}`), sent(5))
			return err
		},
		"what the event ":             func(s *store.Store, ctx context.Context) error { return s.AppendStamped(ctx, stamped) },
		"looking for earlier jobs":    func(s *store.Store, ctx context.Context) error { _, err := s.Before(ctx, job, 5); return err },
		"looking for what was mended": func(s *store.Store, ctx context.Context) error { _, err := s.Mended(ctx, job); return err },
		"reading what Today shows": func(s *store.Store, ctx context.Context) error {
			_, err := s.Now(ctx, "jonna", store.Place{}, 5)
			return err
		},
		"what Today shows: ": func(s *store.Store, ctx context.Context) error {
			_, err := s.Earlier(ctx, "jonna", store.Place{}, 5)
			return err
		},
		"keeping what Today shows": func(s *store.Store, ctx context.Context) error {
			return s.PutTodayRow(ctx, store.TodayRow{JobID: "j-1", Body: json.RawMessage("{}")})
		},
		"looking for what Today": func(s *store.Store, ctx context.Context) error { _, err := s.StaleJobs(ctx, 5); return err },
		"looking for old rows":   func(s *store.Store, ctx context.Context) error { _, err := s.OutdateRows(ctx, 1); return err },
		"dropping what Today":    func(s *store.Store, ctx context.Context) error { return s.DropTodayRows(ctx) },
		"keeping the session":    func(s *store.Store, ctx context.Context) error { return s.Sessions().CommitCtx(ctx, "a", nil, now) },
		"finding the session": func(s *store.Store, ctx context.Context) error {
			_, _, err := s.Sessions().FindCtx(ctx, "a")
			return err
		},
		"ending the session":   func(s *store.Store, ctx context.Context) error { return s.Sessions().DeleteCtx(ctx, "a") },
		"marking the database": func(s *store.Store, ctx context.Context) error { return s.Restored(ctx) },
	} {
		err := ask(gone, ctx)
		assert.ErrorContains(t, err, doing)
		assert.NotErrorIs(t, err, store.ErrNotFound, doing)
		late, cancel := context.WithDeadline(ctx, now.Add(-time.Second))
		cancel()
		err = ask(s, late)
		if assert.ErrorContains(t, err, doing) {
			assert.True(t, store.Passes(err), "%s: %v", doing, err)
		}
	}
	for _, url := range []string{"postgres://nobody@127.0.0.1:1/none?sslmode=disable", "no address"} {
		_, err := store.Open(ctx, url)
		assert.Error(t, err, url)
	}
	events, err := s.Events(ctx, "j-1", 0, 100)
	require.NoError(t, err)
	assert.Len(t, events, 1, "what failed was not kept")
}
