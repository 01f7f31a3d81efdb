package asset

import (
	"slices"
	"strings"
	"testing"
)

func set(t *testing.T, name string) *Set {
	t.Helper()
	s, ok := find(BuiltIn(), name)
	if !ok {
		t.Fatal(name)
	}
	return s
}

func TestNamesAreMadeFit(t *testing.T) {
	for _, c := range []struct{ set, names, want, said string }{
		{"android", "icons/anchor", "icons_anchor", ""},
		{"android", "Icons/Way Out", "icons_way_out", ""},
		{"android", "icons/way-out, icons/way_out", "icons_way_out icons_way_out_2",
			"icons/way_out is called icons_way_out_2 in the set android: icons/way-out has that name"},
		{"android", "3d", "i_3d", "3d is called i_3d"},
		{"android", "switch", "switch_", "none that can name a resource"},
		{"android", "Fähre", "faehre", "Fähre is called faehre"},
		{"android", "渡船", "i", "渡船 is called i"},
		{"web", "icons/anchor", "icons/anchor", ""},
		{"web", "Icons/Way out", "Icons/Way-out", ""},
		// files of one name on some systems
		{"web", "a/b, A/b", "A/b a/b-2", "a/b is called a/b-2 in the set web: A/b has that name"},
		{"web", "icons/con", "icons/con_", "icons/con is called icons/con_ in the set web: some systems"},
		{"ios", "aux", "aux_", "aux is called aux_ in the set ios: some systems"},
		{"ios", "Icons/Way out", "Icons/Way out", ""},
	} {
		names := strings.Split(c.names, ", ")
		fitted, changed := set(t, c.set).Fit(names)
		var got []string
		slices.Sort(names)
		for _, n := range names {
			got = append(got, fitted[n])
		}
		if strings.Join(got, " ") != c.want {
			t.Errorf("%s, %s: %q, want %s", c.set, c.names, got, c.want)
		}
		if said := strings.Join(changed, "; "); c.said == "" && said != "" || !strings.Contains(said, c.said) {
			t.Errorf("%s, %s: said %q", c.set, c.names, said)
		}
	}
}

func TestSetsAreChecked(t *testing.T) {
	good := Set{Name: "print", At: []float64{1, 4}, Formats: []string{"png", "pdf"}, Files: "{name}{x}.{format}",
		Quality: 80}
	if err := good.Check(); err != nil {
		t.Error(err)
	}
	for want, change := range map[string]func(*Set){
		"needs a name":                 func(s *Set) { s.Name = "" },
		"has no formats":               func(s *Set) { s.Formats = nil },
		`unknown format "bmp"`:         func(s *Set) { s.Formats = []string{"bmp"} },
		`unknown format "ico"`:         func(s *Set) { s.Formats = []string{"ico"} },
		"no density 99":                func(s *Set) { s.At = []float64{99} },
		"no quality 0":                 func(s *Set) { s.Quality = 0 },
		"the unknown placeholder {nam": func(s *Set) { s.Files = "{nam}.png" },
		"leads out of the folder":      func(s *Set) { s.Files = "../{name}{x}.{format}" },
		"all assets the same name":     func(s *Set) { s.Files = "a{x}.{format}" },
		"all densities the same name":  func(s *Set) { s.Files = "{name}.{format}" },
		"all formats the same name":    func(s *Set) { s.Files = "{name}{x}.png" },
		"no folder for the density 5":  func(s *Set) { s.Kind, s.At = "android", []float64{5} },
	} {
		s := good
		change(&s)
		if err := s.Check(); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", want, err)
		}
	}
	for _, s := range BuiltIn() {
		if err := s.Check(); err != nil {
			t.Error(err)
		}
	}
}

func TestPatterns(t *testing.T) {
	s := Set{To: "out", Files: "{folder}/{file}-{width}x{height}-{density}{x}-{dpi}.{format}"}
	if p := s.place("icons/anchor", "jpeg", 1.5, 36, 20); p != "out/icons/anchor-36x20-1.5@1.5x-hdpi.jpg" {
		t.Error(p)
	}
	if p := set(t, "android").place("a", "vector", 0, 1, 1); p != "android/res/drawable-anydpi-v24/a.xml" {
		t.Error(p)
	}
	for ext, want := range map[string]string{".JPG": "jpeg", "jpeg": "jpeg", ".svg": "svg", "webp": "webp"} {
		if f, ok := FormatOf(ext); !ok || f != want {
			t.Errorf("%s: %s", ext, f)
		}
	}
	if _, ok := FormatOf(".gif"); ok {
		t.Error("gif is written")
	}
}
