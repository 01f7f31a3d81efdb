package workspace

import (
	"archetyp/core/css"
	"archetyp/core/hint"
	"errors"
	"fmt"
	"slices"
	"sort"
	"strings"

	"archetyp/core/token"
	"archetyp/core/token/emit"
)

// Resolver is the workspace's resolver file; "" for none.
func (w *Workspace) Resolver() string { return w.Config.Tokens.Resolver }

// readResolver reads the resolver file. The error for a missing one names the configuration that asks for it.
func (w *Workspace) readResolver(read func(string) ([]byte, error)) ([]byte, error) {
	data, err := read(w.Resolver())
	var fe *FileError
	if errors.As(err, &fe) && fe.gone && fe.Hint == "" {
		fe.Hint = ConfigName + " names it under tokens, as the resolver."
	}
	return data, err
}

// TokenFiles lists the workspace's token files: those the resolver names, in its order, else those that match, in name
// order.
func (w *Workspace) TokenFiles() ([]string, error) {
	if w.Resolver() == "" {
		own, err := w.Glob(w.Config.Tokens.Files)
		if err != nil || len(w.Config.Tokens.Upstream) == 0 {
			return own, err
		}
		var all []string
		for i := range w.Config.Tokens.Upstream {
			files, err := w.UpstreamFiles(&w.Config.Tokens.Upstream[i])
			if err != nil {
				return nil, err
			}
			all = append(all, files...)
		}
		return append(all, slices.DeleteFunc(own, func(f string) bool { return slices.Contains(all, f) })...), nil
	}
	data, err := w.readResolver(w.ReadFile)
	if err != nil {
		return nil, err
	}
	return token.ResolverFiles(data, w.Resolver()), nil
}

// TokenFile is the token file that new tokens are written to: the first there is, else one named after the pattern.
func (w *Workspace) TokenFile(lib *token.Library) (string, error) {
	if lib != nil && lib.File() != "" && w.UpstreamOf(lib.File()) == nil {
		return lib.File(), nil
	}
	if own, err := w.Glob(w.Config.Tokens.Files); err == nil && len(own) > 0 && w.Resolver() == "" {
		return own[0], nil
	}
	if len(w.Config.Tokens.Files) == 0 || w.Resolver() != "" {
		return "", &FileError{File: ConfigName, Msg: "no place for token files",
			Hint: "List one under tokens: files:, for example tokens/*.tokens.json."}
	}
	return strings.ReplaceAll(w.Config.Tokens.Files[0], "*", "design"), nil
}

// Reader gives the bytes of a workspace file: those in hand, else from disk.
func (w *Workspace) Reader(inHand map[string][]byte) func(path string) ([]byte, error) {
	return func(path string) ([]byte, error) {
		if data, ok := inHand[path]; ok {
			return data, nil
		}
		return w.ReadFile(path)
	}
}

// ReadTokens reads the workspace's tokens in all contexts; files already in hand are taken from there. A fault is an
// error. Warnings are in the library.
func (w *Workspace) ReadTokens(inHand map[string][]byte) (*token.Library, error) {
	lib, err := w.LoadTokens(w.Reader(inHand), inHand)
	if err != nil {
		return nil, err
	}
	return lib, lib.Err()
}

// LoadTokens is ReadTokens for tokens that may have faults. extra are files about to be made.
func (w *Workspace) LoadTokens(read func(string) ([]byte, error), extra map[string][]byte) (*token.Library, error) {
	if res := w.Resolver(); res != "" {
		data, err := w.readResolver(read)
		if err != nil {
			return nil, err
		}
		lib := token.ParseResolver(data, res, func(path string) ([]byte, error) {
			data, err := read(path)
			var fe *FileError
			if errors.As(err, &fe) {
				return nil, errors.New(fe.Msg)
			}
			return data, err
		}).Library()
		lib.SetRoot(w.Config.RootPx())
		return lib, w.checkContexts(lib)
	}
	files, err := w.TokenFiles()
	if err != nil {
		return nil, err
	}
	for p := range extra {
		if strings.HasSuffix(p, ".tokens.json") && !slices.Contains(files, p) {
			files = append(files, p)
		}
	}
	slices.SortFunc(files, func(a, b string) int { // what is the team's own comes last, and holds
		if x, y := w.UpstreamOf(a) != nil, w.UpstreamOf(b) != nil; x != y {
			if x {
				return -1
			}
			return 1
		}
		return strings.Compare(a, b)
	})
	var parsed []*token.File
	for _, f := range files {
		data, err := read(f)
		if err != nil {
			return nil, err
		}
		parsed = append(parsed, token.Parse(data, f))
	}
	lib := token.Plain(token.Resolve(parsed...))
	lib.SetRoot(w.Config.RootPx())
	return lib, w.checkContexts(lib)
}

// TokensAt reads the tokens as they were in a git revision.
func (w *Workspace) TokensAt(rev string) (*token.Library, error) {
	at, err := w.At(rev)
	if err != nil {
		return nil, err
	}
	defer at.Close()
	return at.LoadTokens(at.ReadFile, nil)
}

// ContextsAt are the contexts that a viewport reaches through a media query of its width or height; nil where all stay
// at their defaults.
func (w *Workspace) ContextsAt(lib *token.Library, m css.Medium) token.Input {
	var in token.Input
	for _, c := range lib.Contexts {
		for _, cond := range w.Config.Contexts[c.Key()] {
			query, is := strings.CutPrefix(cond, "@media")
			if !is || c.Default || !css.MatchMedia(query, m) {
				continue
			}
			if in == nil {
				in = token.Input{}
			}
			in[c.Modifier] = c.Name
		}
	}
	return in
}

// checkContexts refuses contexts in the configuration that the resolver does not have.
func (w *Workspace) checkContexts(lib *token.Library) error {
	if lib.Err() != nil {
		return nil // a context may be missing for that reason
	}
	var known []string
	for _, c := range lib.Contexts {
		known = append(known, c.Key())
	}
	var keys []string
	for k := range w.Config.Contexts {
		keys = append(keys, k)
	}
	sort.Strings(keys)
	for _, k := range keys {
		if slices.Contains(known, k) {
			continue
		}
		fe := &FileError{File: ConfigName, Msg: fmt.Sprintf("contexts: there is no context %q", k),
			Hint: "There is no resolver: name one under tokens: resolver:."}
		if res := w.Resolver(); res != "" {
			fe.Msg += " in " + res
			fe.Hint = "The resolver has none."
		}
		if len(known) > 0 {
			fe.Hint = "The resolver has " + strings.Join(known, ", ") + "."
			if n := hint.Nearest(k, known); n != "" {
				fe.Hint = fmt.Sprintf("Did you mean %q?", n)
			}
		}
		return fe
	}
	return nil
}

// Property is the custom property of a token: in the first output of CSS that has the token, else as the first names
// it.
func (c *Config) Property(tokenPath string) string {
	prefix, known := "", false
	for _, o := range c.Outputs {
		switch has := o.As == "css" && (emit.Options{Only: o.Only}).Includes(tokenPath); {
		case has:
			return emit.Property(tokenPath, o.Prefix)
		case o.As == "css" && !known:
			prefix, known = o.Prefix, true
		}
	}
	return emit.Property(tokenPath, prefix)
}

// EmitOptions are what an output of the configuration is written with.
func (w *Workspace) EmitOptions(o Output, read func(string) ([]byte, error)) (emit.Options, error) {
	out := emit.Options{Unit: o.Unit, Prefix: o.Prefix, Root: w.Config.RootPx(), Name: w.Config.Name, Only: o.Only,
		Form:    o.Form,
		Package: o.Package, Contexts: map[string][]string{}}
	for k, list := range w.Config.Contexts {
		out.Contexts[k] = list
	}
	if o.Template != "" {
		data, err := read(o.Template)
		if err != nil {
			return out, err
		}
		out.Template = string(data)
	}
	return out, nil
}
