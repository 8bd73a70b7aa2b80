package nmea_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/nmea"
)

// A checksum has two digits: one that would fit with fewer or more is not taken.
func TestAChecksumHasTwoDigits(t *testing.T) {
	found := false
	for i := range 2000 {
		body := fmt.Sprintf("YXMTW,%d,C", i)
		sum := nmea.Checksum(body)
		if sum > 0xF {
			continue
		}
		found = true
		_, err := nmea.Parse(fmt.Sprintf("$%s*%02X", body, sum))
		require.NoError(t, err)
		for _, given := range []string{fmt.Sprintf("%X", sum), fmt.Sprintf("%03X", sum), "0x" + fmt.Sprintf("%X", sum)} {
			_, err := nmea.Parse("$" + body + "*" + given)
			assert.ErrorIs(t, err, nmea.BadChecksum, "%s", given)
		}
	}
	assert.True(t, found)
}
