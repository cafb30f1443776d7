package server

import (
	"context"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/core/company"
	"evensteps/store"
)

// Imported is what a file did, or would do.
type Imported struct {
	Kept    bool               `json:"kept" doc:"It is kept now; else nothing was changed"`
	Added   int                `json:"added"`
	Changed int                `json:"changed"`
	Same    int                `json:"same"`
	Wrong   int                `json:"wrong" doc:"Lines that cannot be taken: where there is one, nothing of the file is kept"`
	Lines   []company.FileLine `json:"lines" doc:"What each line does, those that are wrong first"`
	More    int                `json:"more" doc:"Lines that are not listed"`
}

// mostLines is how many lines of a file are listed.
const mostLines = 1000

// tables are the company's lists as CSV files; for supervisors.
func (s *Server) tables() {
	supervisors := huma.Middlewares{s.supervisorsOnly}
	type tableIn struct {
		Table string `path:"table" enum:"people,sites,machines,meters"`
	}
	type tableOut struct {
		ContentType string `header:"Content-Type"`
		Disposition string `header:"Content-Disposition"`
		Body        []byte
	}
	huma.Register(s.api, huma.Operation{OperationID: "export-table", Method: http.MethodGet, Path: "/tables/{table}", Summary: "A list of the company as CSV (RFC 4180, UTF-8); for supervisors", Middlewares: supervisors},
		func(ctx context.Context, in *tableIn) (*tableOut, error) {
			file, err := s.exported(ctx, in.Table)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			s.audit(ctx, person(ctx).ID, "list taken out: "+in.Table, "")
			return &tableOut{"text/csv; charset=utf-8", `attachment; filename="` + in.Table + `.csv"`, file}, nil
		})
	type fileIn struct {
		Table   string `path:"table" enum:"people,sites,machines,meters"`
		Trial   bool   `query:"trial" doc:"Say what it would do, and change nothing"`
		RawBody []byte `contentType:"text/csv"`
	}
	type importedOut struct{ Body Imported }
	huma.Register(s.api, huma.Operation{OperationID: "import-table", Method: http.MethodPost, Path: "/tables/{table}", Summary: "Take a list as CSV, all of it or nothing; for supervisors", MaxBodyBytes: company.MostBytes + 1, Middlewares: supervisors},
		func(ctx context.Context, in *fileIn) (*importedOut, error) {
			out, err := s.imported(ctx, in.Table, in.RawBody, in.Trial)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			if !in.Trial {
				s.audit(ctx, person(ctx).ID, "list taken in: "+in.Table, "")
			}
			return &importedOut{out}, nil
		})
}

func (s *Server) exported(ctx context.Context, table string) ([]byte, error) {
	switch table {
	case "people":
		all, err := s.store.People(ctx)
		if err != nil {
			return nil, err
		}
		return company.People.Write(rowsOf(all, (*store.Person).Company))
	case "sites":
		all, err := s.store.Sites(ctx)
		if err != nil {
			return nil, err
		}
		return company.Sites.Write(rowsOf(all, (*store.Site).Company))
	case "machines":
		all, err := s.store.Appliances(ctx)
		if err != nil {
			return nil, err
		}
		return company.Machines.Write(rowsOf(all, (*store.Appliance).Company))
	default:
		all, err := s.store.Meters(ctx)
		if err != nil {
			return nil, err
		}
		return company.Meters.Write(rowsOf(all, (*store.Meter).Company))
	}
}

// rowsOf are rows of the store as supervisors and CSV have them.
func rowsOf[R, C any](all []R, of func(*R) C) []C {
	out := make([]C, 0, len(all))
	for i := range all {
		out = append(out, of(&all[i]))
	}
	return out
}

// imported takes a file. A trial looks at the same rows in the same way, and keeps
// none.
func (s *Server) imported(ctx context.Context, table string, file []byte, trial bool) (out Imported, err error) {
	known, err := s.knownRows(ctx)
	if err != nil {
		return out, err
	}
	by := person(ctx).ID
	switch table {
	case "people":
		err = s.store.ImportPeople(ctx, by, known.Zone, reads(company.People, file, known, trial, &out))
	case "sites":
		err = s.store.ImportSites(ctx, by, reads(company.Sites, file, known, trial, &out))
	case "machines":
		err = s.store.ImportMachines(ctx, by, reads(company.Machines, file, known, trial, &out))
	default:
		err = s.store.ImportMeters(ctx, by, known.Zone, reads(company.Meters, file, known, trial, &out))
	}
	out.Kept = err == nil && !trial && out.Wrong == 0
	return out, err
}

// reads makes of the rows that are there those that a file changes.
func reads[T any](table *company.Table[T], file []byte, known company.Known, trial bool, out *Imported) func([]T) []T {
	return func(now []T) []T {
		t := table.Read(file, now, known)
		*out = Imported{Added: t.Added, Changed: t.Changed, Same: t.Same, Wrong: t.Wrong, Lines: t.Lines}
		slices.SortStableFunc(out.Lines, func(a, b company.FileLine) int { return order[a.Does] - order[b.Does] })
		out.More = max(0, len(out.Lines)-mostLines)
		out.Lines = out.Lines[:min(len(out.Lines), mostLines)]
		if trial {
			return nil
		}
		return t.Rows
	}
}

// order is what of a file is looked at first.
var order = map[company.Does]int{company.Wrong: 0, company.Changes: 1, company.Adds: 2, company.Same: 3}
