package company

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// How a table is written and read by other programs.

const bom = "\ufeff"

// several says that more than one site is called that.
const several = "?"

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

func sentence(say string) string {
	r, n := utf8.DecodeRuneInString(say)
	return string(unicode.ToUpper(r)) + strings.TrimSuffix(say[n:], ".") + "."
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
