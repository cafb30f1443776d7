package picture

import (
	"encoding/xml"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"evensteps/core/machine"
)

func box() *machine.Map {
	return &machine.Map{
		Cabinet: &machine.Cabinet{WidthMM: 600, HeightMM: 900, DepthMM: 650},
		Items: []machine.Item{
			{ID: "front", Name: "Front <panel>", Type: "cover", Face: "front", Area: []float64{0, 0.2, 1, 0.6}},
			{ID: "door", Name: "Door", Type: "door", Face: "front", Area: []float64{0.2, 0.3, 0.6, 0.4}},
			{ID: "plug", Name: "Plug", Type: "connector", Face: "front", At: []float64{0.9, 0.3}},
			{ID: "fan", Name: "Fan", Type: "part", Face: "inside", At: []float64{0.5, 0.5}},
			{ID: "motor", Name: "Motor", Type: "part", Face: "inside", At: []float64{0.5, 0.8}},
		},
		Moves: []machine.Move{
			{ID: "front-off", Takes: map[string]machine.Level{"front": machine.Away}},
			{ID: "fan-off", Takes: map[string]machine.Level{"fan": machine.Away}, Needs: machine.Needs{"front": machine.Away}},
			{ID: "motor-off", Takes: map[string]machine.Level{"motor": machine.Away}, Needs: machine.Needs{"fan": machine.Away}},
		},
	}
}

func named(d Drawing, name string) string {
	for _, s := range d.Strokes {
		if s.Text == name {
			return s.As
		}
	}
	return ""
}

func nothing(string) bool { return false }

func TestTheStepIsLitAndTheRestIsQuiet(t *testing.T) {
	m := box()
	d := Face(m, "front", m.Moves[0].Takes, []Lot{{Drive: "hex", Tray: "B", At: [][]float64{{0.1, 0.3}, {0.9, 0.3}}}, {Drive: "phillips", Tray: "C", Hidden: true, At: [][]float64{{0.9, 0.31}}}}, nothing)
	assert.Equal(t, "lit", named(d, "Front <panel>"))
	assert.Equal(t, "item", named(d, "Door"))
	assert.Empty(t, named(d, "Plug"), "small parts only where they matter")
	var trays, heads, hidden int
	lowest := 0.0
	for _, s := range d.Strokes {
		switch s.As {
		case "tray":
			trays++
			assert.Greater(t, s.Y, lowest+20, "letters do not lie on each other")
			lowest = s.Y
		case "screw":
			heads++
		case "screw hidden":
			hidden++
		}
		assert.LessOrEqual(t, s.X+s.W, d.Width)
		assert.LessOrEqual(t, s.Y+s.H, d.Height)
	}
	assert.Equal(t, []int{2, 2, 1}, []int{trays, heads, hidden})
	assert.Equal(t, "The front of the machine: Front <panel>", d.Says)
	away := Face(m, "front", m.Moves[0].Takes, nil, func(id string) bool { return id == "front" })
	assert.Equal(t, "lit off", named(away, "Front <panel>"))
}

// From behind, what is left for somebody in front is on the right.
func TestLeftAndRightAreRightForWhereOneStands(t *testing.T) {
	m := box()
	at := func(face, word string) float64 {
		for _, s := range Face(m, face, nil, nil, nothing).Strokes {
			if s.As == "edge" && s.Text == word {
				return s.X
			}
		}
		t.Fatalf("%s does not say %s", face, word)
		return 0
	}
	assert.Less(t, at("front", "left"), at("front", "right"))
	assert.Greater(t, at("rear", "left"), at("rear", "right"))
	assert.Less(t, at("left", "rear"), at("left", "front"))
	assert.Less(t, at("right", "front"), at("right", "rear"))
}

// Inside, what lies deeper than the step is not drawn yet.
func TestInsideByLayer(t *testing.T) {
	m := box()
	fan := Face(m, "inside", m.Moves[1].Takes, nil, nothing)
	assert.Equal(t, "lit", named(fan, "Fan"))
	assert.Empty(t, named(fan, "Motor"))
	motor := Face(m, "inside", m.Moves[2].Takes, nil, func(id string) bool { return id == "fan" })
	assert.Equal(t, "item off", named(motor, "Fan"))
	assert.Equal(t, "lit", named(motor, "Motor"))
	assert.Equal(t, map[string]int{"front": 1, "fan": 2, "motor": 3}, depths(m))
	m.Moves[0].Needs = machine.Needs{"motor": machine.Away} // a ring of needs ends
	assert.Empty(t, depths(m))
}

func TestEveryDriveHasAHeadOfItsOwn(t *testing.T) {
	seen := map[string]string{}
	for _, drive := range machine.Drives {
		path := Head(drive, 20, 20)
		if other := seen[path]; other != "" && drive != "robertson" {
			t.Errorf("%s is drawn like %s", drive, other)
		}
		seen[path] = drive
		assert.True(t, strings.HasPrefix(path, "M"), drive)
	}
}

// The paper's picture is well-formed, and a name in it stays text.
func TestThePictureForPaper(t *testing.T) {
	m := box()
	d := Face(m, "front", m.Moves[0].Takes, []Lot{{Drive: "torx", Tray: "A", At: [][]float64{{0.5, 0.5}, {0.1}}}}, nothing)
	svg := d.SVG()
	reader := xml.NewDecoder(strings.NewReader(svg))
	for {
		_, err := reader.Token()
		if err == io.EOF {
			break
		}
		require.NoError(t, err)
	}
	assert.Contains(t, svg, "Front &lt;panel&gt;")
	assert.NotContains(t, svg, "<panel>")
	m.Cabinet = nil
	assert.Positive(t, Face(m, "left", nil, nil, nothing).Height, "a machine without its measures is a square")
}

// A face that shows nothing of a step is no help with it: an isolator hangs on the wall.
func TestNoFaceForWhatIsNotOnIt(t *testing.T) {
	m := box()
	nothing := func(string) bool { return false }
	assert.Empty(t, Face(m, "front", map[string]machine.Level{"isolator": machine.Away}, nil, nothing).Strokes)
	assert.NotEmpty(t, Face(m, "front", map[string]machine.Level{"front": machine.Away}, nil, nothing).Strokes)
	assert.NotEmpty(t, Face(m, "front", nil, nil, nothing).Strokes, "one that is only looked at is drawn")
}
