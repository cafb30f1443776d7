package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/core/reading"
	"evensteps/server/meter"
)

// meters is the meter on the network that is joined to this server, if one is.
func (s *Server) meters(address string) {
	type joinedOut struct {
		Body struct {
			Joined bool `json:"joined"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "get-meter", Method: http.MethodGet, Path: "/meter", Summary: "Whether a meter is joined that takes readings by itself"},
		func(context.Context, *struct{}) (*joinedOut, error) {
			out := &joinedOut{}
			out.Body.Joined = address != ""
			return out, nil
		})

	type takeIn struct {
		Body struct {
			Quantity string   `json:"quantity" maxLength:"40"`
			Between  []string `json:"between" maxItems:"2" doc:"The points that its probes are on"`
		}
	}
	type takeOut struct {
		Body struct {
			Value string `json:"value"`
			Meter string `json:"meter" doc:"The number of the meter"`
		}
	}
	huma.Register(s.api, huma.Operation{OperationID: "take-reading", Method: http.MethodPost, Path: "/meter/reading", Summary: "One reading from the meter; nothing is recorded by it"},
		func(ctx context.Context, in *takeIn) (*takeOut, error) {
			if address == "" {
				return nil, huma.Error404NotFound("No meter is joined to this server. Type what the display shows.")
			}
			r, err := meter.Take(ctx, address, reading.Quantity(in.Body.Quantity), in.Body.Between)
			if err != nil {
				s.log.WarnContext(ctx, "the meter", "err", err)
				return nil, huma.Error502BadGateway(meter.Say(err))
			}
			out := &takeOut{}
			out.Body.Value, out.Body.Meter = r.Value, r.Meter
			return out, nil
		})
}
