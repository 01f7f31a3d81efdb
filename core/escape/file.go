package escape

import (
	"strings"
	"unicode/utf8"
)

// longestName is how many bytes of a file's name are kept: systems allow 255, and an ending and a density follow.
const longestName = 200

// devices are names that Windows keeps for devices, whatever the ending.
var devices = func() map[string]bool {
	m := map[string]bool{"con": true, "prn": true, "aux": true, "nul": true, "conin$": true, "conout$": true}
	for _, port := range []string{"com", "lpt"} {
		for _, n := range []string{"0", "1", "2", "3", "4", "5", "6", "7", "8", "9", "¹", "²", "³"} {
			m[port+n] = true
		}
	}
	return m
}()

// FileName is a name that every system can give to a file or folder, and the same where it is one already: without
// signs that mean something to a shell or system, dots and blanks at the end, names of devices, and of no more than 200
// bytes.
func FileName(s string) string {
	s = strings.Map(func(r rune) rune {
		if r < 0x20 || r == 0x7f || r == utf8.RuneError || turns(r) || strings.ContainsRune(`<>:"/\|?*`, r) {
			return '-'
		}
		return r
	}, s)
	if len(s) > longestName {
		s = s[:longestName]
		for !utf8.ValidString(s) {
			s = s[:len(s)-1]
		}
	}
	s = strings.TrimRight(s, ". ")
	stem, rest, dot := strings.Cut(s, ".")
	if devices[strings.ToLower(strings.TrimRight(stem, " "))] {
		s = stem + "_"
		if dot {
			s += "." + rest
		}
	}
	if s == "" {
		return "_"
	}
	return s
}

// FilePath is FileName for each part of a path with forward slashes.
func FilePath(s string) string {
	parts := strings.Split(s, "/")
	for i, p := range parts {
		parts[i] = FileName(p)
	}
	return strings.Join(parts, "/")
}
