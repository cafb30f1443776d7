package fault

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Simulated jobs on the library's dryer: the program's advice takes no longer
// than the better of the two simple policies, the floor (the fault known from
// the start) is below all, and the chances that it claims come true.
func TestTheAdviceIsWorthFollowing(t *testing.T) {
	trial := &Trial{Map: dryer(t), Answers: map[string]string{"fuel": "electric"}}
	const jobs = 300
	sum := map[Policy]float64{}
	claimed, right, fits := 0.0, 0.0, 0.0
	for _, complaint := range []string{"no-heat", "not-turning", "squeals", "too-hot"} {
		for k := range uint64(jobs) {
			for _, policy := range Policies {
				random := rand.New(rand.NewPCG(7, k))
				f := trial.Draw(complaint, random.Float64())
				p := trial.Play(policy, complaint, f, random.Float64)
				require.Positive(t, p.Minutes)
				require.Less(t, p.Minutes, 2000.0, "%s, %s: it comes to an end", policy, f)
				sum[policy] += p.Minutes
				if policy == Program && p.Claimed > 0 {
					claimed, fits = claimed+p.Claimed, fits+1
					if p.Right {
						right++
					}
				}
			}
		}
	}
	assert.Less(t, sum[Program], min(sum[Likeliest], sum[Chart]))
	assert.Less(t, sum[Known], sum[Program])
	assert.InDelta(t, claimed/fits, right/fits, 0.05, "calibrated on the whole")
}

func TestTheSameSeedPlaysTheSameJob(t *testing.T) {
	m := dryer(t)
	play := func() Played {
		random := rand.New(rand.NewPCG(3, 4))
		trial := &Trial{Map: m}
		return trial.Play(Program, "no-heat", trial.Draw("no-heat", random.Float64()), random.Float64)
	}
	assert.Equal(t, play(), play())
}
