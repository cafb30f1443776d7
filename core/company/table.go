package company

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"reflect"
	"strconv"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"
)

// Table is one kind of list as CSV: RFC 4180 with a line of headings, in UTF-8.
type Table[T any] struct {
	Name    string // people, sites, machines, meters
	columns []column[T]
	key     func(*T) *string
	title   func(*T) string
	check   func(*T) Faults
	// resolve finds what a row names otherwise than by its id; nil where nothing is.
	resolve func(*T, Known)
	// like finds which one of those that are there a line without an id means, and
	// names a new one; nil where every line has to say its id.
	like func(*T) string
	// fits says what is wrong with a row beside the others that are known.
	fits func(*T, Known) Faults
}

type column[T any] struct {
	name string
	get  func(*T) string
	set  func(*T, string) error
}

// Known is what rows refer to.
type Known struct {
	Sites []Site
	Maps  []string // ids
	// Merged are machines that were found to be others, each with the id of that one.
	Merged map[string]string
	Zone   *time.Location

	byID   map[string]bool // sites
	byName map[string]string
	maps   map[string]bool
}

func (known *Known) index() {
	known.byID, known.byName, known.maps = map[string]bool{}, map[string]string{}, map[string]bool{}
	for _, s := range known.Sites {
		known.byID[s.ID] = true
		if name := strings.ToLower(s.Name); known.byName[name] == "" {
			known.byName[name] = s.ID
		} else {
			known.byName[name] = several
		}
	}
	for _, m := range known.Maps {
		known.maps[m] = true
	}
}

// Fits says what is wrong with a row beside what it refers to.
func (t *Table[T]) Fits(row *T, known Known) Faults {
	known.index()
	return t.fits(row, known)
}

// Add gives a row that is new its id, and says what is wrong with it: one of its
// name is there already.
func (t *Table[T]) Add(row *T, there []T, known Known) Faults {
	t.check(row) // which tidies it
	ids, doubles := map[string]bool{}, false
	for i := range there {
		ids[*t.key(&there[i])] = true
		doubles = doubles || t.like(&there[i]) == t.like(row)
	}
	*t.key(row) = freeID(t.like(row), func(id string) bool { return ids[id] || known.Merged[id] != "" })
	faults := append(t.check(row), t.Fits(row, known)...)
	if doubles {
		faults.add("name", "There is one of this name already. Change that one, or call this another.")
	}
	return faults
}

// FileLine is what one line of a file does.
type FileLine struct {
	Line int      `json:"line"` // of the file, from 1
	Does Does     `json:"does" enum:"adds,changes,same,wrong"`
	What string   `json:"what"` // the name that it is about
	Says []string `json:"says"` // what changes, or what is wrong
}

// Does is what becomes of a line.
type Does string

// What a line does: it adds a row, changes one, says what is there already, or
// cannot be taken.
const (
	Adds    Does = "adds"
	Changes Does = "changes"
	Same    Does = "same"
	Wrong   Does = "wrong"
)

// Trial is what a file would do. Where one line is wrong, none of it is kept.
type Trial[T any] struct {
	Lines                       []FileLine
	Added, Changed, Same, Wrong int
	Rows                        []T // to be kept, those that stay as they are left out
}

// The most that a file may have.
const (
	MostLines = 50_000
	MostBytes = 16 << 20
	mostWrong = 1_000 // more than that nobody reads; the rest of the file is not looked at
)

// Write writes rows as CSV, with a mark at its beginning by which spreadsheets know
// that it is UTF-8.
func (t *Table[T]) Write(rows []T) ([]byte, error) {
	var out bytes.Buffer
	out.WriteString(bom)
	w := csv.NewWriter(&out)
	w.UseCRLF = true // RFC 4180, 2.1
	_ = w.Write(t.Columns())
	for i := range rows {
		cells := make([]string, 0, len(t.columns))
		for _, c := range t.columns {
			cells = append(cells, guarded(c.get(&rows[i])))
		}
		_ = w.Write(cells)
	}
	w.Flush()
	if err := w.Error(); err != nil {
		return nil, fmt.Errorf("writing the %s as CSV: %w", t.Name, err)
	}
	return out.Bytes(), nil
}

// Columns are the headings.
func (t *Table[T]) Columns() []string {
	out := make([]string, 0, len(t.columns))
	for _, c := range t.columns {
		out = append(out, c.name)
	}
	return out
}

// cloned is a row whose lists and maps are its own.
func cloned[T any](row T) T {
	v := reflect.ValueOf(&row).Elem()
	for i := range v.NumField() {
		switch f := v.Field(i); f.Kind() {
		case reflect.Map:
			if !f.IsNil() {
				own := reflect.MakeMap(f.Type())
				for _, k := range f.MapKeys() {
					own.SetMapIndex(k, f.MapIndex(k))
				}
				f.Set(own)
			}
		case reflect.Slice:
			if !f.IsNil() {
				f.Set(reflect.AppendSlice(reflect.MakeSlice(f.Type(), 0, f.Len()), f))
			}
		default:
		}
	}
	return row
}

// freeID makes an id of a name that nothing has yet.
func freeID(name string, taken func(string) bool) string {
	var b strings.Builder
	for _, r := range strings.ToLower(name) {
		switch {
		case r < utf8.RuneSelf && (unicode.IsLetter(r) || unicode.IsDigit(r)):
			b.WriteRune(r)
		case plainLetters[r] != "":
			b.WriteString(plainLetters[r])
		default:
			b.WriteByte('-')
		}
	}
	text := strings.Join(strings.FieldsFunc(b.String(), func(r rune) bool { return r == '-' }), "-")
	text = text[:min(len(text), 60)]
	if text == "" {
		text = "n"
	}
	for n, id := 2, text; ; n++ {
		if !taken(id) {
			return id
		}
		id = text + "-" + strconv.Itoa(n)
	}
}

// plainLetters are how letters of the neighbours are written in an id.
var plainLetters = map[rune]string{'å': "a", 'ä': "a", 'á': "a", 'à': "a", 'â': "a", 'ö': "o", 'ø': "o", 'ó': "o", 'ô': "o", 'ü': "u", 'ú': "u", 'é': "e", 'è': "e", 'ê': "e", 'í': "i", 'ñ': "n", 'ç': "c", 'ß': "ss", 'æ': "ae", 'þ': "th", 'ð': "d"}
