package e2e

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"
)

// framed is a message with its header.
func framed(message string) string {
	return fmt.Sprintf("Content-Length: %d\r\n\r\n%s", len(message), message)
}

const (
	hello   = `{"jsonrpc":"2.0","id":1,"method":"initialize","params":{"capabilities":{}}}`
	goodbye = `{"jsonrpc":"2.0","id":99,"method":"shutdown"}`
	leave   = `{"jsonrpc":"2.0","method":"exit"}`
)

// spoken is what the server answers to bytes, and how it ends.
type spoken struct {
	answers []struct {
		ID     any
		Result json.RawMessage
		Error  *struct {
			Code    int
			Message string
		}
		Method string
	}
	log    string
	status int
}

// speak sends bytes to the server and closes the pipe.
func speak(t *testing.T, dir string, in io.Reader) (s spoken) {
	t.Helper()
	ctx, cancel := context.WithTimeout(context.Background(), 60*time.Second)
	defer cancel()
	cmd := exec.CommandContext(ctx, program, "editor")
	cmd.Dir, cmd.Stdin = dir, in
	r := finish(t, cmd)
	if ctx.Err() != nil {
		t.Fatal("the server does not end")
	}
	s.log, s.status = r.err, r.status
	b := bufio.NewReader(strings.NewReader(r.out))
	for {
		head, err := b.ReadString('\n')
		if err != nil {
			return s
		}
		n, err := strconv.Atoi(strings.TrimSpace(strings.TrimPrefix(head, "Content-Length:")))
		if err != nil {
			t.Fatalf("no header: %q", head)
		}
		_, _ = b.ReadString('\n')
		data := make([]byte, n)
		if _, err := io.ReadFull(b, data); err != nil {
			t.Fatal(err)
		}
		s.answers = append(s.answers, struct {
			ID     any
			Result json.RawMessage
			Error  *struct {
				Code    int
				Message string
			}
			Method string
		}{})
		if err := json.Unmarshal(data, &s.answers[len(s.answers)-1]); err != nil {
			t.Fatal(err)
		}
	}
}

func TestHostileClients(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	end := framed(goodbye) + framed(leave)
	doc := func(text string) string {
		data, _ := json.Marshal(text)
		return framed(`{"jsonrpc":"2.0","method":"textDocument/didOpen","params":{"textDocument":{"uri":"file://` + dir + `/a.css","languageId":"css","version":1,"text":` + string(data) + `}}}`)
	}
	deep := strings.Repeat("[", 200000) + strings.Repeat("]", 200000)
	for name, x := range map[string]struct {
		in     string
		codes  []int // of the errors, in order
		status int
	}{
		"nothing":                 {"", nil, 0},
		"a closed pipe":           {framed(hello), nil, 0},
		"exit without shutdown":   {framed(hello) + framed(leave), nil, 1},
		"in order":                {framed(hello) + end, nil, 0},
		"before initialize":       {framed(`{"jsonrpc":"2.0","id":5,"method":"textDocument/hover","params":{}}`) + framed(hello) + end, []int{-32002}, 0},
		"twice":                   {framed(hello) + framed(strings.Replace(hello, `"id":1`, `"id":2`, 1)) + end, []int{-32600}, 0},
		"after shutdown":          {framed(hello) + framed(goodbye) + framed(`{"jsonrpc":"2.0","id":5,"method":"textDocument/hover","params":{}}`) + framed(leave), []int{-32600}, 0},
		"no JSON":                 {framed(hello) + framed(`{"jsonrpc":`) + end, []int{-32700}, 0},
		"no message":              {framed(hello) + framed(`[1,2,3]`) + framed(`"x"`) + framed(`{}`) + end, []int{-32600, -32600, -32600}, 0},
		"no header":               {"GET / HTTP/1.1\r\n\r\n", nil, 2},
		"a header without an end": {strings.Repeat("x", 1<<20), nil, 2},
		"a length that is none":   {"Content-Length: many\r\n\r\n", nil, 2},
		"a negative length":       {"Content-Length: -1\r\n\r\n", nil, 2},
		"a message cut off":       {framed(hello) + "Content-Length: 1000\r\n\r\n{", nil, 0},
		"an unknown method":       {framed(hello) + framed(`{"jsonrpc":"2.0","id":5,"method":"x/y"}`) + framed(`{"jsonrpc":"2.0","method":"x/y","params":{}}`) + end, []int{-32601}, 0},
		"wrong parameters":        {framed(hello) + framed(`{"jsonrpc":"2.0","id":5,"method":"textDocument/hover","params":{"position":"x"}}`) + end, []int{-32602}, 0},
		"places beyond the text":  {framed(hello) + doc(".x{color:red}") + framed(`{"jsonrpc":"2.0","id":5,"method":"textDocument/completion","params":{"textDocument":{"uri":"file://`+dir+`/a.css"},"position":{"line":-4,"character":99999999}}}`) + framed(`{"jsonrpc":"2.0","method":"textDocument/didChange","params":{"textDocument":{"uri":"file://`+dir+`/a.css"},"contentChanges":[{"range":{"start":{"line":9,"character":9},"end":{"line":0,"character":0}},"text":"x"}]}}`) + end, nil, 0},
		"a text of many braces":   {framed(hello) + doc(strings.Repeat(".a{", 300000)) + end, nil, 0},
		"a text of many quotes":   {framed(hello) + doc(strings.Repeat("a:url(\"", 200000)) + end, nil, 0},
		"JSON nested deep":        {framed(hello) + framed(`{"jsonrpc":"2.0","id":5,"method":"textDocument/hover","params":`+deep+`}`) + end, []int{-32700}, 0},
	} {
		t.Run(name, func(t *testing.T) {
			s := speak(t, dir, strings.NewReader(x.in))
			var codes []int
			for _, a := range s.answers {
				if a.Error != nil {
					codes = append(codes, a.Error.Code)
				}
			}
			if fmt.Sprint(codes) != fmt.Sprint(x.codes) || s.status != x.status {
				t.Errorf("errors %v, want %v; status %d, want %d\n%.2000s", codes, x.codes, s.status, x.status, s.log)
			}
			if strings.Contains(s.log, "goroutine") {
				t.Errorf("a panic: %.3000s", s.log)
			}
		})
	}
}

// TestAMessageOf100MB is answered with an error, and the next message as ever; the memory does not grow with it.
func TestAMessageOf100MB(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	const size = 100 << 20
	big := io.MultiReader(strings.NewReader(framed(hello)+fmt.Sprintf("Content-Length: %d\r\n\r\n", size)),
		io.LimitReader(endless('x'), size), strings.NewReader(framed(goodbye)+framed(leave)))
	s := speak(t, dir, big)
	var got bytes.Buffer
	for _, a := range s.answers {
		if a.Error != nil {
			fmt.Fprintf(&got, "%v %d %s\n", a.ID, a.Error.Code, a.Error.Message)
		}
	}
	if want := "<nil> -32600 a message of 100 MB is too large; 32 MB is the most\n"; got.String() != want || s.status != 0 {
		t.Errorf("got %sstatus %d, want %s", got.String(), s.status, want)
	}
}

// endless is a reader of one byte again and again.
type endless byte

func (e endless) Read(p []byte) (int, error) {
	for i := range p {
		p[i] = byte(e)
	}
	return len(p), nil
}

// TestAWorkspaceThatDisappears answers on, and ends cleanly.
func TestAWorkspaceThatDisappears(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	c := startEditor(t, dir, obj{})
	c.labels("a.css", ".x { color: | }", 1)
	if err := os.Rename(dir, dir+"-gone"); err != nil {
		t.Fatal(err)
	}
	defer os.Rename(dir+"-gone", dir)
	for _, text := range []string{".x { color: | }", ".x { padding: | }", ".bad|ge { }"} {
		c.items("a.css", text)
		c.hovered("a.css", text)
	}
	c.ask("shutdown", nil, nil)
}

// TestOutsideOfAWorkspace offers nothing and finds nothing.
func TestOutsideOfAWorkspace(t *testing.T) {
	t.Parallel()
	c := startEditor(t, t.TempDir(), obj{})
	if got := c.items("a.css", ".x { color: | }"); got != nil {
		t.Errorf("offered: %v", got)
	}
	if got := c.hovered("a.css", ".x { color: #fff| }"); got != "" {
		t.Errorf("hovered: %s", got)
	}
	c.ask("textDocument/documentColor", obj{"textDocument": obj{"uri": c.uri("a.css")}}, nil)
}

// testdata is a file of this package's test data.
func testdata(t *testing.T, name string) string {
	t.Helper()
	p, err := filepath.Abs(filepath.Join("testdata", name))
	if err != nil {
		t.Fatal(err)
	}
	return p
}
