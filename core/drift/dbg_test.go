package drift

import (
	"archetyp/core/css"
	"archetyp/core/font"
	"archetyp/core/match"
	"archetyp/core/read"
	"archetyp/core/read/page"
	"fmt"
	"os"
	"testing"
)

func TestDbg(t *testing.T) {
	for _, f := range [][2]string{{"timetable", "index"}, {"boarding-pass", "boarding-pass"}, {"booking", "booking"}} {
		data, _ := os.ReadFile("/work/main/demo/files/design/" + f[0] + ".svg")
		d, err := read.Document("x.svg", data, read.Options{Fonts: font.NewSet(nil), Root: 16})
		if err != nil {
			t.Fatal(err)
		}
		h, _ := os.ReadFile("/work/main/demo/files/site/" + f[1] + ".html")
		p, err := read.Document("x.html", h, read.Options{Fonts: font.NewSet(nil), Root: 16, View: read.View{Medium: css.Medium{Width: 390, Height: 844, Page: true}, URL: "file:///work/main/demo/files/site/" + f[1] + ".html", Fetch: func(a string) (page.Loaded, error) { b, err := os.ReadFile(a[7:]); return page.Loaded{Data: b}, err }}})
		if err != nil {
			t.Fatal(err)
		}
		for _, x := range match.AcrossTrees(d.Screens[0].Root, p.Screens[0].Root, match.AcrossOptions{Whole: true}) {
			bg := ""
			if x.Drawn.Background() != nil {
				bg = "BG"
			}
			fmt.Println(x.Drawn.Kind, x.Drawn.Selector(), x.Drawn.Title(), bg, " ↔ ", x.Page.Shape, x.Page.Name, x.Page.Title(), x.Part, "—", x.Why)
		}
	}
}
