package teardown

import (
	"fmt"
	"math"
)

// Shapes in which fasteners stand.
const (
	Ring      = "ring"
	Rectangle = "rectangle"
)

// Shapes lists the shapes.
var Shapes = []string{Ring, Rectangle}

// The fewest and the most fasteners of a pattern.
const (
	LeastFasteners = 3
	MostFasteners  = 24
)

// Passes in which fasteners are tightened: snug, half, full; common practice.
var Passes = []string{"snug", "half", "full"}

// Place is where a fastener stands, within −1 to 1 either way, y down.
type Place struct{ X, Y float64 }

// Places lists where n fasteners stand, numbered clockwise from the top (a ring) or from the upper left corner (a
// rectangle, whose long sides take what does not divide evenly).
func Places(n int, shape string) []Place {
	list := make([]Place, n)
	for i := range list {
		if shape != Rectangle || n < 4 {
			a := 2 * math.Pi * float64(i) / float64(n)
			list[i] = Place{math.Sin(a), -math.Cos(a)}
			continue
		}
		list[i] = onRectangle(i, n+n%2) // an odd number leaves one place of the next even one free
	}
	return list
}

// onRectangle walks the edge of a rectangle of 3 by 2 clockwise, so that place i + n/2 of an even number lies opposite.
func onRectangle(i, n int) Place {
	const width, height = 1.0, 2.0 / 3
	top := (n + 2) / 4 // steps along a long side
	side := n/2 - top
	half := i % (n / 2)
	turned := i >= n/2
	var p Place
	switch {
	case half < top || side == 0:
		p = Place{-width + 2*width*float64(half)/float64(max(top, 1)), -height}
	default:
		p = Place{width, -height + 2*height*float64(half-top)/float64(side)}
	}
	if turned {
		p.X, p.Y = -p.X, -p.Y
	}
	return p
}

// Order is the cross order in which n fasteners are tightened, numbers from 1: opposite pairs where their number is
// even (4: 1-3-2-4), the largest steps round where it is odd; from 5 up never a neighbour next, nor, from 7 up, from
// one pass into the next. A rectangle begins with the pair nearest its middle and works outward.
func Order(n int, shape string) ([]int, error) {
	if n < LeastFasteners || n > MostFasteners {
		return nil, fmt.Errorf("%d fasteners: a pattern has %d to %d", n, LeastFasteners, MostFasteners)
	}
	if n%2 == 1 {
		return star(n), nil
	}
	pairs := turning(n / 2)
	if shape == Rectangle {
		pairs = outward(n)
	}
	return chain(n, pairs, nil), nil
}

// star goes round by the largest step that is not the whole: (n−1)/2, which has no factor in common with an odd n.
func star(n int) []int {
	order := make([]int, n)
	for i := range order {
		order[i] = i*((n-1)/2)%n + 1
	}
	return order
}

// turning lists the pairs so that each lies far round from the one before: halves, then quarters of the turn.
func turning(pairs int) []int {
	list := []int{0}
	for len(list) < pairs {
		best, far := -1, -1
		for c := range pairs {
			near := pairs
			for _, had := range list {
				d := (c - had + pairs) % pairs
				near = min(near, d, pairs-d)
			}
			if near > far && near > 0 {
				best, far = c, near
			}
		}
		list = append(list, best)
	}
	return list
}

// outward lists the pairs of a rectangle by their distance from the middle.
func outward(n int) []int {
	places := Places(n, Rectangle)
	list := make([]int, n/2)
	for i := range list {
		list[i] = i
	}
	off := func(i int) float64 { return math.Hypot(places[i].X, places[i].Y) }
	for i := range list { // insertion: stable, and short
		for k := i; k > 0 && off(list[k]) < off(list[k-1])-1e-9; k-- {
			list[k], list[k-1] = list[k-1], list[k]
		}
	}
	return list
}

// chain strings pairs together, either end first, so that no neighbour follows; where the next pair will not do, a
// later one is taken.
func chain(n int, pairs, so []int) []int {
	if len(pairs) == 0 {
		return so
	}
	for i, p := range pairs {
		rest := append(append([]int{}, pairs[:i]...), pairs[i+1:]...)
		for _, first := range []int{p + 1, p + n/2 + 1} {
			second := (first-1+n/2)%n + 1
			if len(so) > 0 && n >= 5 && Neighbours(so[len(so)-1], first, n) {
				continue
			}
			next := append(append([]int{}, so...), first, second)
			if len(rest) == 0 && n >= 8 && Neighbours(second, next[0], n) {
				continue
			}
			if done := chain(n, rest, next); done != nil {
				return done
			}
		}
	}
	return nil
}

// Neighbours says whether two of n fasteners stand side by side.
func Neighbours(a, b, n int) bool {
	d := (a - b + n) % n
	return d == 1 || d == n-1
}
