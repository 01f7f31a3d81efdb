package e2e

import (
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"
)

// hub is a bare repository with a workspace in it, and a clone of it for each person.
func hub(t testing.TB, make func(dir string), people ...string) (bare string, clones []string) {
	t.Helper()
	need(t, "git")
	dir := t.TempDir()
	bare = filepath.Join(dir, "hub.git")
	mustGit(t, dir, "init", "-q", "--bare", "-b", "main", bare)
	first := filepath.Join(dir, people[0])
	make(first)
	mustGit(t, first, "init", "-q", "-b", "main")
	mustGit(t, first, "remote", "add", "origin", bare)
	person(t, first, people[0])
	if _, err := os.Stat(filepath.Join(first, "archetyp.yaml")); err == nil {
		must(t, first, "sync", "--push", "-m", "The ferry as drawn")
	} else { // it lies deeper
		commitAll(t, first, "The ferry as drawn")
		mustGit(t, first, "push", "-q", "-u", "origin", "main")
	}
	clones = []string{first}
	for _, p := range people[1:] {
		c := filepath.Join(dir, p)
		mustGit(t, dir, "clone", "-q", "--no-hardlinks", bare, c)
		person(t, c, p)
		clones = append(clones, c)
	}
	return bare, clones
}

func person(t testing.TB, dir, name string) {
	t.Helper()
	mustGit(t, dir, "config", "user.name", name)
	mustGit(t, dir, "config", "user.email", strings.ToLower(name)+"@tern.example")
}

// sameFiles fails where two clones differ.
func sameFiles(t testing.TB, a, b string) {
	t.Helper()
	x, y := files(t, a), files(t, b)
	for _, p := range slices.Sorted(maps.Keys(x)) {
		if x[p] != y[p] {
			t.Errorf("%s differs in %s and %s", p, filepath.Base(a), filepath.Base(b))
		}
		delete(y, p)
	}
	for p := range y {
		t.Errorf("%s is only in %s", p, filepath.Base(b))
	}
}

// files are those of a clone that git knows, with their contents.
func files(t testing.TB, dir string) map[string]string {
	t.Helper()
	out := map[string]string{}
	for p := range strings.SplitSeq(strings.Trim(mustGit(t, dir, "ls-files", "-z"), "\x00"), "\x00") {
		data, err := os.ReadFile(filepath.Join(dir, p))
		if err != nil {
			t.Errorf("%s: %v", dir, err)
		}
		out[p] = string(data)
	}
	return out
}

// TestTwoPeopleShareTheirWork is the story of a designer and a developer, with a translator in between.
func TestTwoPeopleShareTheirWork(t *testing.T) {
	t.Parallel()
	_, clones := hub(t, func(dir string) { must(t, filepath.Dir(dir), "demo", dir) }, "Aino", "Mika")
	aino, mika := clones[0], clones[1]
	var log strings.Builder
	do := func(dir string, args ...string) string {
		t.Helper()
		fmt.Fprintf(&log, "\n%s $ archetyp %s\n", filepath.Base(dir), strings.Join(args, " "))
		r := must(t, dir, args...)
		log.WriteString(r.out + r.err)
		return r.out
	}
	do(aino, "edition", "cut", "-m", "The first one", "--anyway")
	do(aino, "phase", "set", "booking", "#trip-card", "held", "-m", "Waits for the harbour office, TT-12")
	do(aino, "remark", "add", "booking", "#pay", "@mika is 12 px right here?", "--kind", "question")
	do(aino, "sync", "--push", "-m", "What is open")

	do(mika, "sync", "--pull")
	if out := do(mika, "remark", "list", "--for", "mika"); !strings.Contains(out, "is 12 px right here?") {
		t.Errorf("the remark did not come:\n%s", out)
	}
	var listed struct {
		Remarks []struct{ Short string }
	}
	mustJSON(t, mika, &listed, "remark", "list")
	do(mika, "remark", "reply", listed.Remarks[0].Short, "8 px; mended in the style sheet")
	edit(t, filepath.Join(mika, "site/css/site.css"), "border-radius: 14px", "/* 8 px */ border-radius: 14px")

	// meanwhile, the designer changes a colour and a word, moves a card and agrees to what was held
	do(aino, "tokens", "set", "color.coral.500", "#e05028")
	edit(t, filepath.Join(aino, "design/booking.svg"), "Your trip", "Your crossing")
	edit(t, filepath.Join(aino, "design/booking.svg"), `id="trip-card"`, `id="trip-card" transform="translate(0 8)"`)
	do(aino, "phase", "set", "booking", "#trip-card", "agreed", "-m", "TT-12 is settled")
	do(aino, "sync", "--push", "-m", "A warmer coral, and the card lower")
	do(aino, "edition", "cut", "-m", "Card lower", "--anyway") // which she has not pushed yet

	do(mika, "sync")
	commitAll(t, mika, "Corners in the style sheet")
	do(mika, "edition", "cut", "-m", "As the developer has it", "--anyway", "--draft")
	out := do(mika, "sync", "--push")
	if !strings.Contains(out, "Came") || !strings.Contains(out, "“Your trip” is “Your crossing”") {
		t.Errorf("what came is not reported:\n%s", out)
	}
	out = do(aino, "sync", "--push")
	for _, want := range []string{"edition/2 is edition/3 now", "Card lower"} {
		if !strings.Contains(out, want) {
			t.Errorf("%q is not in\n%s", want, out)
		}
	}

	// the translator, in the developer's clone
	do(mika, "sync", "--pull")
	do(mika, "text", "export", "--locale", "de", "--as", "po", "-o", "de.po")
	edit(t, filepath.Join(mika, "de.po"), `"Ihre Reise"`, `"Ihre Überfahrt"`)
	do(mika, "text", "import", "de.po")
	if err := os.Remove(filepath.Join(mika, "de.po")); err != nil {
		t.Fatal(err)
	}
	do(mika, "sync", "--push", "-m", "German from the translator")
	do(mika, "edition", "cut", "-m", "With German", "--anyway")
	do(mika, "sync", "--push")
	do(aino, "remark", "close", listed.Remarks[0].Short, "-m", "Thank you")
	do(aino, "sync", "--push", "-m", "Settled")
	holds(t, "sync-share", do(mika, "sync", "--pull", "--json"))

	sameFiles(t, aino, mika)
	for _, dir := range clones {
		must(t, dir, "sync", "--check")
		list := do(dir, "edition", "list")
		for _, want := range []string{"edition/1", "edition/2", "edition/3", "edition/4", "As the developer has it", "Card lower", "With German"} {
			if !strings.Contains(list, want) {
				t.Errorf("%q is not in\n%s", want, list)
			}
		}
		if p := do(dir, "phase", "list"); !strings.Contains(p, "agreed  Booking: trip-card") || strings.Contains(p, "held  Booking") {
			t.Errorf("the held card is not agreed:\n%s", p)
		}
		if r := do(dir, "remark", "show", listed.Remarks[0].Short); !strings.Contains(r, "8 px; mended") || !strings.Contains(r, "closed") || !strings.Contains(r, "Thank you") {
			t.Errorf("the thread:\n%s", r)
		}
		if !strings.Contains(read(t, dir, "text/de.json"), "Ihre Überfahrt") || !strings.Contains(read(t, dir, "site/css/site.css"), "/* 8 px */") {
			t.Error("an edit was lost")
		}
	}
	if testing.Verbose() {
		t.Log(log.String())
	}
}

// small is a workspace of one drawing, a few tokens and texts, for many runs.
func small(t testing.TB) func(dir string) {
	return func(dir string) {
		write(t, dir, "archetyp.yaml", "name: Skiff\nsources: [design/*.svg]\ntokens: {files: [tokens/*.tokens.json]}\n"+
			"text: {source: en, locales: [de, fi], keys: \"{screen}.{words}\"}\noutputs: [{as: css, to: dist/tokens.css}]\n")
		var texts, tokens strings.Builder
		for i := range 6 {
			fmt.Fprintf(&texts, `<g id="row-%d"><rect x="10" y="%d" width="200" height="30" fill="#00%d0ff"/><text id="t-%d" x="20" y="%d" font-size="16">Sailing %c</text></g>`+"\n", i, 10+40*i, i, i, 30+40*i, 'A'+i)
			fmt.Fprintf(&tokens, "    \"c%d\": {\"$value\": \"#00%d0ff\"},\n", i, i)
		}
		write(t, dir, "design/a.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="240" height="300" data-screen="Sailings">`+"\n"+texts.String()+`</svg>`)
		write(t, dir, "tokens/a.tokens.json", "{\n  \"color\": {\n    \"$type\": \"color\",\n"+tokens.String()+"    \"last\": {\"$value\": \"#ffffff\"}\n  }\n}\n")
		must(t, dir, "sync")
	}
}

// team is what several people do at random, and what must be there in the end.
type team struct {
	t      testing.TB
	r      *rand.Rand
	clones []string
	own    map[string]string // what only one person changes → its last value
	shared map[string]map[string]bool
	said   []string // words of remarks and replies
	log    []string
}

func (c *team) run(who int, args ...string) result {
	r := run(c.t, c.clones[who], args...)
	c.log = append(c.log, fmt.Sprintf("%d: %s → %d %s", who, strings.Join(args, " "), r.status, strings.TrimSpace(r.err)))
	return r
}

// step does one thing.
func (c *team) step(n int) {
	who := c.r.IntN(len(c.clones))
	word := fmt.Sprintf("w%d", n)
	hex := fmt.Sprintf("#%06x", c.r.IntN(1<<24))
	set := func(own bool, what, value string, args ...string) {
		r := c.run(who, args...)
		if r.status != 0 {
			c.t.Errorf("%v: %d %s", args, r.status, r.err)
		}
		if own {
			c.own[what] = value
		} else {
			if c.shared[what] == nil {
				c.shared[what] = map[string]bool{}
			}
			c.shared[what][value] = true
		}
	}
	switch c.r.IntN(10) {
	case 0: // a token of one's own
		set(true, fmt.Sprintf("token color.c%d", who), hex, "tokens", "set", fmt.Sprintf("color.c%d", who), hex)
	case 1: // one that all change
		set(false, "token color.c5", hex, "tokens", "set", "color.c5", hex)
	case 2:
		set(true, fmt.Sprintf("text %d", who), word, "text", "set", fmt.Sprintf("sailings.sailing-%c", 'a'+who), word, "--locale", "de")
	case 3:
		set(false, "text 5", word, "text", "set", "sailings.sailing-f", word, "--locale", "fi")
	case 4:
		set(true, fmt.Sprintf("phase %d", who), word, "phase", "set", "a", fmt.Sprintf("#row-%d", who), "agreed", "-m", word)
	case 5:
		set(false, "phase 5", word, "phase", "set", "a", "#row-5", "held", "-m", word)
	case 6:
		c.run(who, "remark", "add", "a", fmt.Sprintf("#row-%d", c.r.IntN(6)), "@all "+word)
		c.said = append(c.said, word)
	case 7:
		var list struct {
			Remarks []struct{ Short string }
		}
		mustJSON(c.t, c.clones[who], &list, "remark", "list", "--state", "all")
		if len(list.Remarks) > 0 {
			c.run(who, "remark", "reply", list.Remarks[c.r.IntN(len(list.Remarks))].Short, word)
			c.said = append(c.said, word)
		}
	case 8:
		c.exchange(who, "--pull")
	case 9:
		c.exchange(who, "--push")
	}
}

// exchange pulls or pushes; what is left to settle is settled by choosing anew.
func (c *team) exchange(who int, how string) {
	for range 6 {
		r := c.run(who, "sync", how, "-m", "by "+filepath.Base(c.clones[who]), "--json")
		if r.status == 0 {
			return
		}
		var got struct {
			Conflicts []struct{ File, What, Ours, Theirs string }
		}
		if err := json.Unmarshal([]byte(r.out), &got); err != nil || r.status != 1 || len(got.Conflicts) == 0 {
			c.t.Fatalf("sync %s: %d %s%s\n%s", how, r.status, r.out, r.err, strings.Join(c.log, "\n"))
		}
		for _, x := range got.Conflicts {
			if x.Ours == "" || !strings.Contains(x.File, "text/") && x.Theirs == "" {
				c.t.Errorf("a conflict without both versions: %+v", x)
			}
			switch {
			case strings.Contains(x.File, "tokens"):
				c.run(who, "tokens", "set", "color.c5", "#123456")
				c.shared["token color.c5"]["#123456"] = true
			case strings.Contains(x.File, "text/"):
				c.run(who, "text", "set", "sailings.sailing-f", "chosen", "--locale", "fi")
				c.shared["text 5"]["chosen"] = true
			case x.File == "phases.yaml":
				c.run(who, "phase", "set", "a", "#row-5", "held", "-m", "chosen")
				c.shared["phase 5"]["chosen"] = true
			default:
				c.t.Errorf("a conflict in %s", x.File)
			}
		}
	}
	c.t.Errorf("it does not come to an end:\n%s", strings.Join(c.log, "\n"))
}

// TestInterleavedEditsConverge has two to four people edit, pull and push at random: no edit is lost, everything parses
// all the time, and all clones end equal.
func TestInterleavedEditsConverge(t *testing.T) {
	t.Parallel()
	count := 40
	if *long {
		count = 500
	}
	if testing.Short() {
		count = 3
	}
	for k := range count {
		t.Run(fmt.Sprint(k), func(t *testing.T) {
			t.Parallel()
			r := rand.New(rand.NewPCG(uint64(k), 21))
			people := []string{"Aino", "Mika", "Olga", "Pál"}[:2+r.IntN(3)]
			_, clones := hub(t, small(t), people...)
			c := &team{t: t, r: r, clones: clones, own: map[string]string{}, shared: map[string]map[string]bool{}}
			steps := 12
			if *long {
				steps = 20
			}
			for n := range steps {
				c.step(n)
			}
			for range 2 {
				for who := range clones {
					c.exchange(who, "--push")
				}
			}
			for who := range clones {
				c.exchange(who, "--pull")
				sameFiles(t, clones[0], clones[who])
				if r := c.run(who, "sync", "--check"); r.status != 0 {
					t.Errorf("out of step: %s", r.out)
				}
			}
			c.check(clones[0])
			if t.Failed() {
				t.Log(strings.Join(c.log, "\n"))
			}
		})
	}
}

// check looks for every edit.
func (c *team) check(dir string) {
	value := func(what string) string {
		kind, name, _ := strings.Cut(what, " ")
		switch kind {
		case "token":
			m := regexp.MustCompile(`--` + strings.ReplaceAll(name, ".", "-") + `: ([^;]+);`).FindStringSubmatch(read(c.t, dir, "dist/tokens.css"))
			if m == nil {
				return ""
			}
			if len(m[1]) == 4 { // as CSS writes it for short
				return "#" + strings.Repeat(m[1][1:2], 2) + strings.Repeat(m[1][2:3], 2) + strings.Repeat(m[1][3:], 2)
			}
			return m[1]
		case "text":
			locale := "de"
			if name == "5" {
				locale = "fi"
			}
			var all map[string]string
			if err := json.Unmarshal([]byte(read(c.t, dir, "text", locale+".json")), &all); err != nil {
				c.t.Fatal(err)
			}
			return all[fmt.Sprintf("sailings.sailing-%c", 'a'+name[0]-'0')]
		}
		var list struct {
			Phases []struct{ Selector, Why string }
		}
		mustJSON(c.t, dir, &list, "phase", "list")
		for _, p := range list.Phases {
			if p.Selector == "#row-"+name {
				return p.Why
			}
		}
		return ""
	}
	for what, want := range c.own {
		if got := value(what); got != want {
			c.t.Errorf("%s is %q, and was set to %q last", what, got, want)
		}
	}
	for what, any := range c.shared {
		if got := value(what); !any[got] {
			c.t.Errorf("%s is %q, which nobody set", what, got)
		}
	}
	all := ""
	found, _ := filepath.Glob(filepath.Join(dir, "remarks", "*.md"))
	for _, f := range found {
		all += read(c.t, f) + "\n"
	}
	for _, w := range c.said {
		if !strings.Contains(all, w+"\n") {
			c.t.Errorf("the words %q are lost", w)
		}
	}
}

// TestKilledWhileSharing stops cuts, pulls, pushes and remarks at random moments: repository and workspace stay sound, and
// the next run goes on.
func TestKilledWhileSharing(t *testing.T) {
	t.Parallel()
	count := 40
	if *long {
		count = 200
	}
	if testing.Short() {
		count = 5
	}
	_, clones := hub(t, small(t), "Aino", "Mika")
	aino, mika := clones[0], clones[1]
	r := rand.New(rand.NewPCG(1, 9))
	killed := 0
	for k := range count {
		must(t, mika, "tokens", "set", fmt.Sprintf("color.c%d", k%5), fmt.Sprintf("#%06x", k))
		must(t, mika, "sync", "--push", "-m", fmt.Sprint("colour ", k))
		must(t, aino, "text", "set", "sailings.sailing-a", fmt.Sprint("Fahrt ", k), "--locale", "de")
		args := [][]string{{"sync", "--pull", "-m", "words"}, {"sync", "--push", "-m", "words"}, {"remark", "add", "a", "#row-1", fmt.Sprint("remark ", k)},
			{"edition", "cut", "-m", fmt.Sprint("edition ", k), "--anyway"}}[k%4]
		if args[0] == "edition" {
			must(t, aino, "sync", "--push", "-m", "words")
		}
		cmd := exec.Command(program, args...)
		cmd.Dir = aino
		cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
		if err := cmd.Start(); err != nil {
			t.Fatal(err)
		}
		time.Sleep(time.Duration(r.IntN(180)) * time.Millisecond)
		_ = syscall.Kill(-cmd.Process.Pid, syscall.SIGKILL)
		if cmd.Wait() != nil {
			killed++
		}
		if out, err := git(t, aino, "fsck", "--connectivity-only"); err != nil {
			t.Fatalf("%d %v: the repository is damaged: %s", k, args, out)
		}
		if r := run(t, aino, "sync", "--push", "-m", "after all"); r.status != 0 {
			left, _ := filepath.Glob(filepath.Join(aino, ".archetyp", "*"))
			locks, _ := filepath.Glob(filepath.Join(aino, ".git", "*.lock"))
			t.Fatalf("%d %v: %d %s%s\n%s\n%s", k, args, r.status, r.out, r.err, left, locks)
		}
		must(t, aino, "sync", "--check")
		if status := mustGit(t, aino, "status", "--porcelain"); status != "" {
			t.Fatalf("%d %v: not committed after all:\n%s", k, args, status)
		}
		must(t, mika, "sync", "--pull")
		if !strings.Contains(read(t, mika, "text/de.json"), fmt.Sprint("Fahrt ", k)) || !strings.Contains(read(t, aino, "tokens/a.tokens.json"), fmt.Sprintf("#%06x", k)) {
			t.Fatalf("%d %v: an edit is lost", k, args)
		}
		if left, _ := filepath.Glob(filepath.Join(aino, ".archetyp", "scratch-*")); len(left) > 0 {
			t.Errorf("%v was left behind", left)
		}
	}
	sameFiles(t, aino, mika)
	t.Logf("%d of %d were stopped", killed, count)
}
