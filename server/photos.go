package server

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"evensteps/store"
)

// Limits of a photo. Devices make theirs smaller before they send them.
const (
	MostPhotoBytes  = 8 << 20
	mostPhotoSide   = 6000       // pixels
	mostPhotoPixels = 13_000_000 // width times height: they are laid out one after the other
	photoQuality    = 90         // of a JPEG that is drawn anew, of 100
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
			if is, err := s.store.HasPhoto(ctx, in.SHA256); err != nil {
				return nil, s.problem(ctx, err)
			} else if is {
				return nil, nil
			}
			p, why, err := s.drawnAnew(ctx, in.RawBody)
			if err != nil {
				return nil, s.problem(ctx, err)
			}
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

// drawnAnew unpacks a picture and packs it again: what is kept is pixels and nothing
// else, whatever else was in the file. Its size is looked at before it is unpacked, and
// one is unpacked at a time, so that many at once cost no more memory than one. why says
// what is wrong with one that is not taken.
func (s *Server) drawnAnew(ctx context.Context, data []byte) (p store.Photo, why string, err error) {
	config, kind, wrong := image.DecodeConfig(bytes.NewReader(data))
	if wrong != nil || kind != "jpeg" && kind != "png" {
		return p, "This is no JPEG or PNG picture.", nil
	}
	w, h := config.Width, config.Height
	if w < 1 || h < 1 || w > mostPhotoSide || h > mostPhotoSide || w*h > mostPhotoPixels {
		return p, fmt.Sprintf("The picture has %d by %d pixels; %d on a side and %d million in all are taken at most. Make it smaller and send it again.", w, h, mostPhotoSide, mostPhotoPixels/1_000_000), nil
	}
	if err := s.drawing.Acquire(ctx, 1); err != nil {
		return p, "", fmt.Errorf("waiting to draw a photo: %w", err)
	}
	defer s.drawing.Release(1)
	picture, _, wrong := image.Decode(bytes.NewReader(data))
	if wrong != nil {
		return p, "The picture is cut off, or spoilt. Send it again.", nil
	}
	var anew bytes.Buffer
	if kind == "png" {
		err = png.Encode(&anew, picture)
	} else {
		err = jpeg.Encode(&anew, picture, &jpeg.Options{Quality: photoQuality})
	}
	if err != nil {
		return p, "", fmt.Errorf("drawing a photo: %w", err)
	}
	if anew.Len() > MostPhotoBytes {
		return p, fmt.Sprintf("The picture is larger than %d MB. Make it smaller and send it again.", MostPhotoBytes>>20), nil
	}
	return store.Photo{Type: "image/" + kind, Width: w, Height: h, Bytes: anew.Bytes()}, "", nil
}
