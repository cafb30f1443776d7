package company

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"maps"
	"slices"
	"strings"
	"unicode/utf8"
)

// Tables read from a file, on trial first.

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
