package wetwork_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/units"
)

// A fuse is the next size over a quarter more than the pump draws; common practice.
func TestTheFuseIsTheNextOverAQuarterMore(t *testing.T) {
	for amps, want := range map[float64]float64{0.8: 1, 4: 5, 4.01: 7.5, 5.2: 7.5, 6: 7.5, 6.01: 10, 8: 10, 31.9: 40} {
		p := good()
		p.PumpAmps = amps
		d, err := p.Plan()
		require.NoError(t, err)
		require.NotNil(t, d.FuseAmps, "%g A", amps)
		assert.Equal(t, want, *d.FuseAmps, "%g A", amps)
	}
	p := good()
	p.PumpAmps = 33 // a quarter more is over the largest
	d, err := p.Plan()
	require.NoError(t, err)
	assert.Nil(t, d.FuseAmps)
}

// A bath that goes round fewer than ten times is warned of; ten times are enough.
func TestABathGoesRoundTenTimes(t *testing.T) {
	for times, warned := range map[float64]bool{9.9: true, 10: false, 10.1: false, 2: true, 100: false} {
		p := good()
		p.PumpLMin = times * p.BathL / p.Minutes
		d, err := p.Plan()
		require.NoError(t, err)
		assert.InDelta(t, times, *d.Turnovers, 1e-9)
		assert.Equal(t, warned, strings.Contains(units.Join(d.Warnings, " ").String(), "goes round"), "%g times", times)
	}
}
