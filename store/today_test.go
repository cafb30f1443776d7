package store_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/journey"
	"evensteps/store"
)

// An older row never takes the place of a newer one, whoever is slower; one of
// another version does, since what it says is otherwise.
func TestAnOlderRowNeverReplacesANewer(t *testing.T) {
	s, _, _ := filled(t)
	ctx := t.Context()
	put := func(num, version int, body string) {
		t.Helper()
		require.NoError(t, s.PutTodayRow(ctx, store.TodayRow{JobID: "j-1", Num: num, Version: version, Body: json.RawMessage(body), Stage: journey.LeftOpen}))
	}
	is := func() string {
		t.Helper()
		page, err := s.Now(ctx, "jonna", store.Place{}, 5)
		require.NoError(t, err)
		require.Len(t, page.Rows, 1)
		assert.Equal(t, 1, page.Jobs)
		return string(page.Rows[0].Body)
	}
	put(4, 1, `"four"`)
	put(3, 1, `"three"`)
	assert.Equal(t, `"four"`, is())
	put(4, 1, `"four again"`)
	assert.Equal(t, `"four again"`, is())
	put(3, 2, `"of another version"`)
	assert.Equal(t, `"of another version"`, is())
}

// A job whose facts are newer than its row is stale, until a row knows them; so
// is one whose row an older program made.
func TestWhatIsStale(t *testing.T) {
	s, _, _ := filled(t)
	ctx := t.Context()
	stale := func() []string {
		t.Helper()
		jobs, err := s.StaleJobs(ctx, 5)
		require.NoError(t, err)
		ids := []string{}
		for _, j := range jobs {
			assert.Equal(t, "Boat-yard canteen", j.Appliance.Site.Name)
			ids = append(ids, j.ID)
		}
		return ids
	}
	put := func(num, version int) {
		t.Helper()
		require.NoError(t, s.PutTodayRow(ctx, store.TodayRow{JobID: "j-1", Num: num, Version: version, Body: json.RawMessage("{}"), Stage: journey.LeftOpen}))
	}
	assert.Equal(t, []string{"j-1"}, stale(), "a job without a row that was made")
	put(0, 1)
	assert.Empty(t, stale())
	_, err := s.Append(ctx, event(1, "tab-1", `{"text": "x"}`), sent(5))
	require.NoError(t, err)
	assert.Equal(t, []string{"j-1"}, stale())
	put(1, 1)
	assert.Empty(t, stale())
	for want, version := range []int{1, 2} {
		n, err := s.OutdateRows(ctx, version)
		require.NoError(t, err)
		assert.Equal(t, want, n)
	}
	n, err := s.OutdateRows(ctx, 2)
	require.NoError(t, err)
	assert.Zero(t, n, "they are marked already")
	assert.Equal(t, []string{"j-1"}, stale())
	put(1, 2)
	assert.Empty(t, stale())
	require.NoError(t, s.DropTodayRows(ctx))
	assert.Equal(t, []string{"j-1"}, stale())
}

// Each list page by page gives every job once, in the order that it has as a
// whole: one's own first, the machines left open at the top, then by place.
func TestPagesOfAList(t *testing.T) {
	s, _, m := filled(t)
	ctx := t.Context()
	at := time.Date(2026, 11, 1, 8, 0, 0, 0, time.UTC)
	type job struct {
		id, group string
		mine      bool
		rank      int
		at        time.Time
	}
	var now, signed []job
	for i := range 40 {
		j := job{id: fmt.Sprintf("t-%02d", i), mine: i%7 == 0, rank: i % 3, at: at.Add(time.Duration(i*17%40) * time.Hour)}
		row := store.TodayRow{JobID: j.id, Body: json.RawMessage("{}"), Stage: journey.NotBegun, Rank: j.rank, Place: fmt.Sprint("place ", i%4)}
		require.NoError(t, s.PutJob(ctx, store.Job{ID: j.id, ApplianceID: "yard-2", MapID: m.ID, MapRevision: m.Revision}))
		if j.mine {
			row.Whose = []string{"ilse", "jonna"}
		} else {
			j.group = row.Place
		}
		switch {
		case i%5 == 0:
			row.Stage, row.Signed = "signed", &j.at
			signed = append(signed, j)
		case j.rank == 0:
			row.Stage, row.Opened = journey.LeftOpen, &j.at
			now = append(now, j)
		default:
			j.at = time.Date(9999, 1, 1, 0, 0, 0, 0, time.UTC)
			now = append(now, j)
		}
		require.NoError(t, s.PutTodayRow(ctx, row))
	}
	require.NoError(t, s.PutTodayRow(ctx, store.TodayRow{JobID: "j-1", Body: json.RawMessage("{}"), Stage: "signed", Signed: new(time.Time)}))
	slices.SortStableFunc(now, func(a, b job) int {
		switch {
		case a.mine != b.mine && a.mine:
			return -1
		case a.mine != b.mine:
			return 1
		case a.group != b.group:
			return map[bool]int{true: -1, false: 1}[a.group < b.group]
		case a.rank != b.rank:
			return a.rank - b.rank
		}
		return a.at.Compare(b.at)
	})
	slices.SortFunc(signed, func(a, b job) int { return b.at.Compare(a.at) })
	open := 0
	for _, j := range now {
		if j.rank == 0 {
			open++
		}
	}
	for _, most := range []int{1, 3, 32, 100} {
		var got, earlier []job
		for after := (store.Place{}); ; {
			page, err := s.Now(ctx, "jonna", after, most)
			require.NoError(t, err)
			assert.Equal(t, []int{len(now), open}, []int{page.Jobs, page.Open})
			assert.LessOrEqual(t, len(page.Rows), most)
			for _, r := range page.Rows {
				i := slices.IndexFunc(now, func(j job) bool { return j.id == r.JobID })
				require.GreaterOrEqual(t, i, 0, r.JobID)
				assert.Equal(t, now[i].mine, r.Mine)
				got = append(got, now[i])
			}
			if after = page.After; after.Job == "" {
				break
			}
			assert.Len(t, page.Rows, most)
		}
		for after := (store.Place{}); ; {
			page, err := s.Earlier(ctx, "jonna", after, most)
			require.NoError(t, err)
			for _, r := range page.Rows {
				if r.JobID != "j-1" {
					earlier = append(earlier, signed[slices.IndexFunc(signed, func(j job) bool { return j.id == r.JobID })])
				}
			}
			if after = page.After; after.Job == "" {
				break
			}
		}
		key := func(of []job) (out []string) {
			for _, j := range of {
				out = append(out, fmt.Sprint(j.mine, j.group, j.rank, j.at))
			}
			return out
		}
		assert.Equal(t, key(now), key(got), "pages of %d", most)
		assert.Equal(t, key(signed), key(earlier), "pages of %d", most)
		slices.SortFunc(got, func(a, b job) int { return map[bool]int{true: -1, false: 1}[a.id < b.id] })
		assert.Len(t, slices.CompactFunc(got, func(a, b job) bool { return a.id == b.id }), len(now), "each once")
	}
}
