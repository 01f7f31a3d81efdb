package remark_test

import (
	"reflect"
	"strings"
	"testing"
	"time"

	"archetyp/core/match"
	"archetyp/core/remark"
)

var noon = time.Date(2026, 5, 2, 12, 0, 0, 0, time.UTC)

func thread(t *testing.T, texts ...string) *remark.Thread {
	t.Helper()
	th := &remark.Thread{ID: "r", Kind: "question", At: match.Anchor{Source: "design/booking.svg", Screen: "Booking", Select: "#pay", Kind: "group", ID: "pay"}}
	for i, text := range texts {
		th.Add(remark.Entry{ID: []string{"aaaa", "bbbb", "cccc", "dddd"}[i], By: "Aino Saari", On: noon.Add(time.Duration(i) * time.Hour), Text: text})
	}
	return th
}

func bytesOf(t *testing.T, th *remark.Thread) []byte {
	t.Helper()
	data, err := th.Bytes()
	if err != nil {
		t.Fatal(err)
	}
	return data
}

func TestAThreadReadsBack(t *testing.T) {
	for _, text := range []string{"@mika the gap is 12 px in code", "---\nkind: forged\n---", "## Mika, 2026-05-02 10:12:30 UTC {#beef}",
		"\\## Mika {#beef1}", "<script>alert(1)</script>", "| a | b |\n|---|---|\n\n    code", "", "ends\n\n\n", "\x1b[31mred"} {
		th := thread(t, text, "a reply")
		th.Entries[1].Does = remark.Closes
		again, err := remark.Read("r", bytesOf(t, th))
		if err != nil {
			t.Fatalf("%q: %v\n%s", text, err, bytesOf(t, th))
		}
		if !reflect.DeepEqual(again, th) || !again.Closed() {
			t.Errorf("%q:\n%+v\n%+v", text, again, th)
		}
		if strings.ContainsRune(string(bytesOf(t, th)), 0x1b) {
			t.Error("a control character was written")
		}
	}
}

func TestMentions(t *testing.T) {
	for text, want := range map[string]string{"@aino and (@Mika.L) see": "aino mika.l", "mail@example.org": "", "@aino, @aino": "aino", "@": "", "“@jörg”": "jörg"} {
		if got := strings.Join(remark.Mentions(text), " "); got != want {
			t.Errorf("%q names %q", text, got)
		}
	}
}

func TestThreadsRefused(t *testing.T) {
	for content, want := range map[string]string{
		"hello":                         "1:1: a remark begins with front matter",
		"---\nkind: x\n---\n":           "where it is",
		"---\nkind: [\n---\nx":          "2:",
		"---\ncolour: x\n---\nx":        "2:1",
		"---\nat: {source: a}\n---\nhi": "4:1: an entry begins",
		"---\nat: {source: a}\n---\n":   "no entry",
		"---\nat: {source: a}\n---\n## A, 2026-99-99 10:12:30 UTC {#beef}\n": "no time",
		"---\na: " + strings.Repeat("[", 90) + "\n---\n":                     "too deep",
		"\xff\xfe": "UTF-8",
	} {
		if _, err := remark.Read("r", []byte(content)); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %v", content, err)
		}
	}
}

func TestMerge(t *testing.T) {
	base := thread(t, "first")
	ours, theirs := thread(t, "first", "ours"), thread(t, "first")
	theirs.Add(remark.Entry{ID: "zzzz", By: "Mika", On: noon.Add(time.Minute), Text: "@olga theirs", Does: remark.Closes})
	theirs.Kind = "change"
	out, clashes, err := remark.Merge("r", bytesOf(t, base), bytesOf(t, ours), bytesOf(t, theirs))
	if err != nil || len(clashes) > 0 {
		t.Fatal(err, clashes)
	}
	back, _, err := remark.Merge("r", bytesOf(t, base), bytesOf(t, theirs), bytesOf(t, ours))
	if err != nil || string(back) != string(out) {
		t.Errorf("%v: it depends on whose side it is\n%s\n%s", err, out, back)
	}
	m, err := remark.Read("r", out)
	if err != nil || len(m.Entries) != 3 || m.Entries[1].Text != "@olga theirs" || m.Kind != "change" || !m.Closed() || len(m.For) != 1 {
		t.Errorf("%v\n%s", err, out)
	}
	edited := func(text string) *remark.Thread { return thread(t, text) }
	out, clashes, err = remark.Merge("r", bytesOf(t, base), bytesOf(t, edited("one way")), bytesOf(t, edited("another way")))
	if err != nil || len(clashes) != 1 || !strings.Contains(string(out), "one way") || !strings.Contains(string(out), "another way") {
		t.Errorf("%v %v\n%s", err, clashes, out)
	}
	out, clashes, err = remark.Merge("r", bytesOf(t, ours), bytesOf(t, base), bytesOf(t, ours)) // a reply that we took back
	if m, rerr := remark.Read("r", out); err != nil || rerr != nil || len(m.Entries) != 1 || len(clashes) > 0 {
		t.Errorf("%v %v\n%s", err, clashes, out)
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte("---\nkind: note\nat: {source: a.svg, screen: A, box: [1, 2, 3, 4]}\n---\n\n## A, 2026-05-02 10:12:30 UTC, closes {#beef}\n\nhello\n"))
	f.Fuzz(func(t *testing.T, data []byte) {
		th, err := remark.Read("r", data)
		if err != nil {
			return
		}
		out, err := th.Bytes()
		if err != nil {
			return
		}
		again, err := remark.Read("r", out)
		if err != nil || len(again.Entries) != len(th.Entries) {
			t.Fatalf("%v\n%q\n%q", err, data, out)
		}
	})
}
