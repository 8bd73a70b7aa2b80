package job

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"image"
	"image/jpeg"
	_ "image/png"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Limits of a picture as it is given, and the quality at which it is kept.
const (
	MostPixels = 4096 // either way
	quality    = 82
)

// developed reads a picture as it was given and makes it anew, so that nothing but the picture is kept: no place, no
// time, no maker. What is no picture is refused.
func developed(p eventlog.Photo) (*eventlog.Photo, error) {
	var wrong validation.Errors
	refuse := func(say string, args ...any) (*eventlog.Photo, error) {
		wrong.Add("photo.data", units.Say("%d bytes", len(p.Data)), units.Say("a JPEG or PNG picture, up to %d by %d",
			MostPixels, MostPixels), say, args...)
		return nil, wrong
	}
	facts, format, err := image.DecodeConfig(bytes.NewReader(p.Data))
	if err != nil {
		return refuse("this is no picture that can be read: take it again")
	}
	if facts.Width > MostPixels || facts.Height > MostPixels || facts.Width < 1 || facts.Height < 1 {
		return refuse("the picture is %d by %d: make it smaller", facts.Width, facts.Height)
	}
	picture, _, err := image.Decode(bytes.NewReader(p.Data))
	if err != nil {
		return refuse("the %s picture breaks off: take it again", format)
	}
	var out bytes.Buffer
	if err := jpeg.Encode(&out, picture, &jpeg.Options{Quality: quality}); err != nil {
		return nil, err
	}
	hash := sha256.Sum256(p.Data)
	return &eventlog.Photo{Item: p.Item, Hash: hex.EncodeToString(hash[:]), Width: facts.Width, Height: facts.Height,
		JPEG: out.Bytes()}, nil
}

// Photo gives a picture of a job as JPEG. One whose entry was taken back is still there: the entry is.
func (a *Jobs) Photo(ctx context.Context, id string) ([]byte, error) {
	p, ok, err := a.Store.Read(ctx).Photo(id)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, record.NotFound("picture", id)
	}
	return p.JPEG, nil
}
