package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/store"
)

// mostAudit is how many lines of the audit list one answer holds.
const mostAudit = 100

// audits is for supervisors: who did what with accounts, rights and lists, and who tried.
func (s *Server) audits() {
	type auditIn struct {
		Before int64 `query:"before" minimum:"0" doc:"The last line that is known; 0: from the end"`
	}
	type auditOut struct {
		Body struct {
			Lines []store.Audit `json:"lines" doc:"The latest first"`
			More  bool          `json:"more"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "list-audit", Method: http.MethodGet, Path: "/audit", Summary: "Who did what with accounts, rights and lists; for supervisors", Middlewares: huma.Middlewares{s.supervisorsOnly}},
		func(ctx context.Context, asked *auditIn) (*auditOut, error) {
			lines, err := s.store.AuditBefore(ctx, asked.Before, mostAudit)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			o := &auditOut{}
			o.Body.Lines, o.Body.More = lines, len(lines) == mostAudit
			return o, nil
		})
}
