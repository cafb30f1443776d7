package store_test

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/company"
	"evensteps/core/machine"
	"evensteps/store"
)

// A new password is one person's; a person who is put again keeps theirs.
func TestAPasswordIsOnesOwn(t *testing.T) {
	s, _, _ := filled(t)
	ctx := t.Context()
	require.NoError(t, s.PutPerson(ctx, store.Person{ID: "odda", Name: "Odda", SignIn: "odda", PasswordHash: "y", Role: "technician"}))
	require.NoError(t, s.SetPassword(ctx, "odda", "new"))
	require.NoError(t, s.PutPerson(ctx, store.Person{ID: "odda", Name: "Odda Lien", SignIn: "odda.l", PasswordHash: "z", Role: "supervisor", Held: []company.Ticket{{Ticket: "gas"}}}))
	odda, err := s.Person(ctx, "odda")
	require.NoError(t, err)
	assert.Equal(t, store.Person{ID: "odda", Name: "Odda Lien", SignIn: "odda.l", PasswordHash: "new", Role: "supervisor", Held: []company.Ticket{{Ticket: "gas"}}, Spares: []string{}, Changed: store.Changed{Version: 1}}, odda)
	jonna, err := s.Person(ctx, "jonna")
	require.NoError(t, err)
	assert.Equal(t, "x", jonna.PasswordHash)
	assert.Equal(t, []company.Ticket{{Ticket: "gas"}}, jonna.Held)
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

var noon = time.UTC

// What is added twice stays as it was first; what is changed has to have been seen.
func TestSitesAndMachines(t *testing.T) {
	s, _, _ := filled(t)
	ctx := t.Context()
	require.NoError(t, s.SaveSite(ctx, company.Site{ID: "yard", Name: "Boat-yard canteen", Island: "Skerry", Ferry: "09:10", Address: "Quay 2", Contact: "Bo", Phone: "+1", Access: "Key"}, store.Seen{Version: 1, By: "jonna"}))
	require.NoError(t, s.SaveSite(ctx, company.Site{ID: "inn", Name: "The inn", Island: "Holm"}, store.Seen{By: "jonna"}))
	require.ErrorIs(t, s.SaveSite(ctx, company.Site{ID: "inn", Name: "Another inn"}, store.Seen{}), store.ErrTaken)
	require.NoError(t, s.SaveMachine(ctx, company.Machine{ID: "yard-2", Site: "yard", Name: "dryer 2", Model: "TV6", Serial: "44", Map: "tidemoor-tv6", Stands: "Cellar", Options: map[string]string{"legs": "stacked"}}, store.Seen{Version: 1, By: "jonna"}))
	require.NoError(t, s.SaveMachine(ctx, company.Machine{ID: "inn-1", Site: "inn", Name: "oven"}, store.Seen{}))
	sites, err := s.Sites(ctx)
	require.NoError(t, err)
	require.Len(t, sites, 2)
	assert.Equal(t, company.Site{ID: "yard", Name: "Boat-yard canteen", Island: "Skerry", Ferry: "09:10", Address: "Quay 2", Contact: "Bo", Phone: "+1", Access: "Key"}, sites[1].Company())
	assert.Equal(t, "The inn", sites[0].Name)
	assert.Equal(t, 2, sites[1].Version)
	assert.Equal(t, "jonna", *sites[1].ChangedBy)
	assert.WithinDuration(t, time.Now(), *sites[1].ChangedAt, time.Minute)
	machines, err := s.Appliances(ctx)
	require.NoError(t, err)
	require.Len(t, machines, 2)
	assert.Equal(t, "The inn", machines[0].Site.Name)
	one, err := s.Appliance(ctx, "yard-2")
	require.NoError(t, err)
	assert.Equal(t, company.Machine{ID: "yard-2", Site: "yard", Name: "dryer 2", Model: "TV6", Serial: "44", Map: "tidemoor-tv6", Stands: "Cellar", Options: map[string]string{"legs": "stacked"}}, one.Company())
	assert.Equal(t, "Skerry", one.Site.Island)
	assert.Error(t, s.SaveMachine(ctx, company.Machine{ID: "x", Site: "nowhere", Name: "oven"}, store.Seen{}))

	// Of two who saw the same, the second is told, and by whom it was changed.
	err = s.SaveSite(ctx, company.Site{ID: "yard", Name: "Yard"}, store.Seen{Version: 1, By: "odda"})
	require.ErrorIs(t, err, store.ErrChanged)
	var last *store.ChangedError
	require.ErrorAs(t, err, &last)
	assert.Equal(t, "jonna", *last.Last.ChangedBy)
	require.ErrorIs(t, s.SaveMachine(ctx, company.Machine{ID: "yard-2", Site: "yard", Name: "x"}, store.Seen{Version: 7}), store.ErrChanged)
	assert.ErrorIs(t, s.SaveMachine(ctx, company.Machine{ID: "none", Site: "yard", Name: "x"}, store.Seen{Version: 7}), store.ErrNotFound)
}

// A meter's accuracy, category and calibration are kept as they were: a reading is
// judged by those of its time.
func TestMetersKeepHowTheyWere(t *testing.T) {
	s, _, _ := filled(t)
	ctx := t.Context()
	m := company.Meter{ID: "m-7", Name: "Meter 7", Accuracy: map[string]string{"resistance": "1%"}, Category: "CAT III 600 V", Due: "2026-06-30"}
	require.NoError(t, s.SaveMeter(ctx, m, store.Seen{}, noon))
	m.Name = "Meter seven"
	require.NoError(t, s.SaveMeter(ctx, m, store.Seen{Version: 1}, noon))
	meters, err := s.Meters(ctx)
	require.NoError(t, err)
	assert.Empty(t, meters[0].Was, "another name is no other meter")
	m.Due, m.Calibrated, m.Accuracy = "2027-06-30", "2026-07-01", map[string]string{"resistance": "2%"}
	require.NoError(t, s.SaveMeter(ctx, m, store.Seen{Version: 2}, noon))
	require.NoError(t, s.SaveMeter(ctx, company.Meter{ID: "m-4", Name: "Meter 4"}, store.Seen{}, noon))
	meters, err = s.Meters(ctx)
	require.NoError(t, err)
	require.Len(t, meters, 2)
	assert.Equal(t, company.Meter{ID: "m-4", Name: "Meter 4", Accuracy: map[string]string{}}, meters[0].Company())
	assert.Equal(t, m, meters[1].Company())
	now := meters[1].Judged(noon)
	require.Len(t, now.Was, 1)
	assert.Equal(t, "1%", now.Was[0].Accuracy["resistance"])
	assert.True(t, time.Date(2026, 7, 1, 0, 0, 0, 0, time.UTC).Equal(*now.Was[0].Due))
	assert.True(t, now.Was[0].Until.Equal(*now.From))
	assert.True(t, time.Date(2027, 7, 1, 0, 0, 0, 0, time.UTC).Equal(*now.Due))
	assert.ErrorIs(t, s.SaveMeter(ctx, m, store.Seen{Version: 2}, noon), store.ErrChanged)
}

// The jobs of a machine that proves to be another go over to it, and back where
// that was a mistake.
func TestMachinesThatAreOne(t *testing.T) {
	s, _, m := filled(t)
	ctx := t.Context()
	require.NoError(t, s.SaveMachine(ctx, company.Machine{ID: "yard-3", Site: "yard", Name: "dryer the second"}, store.Seen{}))
	require.NoError(t, s.PutJob(ctx, store.Job{ID: "j-2", ApplianceID: "yard-3", MapID: m.ID, MapRevision: m.Revision}))
	on := func(id string) (jobs []string) {
		all, err := s.JobsOn(ctx, id, 10)
		require.NoError(t, err)
		for _, j := range all {
			jobs = append(jobs, j.Job.ID)
		}
		return jobs
	}
	require.ErrorIs(t, s.MergeMachine(ctx, "yard-3", "yard-3", "jonna"), store.ErrItself)
	require.ErrorIs(t, s.MergeMachine(ctx, "yard-3", "none", "jonna"), store.ErrNotFound)
	require.ErrorIs(t, s.MergeMachine(ctx, "none", "yard-2", "jonna"), store.ErrNotFound)
	require.NoError(t, s.MergeMachine(ctx, "yard-3", "yard-2", "jonna"))
	assert.ElementsMatch(t, []string{"j-1", "j-2"}, on("yard-2"))
	assert.Empty(t, on("yard-3"))
	found, err := s.Appliance(ctx, "yard-3")
	require.NoError(t, err)
	assert.Equal(t, "yard-2", found.ID, "what names it finds its way")
	all, err := s.Appliances(ctx)
	require.NoError(t, err)
	assert.Len(t, all, 1)
	merged, err := s.MergedInto(ctx, "yard-2")
	require.NoError(t, err)
	require.Len(t, merged, 1)
	require.ErrorIs(t, s.MergeMachine(ctx, "yard-2", "yard-3", "jonna"), store.ErrItself, "not in a ring")
	require.ErrorIs(t, s.MergeMachine(ctx, "yard-3", "yard-2", "jonna"), store.ErrItself)
	job, err := s.Job(ctx, "j-2")
	require.NoError(t, err)
	assert.Equal(t, "dryer 2", job.Appliance.Name)

	require.NoError(t, s.PartMachine(ctx, "yard-3"))
	assert.Equal(t, []string{"j-2"}, on("yard-3"))
	assert.Equal(t, []string{"j-1"}, on("yard-2"))
	assert.ErrorIs(t, s.PartMachine(ctx, "yard-3"), store.ErrNotFound)
}

// An account is closed and opened; its tickets end when they are taken away; the
// last supervisor stays one, whoever asks.
func TestChangingPeople(t *testing.T) {
	s, _, _ := filled(t)
	ctx := t.Context()
	added, err := s.AddPerson(ctx, store.Person{ID: "mira", SignIn: "mira", Name: "Mira", Role: "supervisor"})
	require.NoError(t, err)
	require.True(t, added)
	jonna := company.Person{SignIn: "jonna", Name: "Jonna H", Role: "technician", Closed: true}
	require.NoError(t, s.ChangePerson(ctx, jonna, store.Seen{Version: 1, By: "mira"}, noon))
	p, err := s.Person(ctx, "jonna")
	require.NoError(t, err)
	require.NotNil(t, p.ClosedAt)
	since := *p.ClosedAt
	assert.Equal(t, "x", p.PasswordHash, "the password is nobody's business here")
	require.Len(t, p.Held, 1)
	assert.True(t, p.Held[0].Until.Sound(), "the ticket ended")
	require.ErrorIs(t, s.ChangePerson(ctx, jonna, store.Seen{Version: 1}, noon), store.ErrChanged)
	require.NoError(t, s.ChangePerson(ctx, jonna, store.Seen{Version: 2}, noon))
	p, err = s.Person(ctx, "jonna")
	require.NoError(t, err)
	assert.True(t, since.Equal(*p.ClosedAt), "closed since it was closed")
	jonna.Closed = false
	require.NoError(t, s.ChangePerson(ctx, jonna, store.Seen{Version: 3}, noon))
	p, err = s.Person(ctx, "jonna")
	require.NoError(t, err)
	assert.Nil(t, p.ClosedAt)

	mira := company.Person{SignIn: "mira", Name: "Mira", Role: "supervisor", Closed: true}
	require.ErrorIs(t, s.ChangePerson(ctx, mira, store.Seen{Version: 1}, noon), store.ErrLastSupervisor)
	imports := func(rows ...company.Person) error {
		return s.ImportPeople(ctx, "mira", noon, func([]company.Person) []company.Person { return rows })
	}
	require.ErrorIs(t, imports(mira), store.ErrLastSupervisor, "by a file neither")
	benno := company.Person{SignIn: "benno", Name: "Benno", Role: "supervisor"}
	require.NoError(t, imports(benno))
	require.NoError(t, imports(mira))
	first, err := s.FirstSupervisor(ctx, store.Person{ID: "x", Name: "X", SignIn: "x"})
	require.NoError(t, err)
	assert.False(t, first)
	p, err = s.Person(ctx, "benno")
	require.NoError(t, err)
	assert.Empty(t, p.PasswordHash, "who comes by a file gets a code later")
}

// A file is taken whole; who changes the same rows meanwhile comes before or after.
func TestFilesOfRows(t *testing.T) {
	s, _, _ := filled(t)
	ctx := t.Context()
	var rows []company.Site
	for i := range 1200 {
		rows = append(rows, company.Site{ID: fmt.Sprintf("s-%d", i), Name: fmt.Sprintf("Cabin %d", i), Phone: "1"})
	}
	require.NoError(t, s.ImportSites(ctx, "jonna", func(now []company.Site) []company.Site {
		assert.Len(t, now, 1)
		return append(rows, company.Site{ID: "yard", Name: "Yard"})
	}))
	sites, err := s.Sites(ctx)
	require.NoError(t, err)
	assert.Len(t, sites, 1201)
	var stale []store.Job
	stale, err = s.StaleJobs(ctx, 10)
	require.NoError(t, err)
	assert.Len(t, stale, 1, "the job there is called otherwise now")
	require.NoError(t, s.ImportMachines(ctx, "jonna", func(now []company.Machine) []company.Machine {
		assert.Len(t, now, 1)
		return []company.Machine{{ID: "a", Site: "s-1", Name: "oven"}, {ID: "yard-2", Site: "s-2", Name: "dryer"}}
	}))
	require.Error(t, s.ImportMachines(ctx, "jonna", func([]company.Machine) []company.Machine {
		return []company.Machine{{ID: "b", Site: "s-1", Name: "oven"}, {ID: "c", Site: "nowhere", Name: "oven"}}
	}))
	machines, err := s.Appliances(ctx)
	require.NoError(t, err)
	assert.Len(t, machines, 2, "all of it or nothing")
	assert.Equal(t, 2, machines[1].Version)
	require.NoError(t, s.ImportMeters(ctx, "jonna", noon, func([]company.Meter) []company.Meter {
		return []company.Meter{{ID: "m-1", Name: "M", Due: "2026-01-01"}}
	}))
	require.NoError(t, s.ImportMeters(ctx, "jonna", noon, func(now []company.Meter) []company.Meter {
		assert.Len(t, now, 1)
		return []company.Meter{{ID: "m-1", Name: "M", Due: "2027-01-01"}}
	}))
	meters, err := s.Meters(ctx)
	require.NoError(t, err)
	assert.Len(t, meters[0].Was, 1)
	require.NoError(t, s.ImportMeters(ctx, "jonna", noon, func([]company.Meter) []company.Meter { return nil }))
}

// What an hour cost before stays for the facts of its time.
func TestTheCompanyItself(t *testing.T) {
	s, _, _ := filled(t)
	ctx := t.Context()
	c, err := s.Company(ctx)
	require.NoError(t, err)
	assert.Equal(t, 1, c.Version)
	require.NoError(t, s.SaveCompany(ctx, company.Details{Name: "Quay", Rate: 60}, store.Seen{Version: 1, By: "jonna"}))
	require.ErrorIs(t, s.SaveCompany(ctx, company.Details{Name: "Other"}, store.Seen{Version: 1}), store.ErrChanged)
	require.NoError(t, s.SaveCompany(ctx, company.Details{Name: "Quay", Rate: 66}, store.Seen{Version: 2}))
	require.NoError(t, s.SaveCompany(ctx, company.Details{Name: "Quays", Rate: 66}, store.Seen{Version: 3}))
	c, err = s.Company(ctx)
	require.NoError(t, err)
	assert.Equal(t, company.Details{Name: "Quays", Rate: 66}, c.Details)
	require.Len(t, c.Rates, 1)
	assert.InDelta(t, 60, c.Rates[0].Rate, 1e-9)
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
	require.NoError(t, s.SaveMachine(ctx, company.Machine{ID: "yard-3", Site: "yard", Name: "dryer 3"}, store.Seen{}))
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
		"adding the first supervisor": func(s *store.Store, ctx context.Context) error {
			_, err := s.FirstSupervisor(ctx, store.Person{ID: "a"})
			return err
		},
		"listing people": func(s *store.Store, ctx context.Context) error { _, err := s.People(ctx); return err },
		"keeping the site": func(s *store.Store, ctx context.Context) error {
			return s.SaveSite(ctx, company.Site{ID: "a"}, store.Seen{})
		},
		"listing sites": func(s *store.Store, ctx context.Context) error { _, err := s.Sites(ctx); return err },
		"keeping the machine": func(s *store.Store, ctx context.Context) error {
			return s.SaveMachine(ctx, company.Machine{ID: "a"}, store.Seen{})
		},
		"listing appliances":    func(s *store.Store, ctx context.Context) error { _, err := s.Appliances(ctx); return err },
		"reading the appliance": func(s *store.Store, ctx context.Context) error { _, err := s.Appliance(ctx, "yard-2"); return err },
		"keeping the meter": func(s *store.Store, ctx context.Context) error {
			return s.SaveMeter(ctx, company.Meter{ID: "a"}, store.Seen{}, noon)
		},
		"listing meters":    func(s *store.Store, ctx context.Context) error { _, err := s.Meters(ctx); return err },
		"keeping revision":  func(s *store.Store, ctx context.Context) error { return s.PutMap(ctx, m) },
		"reading the map":   func(s *store.Store, ctx context.Context) error { _, err := s.Map(ctx, m.ID, m.Revision); return err },
		"reading the maps":  func(s *store.Store, ctx context.Context) error { _, err := s.Maps(ctx); return err },
		"keeping the photo": func(s *store.Store, ctx context.Context) error { return s.PutPhoto(ctx, store.Photo{SHA256: "a"}) },
		"reading the photo": func(s *store.Store, ctx context.Context) error { _, err := s.Photo(ctx, "aa"); return err },
		"keeping the job":   func(s *store.Store, ctx context.Context) error { return s.PutJob(ctx, job) },
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
