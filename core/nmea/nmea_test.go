package nmea_test

import (
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/nmea"
)

func line(body string) string { return fmt.Sprintf("$%s*%02X", body, nmea.Checksum(body)) }

// The checksum of this ZDA sentence is in many public descriptions of NMEA 0183 (memory).
func TestChecksumOfAPublishedSentence(t *testing.T) {
	s, err := nmea.Parse("$GPZDA,201530.00,04,07,2002,00,00*60")
	require.NoError(t, err)
	at, ok := s.Time()
	require.True(t, ok)
	assert.Equal(t, time.Date(2002, 7, 4, 20, 15, 30, 0, time.UTC), at)
	assert.Equal(t, "$GPZDA,201530.00,04,07,2002,00,00*60", s.String())
}

func TestSentencesTellReadings(t *testing.T) {
	for name, c := range map[string]struct {
		body string
		want []nmea.Reading
		err  error
	}{
		"engine speed":     {"IIRPM,E,1,2418.2,10.5,A", []nmea.Reading{{"II RPM E1", nmea.Speed, 2418.2}}, nil},
		"shaft astern":     {"VWRPM,S,0,-612,,A", []nmea.Reading{{"VW RPM S0", nmea.Speed, 612}}, nil},
		"speed not valid":  {"IIRPM,E,1,2418.2,,V", nil, nmea.NotValid},
		"speed of nothing": {"IIRPM,X,1,2418.2,,A", nil, nmea.BadFields},
		"speed cut short":  {"IIRPM,E,1", nil, nmea.BadFields},
		"the sea":          {"YXMTW,17.9,C", []nmea.Reading{{"YX MTW", nmea.Temperature, 17.9}}, nil},
		"the sea in °F":    {"YXMTW,64.2,F", nil, nmea.BadFields},
		"two transducers": {"IIXDR,C,82.5,C,ENGT#0,P,1.2,B,RAW", []nmea.Reading{{"II XDR C ENGT#0", nmea.Temperature,
			82.5}, {"II XDR P RAW", nmea.Pressure, 120}}, nil},
		"pascal":          {"IIXDR,P,98700,P,SUCT", []nmea.Reading{{"II XDR P SUCT", nmea.Pressure, 98.7}}, nil},
		"litres a second": {"IIXDR,R,0.5,l,RAWF", []nmea.Reading{{"II XDR R RAWF", nmea.Flow, 30}}, nil},
		"nameless": {"IIXDR,C,20,C,,C,21,C,", []nmea.Reading{{"II XDR C #1", nmea.Temperature, 20}, {"II XDR C #2",
			nmea.Temperature, 21}}, nil},
		"a lost value":      {"IIXDR,C,,C,A,C,21,C,B", []nmea.Reading{{"II XDR C B", nmea.Temperature, 21}}, nil},
		"humidity is other": {"IIXDR,H,48,P,AIR", []nmea.Reading{{"II XDR H AIR", nmea.Other, 48}}, nil},
		"no whole group":    {"IIXDR,C,82.5,C", nil, nmea.BadFields},
		"not a number":      {"IIXDR,C,NaN,C,A", nil, nmea.BadFields},
		"infinite":          {"IIXDR,C,1e999,C,A", nil, nmea.BadFields},
		"hexadecimal":       {"IIXDR,C,0x10,C,A", nil, nmea.BadFields},
		"a position":        {"GPGLL,4916.45,N,12311.12,W,225444,A", nil, nmea.OtherKind},
	} {
		t.Run(name, func(t *testing.T) {
			s, err := nmea.Parse(line(c.body))
			require.NoError(t, err)
			got, err := s.Readings()
			if c.err != nil {
				require.ErrorIs(t, err, c.err)
				return
			}
			require.NoError(t, err)
			require.Len(t, got, len(c.want))
			for i, w := range c.want {
				assert.Equal(t, w.Channel, got[i].Channel)
				assert.Equal(t, w.Quantity, got[i].Quantity)
				assert.InDelta(t, w.Value, got[i].Value, 1e-9)
			}
		})
	}
}

func TestWhatIsNoSentenceIsNotTaken(t *testing.T) {
	for text, want := range map[string]nmea.LineError{
		"":                                   nmea.Garbage,
		"hello":                              nmea.Garbage,
		"$YXMTW,17.9,C":                      nmea.NoChecksum,
		"$YXMTW,17.9,C*00":                   nmea.BadChecksum,
		"$YXMTW,17.9,C*1":                    nmea.BadChecksum,
		"$YXMTW,17.9,C*ZZ":                   nmea.BadChecksum,
		"$YXMTW,\x0017,C*00":                 nmea.Garbage,
		"$YXMTW," + strings.Repeat("1", 200): nmea.TooLong,
		line("PSOWN,1,2,3"):                  nmea.OtherKind,
		line("X"):                            nmea.OtherKind,
	} {
		_, err := nmea.Parse(text)
		assert.ErrorIs(t, err, want, "%q", text)
	}
}

// One digit changed on the way is always seen: an exclusive or shows every single change.
func TestEverySingleChangeIsSeen(t *testing.T) {
	good := line("IIXDR,C,82.5,C,ENGT#0")
	for i := 1; i < len(good); i++ {
		for _, c := range []byte("0 9A$*,z") {
			if bad := good[:i] + string(c) + good[i+1:]; bad != good {
				s, err := nmea.Parse(bad)
				if err == nil {
					assert.Failf(t, "a changed line was taken", "%q as %v", bad, s)
				}
			}
		}
	}
}

func TestTimesThatAreNone(t *testing.T) {
	for _, body := range []string{"GPZDA,,,,,,", "GPZDA,250000,01,01,2026,00,00", "GPZDA,120000,31,02,2026,00,00",
		"GPZDA,120000,01,13,2026,00,00",
		"GPZDA,12zz00,01,01,2026,00,00", "GPZDA,120000", "YXMTW,17.9,C"} {
		s, err := nmea.Parse(line(body))
		require.NoError(t, err)
		_, ok := s.Time()
		assert.False(t, ok, body)
	}
	s, err := nmea.Parse(line("GPZDA,235960.00,31,12,2016,00,00")) // a leap second
	require.NoError(t, err)
	at, ok := s.Time()
	assert.True(t, ok)
	assert.Equal(t, time.Date(2017, 1, 1, 0, 0, 0, 0, time.UTC), at)
}

// Whatever the pieces, the same lines come out.
func TestPiecesDoNotMatter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		lines := rapid.SliceOf(rapid.StringMatching(`[ -~]{1,100}`)).Draw(t, "lines")
		text := []byte(strings.Join(lines, "\r\n") + "\r\n")
		var got []string
		var l nmea.Lines
		for len(text) > 0 {
			n := rapid.IntRange(1, len(text)).Draw(t, "piece")
			l.Take(text[:n], func(s string) { got = append(got, s) })
			text = text[n:]
		}
		if len(lines) != len(got) {
			t.Fatalf("%d lines in, %d out", len(lines), len(got))
		}
		for i := range lines {
			if lines[i] != got[i] {
				t.Fatalf("line %d: %q became %q", i, lines[i], got[i])
			}
		}
	})
}

func TestALineWithoutAnEndIsDropped(t *testing.T) {
	var l nmea.Lines
	var got []string
	for range 10_000 {
		l.Take([]byte(strings.Repeat("x", 1000)), func(s string) { got = append(got, s) })
	}
	l.Take([]byte("\r\n$YXMTW,17.9,C*1C\r\n"), func(s string) { got = append(got, s) })
	assert.Equal(t, []string{"$YXMTW,17.9,C*1C"}, got)
	assert.Equal(t, 1, l.Dropped)
}

func TestWhatIsWrittenIsRead(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := rapid.Float64Range(-40, 400).Draw(t, "°C")
		s := nmea.Sentence{Talker: "II", Kind: "XDR", Fields: []string{"C", fmt.Sprintf("%.2f", c), "C", "ENGT"}}
		back, err := nmea.Parse(s.String())
		if err != nil {
			t.Fatal(err)
		}
		list, err := back.Readings()
		if err != nil || len(list) != 1 || math.Abs(list[0].Value-c) > 0.00501 {
			t.Fatalf("%v: %v, %v", c, list, err)
		}
	})
}

func FuzzLines(f *testing.F) {
	for _, s := range []string{"$YXMTW,17.9,C*1C\r\n", "$IIXDR,C,,C,A*", "$GPZDA,201530.00,04,07,2002,00,00*60\n",
		"\x00\xff$$**\r", "$IIRPM,E,1,2418.2,10.5,A*00\r\n"} {
		f.Add([]byte(s), 3)
	}
	f.Fuzz(func(t *testing.T, text []byte, piece int) {
		var l nmea.Lines
		for len(text) > 0 {
			n := min(max(piece, 1), len(text))
			l.Take(text[:n], func(line string) {
				s, err := nmea.Parse(line)
				if err != nil {
					return
				}
				s.Time()
				list, err := s.Readings()
				for _, r := range list {
					if err != nil || math.IsNaN(r.Value) || math.IsInf(r.Value, 0) || len(r.Channel) > 60 {
						t.Fatalf("%q told %v, %v", line, r, err)
					}
				}
			})
			text = text[n:]
		}
	})
}
