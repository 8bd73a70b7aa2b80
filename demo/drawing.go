package demo

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"math"
	"math/rand/v2"
)

// tubePlate draws the end of a tube stack as a phone's lamp shows it: crust is how far scale closes the tubes, 0 to 1.
// It stands in for a photo, which an invented yard cannot have.
func tubePlate(crust float64) ([]byte, error) {
	const width, height = 640, 480
	const cx, cy, rim, pitch, tube = 320.0, 240.0, 216.0, 36.8, 13.6
	lots := rand.New(rand.NewPCG(7, uint64(1000*crust)))
	img := image.NewRGBA(image.Rect(0, 0, width, height))
	grain := func() float64 { return 12 * (lots.Float64() - 0.5) }
	shade := func(r, g, b, light float64) color.RGBA {
		byteOf := func(v float64) uint8 { return uint8(math.Min(255, math.Max(0, v*light+grain()))) }
		return color.RGBA{byteOf(r), byteOf(g), byteOf(b), 255}
	}
	rough := map[[2]int]float64{}
	for y := range height {
		for x := range width {
			dx, dy := float64(x)-cx, float64(y)-cy
			d := math.Hypot(dx, dy)
			light := 1.1 - 0.6*math.Hypot(dx+96, dy+72)/400
			if d > rim {
				img.SetRGBA(x, y, shade(38, 42, 46, light))
				continue
			}
			row := math.Round(dy / (pitch * 0.866))
			shift := 0.0
			if int(row)%2 != 0 {
				shift = pitch / 2
			}
			column := math.Round((dx - shift) / pitch)
			tx, ty := column*pitch+shift, row*pitch*0.866
			off := math.Hypot(dx-tx, dy-ty)
			key := [2]int{int(row), int(column)}
			if _, ok := rough[key]; !ok {
				rough[key] = 0.6 + 0.8*lots.Float64()
			}
			open := tube * (1 - 0.75*crust*rough[key])
			switch {
			case math.Hypot(tx, ty) > rim-tube-6 || off > tube+2:
				img.SetRGBA(x, y, shade(176-40*crust, 138-20*crust, 78+20*crust, light))
			case off > tube:
				img.SetRGBA(x, y, shade(208, 170, 104, light))
			case off > open:
				img.SetRGBA(x, y, shade(206, 200, 184, light))
			default:
				img.SetRGBA(x, y, shade(22, 24, 24, light))
			}
		}
	}
	var out bytes.Buffer
	err := jpeg.Encode(&out, img, &jpeg.Options{Quality: 88})
	return out.Bytes(), err
}
