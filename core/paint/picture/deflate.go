package picture

import (
	"bytes"
	"encoding/binary"
	"hash/adler32"
	"sync"

	"github.com/klauspost/compress/flate"
	"github.com/klauspost/compress/zlib"
)

// Levels of compression: to tell which of two forms is the smaller, and for the one that is written.
const (
	quick    = 1
	thorough = 8
)

// deflaters are kept for the next picture, by level: their tables are large.
var deflaters, pieceDeflaters [thorough + 1]sync.Pool

// deflate packs rows as a stream of https://www.rfc-editor.org/rfc/rfc1950, many in pieces on all processors: where
// these end rests on the rows alone, and so do the bytes.
func deflate(rows []byte, level int) *bytes.Buffer {
	b := &bytes.Buffer{}
	b.Grow(len(rows)/8 + 64)
	if len(rows) > pieceBytes {
		deflatePieces(b, rows, level)
		return b
	}
	w, ok := deflaters[level].Get().(*zlib.Writer)
	if !ok {
		w, _ = zlib.NewWriterLevel(nil, level) // fails for unknown levels only
	}
	defer deflaters[level].Put(w)
	w.Reset(b)
	_, _ = w.Write(rows) // a buffer takes all
	_ = w.Close()
	return b
}

const (
	pieceBytes  = 1 << 20  // packed by one processor
	windowBytes = 32 << 10 // that a piece may look back at
)

func deflatePieces(b *bytes.Buffer, rows []byte, level int) {
	pieces := make([]bytes.Buffer, (len(rows)+pieceBytes-1)/pieceBytes)
	split(len(pieces), 1, func(from, to int) {
		for i := from; i < to; i++ {
			at, end := i*pieceBytes, min((i+1)*pieceBytes, len(rows))
			before := rows[max(0, at-windowBytes):at]
			w, ok := pieceDeflaters[level].Get().(*flate.Writer)
			if ok {
				w.ResetDict(&pieces[i], before)
			} else {
				w, _ = flate.NewWriterDict(&pieces[i], level, before)
			}
			_, _ = w.Write(rows[at:end])
			if end < len(rows) {
				_ = w.Flush() // up to a whole byte
			} else {
				_ = w.Close()
			}
			pieceDeflaters[level].Put(w)
		}
	})
	b.Write([]byte{0x78, 0x9c})
	for i := range pieces {
		b.Write(pieces[i].Bytes())
	}
	b.Write(binary.BigEndian.AppendUint32(nil, adler32.Checksum(rows)))
}
