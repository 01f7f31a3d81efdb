package token

import (
	"fmt"
	"net/url"
	"strconv"
	"strings"
)

// How far references may lead, and how many steps following them may take for a token and in a set.
const (
	maxPointing  = 32
	maxStepsEach = 10_000
	maxSteps     = 5_000_000
)

// pointer splits a JSON pointer written as a fragment, "#/color/sea/$value": RFC 6901, section 6.
func pointer(s string) (steps []string, fault string) {
	rest, ok := strings.CutPrefix(s, "#/")
	if !ok {
		return nil, fmt.Sprintf("%q is no pointer into the tokens; it begins with #/", s)
	}
	for _, step := range strings.Split(rest, "/") {
		step, err := url.PathUnescape(step)
		if err != nil {
			return nil, fmt.Sprintf("%q is no pointer: %% stands before two hex digits", s)
		}
		for i := 0; i < len(step); i++ {
			if step[i] == '~' && (i+1 == len(step) || step[i+1] != '0' && step[i+1] != '1') {
				return nil, fmt.Sprintf("%q is no pointer: ~ is written ~0, and / is written ~1", s)
			}
		}
		steps = append(steps, strings.ReplaceAll(strings.ReplaceAll(step, "~1", "/"), "~0", "~"))
	}
	return steps, ""
}

// expand puts what each {"$ref": "#/…"} in a value points to into its place. Where a whole value may stand, a pointer
// to a token becomes an alias, so that outputs keep the connection.
func (r *resolving) expand(rd *reader, v jsonValue, typ Type, whole bool, deep int) (jsonValue, *Error) {
	if r.steps++; r.steps > r.stepsEnd || deep > maxPointing {
		return v, rd.fail(v, "the references lead too far, or back to themselves")
	}
	if ref, ok := v.member("$ref"); ok {
		return r.deref(rd, reference{v, ref, whole}, typ, deep)
	}
	if v.kids == nil {
		return v, nil
	}
	v.kids = append([]jsonMember(nil), v.kids...)
	for i := range v.kids {
		kid, wholeKid := typ, typ == Shadow || typ == Gradient || typ == FontFamily
		if v.kind == '{' {
			_, composite := parts[typ]
			kid = partType(typ, v.kids[i].name)
			wholeKid = composite && kid != ""
		}
		got, err := r.expand(rd, v.kids[i].value, kid, wholeKid, deep+1)
		if err != nil {
			return v, err
		}
		v.kids[i].value = got
	}
	return v, nil
}

// reference is a {"$ref": …}: the object, the text in it, and whether a whole value may stand there.
type reference struct {
	at, ref jsonValue
	whole   bool
}

// deref is what a reference points to, placed where the reference stands.
func (r *resolving) deref(rd *reader, x reference, typ Type, deep int) (jsonValue, *Error) {
	at, ref, whole := x.at, x.ref, x.whole
	s, isText := text(ref)
	if !isText {
		return at, rd.fail(ref, "$ref is a text such as #/color/sea/$value")
	}
	steps, fault := pointer(s)
	if fault != "" {
		return at, rd.fail(ref, "%s", fault)
	}
	got, path, err := r.point(rd, ref, steps, deep)
	if err != nil {
		return at, err
	}
	if path != "" && whole {
		return jsonValue{kind: '"', start: at.start, raw: []byte(quote("{" + path + "}"))}, nil
	}
	got = placed(got, at.start)
	if path != "" { // a token's value inside a value that takes no alias, such as a component
		if got, err = r.follow(rd, got, deep+1); err != nil {
			return at, err
		}
	}
	return r.expand(rd, got, typ, whole, deep+1)
}

// point goes along the steps of a pointer. path is that of the token where the pointer means its whole value.
func (r *resolving) point(rd *reader, ref jsonValue, steps []string, deep int) (v jsonValue, path string, err *Error) {
	n := r.set.root
	at := ""
	for i, step := range steps {
		if !n.token {
			if n = r.extend(n, at).kid(step); n == nil {
				return v, "", rd.fail(ref, "there is no %s", "#/"+strings.Join(steps[:i+1], "/"))
			}
			at = join(at, step)
			continue
		}
		v, ok := n.prop(step)
		if !ok {
			return v, "", rd.fail(ref, "there is no %s", "#/"+strings.Join(steps[:i+1], "/"))
		}
		if step == "$value" && i == len(steps)-1 {
			return v, at, nil
		}
		return r.into(rd, v, pointerAt{ref, steps, i + 1}, deep)
	}
	if !n.token {
		return v, "", rd.fail(ref, "#/%s is a group, not a value", strings.Join(steps, "/"))
	}
	v, _ = n.value()
	return v, at, nil
}

// pointerAt is a pointer, and how far it was followed.
type pointerAt struct {
	ref   jsonValue // as it stands in the file
	steps []string
	next  int
}

// into goes along the further steps of a pointer inside a value, following aliases on the way.
func (r *resolving) into(rd *reader, v jsonValue, at pointerAt, deep int) (jsonValue, string, *Error) {
	steps := at.steps
	for i := at.next; i < len(steps); i++ {
		var err *Error
		if v, err = r.follow(rd, v, deep+1); err != nil {
			return v, "", err
		}
		ok := false
		if v.kind == '[' {
			k, nerr := strconv.Atoi(steps[i])
			if nerr == nil && k >= 0 && k < len(v.kids) {
				v, ok = v.kids[k].value, true
			}
		} else {
			v, ok = v.member(steps[i])
		}
		if !ok {
			return v, "", rd.fail(at.ref, "there is no #/%s", strings.Join(steps[:i+1], "/"))
		}
	}
	return v, "", nil
}

// follow goes along aliases and references to something that is neither.
func (r *resolving) follow(rd *reader, v jsonValue, deep int) (jsonValue, *Error) {
	for {
		if r.steps++; r.steps > r.stepsEnd || deep > maxPointing {
			return v, rd.fail(v, "the references lead too far, or back to themselves")
		}
		deep++
		a, isAlias, err := rd.alias(v)
		if err != nil {
			return v, err
		}
		if isAlias {
			n, _ := r.find(a.Alias)
			if n == nil || !n.token {
				return v, rd.fail(v, "there is no token {%s}", a.Alias)
			}
			next, _ := n.value()
			v = placed(next, v.start)
			continue
		}
		ref, ok := v.member("$ref")
		if !ok {
			return v, nil
		}
		s, _ := text(ref)
		steps, fault := pointer(s)
		if fault != "" {
			return v, rd.fail(v, "%s", fault)
		}
		next, _, err := r.point(rd, placed(ref, v.start), steps, deep)
		if err != nil {
			return v, err
		}
		v = placed(next, v.start)
	}
}

// placed is a value that stands where something else pointed to it, so that errors name the place people can mend.
func placed(v jsonValue, start int) jsonValue {
	v.start = start
	if v.kids != nil {
		v.kids = append([]jsonMember(nil), v.kids...)
		for i := range v.kids {
			v.kids[i].at, v.kids[i].value = start, placed(v.kids[i].value, start)
		}
	}
	return v
}
