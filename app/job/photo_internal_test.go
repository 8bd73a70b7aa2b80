package job

import (
	"bytes"
	"context"
	"errors"
	"image"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/eventlog"
	"hevrin/core/validation"
)

// A picture of more than eight megapixels is refused before it is decoded; what nobody waits for is not decoded.
func TestPicturesAreBounded(t *testing.T) {
	of := func(wide, high int) []byte {
		var out bytes.Buffer
		require.NoError(t, png.Encode(&out, image.NewGray(image.Rect(0, 0, wide, high))))
		return out.Bytes()
	}
	for _, c := range []struct {
		wide, high int
		taken      bool
	}{{4096, 2048, true}, {4096, 2049, false}, {4097, 1, false}, {1, 4096, true}} {
		_, err := developed(t.Context(), eventlog.Photo{Data: of(c.wide, c.high)})
		assert.Equal(t, c.taken, err == nil, "%d by %d: %v", c.wide, c.high, err)
	}
	ctx, leave := context.WithCancel(t.Context())
	leave()
	_, err := developed(ctx, eventlog.Photo{Data: of(100, 100)})
	assert.ErrorIs(t, err, context.Canceled)
}

// Whatever is sent as a picture, it is made anew as a JPEG of the same size, or refused with its field; nothing panics.
func FuzzPictures(f *testing.F) {
	m := image.NewGray(image.Rect(0, 0, 9, 7))
	var asJPEG, asPNG bytes.Buffer
	require.NoError(f, jpeg.Encode(&asJPEG, m, nil))
	require.NoError(f, png.Encode(&asPNG, m))
	for _, seed := range [][]byte{asJPEG.Bytes(), asPNG.Bytes(), asJPEG.Bytes()[:40], asPNG.Bytes()[:50],
		[]byte("GIF89a"), nil} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		kept, err := developed(t.Context(), eventlog.Photo{Data: data})
		if err != nil {
			var wrong validation.Errors
			require.True(t, errors.As(err, &wrong), "%v", err)
			assert.Equal(t, "photo.data", wrong[0].Field)
			return
		}
		again, err := jpeg.Decode(bytes.NewReader(kept.JPEG))
		require.NoError(t, err)
		assert.Equal(t, image.Pt(kept.Width, kept.Height), again.Bounds().Size())
		assert.Len(t, kept.Hash, 64)
	})
}
