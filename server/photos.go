package server

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"image"
	_ "image/jpeg" // the two kinds of photo
	_ "image/png"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/store"
)

// Limits of a photo. Devices make theirs smaller before they send them.
const (
	MostPhotoBytes  = 8 << 20
	mostPhotoSide   = 12000      // pixels
	mostPhotoPixels = 40_000_000 // width times height
)

func (s *Server) photos() {
	type putIn struct {
		SHA256  string `path:"sha256" pattern:"^[0-9a-f]{64}$" doc:"The SHA-256 of the picture's bytes, in hexadecimal"`
		RawBody []byte `contentType:"application/octet-stream"`
	}
	huma.Register(s.api, huma.Operation{OperationID: "put-photo", Method: http.MethodPut, Path: "/photos/{sha256}", Summary: "Keep a photo, a JPEG or PNG, under the SHA-256 of its bytes", MaxBodyBytes: MostPhotoBytes, DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *putIn) (*struct{}, error) {
			sum := sha256.Sum256(in.RawBody)
			if hex.EncodeToString(sum[:]) != in.SHA256 {
				return nil, huma.Error422UnprocessableEntity("The picture's bytes do not have this SHA-256. Send it again.")
			}
			p, why := readPhoto(in.RawBody)
			if why != "" {
				return nil, huma.Error422UnprocessableEntity(why)
			}
			p.SHA256, p.By = in.SHA256, person(ctx).ID
			if err := s.store.PutPhoto(ctx, p); err != nil {
				return nil, s.problem(ctx, err)
			}
			return nil, nil
		})

	type getIn struct {
		SHA256 string `path:"sha256" pattern:"^[0-9a-f]{64}$"`
	}
	type getOut struct {
		ContentType string `header:"Content-Type"`
		Cache       string `header:"Cache-Control"`
		Body        []byte
	}
	huma.Register(s.api, huma.Operation{OperationID: "get-photo", Method: http.MethodGet, Path: "/photos/{sha256}", Summary: "A photo"},
		func(ctx context.Context, in *getIn) (*getOut, error) {
			p, err := s.store.Photo(ctx, in.SHA256)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
			return &getOut{p.Type, "private, max-age=31536000, immutable", p.Bytes}, nil
		})
}

// readPhoto looks at a picture's head and end without unpacking it: its pixels
// are never laid out here. why is empty for one that is taken.
func readPhoto(data []byte) (p store.Photo, why string) {
	config, kind, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil || kind != "jpeg" && kind != "png" {
		return p, "This is no JPEG or PNG picture."
	}
	w, h := config.Width, config.Height
	if w < 1 || h < 1 || w > mostPhotoSide || h > mostPhotoSide || w*h > mostPhotoPixels {
		return p, fmt.Sprintf("The picture has %d by %d pixels; %d on a side and %d million in all are taken at most. Make it smaller and send it again.", w, h, mostPhotoSide, mostPhotoPixels/1_000_000)
	}
	end := map[string][]byte{"jpeg": {0xff, 0xd9}, "png": []byte("IEND\xaeB`\x82")}[kind]
	if !bytes.Contains(data[max(0, len(data)-64):], end) {
		return p, "The picture is cut off. Send it again."
	}
	return store.Photo{Type: "image/" + kind, Width: w, Height: h, Bytes: data}, ""
}
