package token

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"reflect"
	"sort"
	"strings"
	"testing"

	"github.com/tailscale/hujson"
)

func TestThreeWay(t *testing.T) {
	num := func(v int) string { return fmt.Sprintf(`{"$type": "number", "$value": %d}`, v) }
	file := func(members ...string) string { return "{\n  " + strings.Join(members, ",\n  ") + "\n}\n" }
	a, b, c := `"a": `+num(1), `"b": `+num(2), `"c": `+num(3)
	for _, x := range []struct{ name, base, ours, theirs, want, conflicts string }{
		{"different tokens", file(a, b), file(`"a": `+num(7), b), file(a, `"b": `+num(9)),
			file(`"a": `+num(7), `"b": `+num(9)), ""},
		{"the same edit", file(a), file(`"a": ` + num(7)), file(`"a": ` + num(7)), file(`"a": ` + num(7)), ""},
		{"both add", file(a), file(a, b), file(a, c), file(a, b, c), ""},
		{"theirs removes", file(a, b, c), file(`"a": `+num(7), b, c), file(a, c), file(`"a": `+num(7), c), ""},
		{"theirs removes the last, adds another", file(a, b), file(a, b), file(a, c), file(a, c), ""},
		{"theirs removes all", file(a, b), file(a, b), "{}", "{}\n", ""},
		{"ours removes", file(a, b), file(a), file(`"a": `+num(7), b), file(`"a": ` + num(7)), ""},
		{"value here, description there", file(a), file(`"a": ` + num(7)),
			file(`"a": {"$type": "number", "$value": 1, "$description": "d"}`),
			file(`"a": {"$type": "number", "$value": 7, "$description": "d"}`), ""},
		{"our layout stays", file(a, b), "{\n\t\"b\" : {\"$type\":\"number\",\"$value\": 2},\n\n\t\"a\":" + num(1) + "}",
			file(a, `"b": `+num(9)),
			"{\n\t\"b\" : {\"$type\":\"number\",\"$value\": 9},\n\n\t\"a\":" + num(1) + "}", ""},
		{"into a group", file(`"g": {` + a + `}`), file(`"g": {`+a+`}`, b), file(`"g": {` + a + `, ` + c + `}`),
			file(`"g": {`+a+`, `+c+`}`, b), ""},
		{"others' extensions", file(`"a": {"$type": "number", "$value": 1, "$extensions": {"x": 1}}`),
			file(`"a": {"$type": "number", "$value": 1, "$extensions": {"x": 1, "y": 2}}`),
			file(`"a": {"$type": "number", "$value": 1, "$extensions": {"x": 1, "z": 3}}`), file(`"a": {"$type": "number", "$value": 1, "$extensions": {"x": 1, "y": 2, "z": 3}}`), ""},
		{"both change the value", file(a), file(`"a": ` + num(7)), file(`"a": ` + num(9)),
			file(`"a": {"$type": "number", "$value": 7, "$extensions": {"archetyp": {"conflict": {"$value": {"base": 1, "theirs": 9}}}}}`), "a.$value: was 1; 7 here, 9 there"},
		{"ours removes what theirs changes", file(a, b), file(b), file(`"a": `+num(9), b),
			file(b, `"a": {"$type": "number", "$value": 9, "$extensions": {"archetyp": {"conflict": {"$": {"base": {"$type":"number","$value":1}, "theirs": {"$type":"number","$value":9}}}}}}`),
			`a: was {"$type":"number","$value":1}; removed here, {"$type":"number","$value":9} there`},
		{"theirs removes what ours changes", file(a, b), file(`"a": `+num(7), b), file(b),
			file(`"a": {"$type": "number", "$value": 7, "$extensions": {"archetyp": {"conflict": {"$": {"base": {"$type":"number","$value":1}, "theirs": null}}}}}`, b),
			`a: was {"$type":"number","$value":1}; {"$type":"number","$value":7} here, removed there`},
		{"both add one name", "", file(a), file(`"a": ` + num(9)),
			file(`"a": {"$type": "number", "$value": 1, "$extensions": {"archetyp": {"conflict": {"$value": {"base": null, "theirs": 9}}}}}`),
			"a.$value: added as 1 here, as 9 there"},
		{"a token here, a group there", "{}", file(a), file(`"a": {` + b + `}`),
			file(`"a": {"$type": "number", "$value": 1, "$extensions": {"archetyp": {"conflict": {"$": {"base": null, "theirs": {"b":{"$type":"number","$value":2}}}}}}}`),
			`a: added as {"$type":"number","$value":1} here, as {"b":{"$type":"number","$value":2}} there`},
	} {
		got, conflicts, err := ThreeWay([]byte(x.base), []byte(x.ours), []byte(x.theirs), "t.json")
		var told []string
		for _, c := range conflicts {
			told = append(told, c.String())
		}
		if err != nil || string(got) != x.want || strings.Join(told, "; ") != x.conflicts {
			t.Errorf("%s: %v\n%s\nwant\n%s\nconflicts %q\nwant      %q", x.name, err, got, x.want, told, x.conflicts)
		}
	}
	for i := 0; i < 3; i++ {
		sides := [3]string{"{}", "{}", "{}"}
		sides[i] = "{,"
		if _, _, err := ThreeWay([]byte(sides[0]), []byte(sides[1]), []byte(sides[2]), "t.json"); err == nil ||
			!strings.Contains(err.Error(), "t.json:1:") {
			t.Errorf("side %d broken: %v", i, err)
		}
	}
}

// random makes edits of a token tree.
type random struct{ *rand.Rand }

func (r random) token() map[string]any {
	out := map[string]any{"$type": "number", "$value": float64(r.IntN(1000))}
	if r.IntN(3) == 0 {
		out["$description"] = fmt.Sprint("words ", r.IntN(50))
	}
	return out
}

func (r random) tree(deep int) map[string]any {
	out := map[string]any{}
	for i := 0; i < 1+r.IntN(6); i++ {
		name := fmt.Sprintf("n%d", r.IntN(12))
		if deep > 0 && r.IntN(3) == 0 {
			out[name] = r.tree(deep - 1)
		} else {
			out[name] = r.token()
		}
	}
	return out
}

func isTokenMap(m map[string]any) bool { _, ok := m["$value"]; return ok }

// edit changes a tree in a few random places.
func (r random) edit(tree map[string]any) map[string]any {
	out := clone(tree).(map[string]any)
	for i := 0; i < 1+r.IntN(4); i++ {
		group := out
		for r.IntN(2) == 0 {
			var groups []map[string]any
			for _, k := range keys(group) {
				if m, ok := group[k].(map[string]any); ok && !isTokenMap(m) {
					groups = append(groups, m)
				}
			}
			if len(groups) == 0 {
				break
			}
			group = groups[r.IntN(len(groups))]
		}
		names := keys(group)
		switch {
		case len(names) == 0 || r.IntN(3) == 0:
			group[fmt.Sprintf("n%d", r.IntN(12))] = r.token()
		case r.IntN(3) == 0:
			delete(group, names[r.IntN(len(names))])
		default:
			if m, ok := group[names[r.IntN(len(names))]].(map[string]any); ok && isTokenMap(m) {
				if r.IntN(2) == 0 {
					m["$value"] = float64(r.IntN(1000))
				} else {
					m["$description"] = fmt.Sprint("other words ", r.IntN(50))
				}
			}
		}
	}
	return out
}

func keys(m map[string]any) []string {
	var out []string
	for k := range m {
		out = append(out, k)
	}
	sort.Strings(out)
	return out
}

func clone(v any) any {
	m, ok := v.(map[string]any)
	if !ok {
		return v
	}
	out := map[string]any{}
	for k, e := range m {
		out[k] = clone(e)
	}
	return out
}

// leaves are the properties of all tokens, by path.
func leaves(v map[string]any, path string, out map[string]any) map[string]any {
	for k, e := range v {
		p := path + "/" + k
		if m, ok := e.(map[string]any); ok && !strings.HasPrefix(k, "$") {
			leaves(m, p, out)
		} else {
			out[p] = e
		}
	}
	return out
}

// layout writes a tree in one of several layouts.
func (r random) layout(t *testing.T, v map[string]any) []byte {
	data, err := json.Marshal(v)
	switch r.IntN(3) {
	case 0:
		data, err = json.MarshalIndent(v, "", "  ")
	case 1:
		data, err = json.MarshalIndent(v, "", "\t")
	case 2:
		data, err = hujson.Format(data)
	}
	if err != nil {
		t.Fatal(err)
	}
	std, err := hujson.Standardize(data)
	if err != nil {
		t.Fatal(err)
	}
	return std
}

// TestRandomEditsMerge holds for pairs of random edits of random files that what comes out is JSON, that no edit is
// lost (it stands in the result or in a conflict), and that without conflict the order of the two does not matter.
func TestRandomEditsMerge(t *testing.T) {
	r := random{rand.New(rand.NewPCG(7, 11))}
	clean := 0
	for i := 0; i < 2000; i++ {
		base := r.tree(2)
		ours, theirs := r.edit(base), r.edit(base)
		b, o, th := r.layout(t, base), r.layout(t, ours), r.layout(t, theirs)
		one, conflicts, err := ThreeWay(b, o, th, "t.json")
		if err != nil {
			t.Fatalf("%d: %v", i, err)
		}
		two, back, err := ThreeWay(b, th, o, "t.json")
		if err != nil || len(conflicts) != len(back) {
			t.Fatalf("%d: %v; %d conflicts one way, %d the other\n%v\n%v", i, err, len(conflicts), len(back), conflicts, back)
		}
		var x, y map[string]any
		if json.Unmarshal(one, &x) != nil || json.Unmarshal(two, &y) != nil {
			t.Fatalf("%d: no JSON:\n%s\n%s", i, one, two)
		}
		if s := Resolve(Parse(one, "t.json")); len(s.Faults) > 0 {
			t.Fatalf("%d: no token file: %v\n%s", i, s.Faults, one)
		}
		if len(conflicts) == 0 {
			clean++
			if !reflect.DeepEqual(prune(x), prune(y)) {
				t.Fatalf("%d: the order matters:\n%s\n%s\nbase %s\nours %s\ntheirs %s", i, one, two, b, o, th)
			}
		}
		lost(t, i, base, ours, x, string(one), conflicts)
		lost(t, i, base, theirs, x, string(one), conflicts)
		if t.Failed() {
			t.Fatalf("base %s\nours %s\ntheirs %s\nmerged %s", b, o, th, one)
		}
	}
	if clean < 1000 {
		t.Errorf("only %d of 2000 pairs had no conflict", clean)
	}
}

// prune takes out groups that hold nothing.
func prune(v map[string]any) map[string]any {
	for k, e := range v {
		if m, ok := e.(map[string]any); ok && len(prune(m)) == 0 {
			delete(v, k)
		}
	}
	return v
}

// lost fails for edits of one side that are neither in the merged tree nor in a conflict.
func lost(t *testing.T, i int, base, side, merged map[string]any, text string, conflicts []Conflict) {
	t.Helper()
	was, is, now := leaves(base, "", map[string]any{}), leaves(side, "", map[string]any{}), leaves(merged, "",
		map[string]any{})
	inConflict := func(path string) bool {
		dotted := strings.ReplaceAll(strings.TrimPrefix(path, "/"), "/", ".")
		for _, c := range conflicts {
			if p := strings.Trim(c.Path+"."+c.Property, "."); dotted == p || strings.HasPrefix(dotted, p+".") ||
				strings.HasPrefix(p, dotted+".") {
				return true
			}
		}
		return false
	}
	for p, v := range is {
		if old, had := was[p]; (!had || !reflect.DeepEqual(old, v)) && !reflect.DeepEqual(now[p], v) && !inConflict(p) {
			t.Errorf("%d: the edit %s = %v is lost", i, p, v)
		}
	}
	for p := range was {
		if _, still := is[p]; !still && now[p] != nil && !inConflict(p) {
			t.Errorf("%d: %s was removed, and is back", i, p)
		}
	}
}

func FuzzThreeWay(f *testing.F) {
	f.Add(`{"a": {"$type": "number", "$value": 1}}`, `{"a": {"$type": "number", "$value": 2}}`,
		`{"b": {"$type": "number", "$value": 1}}`)
	f.Add(`{"a": {"b": {}}}`, `{"a": {"$value": [1, 2]}}`, `{}`)
	f.Fuzz(func(t *testing.T, base, ours, theirs string) {
		out, conflicts, err := ThreeWay([]byte(base), []byte(ours), []byte(theirs), "t.json")
		if err != nil {
			return
		}
		if !json.Valid(out) {
			t.Fatalf("no JSON:\n%s", out)
		}
		if ours == theirs && (len(conflicts) > 0 || string(out) != ours) {
			t.Fatalf("both say the same, and it became %s, %v", out, conflicts)
		}
	})
}
