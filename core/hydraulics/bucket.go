package hydraulics

import (
	"math"

	"gonum.org/v1/gonum/stat"
)

// StopwatchError is the error in seconds that a single try is taken to have: a thumb at both ends, common practice.
const StopwatchError = 0.3

// Bucket is what a bucket test says.
type Bucket struct {
	FlowLMin    float64
	ErrorLMin   float64 // one standard deviation
	MeanSeconds float64
	SpreadS     float64 // standard deviation of one try, in s
	MeanErrorS  float64 // of the mean, in s
}

// BucketFlow is the flow that fills a bucket of volume ± volumeError litres in these seconds, tried at least once. The
// error joins, in quadrature, the spread of the tries (the standard error of their mean; a thumb's for a single try)
// and the bucket's own. JCGM 100:2008, Guide to the Expression of Uncertainty in Measurement, 4.2 and 5.1.
func BucketFlow(volume, volumeError float64, seconds []float64) Bucket {
	b := Bucket{SpreadS: StopwatchError, MeanErrorS: StopwatchError}
	b.MeanSeconds = stat.Mean(seconds, nil)
	if n := len(seconds); n > 1 {
		b.SpreadS = stat.StdDev(seconds, nil)
		b.MeanErrorS = b.SpreadS / math.Sqrt(float64(n))
	}
	b.FlowLMin = 60 * volume / b.MeanSeconds
	b.ErrorLMin = b.FlowLMin * math.Hypot(b.MeanErrorS/b.MeanSeconds, volumeError/volume)
	return b
}
