package nmea

import "bytes"

// Lines cuts what comes in, in pieces of any size, into lines. Its memory is bounded: what goes on too long without an
// end is dropped up to the next.
type Lines struct {
	kept     []byte
	dropping bool
	// Dropped counts the runs that were dropped for their length.
	Dropped int
}

// Take gives every line that the piece completes, without its end; empty lines are passed over.
func (l *Lines) Take(piece []byte, each func(line string)) {
	for len(piece) > 0 {
		end := bytes.IndexAny(piece, "\r\n")
		part := piece
		if end >= 0 {
			part, piece = piece[:end], piece[end+1:]
		} else {
			piece = nil
		}
		if !l.dropping && len(l.kept)+len(part) > mostInLine {
			l.dropping, l.kept = true, l.kept[:0]
			l.Dropped++
		}
		if !l.dropping {
			l.kept = append(l.kept, part...)
		}
		if end < 0 {
			return
		}
		if !l.dropping && len(l.kept) > 0 {
			each(string(l.kept))
		}
		l.kept, l.dropping = l.kept[:0], false
	}
}
