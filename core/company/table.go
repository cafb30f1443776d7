package company

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"maps"
	"reflect"
	"slices"
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

const bom = "\ufeff"

// several says that more than one site is called that.
const several = "?"

func sentence(say string) string {
	r, n := utf8.DecodeRuneInString(say)
	return string(unicode.ToUpper(r)) + strings.TrimSuffix(say[n:], ".") + "."
}

// guarded keeps a spreadsheet from taking a text for a formula; plain turns it back.
// A telephone number stays one.
func guarded(cell string) string {
	if cell == "" || !strings.ContainsRune("=+-@'", rune(cell[0])) {
		return cell
	}
	if cell[0] == '+' && strings.Trim(cell[1:], "0123456789 ()/-.") == "" {
		return cell
	}
	return "'" + cell
}

func plain(cell string) string {
	if len(cell) > 1 && cell[0] == '\'' && strings.ContainsRune("=+-@'", rune(cell[1])) {
		return cell[1:]
	}
	return cell
}

// separator is what parts the cells: the one of comma, semicolon and tab that
// stands most often in the line of headings.
func separator(head string) rune {
	best, most := ',', 0
	for _, r := range []rune{',', ';', '\t'} {
		if n := strings.Count(head, string(r)); n > most {
			best, most = r, n
		}
	}
	return best
}

// Read reads a file and says, line by line, what it would do to the rows that are
// there. A column that the file does not have stays as it was; a cell that is empty
// empties it.
func (t *Table[T]) Read(file []byte, now []T, known Known) *Trial[T] {
	out := &Trial[T]{Lines: []FileLine{}, Rows: []T{}}
	known.index()
	head, lines, err := t.open(file)
	if err != nil {
		out.wrong(1, "", sentence(err.Error()))
		return out
	}
	there, named := map[string]*T{}, map[string][]string{}
	for i := range now {
		id := *t.key(&now[i])
		there[id] = &now[i]
		if t.like != nil {
			named[t.like(&now[i])] = append(named[t.like(&now[i])], id)
		}
	}
	ids := maps.Clone(there)
	seen := map[string]int{}
	for n := 0; ; n++ {
		cells, err := lines.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var parse *csv.ParseError
		if errors.As(err, &parse) {
			out.wrong(parse.Line, "", "A quotation mark is out of place. From here on the file cannot be read.")
			break
		}
		at, _ := lines.FieldPos(0)
		if n >= MostLines || out.Wrong >= mostWrong {
			out.wrong(at, "", fmt.Sprintf("From here on nothing was looked at: %d lines are the most of a file, and %d that are wrong.", MostLines, mostWrong))
			break
		}
		if !slices.ContainsFunc(cells, func(c string) bool { return strings.TrimSpace(c) != "" }) {
			continue
		}
		t.line(out, at, head, cells, &rowsThere[T]{there, named, ids, seen}, known)
	}
	if out.Wrong > 0 {
		out.Rows = nil
	}
	return out
}

// open reads the headings.
func (t *Table[T]) open(file []byte) (head []*column[T], lines *csv.Reader, err error) {
	if len(file) > MostBytes {
		return nil, nil, fmt.Errorf("the file has %d bytes; %d are the most. Part it", len(file), MostBytes)
	}
	if bytes.HasPrefix(file, []byte{0xff, 0xfe}) || bytes.HasPrefix(file, []byte{0xfe, 0xff}) {
		return nil, nil, errors.New("this is UTF-16. Save it as CSV in UTF-8")
	}
	file = bytes.TrimPrefix(file, []byte(bom))
	if !utf8.Valid(file) {
		return nil, nil, errors.New("this is not UTF-8. Save it as CSV in UTF-8")
	}
	if bytes.IndexByte(file, 0) >= 0 {
		return nil, nil, errors.New("this is no CSV: it holds bytes that are no text")
	}
	first, _, _ := strings.Cut(string(file[:min(len(file), 64<<10)]), "\n")
	first = strings.TrimSuffix(first, "\r")
	lines = csv.NewReader(bytes.NewReader(file))
	lines.FieldsPerRecord = -1
	lines.Comma = separator(first)
	if sep, is := strings.CutPrefix(first, "sep="); is && utf8.RuneCountInString(sep) == 1 && strings.Contains(",;\t|", sep) { // as some spreadsheets say it
		lines.Comma, _ = utf8.DecodeRuneInString(sep)
		_, _ = lines.Read()
	}
	cells, err := lines.Read()
	if err != nil {
		return nil, nil, fmt.Errorf("there is no line of headings. Write %s", strings.Join(t.Columns(), ","))
	}
	for i, cell := range cells {
		name := strings.ToLower(strings.ReplaceAll(strings.TrimSpace(cell), " ", "_"))
		k := slices.IndexFunc(t.columns, func(c column[T]) bool { return c.name == name })
		switch {
		case name == "" && i > 0: // an empty column at the end
			head = append(head, nil)
		case k < 0:
			return nil, nil, fmt.Errorf("there is no column “%s”. There are %s", cell, strings.Join(t.Columns(), ", "))
		case slices.Contains(head, &t.columns[k]):
			return nil, nil, fmt.Errorf("the column “%s” stands there twice", cell)
		default:
			head = append(head, &t.columns[k])
		}
	}
	return head, lines, nil
}

// rowsThere are the rows that lines are held against.
type rowsThere[T any] struct {
	by    map[string]*T       // by id
	named map[string][]string // ids by what they are called
	ids   map[string]*T       // taken, those that the file adds too
	seen  map[string]int      // id -> the line that said it
}

func (t *Table[T]) line(out *Trial[T], at int, head []*column[T], cells []string, rows *rowsThere[T], known Known) {
	var row T
	set := func() (faults []string) {
		for i, cell := range cells {
			cell = plain(strings.TrimSpace(cell))
			if i >= len(head) || head[i] == nil {
				if cell != "" {
					faults = append(faults, fmt.Sprintf("There are more cells than headings: “%s”.", cell))
				}
				continue
			}
			if err := head[i].set(&row, cell); err != nil {
				faults = append(faults, sentence(err.Error()))
			}
		}
		if t.resolve != nil {
			t.resolve(&row, known)
		}
		return faults
	}
	wrong := set()
	id := *t.key(&row)
	if id == "" && t.like != nil {
		if same := rows.named[t.like(&row)]; len(same) > 1 {
			out.wrong(at, t.title(&row), fmt.Sprintf("There are %d of this name. Write the id of the one you mean: %s.", len(same), strings.Join(same, ", ")))
			return
		} else if len(same) == 1 {
			id = same[0]
		}
	}
	old := rows.by[id]
	if old != nil { // what the file does not say stays
		row = cloned(*old)
		wrong = set()
		*t.key(&row) = id
	} else if id == "" && t.like != nil {
		id = freeID(t.like(&row), func(id string) bool { return rows.ids[id] != nil || known.Merged[id] != "" })
		*t.key(&row) = id
	}
	for _, f := range slices.Concat(t.check(&row), t.fits(&row, known)) {
		wrong = append(wrong, f.Say)
	}
	if first := rows.seen[id]; first > 0 {
		wrong = append(wrong, fmt.Sprintf("Line %d says it already.", first))
	}
	if len(wrong) > 0 {
		out.wrong(at, t.title(&row), wrong...)
		return
	}
	rows.seen[id], rows.ids[id] = at, &row
	if old == nil {
		out.Added++
		out.Lines = append(out.Lines, FileLine{at, Adds, t.title(&row), []string{}})
		out.Rows = append(out.Rows, row)
		return
	}
	if says := t.differs(old, &row); len(says) > 0 {
		out.Changed++
		out.Lines = append(out.Lines, FileLine{at, Changes, t.title(&row), says})
		out.Rows = append(out.Rows, row)
		return
	}
	out.Same++
	out.Lines = append(out.Lines, FileLine{at, Same, t.title(&row), []string{}})
}

func (t *Table[T]) differs(old, row *T) (says []string) {
	for _, c := range t.columns {
		if a, b := c.get(old), c.get(row); a != b {
			says = append(says, fmt.Sprintf("%s: %s → %s", c.name, orNothing(a), orNothing(b)))
		}
	}
	return says
}

func orNothing(text string) string {
	if text == "" {
		return "nothing"
	}
	return text
}

func (tr *Trial[T]) wrong(at int, what string, says ...string) {
	tr.Wrong++
	tr.Lines = append(tr.Lines, FileLine{at, Wrong, what, says})
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
