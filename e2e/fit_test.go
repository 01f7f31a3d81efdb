package e2e

import (
	"encoding/json"
	"fmt"
	"html"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
)

// words of five scripts, made up into texts.
var scripts = []struct{ locale, words string }{
	{"de", "Fähre Anleger Überfahrt bitte jetzt buchen und pünktlich am Hafen sein, Fahrräder kosten 6,00 € je Fahrt " +
		"Rückfahrt AVATAR Töne Wolken"},
	{"fi", "Lauttamatka laiturilta lähtee aikataulun mukaan, varaathan paikkasi ajoissa; polkupyörät maksavat lisää " +
		"yöllä hyvää päivää"},
	{"el", "Πλοίο αναχωρεί από την προβλήτα στις 08:15 και φτάνει νωρίς το βράδυ, εισιτήρια για ενήλικες και παιδιά " +
		"ΑΥΛΗ Τόνος"},
	{"ru", "Паром отходит от причала каждый час, билеты для взрослых и детей продаются на борту; Гудок Тёплый РАУТ"},
	{"he", "המעבורת יוצאת מהרציף בכל שעה, כרטיסים למבוגרים ולילדים נמכרים על הסיפון 12 דקות"},
	{"ar", "تغادر العبارة الرصيف كل ساعة، وتباع التذاكر للبالغين والأطفال على متنها 12 دقيقة"},
}

type fitCase struct {
	Locale  string  `json:"locale"`
	Words   string  `json:"words"`
	Family  string  `json:"family"`
	Weight  int     `json:"weight"`
	Size    float64 `json:"size"`
	Spacing float64 `json:"spacing"`
	Share   float64 `json:"share"` // of the natural width, for texts that wrap; 0 for one line
	Off     float64 `json:"off"`   // of the need

	Width float64 `json:"width"` // of the box, from Chromium's need
	Lines int     `json:"lines"`
	Fits  bool    `json:"fits"` // as Chromium says
}

// TestFitAgreesWithChromium makes boxes whose room is within 3 % of what a text needs, and asks both whether it fits.
func TestFitAgreesWithChromium(t *testing.T) {
	t.Parallel()
	ctx := chromium(t)
	if _, err := os.Stat("/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf"); err != nil {
		need(t, "fonts-dejavu-core")
	}
	dir := t.TempDir()
	fonts := filepath.Join(demoFiles(t), "fonts")
	var faces strings.Builder
	for _, f := range []struct {
		family, file string
		weight       int
	}{{"Hanken Grotesk", "HankenGrotesk-Regular.ttf", 400}, {"Hanken Grotesk", "HankenGrotesk-Bold.ttf", 700}, {"Fraunces",
		"Fraunces-SemiBold.ttf", 600}, {"Noto Sans Hebrew", "NotoSansHebrew-Regular.ttf", 400}} {
		write(t, dir, "fonts/"+f.file, read(t, fonts, f.file))
		fmt.Fprintf(&faces, `@font-face{font-family:"%s";font-weight:%d;src:url(fonts/%s)}`, f.family, f.weight, f.file)
	}
	for _, f := range []string{"DejaVuSans.ttf", "DejaVuSans-Bold.ttf"} {
		write(t, dir, "fonts/"+f, read(t, "/usr/share/fonts/truetype/dejavu", f))
		fmt.Fprintf(&faces, `@font-face{font-family:"DejaVu Sans";font-weight:%d;src:url(fonts/%s)}`,
			map[bool]int{true: 700, false: 400}[strings.Contains(f, "Bold")], f)
	}
	cases := fitCases(520)
	data, err := json.Marshal(cases)
	if err != nil {
		t.Fatal(err)
	}
	page := write(t, dir, "page.html", `<!doctype html><meta charset="utf-8"><style>`+faces.String()+`div{position:absolute;left:0;top:0;text-rendering:geometricPrecision;line-height:100px}</style><body><script>const cases=`+string(data)+`;
async function judge() {
  await Promise.all(cases.map(c => document.fonts.load(c.weight + " 20px " + c.family, c.words)));
  const div = document.createElement("div"), span = document.createElement("span");
  div.append(span); document.body.append(div);
  for (const c of cases) {
    span.textContent = c.words;
    div.dir = c.locale == "he" || c.locale == "ar" ? "rtl" : "ltr";
    Object.assign(div.style, {fontFamily: c.family, fontWeight: c.weight, fontSize: c.size + "px", letterSpacing: c.spacing + "px", whiteSpace: c.share ? "normal" : "nowrap", width: "max-content"});
    const natural = span.getBoundingClientRect().width;
    const lines = w => { div.style.width = w + "px"; return Math.round(div.getBoundingClientRect().height / 100); };
    const fits = w => c.share ? lines(w) <= c.lines && Math.max(...[...span.getClientRects()].map(r => r.width)) <= w + 1 / 64 : natural <= w + 1 / 64;
    c.lines = c.share ? lines(natural * c.share) : 1;
    let need = natural;
    if (c.share) {
      let lo = 1, hi = natural + 1;
      while (hi - lo > 0.05) { const mid = (lo + hi) / 2; if (fits(mid)) hi = mid; else lo = mid; }
      need = hi;
    }
    c.width = Math.round(need * (1 + c.off) * 100) / 100;
    c.fits = fits(c.width);
  }
  return JSON.stringify(cases);
}</script>`)
	open(t, ctx, page, 1280, 800, 1)
	out, err := chromedp.Run(ctx, chromedp.Evaluate[string](`judge()`, chromedp.EvalAwaitPromise))
	if err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal([]byte(out), &cases); err != nil {
		t.Fatal(err)
	}
	verdicts := reviewed(t, dir, cases)
	agree, fit := 0, 0
	for i, c := range cases {
		v := verdicts[fmt.Sprintf("k%d", i)]
		if c.Fits {
			fit++
		}
		if (v == "fits" || v == "tight") == c.Fits {
			agree++
			continue
		}
		t.Logf("%s, %s %d %g px, spacing %g, %d lines of %.2f px: %q, Chromium says it fits: %t (%q)", c.Locale, c.Family,
			c.Weight, c.Size, c.Spacing, c.Lines, c.Width, v, c.Fits, c.Words)
	}
	t.Logf("%d pairs, %d fit; we agree on %d (%.2f %%)", len(cases), fit, agree, 100*float64(agree)/float64(len(cases)))
	if float64(agree) < 0.99*float64(len(cases)) || fit < len(cases)/4 || fit > len(cases)*3/4 {
		t.Error("too few")
	}
}

func fitCases(n int) []fitCase {
	r := rand.New(rand.NewPCG(11, 5))
	var out []fitCase
	for i := range n {
		s := scripts[i%len(scripts)]
		words := strings.Fields(s.words)
		var pick []string
		count := 1 + r.IntN(4)
		c := fitCase{Locale: s.locale, Size: []float64{11, 12, 14, 15, 16, 20, 25}[r.IntN(7)],
			Off: (r.Float64()*2 - 1) * 0.03}
		if r.IntN(2) == 0 { // a paragraph
			count = 6 + r.IntN(12)
			c.Share = 0.15 + r.Float64()*0.5
		}
		for range count {
			pick = append(pick, words[r.IntN(len(words))])
		}
		c.Words = strings.Join(pick, " ")
		latin := []struct {
			family string
			weight int
		}{{"Hanken Grotesk", 400}, {"Hanken Grotesk", 700}, {"Fraunces", 600}, {"DejaVu Sans", 400}}
		f := latin[r.IntN(len(latin))]
		switch s.locale {
		case "he":
			f.family, f.weight = []string{"Noto Sans Hebrew, DejaVu Sans", "DejaVu Sans"}[r.IntN(2)], 400
		case "el", "ru", "ar":
			f.family, f.weight = "DejaVu Sans", []int{400, 700}[r.IntN(2)]
		}
		c.Family, c.Weight = f.family, f.weight
		if r.IntN(3) == 0 && s.locale != "ar" {
			c.Spacing = []float64{0.5, 1, -0.25}[r.IntN(3)]
		}
		out = append(out, c)
	}
	return out
}

// reviewed asks the built program: every case is a card that leaves its text just that room.
func reviewed(t *testing.T, dir string, cases []fitCase) map[string]string {
	t.Helper()
	var svg strings.Builder
	words := map[string]map[string]string{}
	wide := 0.0
	y := 0.0
	for i, c := range cases {
		step := c.Size * 1.5
		h := step*float64(c.Lines) + 24
		fmt.Fprintf(&svg, `<g><rect x="20" y="%g" width="%.2f" height="%g" fill="#fff"/><text data-text="k%d" font-family="%s" font-weight="%d" font-size="%g" letter-spacing="%g" text-rendering="geometricPrecision">`, y, c.Width+32, h, i, c.Family, c.Weight, c.Size, c.Spacing)
		for l := range c.Lines {
			fmt.Fprintf(&svg, `<tspan x="36" y="%g">I.</tspan>`, y+12+c.Size+step*float64(l))
		}
		svg.WriteString("</text></g>")
		y += h + 40
		wide = math.Max(wide, c.Width+200)
		if words[c.Locale] == nil {
			words[c.Locale] = map[string]string{}
		}
		words[c.Locale][fmt.Sprintf("k%d", i)] = c.Words
	}
	write(t, dir, "cards.svg", fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" width="%.0f" height="%.0f">%s</svg>`,
		wide, y, svg.String()))
	write(t, dir, "archetyp.yaml",
		"name: Cards\nsources: [cards.svg]\nfonts: [fonts]\ntext: {source: en, locales: [de, fi, el, ru, he, ar]}\n")
	for l, m := range words {
		data, err := json.Marshal(m)
		if err != nil {
			t.Fatal(err)
		}
		write(t, dir, "text/"+l+".json", string(data))
	}
	r := run(t, dir, "text", "review", "--json")
	var got struct {
		Texts []struct {
			Key, Locale, Fit string
			Place            struct {
				Room struct {
					Width float64
					Lines int
				}
			}
		}
	}
	if err := json.Unmarshal([]byte(r.out), &got); err != nil || r.status != 1 {
		t.Fatalf("status %d, %v\n%s", r.status, err, r.err)
	}
	out := map[string]string{}
	for _, j := range got.Texts {
		var i int
		fmt.Sscanf(j.Key, "k%d", &i)
		if room := j.Place.Room; math.Abs(room.Width-cases[i].Width) > 0.02 || room.Lines != cases[i].Lines {
			t.Fatalf("%s has room %+v, not %.2f px and %d lines: %s", j.Key, room, cases[i].Width, cases[i].Lines,
				html.EscapeString(cases[i].Words))
		}
		out[j.Key] = j.Fit
	}
	return out
}
