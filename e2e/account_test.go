package e2e

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"evensteps/demo"
	"evensteps/e2e/stage"
	"evensteps/server"
)

// A supervisor takes on a second factor, signs out, and is let in by its digits alone;
// then ends the session of another device, and both stand in the audit list.
func TestASecondFactorInTheBrowser(t *testing.T) {
	s := open(t)
	s.play("/", func(h stage.Hands) {
		h.As("mira")
		h.Page.MustNavigate(s.At() + "/account")
		h.On("Your account")
		h.Says("None: the password alone lets in.")
		h.Touch("Begin one")
		h.Says("Your password")
		h.Field("Your password").MustInput(demo.Password)
		h.Touch("Go on")
		h.Page.MustWait(`() => document.querySelector('[role="dialog"] img')?.naturalWidth > 0`)
		secret := strings.TrimSpace(h.Page.MustElement(`[role="dialog"] output`).MustText())
		axe(t, h, "the secret")
		digits := func() string {
			code, err := server.Digits(secret, time.Now())
			require.NoError(t, err)
			return code
		}
		first := digits()
		h.Field("Six digits").MustInput(first)
		h.Touch("It shows these")
		h.Says("Spare codes, each good once.")
		spare := strings.TrimSpace(h.Page.MustElement(`[role="dialog"] li`).MustText())
		h.Touch("I have them")
		h.Says("10 spare codes are left")
		axe(t, h, "the account")

		h.Mine()
		h.Touch("Sign out")
		h.SignIn("mira", demo.Password)
		h.Says("Six digits of your authenticator")
		h.Field("Six digits").MustInput("000000")
		h.Touch("Sign in")
		h.Says("These digits are wrong")
		h.Field("Six digits").MustSelectAllText().MustInput(spare)
		h.Touch("Sign in")
		h.Says("Today")
		h.Page.MustNavigate(s.At() + "/account")
		h.Says("9 spare codes are left")
		h.Page.MustNavigate(s.At() + "/audit")
		h.On("Audit list")
		h.Says("spare code used")
		h.Says("second factor begun")
		axe(t, h, "the audit list")
	})
}
