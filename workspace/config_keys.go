package workspace

import (
	"fmt"
	"reflect"
	"slices"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/limit"
	"archetyp/core/lint"
	"archetyp/core/markup"

	"github.com/goccy/go-yaml/ast"
)

// configKeys are the keys known at each place of the file, as the fields of Config name them; a list stands for each of
// its items.
var configKeys = func() map[string][]string {
	out := map[string][]string{}
	keysOf(reflect.TypeFor[Config](), "", out)
	for _, k := range limit.Kinds {
		out["limits"] = append(out["limits"], k.Name)
	}
	for _, r := range lint.Rules {
		out["editor"] = append(out["editor"], r.Name)
	}
	return out
}()

// ownKeys are the sections whose keys are all the team's own.
var ownKeys = []string{"contexts", "people"}

// keysOf adds the keys of a struct at a place of the file, and of those within it.
func keysOf(t reflect.Type, where string, out map[string][]string) {
	for i := range t.NumField() {
		f := t.Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("yaml"), ",")
		if name == "-" || !f.IsExported() {
			continue
		}
		inner := f.Type
		if inner.Kind() == reflect.Slice {
			inner = inner.Elem()
		}
		at := strings.TrimPrefix(where+"."+name, ".")
		if name == "" { // inline
			at = where
		} else {
			out[where] = append(out[where], name)
		}
		if inner.Kind() == reflect.Map && inner.Elem().Kind() == reflect.Struct { // by names of the team's own
			inner, at = inner.Elem(), at+".*"
		}
		if inner.Kind() == reflect.Struct {
			keysOf(inner, at, out)
		}
	}
}

// checkKeys refuses unknown keys, with the nearest known one.
func checkKeys(n ast.Node, where, shown string) error {
	var pairs []*ast.MappingValueNode
	switch n := n.(type) {
	case *ast.MappingNode:
		pairs = n.Values
	case *ast.MappingValueNode:
		pairs = []*ast.MappingValueNode{n}
	case *ast.SequenceNode:
		for _, v := range n.Values {
			if err := checkKeys(v, where, shown); err != nil {
				return err
			}
		}
		return nil
	default:
		return nil
	}
	known := configKeys[where]
	for _, p := range pairs {
		key := p.Key.String()
		at := p.Key.GetToken().Position
		fe := &FileError{File: shown, Position: markup.Position{Line: at.Line, Column: at.Column}}
		if where == "components" && key == sharedKey {
			if err := checkKeys(p.Value, "tokens.upstream", shown); err != nil {
				return err
			}
			continue
		}
		if _, named := configKeys[where+".*"]; named {
			if err := checkKeys(p.Value, where+".*", shown); err != nil {
				return err
			}
			continue
		}
		switch {
		case known == nil:
			fe.Msg = fmt.Sprintf("%s takes no keys", where)
			return fe
		case !slices.Contains(known, key):
			fe.Msg = fmt.Sprintf("the key %q is not known", key)
			if fe.Hint = "The keys here are " + strings.Join(known, ", ") + "."; hint.Nearest(key, known) != "" {
				fe.Hint = fmt.Sprintf("Did you mean %q?", hint.Nearest(key, known))
			}
			if where != "" {
				fe.Msg += " under " + strings.TrimSuffix(where, ".*")
			}
			return fe
		}
		inner := strings.TrimPrefix(where+"."+key, ".")
		_, listed := configKeys[inner]
		if p.Value != nil && (listed || where == "" && !slices.Contains(ownKeys, key)) { // whose keys are the team's own
			if err := checkKeys(p.Value, inner, shown); err != nil {
				return err
			}
		}
	}
	return nil
}
