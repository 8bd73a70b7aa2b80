// Package ordering puts numbers in order so that the order is the same on every machine.
package ordering

import (
	"cmp"
	"math"
)

// coarse drops the last 20 bits of a number, some five of sixteen digits.
func coarse(x float64) float64 {
	const last = 1 << 20
	return math.Float64frombits((math.Float64bits(x) + last/2) &^ (last - 1))
}

// Compare compares two numbers as cmp.Compare does, but that those are equal which differ by no more than some 2e-10 of
// themselves: sums, logarithms and what is found by trial differ so much from machine to machine. Ties go by id or by
// place.
func Compare(x, y float64) int { return cmp.Compare(coarse(x), coarse(y)) }

// Difference is a difference of sums, to ten digits after the point: what is left of nearly equal ones is in its last
// digits another on every machine, and nearly nothing is nothing.
func Difference(x float64) float64 { return math.Round(x*1e10) / 1e10 }

// Digits is a number to n digits: of what is measured, and of its error, more mean nothing.
func Digits(x float64, n int) float64 {
	if x == 0 || math.IsNaN(x) || math.IsInf(x, 0) {
		return x
	}
	scale := math.Pow(10, float64(n-1)-math.Floor(math.Log10(math.Abs(x))))
	return math.Round(x*scale) / scale
}

// Above tells whether x is more than y, by more than that.
func Above(x, y float64) bool { return coarse(x) > coarse(y) }
