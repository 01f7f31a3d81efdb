package font

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
)

// maxUnpacked is how many bytes the tables of a packed font may come to.
const maxUnpacked = 128 << 20

// checkTables holds the lengths that a font file gives its tables against the file: the parser believes them, and sets
// aside as much memory. https://learn.microsoft.com/typography/opentype/spec/otff and https://www.w3.org/TR/WOFF/
func checkTables(data []byte) error {
	head, entry, at := 12, 16, 4
	woff := bytes.HasPrefix(data, []byte("wOFF"))
	if woff {
		head, entry, at = 44, 20, 12
	}
	if len(data) < head {
		return errors.New("the file ends in its head; it seems to be cut off")
	}
	number := int(binary.BigEndian.Uint16(data[at:]))
	unpacked := uint64(0)
	for i, rest := 0, data[head:]; i < number && len(rest) >= entry; i, rest = i+1, rest[entry:] {
		length := binary.BigEndian.Uint32(rest[entry-4:])
		if woff {
			length = binary.BigEndian.Uint32(rest[8:])
			unpacked += uint64(binary.BigEndian.Uint32(rest[12:]))
		}
		if uint64(length) > uint64(len(data)) {
			return fmt.Errorf("the table %q claims %d bytes, the file has %d; it seems to be cut off", rest[:4], length,
				len(data))
		}
	}
	if unpacked > maxUnpacked {
		return fmt.Errorf("its tables come to %d MB unpacked; up to %d MB are read", unpacked>>20, maxUnpacked>>20)
	}
	return nil
}
