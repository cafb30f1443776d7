package machine

import (
	"fmt"
	"strconv"
	"strings"
)

const lookPart = "/inspect/"

// LookID names what one looks at or does while one is at a move: MOVE/inspect/N,
// N from 1.
func LookID(move string, k int) string { return fmt.Sprintf("%s%s%d", move, lookPart, k+1) }

// Look is what an id of that sort names; nil where the map has no such thing.
func (m *Map) Look(id string) *Inspect {
	move, n, is := strings.Cut(id, lookPart)
	mv := m.Move(move)
	k, err := strconv.Atoi(n)
	if !is || mv == nil || err != nil || k < 1 || k > len(mv.Inspect) {
		return nil
	}
	return &mv.Inspect[k-1]
}
