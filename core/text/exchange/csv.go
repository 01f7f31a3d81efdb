package exchange

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/escape"
	"archetyp/core/text"
)

// A table for a spreadsheet, after RFC 4180, with a head line. Columns may come in any order, and others are passed
// over. Cells that a spreadsheet would take for a formula keep an apostrophe before them only if the program put it
// there.

var columns = []string{"key", "source", "target", "state", "note", "meaning", "screens", "room", "limit", "tags",
	"made-from", "exported", "places"}

func writeCSV(d *Document, _ Options) ([]byte, []string) {
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	w.Write(columns)
	for i := range d.Units {
		u := &d.Units[i]
		var screens, places []string
		for _, p := range u.Places {
			if len(screens) == 0 || screens[len(screens)-1] != p.Screen {
				screens = append(screens, p.Screen)
			}
			places = append(places, strings.Join([]string{p.Source, p.Screen, p.Element}, " · "))
		}
		room, limit := "", ""
		if u.Room != nil {
			room = num(u.Room.Width) + "x" + strconv.Itoa(u.Room.Lines)
		}
		if u.Limit > 0 {
			limit = strconv.Itoa(u.Limit)
		}
		base := ""
		if u.Base != nil {
			base = *u.Base
		}
		w.Write([]string{cell(u.Key), cell(u.Source), cell(u.Target), string(u.State), cell(u.Note), cell(u.Given),
			cell(strings.Join(screens, ", ")),
			room, limit, cell(strings.Join(u.Tags, ", ")), cell(u.Of), cell(base), cell(strings.Join(places, "\n"))})
	}
	w.Flush()
	return b.Bytes(), nil
}

func cell(s string) string { return escape.In("csv", escape.Cell, s) }

func readCSV(data []byte, o Options) (*Document, error) {
	data, err := utf8Text(data)
	if err != nil {
		return nil, err
	}
	r := tableReader(data)
	head, err := r.Read()
	if err == io.EOF {
		return nil, fault(1, 1, "the file is empty; a head line with the columns key and target is needed")
	}
	if err != nil {
		return nil, brokenTable(err)
	}
	at := map[string]int{}
	for i, h := range head {
		at[strings.ToLower(strings.TrimSpace(h))] = i
	}
	if _, ok := at["key"]; !ok {
		return nil, fault(1, 1, "the head line has no column key; it names the columns: key, target and what else is wanted")
	}
	d := &Document{Target: o.Locale}
	seen := map[string]int{}
	for {
		rec, err := r.Read()
		if err == io.EOF {
			return d, nil
		}
		if err != nil {
			return nil, brokenTable(err)
		}
		u, err := csvUnit(rec, at)
		if err != nil || u.Key == "" {
			if err != nil {
				line, column := r.FieldPos(0)
				return nil, fault(line, column, "%v", err)
			}
			continue
		}
		u.Line, u.Column = r.FieldPos(0)
		if err := twice(seen, u.Key, u.Line, u.Column); err != nil {
			return nil, err
		}
		if err := valid(&u); err != nil {
			return nil, err
		}
		d.Units = append(d.Units, u)
	}
}

// tableReader reads a table whose columns are parted by commas, semicolons (as spreadsheets write it where the comma
// parts fractions) or tabs.
func tableReader(data []byte) *csv.Reader {
	r := csv.NewReader(bytes.NewReader(data))
	r.FieldsPerRecord = -1
	line, _, _ := bytes.Cut(data, []byte("\n"))
	if bytes.Count(line, []byte(";")) > bytes.Count(line, []byte(",")) {
		r.Comma = ';'
	} else if bytes.Count(line, []byte("\t")) > bytes.Count(line, []byte(",")) {
		r.Comma = '\t'
	}
	return r
}

func brokenTable(err error) error {
	var pe *csv.ParseError
	if errors.As(err, &pe) {
		return fault(pe.Line, pe.Column, "not a valid table: %v; a quotation mark inside quotes is written twice", pe.Err)
	}
	return fault(1, 1, "not a valid table: %v", err)
}

// csvUnit reads a row; at are the columns by name.
func csvUnit(rec []string, at map[string]int) (u text.Unit, err error) {
	get := func(name string) string {
		if i, ok := at[name]; ok && i < len(rec) {
			return escape.Uncell(rec[i])
		}
		return ""
	}
	u = text.Unit{Key: strings.TrimSpace(strings.ReplaceAll(get("key"), "\r", "")), Source: get("source"),
		Target: get("target"), State: text.State(get("state")), Note: get("note"), Given: get("meaning"), Of: get("made-from")}
	if u.Key != "" && u.State != "" && !slices.Contains(text.States, u.State) {
		return u, fmt.Errorf("%s: the state %q is not known; initial, translated, reviewed and final are", u.Key, u.State)
	}
	if w, n, ok := strings.Cut(get("room"), "x"); ok {
		u.Room = &text.Room{}
		u.Room.Width, _ = strconv.ParseFloat(w, 64)
		u.Room.Lines, _ = strconv.Atoi(n)
	}
	u.Limit, _ = strconv.Atoi(get("limit"))
	if _, ok := at["exported"]; ok {
		base := get("exported")
		u.Base = &base
	}
	if t := get("tags"); t != "" {
		u.Tags = strings.Split(t, ", ")
	}
	for _, p := range strings.Split(get("places"), "\n") {
		if parts := strings.SplitN(p, " · ", 3); len(parts) == 3 {
			u.Places = append(u.Places, text.Place{Source: parts[0], Screen: parts[1], Element: parts[2]})
		}
	}
	return u, nil
}
