package job

import (
	"bytes"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// menus is a workspace of drawings with 150 elements each: rows of a box, a tick and a label.
func menus(tb testing.TB, drawings int) string {
	tb.Helper()
	random := rand.New(rand.NewPCG(7, 7))
	pick := func(list ...string) string { return list[random.IntN(len(list))] }
	labels := strings.Split("Book a table,Confirm,Back,Continue,Search,Menu,Lunch,Evening,Wine "+
		"list,Allergies,Notes,Phone,Email,Address,City,Guests,Window seat,Terrace,Payment,Open today,Closed,Help,Sign in", ",")
	colors := []string{"#0b3c49", "#731963", "#fffdfd", "#e4dfda", "#d4b483", "#1f7a8c", "#bfdbf7", "#022b3a"}
	dir := tb.TempDir()
	put(tb, dir, "archetyp.yaml", "name: Menus\nsources: [design/*.svg]\ntext: {source: en, locales: [de]}\n")
	put(tb, dir, "tokens/a.tokens.json",
		`{"color": {"night": {"$type": "color", "$value": "#0b3c49"}, "plum": {"$type": "color", "$value": "#731963"}}}`)
	for i := range drawings {
		var b strings.Builder
		fmt.Fprintf(&b, "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"390\" height=\"844\" data-screen=\"Menu "+
			"%d\">\n<rect width=\"390\" height=\"844\" fill=\"#fffdfd\"/>\n", i+1)
		for row := range 30 {
			label := pick(labels...)
			if row == 3 {
				label = fmt.Sprintf("Table %d", i)
			}
			x, y := 16+row%2*183, 16+row/2*54
			fmt.Fprintf(&b, "<g id=\"row%d\"><rect x=\"%d\" y=\"%d\" width=\"175\" height=\"46\" rx=\"8\" "+
				"fill=\"%s\"/><circle cx=\"%d\" cy=\"%d\" r=\"10\" fill=\"%s\"/><path d=\"M%d %dl5 5l9 -9\" fill=\"none\" "+
				"stroke=\"%s\" stroke-width=\"2\"/><text x=\"%d\" y=\"%d\" font-size=\"%s\" fill=\"%s\">%s</text></g>\n",
				row, x, y, pick(colors...), x+20, y+23, pick(colors...), x+13, y+23, pick(colors...), x+40, y+28, pick("14",
					"16"), pick(colors...), label)
		}
		put(tb, dir, fmt.Sprintf("design/menu-%d.svg", i), b.String()+"</svg>\n")
	}
	return dir
}

// BenchmarkOneWord measures a look at a workspace in which one word of one drawing has changed, and the sync after it.
func BenchmarkOneWord(b *testing.B) {
	dir := menus(b, 60)
	mustRun(b, open(b, dir), Options{})
	was := content(b, open(b, dir), "design/menu-7.svg")
	n := 0
	change := func() {
		n++
		put(b, dir, "design/menu-7.svg", strings.Replace(was, ">Table 7<", fmt.Sprintf(">Table number %d<", n), 1))
	}
	for _, c := range []struct {
		name string
		o    Options
	}{{"status", Options{DryRun: true}}, {"sync", Options{}}} {
		b.Run(c.name, func(b *testing.B) {
			for b.Loop() {
				b.StopTimer()
				change()
				ws := open(b, dir)
				b.StartTimer()
				if r := mustRun(b, ws, c.o); r.UpToDate {
					b.Fatal("the change was not seen")
				}
			}
		})
	}
}

// TestADamagedCacheIsReadAnew puts nonsense in the place of what is remembered of drawings.
func TestADamagedCacheIsReadAnew(t *testing.T) {
	dir := menus(t, 3)
	mustRun(t, open(t, dir), Options{})
	records, err := filepath.Glob(filepath.Join(dir, ".archetyp/drawings/*"))
	if err != nil || len(records) != 3 {
		t.Fatal(records, err)
	}
	want := content(t, open(t, dir), "text/keys.json")
	whole, err := os.ReadFile(records[0])
	if err != nil {
		t.Fatal(err)
	}
	for name, data := range map[string][]byte{"cut off": whole[:len(whole)/2], "empty": nil,
		"garbled": bytes.ReplaceAll(whole, []byte("row"), []byte("\xff\xff\xff")), "long": append(whole, whole...)} {
		for _, p := range records {
			if err := os.WriteFile(p, data, 0o644); err != nil {
				t.Fatal(err)
			}
		}
		put(t, dir, "design/menu-0.svg", content(t, open(t, dir), "design/menu-0.svg")+"\n")
		mustRun(t, open(t, dir), Options{})
		if got := content(t, open(t, dir), "text/keys.json"); got != want {
			t.Errorf("%s: the texts are others", name)
		}
	}
}
