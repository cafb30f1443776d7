package server_test

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/demo"
	"evensteps/server"
	"evensteps/store"
)

// RFC 6238, appendix B, the mode SHA-1: of the eight digits there the last six.
func TestDigitsAreThoseOfTheStandard(t *testing.T) {
	const secret = "GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ" // "12345678901234567890"
	for at, want := range map[int64]string{59: "94287082", 1111111109: "07081804", 1111111111: "14050471", 1234567890: "89005924", 2000000000: "69279037", 20000000000: "65353130"} {
		got, err := server.Digits(secret, time.Unix(at, 0))
		require.NoError(t, err)
		assert.Equal(t, want[2:], got, at)
	}
}

func (d *device) try(name, second string) (int, string) {
	d.t.Helper()
	status, body, _ := d.call(http.MethodPost, "/api/sign-in", map[string]string{"name": name, "password": demo.Password, "second": second})
	var p struct{ Type, Detail string }
	require.NoError(d.t, json.Unmarshal(body, &p))
	return status, p.Type
}

// begun begins a second factor and returns its secret and spare codes.
func (d *device) begun() (string, []string) {
	d.t.Helper()
	status, body, _ := d.call(http.MethodPost, "/api/me/second", map[string]string{"password": demo.Password})
	require.Equal(d.t, http.StatusOK, status, string(body))
	var begun struct{ Secret, Picture string }
	require.NoError(d.t, json.Unmarshal(body, &begun))
	assert.True(d.t, strings.HasPrefix(begun.Picture, "data:image/png;base64,"))
	digits, err := server.Digits(begun.Secret, time.Now())
	require.NoError(d.t, err)
	status, body, _ = d.call(http.MethodPut, "/api/me/second", map[string]string{"digits": digits})
	require.Equal(d.t, http.StatusOK, status, string(body))
	var out struct{ Spares []string }
	require.NoError(d.t, json.Unmarshal(body, &out))
	return begun.Secret, out.Spares
}

func TestASecondFactor(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 1000})
	mira, before := s.as(t, "mira"), s.as(t, "mira")
	status, _, _ := mira.call(http.MethodPost, "/api/me/second", map[string]string{"password": "not it"})
	assert.Equal(t, http.StatusForbidden, status, "a session that lies open is not enough")
	status, _, _ = mira.call(http.MethodPut, "/api/me/second", map[string]string{"digits": "123456"})
	assert.Equal(t, http.StatusConflict, status, "none was begun")
	secret, spares := mira.begun()
	require.Len(t, spares, 10)
	assert.Equal(t, http.StatusUnauthorized, before.get("/api/me", nil), "the other sessions were begun by the password alone")
	assert.Equal(t, http.StatusOK, mira.get("/api/me", nil))

	d := s.device(t)
	status, kind := d.try("mira", "")
	assert.Equal(t, http.StatusUnauthorized, status)
	assert.Equal(t, "second-factor", kind)
	digits := func(off time.Duration) string {
		code, err := server.Digits(secret, time.Now().Add(off))
		require.NoError(t, err)
		return code
	}
	for _, wrong := range []string{"000000", digits(-5 * time.Minute), digits(5 * time.Minute), "12345", "not-a-code", spares[0] + "x"} {
		status, _ := d.try("mira", wrong)
		assert.Equal(t, http.StatusUnauthorized, status, wrong)
	}
	now := digits(0)
	status, _ = d.try("mira", now[:3]+" "+now[3:])
	assert.Equal(t, http.StatusOK, status)
	status, _ = s.device(t).try("mira", now)
	assert.Equal(t, http.StatusUnauthorized, status, "none is good twice")
	status, _ = s.device(t).try("mira", strings.ToUpper(spares[3]))
	assert.Equal(t, http.StatusOK, status, "a spare code")
	status, _ = s.device(t).try("mira", spares[3])
	assert.Equal(t, http.StatusUnauthorized, status, "nor a spare code")
	status, _ = s.device(t).try("jonna", "")
	assert.Equal(t, http.StatusOK, status, "who has none is not asked")

	var account struct {
		Second   bool
		Spares   int
		Sessions []server.SessionIn
	}
	require.Equal(t, http.StatusOK, mira.get("/api/me/account", &account))
	assert.True(t, account.Second)
	assert.Equal(t, 9, account.Spares)
	assert.Len(t, account.Sessions, 3)

	status, _, _ = mira.call(http.MethodPost, "/api/me/second/end", map[string]string{"password": demo.Password})
	assert.Equal(t, http.StatusNoContent, status)
	status, _ = s.device(t).try("mira", "")
	assert.Equal(t, http.StatusOK, status)
}

// Who lost the authenticator and the spare codes is given a one-time code by another
// supervisor: then there is no second factor any more.
func TestALostAuthenticator(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 1000})
	s.as(t, "mira").begun()
	status, given := post[struct{ Code string }](t, s.as(t, "benno"), "/api/people/mira/code", nil)
	require.Equal(t, http.StatusOK, status)
	d := s.device(t)
	require.Equal(t, http.StatusOK, d.signIn("mira", given.Code))
	status, _, _ = d.call(http.MethodPost, "/api/me/password", map[string]string{"new": "kettle under a wet moon"})
	assert.Equal(t, http.StatusNoContent, status)
}

// Where the company demands it, supervisors and office do nothing before they have one.
func TestASecondFactorThatIsDemanded(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 1000, SecondForAll: true})
	for _, who := range []string{"mira", "pell"} {
		d := s.as(t, who)
		var me server.Me
		require.Equal(t, http.StatusOK, d.get("/api/me", &me))
		assert.True(t, me.Second, who)
		assert.Equal(t, http.StatusUnauthorized, d.get("/api/jobs", nil), who)
		d.begun()
		assert.Equal(t, http.StatusOK, d.get("/api/jobs", nil), who)
		status, _, _ := d.call(http.MethodPost, "/api/me/second/end", map[string]string{"password": demo.Password})
		assert.Equal(t, http.StatusForbidden, status, who)
	}
	assert.Equal(t, http.StatusOK, s.jonna(t).get("/api/jobs", nil), "technicians need none")
}

// One sees where one is signed in and ends what is not one's own; nobody ends another's,
// but a supervisor all of somebody's.
func TestSessionsAreListedAndEnded(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 1000})
	one, two, other := s.jonna(t), s.jonna(t), s.as(t, "ilse")
	list := func(d *device) (out []server.SessionIn) {
		var account struct{ Sessions []server.SessionIn }
		require.Equal(t, http.StatusOK, d.get("/api/me/account", &account))
		return account.Sessions
	}
	mine := list(one)
	require.Len(t, mine, 2)
	var lost string
	for _, v := range mine {
		assert.Contains(t, v.Device, "Go-http-client")
		assert.Equal(t, "127.0.0.1", v.Address)
		assert.WithinDuration(t, time.Now(), v.Made, time.Minute)
		if !v.This {
			lost = v.ID
		}
	}
	status, _, _ := other.call(http.MethodDelete, "/api/me/sessions/"+lost, nil)
	assert.Equal(t, http.StatusNotFound, status, "it is not hers")
	assert.Equal(t, http.StatusOK, two.get("/api/me", nil))
	status, _, _ = one.call(http.MethodDelete, "/api/me/sessions/"+lost, nil)
	assert.Equal(t, http.StatusNoContent, status)
	assert.Equal(t, http.StatusUnauthorized, two.get("/api/me", nil))
	assert.Equal(t, http.StatusOK, one.get("/api/me", nil))

	status, _, _ = s.as(t, "mira").call(http.MethodDelete, "/api/people/jonna/sessions", nil)
	assert.Equal(t, http.StatusOK, status)
	assert.Equal(t, http.StatusUnauthorized, one.get("/api/me", nil))
	assert.Equal(t, http.StatusOK, other.get("/api/me", nil))
}

// What is done with accounts and rights, and what is tried, stands in the audit list,
// which nobody changes, the server itself neither.
func TestTheAuditList(t *testing.T) {
	s := begin(t, server.Options{SignInsPerMinute: 1000})
	mira := s.as(t, "mira")
	s.device(t).signIn("tuure", "guessed")
	post[struct{}](t, mira, "/api/people/tuure/code", nil)
	post[struct{}](t, mira, "/api/people", map[string]any{"sign_in": "nils", "name": "Nils Aker", "role": "technician", "tickets": []string{}, "closed": false})
	mira.get("/api/tables/people", nil)
	var list struct{ Lines []store.Audit }
	status, body, _ := mira.call(http.MethodGet, "/api/audit", nil)
	require.Equal(t, http.StatusOK, status)
	require.NoError(t, json.Unmarshal(body, &list))
	var said []string
	for _, l := range list.Lines {
		said = append(said, strings.TrimSpace(l.By+": "+l.What+" "+l.Whom))
		assert.Equal(t, "127.0.0.1", l.Address)
		assert.NotContains(t, l.By+l.What+l.Whom, "guessed", "no password stands in it")
	}
	assert.Subset(t, said, []string{"mira: signed in mira", "tuure: wrong password", "mira: one-time code given tuure", "mira: account added: technician nils", "mira: list taken out: people"})
	for _, l := range list.Lines[1:] {
		assert.Less(t, l.ID, list.Lines[0].ID)
	}
	withDatabase(t, s.url, func(exec func(string) error) {
		for _, sql := range []string{"update audit set what = 'nothing'", "delete from audit", "truncate audit"} {
			assert.ErrorContains(t, exec(sql), "only added to", sql)
		}
	})
}
