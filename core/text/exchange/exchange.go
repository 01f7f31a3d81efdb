// Package exchange is how the words travel: the catalogue's messages as files for translators, translation memories and
// code, and back. One format a file; Formats lists them. In go units of core/text, out come bytes, and the other way
// round; faults in files are *markup.Error with the place.
package exchange

import (
	"bytes"
	"fmt"
	"path"
	"strings"

	"archetyp/core/markup"
	"archetyp/core/text"
	"archetyp/core/text/message"
)

// Document is what a file holds: messages in a source language, and in one it is translated to.
type Document struct {
	Name   string // of the workspace
	Source string // locale; "" where the format does not say
	Target string // locale; "" for none
	Units  []text.Unit
}

// Options say how a file is written or read.
type Options struct {
	PluralUnits bool   // XLIFF 2.1: one unit for each plural form
	Locale      string // reading: the language wanted where a file has several
	Words       bool   // reading: only words and states are wanted; notes and places may be passed over
}

// Format is a kind of file.
type Format struct {
	Name  string // for --as
	About string
	Ext   string
	Code  bool // for code: has one language only, the target's or else the source's
	Write func(*Document, Options) (data []byte, warnings []string)
	Read  func([]byte, Options) (*Document, error)
}

// Formats are all there are.
var Formats = []Format{
	{"xliff", "XLIFF 2.1, for translators", ".xlf", false, writeXLIFF2, readXLIFF2},
	{"xliff-1.2", "XLIFF 1.2, for older systems", ".xlf", false, writeXLIFF1, readXLIFF1},
	{"po", "gettext PO", ".po", false, writePO, readPO},
	{"pot", "gettext template", ".pot", false, writePOT, readPO},
	{"tmx", "TMX 1.4b translation memory", ".tmx", false, writeTMX, readTMX},
	{"csv", "a table for a spreadsheet", ".csv", false, writeCSV, readCSV},
	{"json", "flat JSON", ".json", true, writeJSON, readJSON},
	{"json-nested", "JSON nested at the dots of keys", ".json", true, writeNested, readJSON},
	{"android", "Android strings.xml", ".xml", true, writeAndroid, readAndroid},
	{"strings", "iOS .strings", ".strings", true, writeStrings, readStrings},
	{"stringsdict", "iOS .stringsdict: what has plurals", ".stringsdict", true, writeStringsdict, readStringsdict},
}

// Of is the format of a name.
func Of(name string) (Format, bool) {
	for _, f := range Formats {
		if f.Name == name {
			return f, true
		}
	}
	return Format{}, false
}

// Names are the names of the formats.
func Names() []string {
	var out []string
	for _, f := range Formats {
		out = append(out, f.Name)
	}
	return out
}

// Recognise tells the format of a file by its content, and where that does not say, by its name.
func Recognise(name string, data []byte) (Format, bool) {
	head := data[:min(len(data), 4096)]
	if bytes.HasPrefix(head, []byte("\xff\xfe")) || bytes.HasPrefix(head, []byte("\xfe\xff")) {
		head = bytes.ReplaceAll(head, []byte{0}, nil)
	}
	has := func(s string) bool { return bytes.Contains(head, []byte(s)) }
	ext := strings.ToLower(path.Ext(name))
	pick := ""
	switch {
	case has("<xliff") && olderXLIFF(head):
		pick = "xliff-1.2"
	case has("<xliff"):
		pick = "xliff"
	case has("<tmx"):
		pick = "tmx"
	case has("<plist"):
		pick = "stringsdict"
	case has("<resources"):
		pick = "android"
	case ext == ".po" || ext == ".pot" || has("msgid \""):
		pick = "po"
	case ext == ".strings":
		pick = "strings"
	case ext == ".csv":
		pick = "csv"
	case ext == ".json" || bytes.HasPrefix(bytes.TrimSpace(head), []byte("{")):
		pick = "json"
	case ext == ".xlf" || ext == ".xliff":
		pick = "xliff"
	case ext == ".tmx":
		pick = "tmx"
	case ext == ".stringsdict":
		pick = "stringsdict"
	case ext == ".xml":
		pick = "android"
	}
	return Of(pick)
}

// olderXLIFF reports whether the root element of an XLIFF file names a version 1.
func olderXLIFF(head []byte) bool {
	_, tag, _ := bytes.Cut(head, []byte("<xliff"))
	tag, _, _ = bytes.Cut(tag, []byte(">"))
	return bytes.Contains(tag, []byte("version=\"1.")) || bytes.Contains(tag, []byte("version='1."))
}

// fault is an error at a place of the file.
func fault(line, column int, format string, args ...any) error {
	return &markup.Error{Position: markup.Position{Line: max(1, line), Column: max(1, column)},
		Msg: fmt.Sprintf(format, args...)}
}

// twice refuses a key that stands twice.
func twice(seen map[string]int, key string, line, column int) error {
	if before, ok := seen[key]; ok {
		return fault(line, column, "the id %q stands twice: in line %d too; every text needs one of its own", key, before)
	}
	seen[key] = line
	return nil
}

// valid refuses a message that is none.
func valid(u *text.Unit) error {
	for _, m := range []string{u.Source, u.Target} {
		if _, err := message.Parse(m); err != nil {
			return fault(u.Line, u.Column, "%s: not a valid message: %v", u.Key, err)
		}
	}
	return nil
}

// words are the messages a file for code has: the target's, else the source's.
func (d *Document) words(u *text.Unit) string {
	if d.Target != "" {
		return u.Target
	}
	return u.Source
}
