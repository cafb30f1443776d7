package scene

import (
	"fmt"
	"time"

	"evensteps/core/record"
)

// HeardFor is how long what a device last heard of the others counts as what is so
// now. (A choice: devices with signal hear within a second, and ask four times a minute.)
const HeardFor = 2 * time.Minute

// Unheard says how old this device's knowledge of a proof is where another device
// recorded it and this one has heard nothing for a while: somebody may have switched
// on meanwhile. Empty where it knows.
func (sc *Scene) Unheard(p *record.Proven) string {
	heard := sc.Viewer.Heard
	if heard == nil || p.Fact.Device == sc.Viewer.Device || sc.Now.Sub(*heard) < HeardFor {
		return ""
	}
	switch age := sc.Now.Sub(*heard); {
	case age < time.Hour:
		return fmt.Sprintf("%.0f min ago", age.Minutes())
	case age < 48*time.Hour:
		return fmt.Sprintf("%.0f h ago", age.Hours())
	default:
		return fmt.Sprintf("%.0f days ago", age.Hours()/24)
	}
}
