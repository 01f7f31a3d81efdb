package token

import (
	"bytes"
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"

	"archetyp/core/markup"

	"github.com/go-json-experiment/json/jsontext"
)

// value is a JSON value as it stands in a file.
type jsonValue struct {
	kind  byte // one of { [ " 0 t f n
	start int  // offset in the file
	raw   []byte
	kids  []jsonMember // of an object; of a list, without names
}

type jsonMember struct {
	name  string
	at    int // offset of the name
	value jsonValue
}

// member is an object's member; ok is false for none.
func (v *jsonValue) member(name string) (m jsonValue, ok bool) {
	if v.kind == '{' {
		for i := range v.kids {
			if v.kids[i].name == name {
				return v.kids[i].value, true
			}
		}
	}
	return jsonValue{}, false
}

func (v *jsonValue) end() int { return v.start + len(v.raw) }

// String is the value as it is written, for messages.
func (v *jsonValue) String() string { return string(v.raw) }

func text(v jsonValue) (string, bool) {
	if v.kind != '"' {
		return "", false
	}
	return unquote(v.raw), true
}

// unquote is what a JSON string means.
func unquote(raw []byte) string {
	if bytes.IndexByte(raw, '\\') < 0 { // as nearly all
		return string(raw[1 : len(raw)-1])
	}
	out, err := jsontext.AppendUnquote(nil, raw)
	if err != nil {
		return string(raw[1 : len(raw)-1])
	}
	return string(out)
}

func number(v jsonValue) (float64, bool) {
	if v.kind != '0' {
		return 0, false
	}
	f, err := strconv.ParseFloat(string(v.raw), 64)
	return f, err == nil && !math.IsInf(f, 0) && !math.IsNaN(f)
}

// readJSON reads strict JSON, and says where it is none.
func readJSON(data []byte, name string) (jsonValue, *Error) {
	r := &jsonReader{data: data, dec: jsontext.NewDecoder(bytes.NewBuffer(data), jsontext.AllowDuplicateNames(true))}
	v, err := r.value(0)
	if err == nil {
		if _, more := r.dec.ReadToken(); more == nil {
			err = errMore
		} else if more.Error() != "EOF" {
			err = more
		}
	}
	if err == nil {
		return v, nil
	}
	at := int(r.dec.InputOffset())
	msg := "not valid JSON: " + err.Error()
	var se *jsontext.SyntacticError
	switch {
	case errors.Is(err, errDeep):
		at, msg = 0, err.Error()
	case errors.As(err, &se):
		at = int(se.ByteOffset)
		what := se.Err.Error()
		msg = "not valid JSON: " + strings.TrimPrefix(what, "jsontext: ")
		rest := bytes.TrimLeft(data[min(at, len(data)):], " \t\r\n")
		switch {
		case strings.Contains(what, "UTF-8"):
			msg = "not valid UTF-8; save the file as UTF-8"
		case len(rest) > 0 && rest[0] == '/':
			msg = "comments are no JSON; take them out"
		case len(rest) > 0 && rest[0] == ',':
			msg = "not valid JSON: there is nothing behind this comma; take it out"
		}
	}
	return v, &Error{name, markup.Lines(data).Position(at), "", msg}
}

var (
	errDeep = fmt.Errorf("groups more than %d deep are not read", MaxNesting)
	errMore = errors.New("something stands behind the end of the object")
)

type jsonReader struct {
	data []byte
	dec  *jsontext.Decoder
}

func (r *jsonReader) value(deep int) (jsonValue, error) {
	kind := r.dec.PeekKind()
	if kind != '{' && kind != '[' {
		raw, err := r.dec.ReadValue()
		if err != nil {
			return jsonValue{}, err
		}
		end := int(r.dec.InputOffset())
		return jsonValue{kind: byte(kind), start: end - len(raw), raw: r.data[end-len(raw) : end]}, nil
	}
	if deep >= MaxNesting {
		return jsonValue{}, errDeep
	}
	if _, err := r.dec.ReadToken(); err != nil {
		return jsonValue{}, err
	}
	v := jsonValue{kind: byte(kind), start: int(r.dec.InputOffset()) - 1}
	shut := jsontext.Kind('}')
	if kind == '[' {
		shut = ']'
	}
	for r.dec.PeekKind() != shut {
		var m jsonMember
		if kind == '{' {
			raw, err := r.dec.ReadValue()
			if err != nil {
				return v, err
			}
			end := int(r.dec.InputOffset())
			m.at = end - len(raw)
			m.name = memberName(r.data[m.at:end])
		}
		var err error
		if m.value, err = r.value(deep + 1); err != nil {
			return v, err
		}
		if v.kids == nil {
			v.kids = make([]jsonMember, 0, 2)
		}
		v.kids = append(v.kids, m)
	}
	if _, err := r.dec.ReadToken(); err != nil {
		return v, err
	}
	v.raw = r.data[v.start:r.dec.InputOffset()]
	return v, nil
}

// memberName is a member's name; those of the format are not made anew for every token.
func memberName(raw []byte) string {
	switch string(raw) {
	case `"$value"`:
		return "$value"
	case `"$type"`:
		return "$type"
	case `"$description"`:
		return "$description"
	case `"colorSpace"`:
		return "colorSpace"
	case `"components"`:
		return "components"
	case `"hex"`:
		return "hex"
	case `"alpha"`:
		return "alpha"
	case `"value"`:
		return "value"
	case `"unit"`:
		return "unit"
	}
	return unquote(raw)
}
