package company

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var two = []Site{
	{ID: "school", Name: "School kitchen", Address: "Quay 2\n10900 Ankarvik", Island: "Stora Lanne", Phone: "+358 40 000 00 01", Access: "Key at the shop, \"ask for Bo\""},
	{ID: "inn", Name: "Inn; at the narrows", Island: "Grimsholm"},
}

// What is written is read back as it was, by RFC 4180: cells that hold the
// separator, a quotation mark or the end of a line stand between quotation marks,
// which are doubled; lines end with CR LF (its sections 2.1, 2.6 and 2.7).
func TestWhatIsWrittenIsReadBack(t *testing.T) {
	file, err := Sites.Write(two)
	require.NoError(t, err)
	assert.Contains(t, string(file), "id,name,address,island,ferry,contact,phone,access\r\n")
	assert.Contains(t, string(file), `"Key at the shop, ""ask for Bo"""`)
	tr := Sites.Read(file, two, Known{})
	assert.Equal(t, 2, tr.Same, tr.Lines)
	assert.Empty(t, tr.Rows)
	tr = Sites.Read(file, nil, Known{})
	assert.Equal(t, two, tr.Rows)

	people := []Person{{SignIn: "jonna", Name: "Jonna", Role: Technician, Tickets: []Ticket{{Ticket: "gas"}, {Ticket: "live-testing", From: "2026-01-01", Until: "2027-03-31"}, {Ticket: "high-voltage", Until: "2026-11-28T14:03:00Z"}}}, {SignIn: "old", Name: "Old Hand", Role: Office, Tickets: []Ticket{}, Closed: true}}
	file, err = People.Write(people)
	require.NoError(t, err)
	assert.Contains(t, string(file), "gas; live-testing 2026-01-01..2027-03-31; high-voltage ..2026-11-28T14:03:00Z")
	assert.Equal(t, people, People.Read(file, nil, Known{}).Rows)

	meters := []Meter{{ID: "m-4", Name: "Handheld 4", Category: "CAT III 600 V", Accuracy: map[string]string{"resistance": "0.9%+3@0.1ohm", "voltage": "1.2%+5@0.1V"}, Due: "2027-01-31"}}
	file, err = Meters.Write(meters)
	require.NoError(t, err)
	assert.Equal(t, meters, Meters.Read(file, nil, Known{}).Rows)

	machines := []Machine{{ID: "school-dryer", Site: "school", Name: "dryer", Model: "TV6", Map: "tidemoor-tv6", Options: map[string]string{"legs": "stacked", "fuel": "gas"}}}
	file, err = Machines.Write(machines)
	require.NoError(t, err)
	assert.Equal(t, machines, Machines.Read(file, nil, Known{Sites: two, Maps: []string{"tidemoor-tv6"}}).Rows)
}

// What a spreadsheet would take for a formula it takes for text, and it comes back
// as it was; a telephone number stays as it is.
func TestNoCellIsAFormula(t *testing.T) {
	for _, cell := range []string{"=1+1", "+cmd|' /C calc'!A0", "-2", "@sum(a1)", "'quoted", "'", "=", "plain", "", "+358 (0)40-1234", "'=x", "''=x"} {
		kept := guarded(cell)
		assert.Equal(t, cell, plain(kept), cell)
		if kept != "" {
			assert.NotContains(t, "=@", kept[:1])
		}
	}
	assert.Equal(t, "'=1+1", guarded("=1+1"))
	assert.Equal(t, "+358 (0)40-1234", guarded("+358 (0)40-1234"))
}

// A spreadsheet's own ways: another separator, a mark at the beginning, a line that
// names the separator, headings in capitals, empty lines and columns.
func TestWhatSpreadsheetsWrite(t *testing.T) {
	for name, file := range map[string]string{
		"comma": "name,island\nMill,Lillan\n", "semicolon": "name;island\r\nMill;Lillan\r\n", "tab": "name\tisland\nMill\tLillan", "a mark": "\ufeffname;island\nMill;Lillan\n",
		"its own word": "sep=;\nname;island\nMill;Lillan\n", "capitals": "Name, Island\nMill, Lillan \n", "empty lines": "name,island\n\n,\nMill,Lillan\n\n", "an empty column": "name,island,\nMill,Lillan,\n",
		"a comma in a semicolon file": "name;island\n\"Mill\";Lillan\n",
	} {
		tr := Sites.Read([]byte(file), nil, Known{})
		require.Len(t, tr.Rows, 1, "%s: %v", name, tr.Lines)
		assert.Equal(t, Site{ID: "mill", Name: "Mill", Island: "Lillan"}, tr.Rows[0], name)
	}
}

func TestAFileThatCannotBeRead(t *testing.T) {
	for file, say := range map[string]string{
		"":                               "no line of headings",
		"name,telefon\nMill,1\n":         "There is no column “telefon”. There are id, name",
		"name,name\nMill,Mill\n":         "stands there twice",
		"name\nM\xe4ll\n":                "not UTF-8",
		"\xff\xfen\x00a\x00":             "UTF-16",
		"name\nM\x00ll\n":                "bytes that are no text",
		"name\nMill\n\"Mi\"ll\nMole\n":   "quotation mark is out of place",
		"name,island\nMill,Lillan,x\n":   "more cells than headings",
		"name,island\n,Lillan\n":         "The name is missing",
		"id,name\nMill Lane,Mill\n":      "small letters, digits and dashes",
		"id,name\na,Mill\na,Mole\n":      "Line 2 says it already",
		"name\nMill\nMill\nMole\n":       "",
		strings.Repeat("x", MostBytes+1): "are the most",
	} {
		tr := Sites.Read([]byte(file), nil, Known{})
		if say == "" { // two of one name that are new are two sites
			assert.Zero(t, tr.Wrong)
			assert.Equal(t, []string{"mill", "mill-2", "mole"}, []string{tr.Rows[0].ID, tr.Rows[1].ID, tr.Rows[2].ID})
			continue
		}
		assert.Positive(t, tr.Wrong, say)
		assert.Empty(t, tr.Rows, "where one line is wrong, none is kept")
		said := fmt.Sprint(tr.Lines)
		assert.Contains(t, said, say)
	}
}

// Each line says what it would do.
func TestLineByLine(t *testing.T) {
	file := "id,name,phone\nschool,School kitchen,+358 40 000 00 01\n,inn; at the narrows,112\nnew,New place,\n"
	tr := Sites.Read([]byte(file), two, Known{})
	assert.Equal(t, []FileLine{
		{2, Same, "School kitchen", []string{}},
		{3, Changes, "inn; at the narrows", []string{"name: Inn; at the narrows → inn; at the narrows", "phone: nothing → 112"}},
		{4, Adds, "New place", []string{}},
	}, tr.Lines)
	assert.Equal(t, []int{1, 1, 1, 0}, []int{tr.Added, tr.Changed, tr.Same, tr.Wrong})
	assert.Equal(t, "Grimsholm", tr.Rows[0].Island, "a column that the file does not have stays")
	assert.Equal(t, "inn", tr.Rows[0].ID, "a line without an id means the one of that name")

	tr = Sites.Read([]byte("id,phone\nschool,\n"), two, Known{})
	assert.Equal(t, []string{"phone: +358 40 000 00 01 → nothing"}, tr.Lines[0].Says, "an empty cell empties it")
	same := append([]Site{{ID: "inn-2", Name: "inn; AT the narrows"}}, two...)
	tr = Sites.Read([]byte("name;phone\n\"Inn; at the narrows\";1\n"), same, Known{})
	assert.Contains(t, fmt.Sprint(tr.Lines), "There are 2 of this name. Write the id of the one you mean: inn-2, inn.")
}

func TestWhatRowsReferTo(t *testing.T) {
	known := Known{Sites: append([]Site{{ID: "mill", Name: "Mill"}, {ID: "mill-2", Name: "mill"}}, two...), Maps: []string{"tidemoor-tv6"}, Merged: map[string]string{"old": "new"}}
	read := func(file string) *Trial[Machine] { return Machines.Read([]byte(file), nil, known) }
	assert.Equal(t, "school", read("site,name\nSchool Kitchen,dryer\n").Rows[0].Site, "by its name, too")
	assert.Equal(t, "school-dryer", read("site,name\nschool,Dryer\n").Rows[0].ID)
	known.Merged["school-dryer"] = "inn-dryer"
	assert.Equal(t, "school-dryer-2", read("site,name\nschool,Dryer\n").Rows[0].ID, "an id that was another's is nobody's again")
	m := Machine{Site: "school", Name: "Dryer"}
	assert.Empty(t, Machines.Add(&m, nil, known))
	assert.Equal(t, "school-dryer-2", m.ID)
	m.Name = " Dryer "
	assert.Len(t, Machines.Add(&m, []Machine{{ID: "x", Site: "school", Name: "dryer"}}, known), 1)
	assert.Contains(t, fmt.Sprint(read("site,name\nMill,dryer\n").Lines), "several sites of the name")
	assert.Contains(t, fmt.Sprint(read("site,name\nMoon,dryer\n").Lines), "There is no site “Moon”")
	assert.Contains(t, fmt.Sprint(read("id,site,name\nold,school,dryer\n").Lines), "was found to be new: write that id")
	assert.Contains(t, fmt.Sprint(read("site,name,map\nschool,dryer,none\n").Lines), "There is no map “none”")
	assert.Contains(t, fmt.Sprint(read("site,name,options\nschool,dryer,legs\n").Lines), "cannot be read. Write it as option=value")
	people := func(file string) string { return fmt.Sprint(People.Read([]byte(file), nil, Known{}).Lines) }
	assert.Contains(t, people("sign_in,name,role,tickets\na,A,technician,sailing\n"), "There is no ticket “sailing”. There are gas,")
	assert.Contains(t, people("sign_in,name,role,tickets\na,A,technician,gas 2027\n"), "cannot be read. Write gas")
	assert.Contains(t, people("sign_in,name,role,tickets\na,A,technician,gas 2027-02-30..\n"), "Write the day as 2026-11-28")
	assert.Contains(t, people("sign_in,name,role,tickets\na,A,technician,gas 2027-02-01..2026-02-01\n"), "ends before it begins")
	assert.Contains(t, people("sign_in,name,role\na,A,captain\n"), "It is one of technician, office, supervisor")
	assert.Contains(t, people("name,role\nA,office\n"), "The name to sign in with is “”")
	assert.Contains(t, people("sign_in,name,role,closed\na,A,office,perhaps\n"), "“perhaps” is neither yes nor no.")
	meters := func(file string) string { return fmt.Sprint(Meters.Read([]byte(file), nil, Known{}).Lines) }
	assert.Contains(t, meters("id,name,accuracy\nm-1,M,resistance good\n"), "The accuracy of resistance is “good”")
	assert.Contains(t, meters("id,name,category\nm-1,M,best\n"), "such as CAT III 600 V")
	assert.Contains(t, meters("id,name,calibrated,due\nm-1,M,2026-05-01,2026-04-01\n"), "ends before it was made")
}

// As many lines as a file may have are read at once; more are refused with a word,
// and a file that is wrong all through is not read to its end.
func TestALongFile(t *testing.T) {
	var b strings.Builder
	b.WriteString("name,island\n")
	for i := range MostLines {
		fmt.Fprintf(&b, "Cabin %d,Ytterskar\n", i)
	}
	tr := Sites.Read([]byte(b.String()), two, Known{})
	assert.Equal(t, MostLines, tr.Added)
	assert.Zero(t, tr.Wrong)
	b.WriteString("One more,Ytterskar\n")
	tr = Sites.Read([]byte(b.String()), two, Known{})
	assert.Equal(t, 1, tr.Wrong)
	assert.Contains(t, fmt.Sprint(tr.Lines[len(tr.Lines)-1]), "From here on nothing was looked at")
	tr = Sites.Read([]byte("name,island\n"+strings.Repeat(",x\n", 5000)), nil, Known{})
	assert.Equal(t, mostWrong+1, tr.Wrong)
}

// Whatever rows there are, what is written of them is read back the same.
func TestAnyRowsComeBack(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 7))
	letters := []rune("aä漢 \"',;\t\n=+-@\\|0😀")
	word := func() string {
		var b strings.Builder
		for range rng.IntN(12) {
			b.WriteRune(letters[rng.IntN(len(letters))])
		}
		return strings.TrimSpace(b.String())
	}
	for n := range 300 {
		var rows []Site
		for i := range 1 + rng.IntN(5) {
			rows = append(rows, Site{ID: fmt.Sprintf("s-%d", i), Name: "N" + word(), Address: word(), Phone: word(), Contact: word(), Access: word()})
		}
		file, err := Sites.Write(rows)
		require.NoError(t, err)
		tr := Sites.Read(file, nil, Known{})
		require.Equal(t, rows, tr.Rows, "%d: %q %v", n, file, tr.Lines)
	}
}

func FuzzFile(f *testing.F) {
	f.Add([]byte("sign_in;name;role\na;A;office\n"))
	f.Add([]byte("sep=;\n\xef\xbb\xbfname\n"))
	f.Fuzz(func(t *testing.T, file []byte) {
		now := []Person{{SignIn: "a", Name: "A", Role: Office}}
		tr := People.Read(file, now, Known{})
		if tr.Wrong > 0 {
			assert.Empty(t, tr.Rows)
		}
		for i := range tr.Rows {
			assert.Empty(t, tr.Rows[i].Check())
		}
	})
}

func TestDaysAndMoments(t *testing.T) {
	zone, err := Zone("Europe/Helsinki")
	require.NoError(t, err)
	// A day begins and ends by the calendar of its place: in winter two hours before
	// that of Greenwich, and the day on which the clocks go on has 23 hours (the
	// system's database: 2026-03-29).
	assert.Equal(t, time.Date(2026, 11, 27, 22, 0, 0, 0, time.UTC), Time("2026-11-28").Start(zone).UTC())
	assert.Equal(t, 23*time.Hour, Time("2026-03-29").End(zone).Sub(Time("2026-03-29").Start(zone)))
	assert.True(t, Time("").Start(zone).IsZero())
	for _, no := range []Time{"2026-13-01", "yesterday", "28.11.2026", "0001-01-01"} {
		assert.False(t, no.Sound(), no)
	}
	assert.True(t, Time("2026-11-28T14:03:00+02:00").Sound())
	last := time.Date(2026, 11, 28, 21, 59, 59, 0, time.UTC) // the last second of the day there
	gas := Ticket{Ticket: "gas", From: "2026-11-28", Until: "2026-11-28"}
	assert.True(t, gas.Held(last, zone))
	assert.False(t, gas.Held(last.Add(time.Second), zone))
	assert.True(t, gas.Held(Time("2026-11-28").Start(zone), zone))
	assert.False(t, gas.Held(Time("2026-11-28").Start(zone).Add(-time.Second), zone))
	for _, name := range []string{"Local", "Europe/Nowhere", "../etc/passwd"} {
		_, err := Zone(name)
		assert.Error(t, err, name)
	}
}

// A ticket that is taken away ends now; what was done with it stays done with it.
func TestATicketThatIsTakenAway(t *testing.T) {
	now := time.Date(2026, 11, 28, 12, 0, 0, 0, time.UTC)
	before := []Ticket{{Ticket: "gas"}, {Ticket: "high-voltage", From: "2027-01-01"}, {Ticket: "live-testing", From: "2025-01-01", Until: "2025-12-31"}, {Ticket: "refrigerant", From: "2026-01-01"}}
	said := []Ticket{{Ticket: "refrigerant", From: "2026-01-01", Until: "2027-12-31"}}
	after := Ended(before, said, now, time.UTC)
	assert.Equal(t, []Ticket{
		{Ticket: "gas", Until: "2026-11-28T12:00:00Z"},
		{Ticket: "live-testing", From: "2025-01-01", Until: "2025-12-31"},
		{Ticket: "refrigerant", From: "2026-01-01", Until: "2027-12-31"},
	}, after)
	assert.Equal(t, after, Ended(after, after, now.Add(time.Hour), time.UTC), "said again, it stays")
	assert.Equal(t, []string{"refrigerant"}, HeldNow(after, now, time.UTC))
	assert.Equal(t, []string{"gas", "refrigerant"}, HeldNow(append(after, Ticket{Ticket: "gas"}), now, time.UTC))
}

func TestTheCompanyItself(t *testing.T) {
	d := Details{Name: " Quay Appliances ", Zone: "Europe/Helsinki", Region: "en-GB", Units: "metric", Currency: "eur", Tax: 25.5, Rate: 62, CallOut: 40}
	assert.Empty(t, d.Check())
	assert.Equal(t, "Quay Appliances", d.Name)
	assert.Equal(t, "EUR", d.Currency)
	assert.Empty(t, new(Details).Check(), "nothing is known yet")
	wrong := Details{Zone: "Moon", Region: "fr", Units: "cubits", Currency: "ZZZ", Tax: -1, Rate: 1e9, CallOut: -0.01, Name: "\x00", Address: strings.Repeat("x", 1001)}
	var fields []string
	for _, f := range wrong.Check() {
		fields = append(fields, f.Field)
	}
	assert.Equal(t, []string{"name", "address", "zone", "region", "units", "currency", "tax", "rate", "call_out"}, fields)
	require.Error(t, wrong.Check().AsError())
	assert.NoError(t, Faults{}.AsError())
}
