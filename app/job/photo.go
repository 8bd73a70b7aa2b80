package job

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"image"
	"image/jpeg"
	_ "image/png"
	"io"

	"golang.org/x/sync/semaphore"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Limits of a picture as it is given, and the quality at which it is kept. A phone's camera makes more than is needed
// to see a crust in a tube; the screen makes it smaller before it is sent.
const (
	MostPixels     = 4096    // either way
	MostPixelsInIt = 8 << 20 // 8 megapixels in all
	quality        = 82
)

// developing bounds how many pictures are decoded at once: each takes up to eight bytes a pixel and as much again.
var developing = semaphore.NewWeighted(2)

// developed reads a picture as it was given and makes it anew, so that nothing but the picture is kept: no place, no
// time, no maker. What is no picture is refused.
func developed(ctx context.Context, p eventlog.Photo) (*eventlog.Photo, error) {
	var wrong validation.Errors
	refuse := func(say string, args ...any) (*eventlog.Photo, error) {
		wrong.Add("photo.data", units.Say("%d bytes", len(p.Data)), units.Say("a JPEG or PNG picture, up to %d by %d and %d "+
			"megapixels", MostPixels, MostPixels, MostPixelsInIt>>20), say, args...)
		return nil, wrong
	}
	facts, format, err := image.DecodeConfig(bytes.NewReader(p.Data))
	if err != nil {
		return refuse("this is no picture that can be read: take it again")
	}
	if facts.Width > MostPixels || facts.Height > MostPixels || facts.Width < 1 || facts.Height < 1 ||
		facts.Width*facts.Height > MostPixelsInIt {
		return refuse("the picture is %d by %d: make it smaller", facts.Width, facts.Height)
	}
	if err := developing.Acquire(ctx, 1); err != nil { // who asked went away
		return nil, err
	}
	defer developing.Release(1)
	picture, _, err := image.Decode(&reading{ctx, bytes.NewReader(p.Data)})
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
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

// reading stops where whoever asked went away.
type reading struct {
	ctx  context.Context //nolint:containedctx // it is the request's, and lives as long
	from io.Reader
}

func (r *reading) Read(into []byte) (int, error) {
	if err := r.ctx.Err(); err != nil {
		return 0, err
	}
	return r.from.Read(into)
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
