package live

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

var noon = time.Date(2026, time.May, 18, 12, 0, 0, 0, time.UTC)

func at(s float64) time.Time { return noon.Add(time.Duration(s * float64(time.Second))) }

func TestWithoutAClockOfItsOwnThisMachinesCounts(t *testing.T) {
	c := clock{wall: noon}
	assert.InDelta(t, 7.5, c.at(at(7.5)), 1e-9)
}

// A gateway that runs 60 times as fast, told every second of its own.
func TestTheGatewaysClockCounts(t *testing.T) {
	c := clock{wall: noon}
	for i := range 601 {
		c.hear(at(float64(i)), at(float64(i)/60))
	}
	assert.InDelta(t, 600, c.at(at(10)), 1.1)
	assert.InDelta(t, 601, c.at(at(12)), 1.1, "between two tellings it goes on by one step and no further")
}

func TestAClockThatIsSetGoesOnByThisMachines(t *testing.T) {
	for name, set := range map[string]float64{"back": -86400, "a day ahead": 86400} {
		t.Run(name, func(t *testing.T) {
			c := clock{wall: noon}
			for i := range 10 {
				c.hear(at(float64(i)), at(float64(i)))
			}
			for i := 10; i < 20; i++ {
				c.hear(at(float64(i)+set), at(float64(i)))
			}
			assert.InDelta(t, 19, c.at(at(19)), 1.1)
		})
	}
}

func TestAGatewayThatTellsNoMoreTime(t *testing.T) {
	c := clock{wall: noon}
	c.hear(at(0), at(0))
	c.hear(at(1), at(1))
	assert.InDelta(t, 20, c.at(at(20)), 1.1)
}

// Rounds of four seconds of a gateway that runs 40 times as fast, and a network that holds some of them back: what is
// said twice is still said at two times.
func TestRoundsThatComeTogetherAreApart(t *testing.T) {
	c := clock{wall: noon}
	wall, before, first := 0.0, 0.0, 0.1
	for i := range 60 {
		wall += []float64{0.1, 0.1, 0.25, 0.001, 0.00001}[i%5]
		c.hear(at(4*float64(i)), at(wall))
		begin, end := c.at(at(wall)), c.at(at(wall+[]float64{0.005, 0.2, 0.0005, 0, 0.05}[i%5]))
		if i > 0 {
			assert.GreaterOrEqual(t, begin-before, leastApartS, "round %d", i)
		}
		assert.GreaterOrEqual(t, end, first+4*float64(i), "round %d", i)
		assert.Less(t, end, first+4*float64(i+1), "it goes on by one step and no further: round %d", i)
		before = end
	}
}

// Whatever is told whenever: time never goes back, and never stands while this machine goes on for long.
func TestTimeNeverGoesBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := clock{wall: noon}
		wall, last := 0.0, 0.0
		for range rapid.IntRange(1, 80).Draw(t, "steps") {
			wall += rapid.Float64Range(0, 20).Draw(t, "wall")
			if rapid.Bool().Draw(t, "told") {
				c.hear(at(rapid.Float64Range(-1e6, 1e6).Draw(t, "gateway")), at(wall))
			}
			if now := c.at(at(wall)); now < last {
				t.Fatalf("%v after %v", now, last)
			} else {
				last = now
			}
		}
	})
}
