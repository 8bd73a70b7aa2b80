package job

import (
	"bytes"
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
		kept, err := developed(eventlog.Photo{Data: data})
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
