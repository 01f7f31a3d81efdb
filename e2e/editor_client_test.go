package e2e

import (
	"context"
	"encoding/json"
	"io"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/sourcegraph/jsonrpc2"
)

// obj is an object of JSON.
type obj = map[string]any

// editorClient is an editor that speaks to the built program.
type editorClient struct {
	t    testing.TB
	dir  string
	conn *jsonrpc2.Conn
	cmd  *exec.Cmd

	mu       sync.Mutex
	changed  *sync.Cond
	found    map[string][]finding // diagnostics by file
	versions map[string]int       // of the text that they are about
	messages []string
	open     map[string]int // versions
}

type place struct{ Line, Character int }

type span struct{ Start, End place }

type finding struct {
	Range    span
	Severity int
	Code     string
	Message  string
}

type item struct {
	Label, Detail, FilterText string
	Kind                      int
	Documentation             struct{ Value string }
	TextEdit                  struct {
		Range   span
		NewText string
	}
	Command *struct {
		Command   string
		Arguments []any
	}
}

// pipes joins the two ends of a process.
type pipes struct {
	io.Reader
	io.WriteCloser
}

// startEditor starts the language server in a workspace. capabilities are the client's.
func startEditor(t testing.TB, dir string, capabilities obj) *editorClient {
	t.Helper()
	c := &editorClient{t: t, dir: dir, found: map[string][]finding{}, versions: map[string]int{}, open: map[string]int{}}
	c.changed = sync.NewCond(&c.mu)
	c.cmd = exec.Command(program, "editor")
	c.cmd.Dir = dir
	in, err := c.cmd.StdinPipe()
	if err != nil {
		t.Fatal(err)
	}
	out, err := c.cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	var log logBuffer
	c.cmd.Stderr = &log
	if err := c.cmd.Start(); err != nil {
		t.Fatal(err)
	}
	c.conn = jsonrpc2.NewConn(context.Background(), jsonrpc2.NewBufferedStream(pipes{out, in}, jsonrpc2.VSCodeObjectCodec{}),
		jsonrpc2.HandlerWithError(c.notified))
	t.Cleanup(func() {
		c.conn.Close()
		in.Close()
		done := make(chan error, 1)
		go func() { done <- c.cmd.Wait() }()
		select {
		case <-done:
		case <-time.After(20 * time.Second):
			t.Error("the server does not end")
			_ = c.cmd.Process.Kill()
		}
		if s := log.String(); s != "" {
			t.Errorf("the server logged:\n%s", s)
		}
	})
	c.ask("initialize", obj{"processId": nil, "rootUri": "file://" + dir, "capabilities": capabilities}, nil)
	c.tell("initialized", obj{})
	return c
}

// logBuffer is what a process writes to its standard error.
type logBuffer struct {
	mu sync.Mutex
	b  strings.Builder
}

func (l *logBuffer) Write(p []byte) (int, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.b.Write(p)
}

func (l *logBuffer) String() string {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.b.String()
}

// notified keeps what the server sends.
func (c *editorClient) notified(_ context.Context, _ *jsonrpc2.Conn, r *jsonrpc2.Request) (any, error) {
	c.mu.Lock()
	defer c.mu.Unlock()
	defer c.changed.Broadcast()
	switch r.Method {
	case "textDocument/publishDiagnostics":
		var p struct {
			URI         string
			Version     int
			Diagnostics []finding
		}
		_ = json.Unmarshal(*r.Params, &p)
		name := strings.TrimPrefix(p.URI, "file://"+c.dir+"/")
		c.found[name], c.versions[name] = p.Diagnostics, p.Version
	case "window/showMessage":
		var p struct{ Message string }
		_ = json.Unmarshal(*r.Params, &p)
		c.messages = append(c.messages, p.Message)
	}
	return nil, nil
}

// ask sends a request and reads its answer.
func (c *editorClient) ask(method string, params, into any) {
	c.t.Helper()
	if err := c.try(method, params, into); err != nil {
		c.t.Fatalf("%s: %v", method, err)
	}
}

func (c *editorClient) try(method string, params, into any) error {
	ctx, cancel := context.WithTimeout(context.Background(), 30*time.Second)
	defer cancel()
	var raw json.RawMessage
	if err := c.conn.Call(ctx, method, params, &raw); err != nil {
		return err
	}
	if into == nil {
		return nil
	}
	return json.Unmarshal(raw, into)
}

func (c *editorClient) tell(method string, params any) {
	c.t.Helper()
	if err := c.conn.Notify(context.Background(), method, params); err != nil {
		c.t.Fatalf("%s: %v", method, err)
	}
}

func (c *editorClient) uri(name string) string {
	return "file://" + filepath.ToSlash(c.dir) + "/" + name
}

// languageIDs are what editors call the languages of files.
var languageIDs = map[string]string{".css": "css", ".scss": "scss", ".html": "html", ".tsx": "typescriptreact", ".vue": "vue", ".json": "json", ".svg": "svg", ".yaml": "yaml"}

// show opens a text in which a bar is the caret, or changes it where it is open, and gives the caret's place.
func (c *editorClient) show(name, text string) obj {
	c.t.Helper()
	at := strings.IndexByte(text, '|')
	line, column := 0, 0
	if at >= 0 {
		text = text[:at] + text[at+1:]
		line = strings.Count(text[:at], "\n")
		column = len([]rune(text[strings.LastIndexByte(text[:at], '\n')+1 : at]))
	}
	c.mu.Lock()
	version := c.open[name] + 1
	c.open[name] = version
	c.mu.Unlock()
	if version == 1 {
		c.tell("textDocument/didOpen", obj{"textDocument": obj{"uri": c.uri(name), "languageId": languageIDs[filepath.Ext(name)], "version": 1, "text": text}})
	} else {
		c.tell("textDocument/didChange", obj{"textDocument": obj{"uri": c.uri(name), "version": version}, "contentChanges": []obj{{"text": text}}})
	}
	return obj{"textDocument": obj{"uri": c.uri(name)}, "position": obj{"line": line, "character": column}}
}

// items are what is offered at the caret.
func (c *editorClient) items(name, text string) []item {
	c.t.Helper()
	var list struct{ Items []item }
	c.ask("textDocument/completion", c.show(name, text), &list)
	return list.Items
}

// labels are the first labels of what is offered at the caret.
func (c *editorClient) labels(name, text string, most int) (out []string) {
	c.t.Helper()
	for _, it := range c.items(name, text) {
		if len(out) == most {
			break
		}
		out = append(out, it.Label)
	}
	return out
}

// hovered is the hover text at the caret.
func (c *editorClient) hovered(name, text string) string {
	c.t.Helper()
	var h *struct{ Contents struct{ Value string } }
	c.ask("textDocument/hover", c.show(name, text), &h)
	if h == nil {
		return ""
	}
	return h.Contents.Value
}

// findings are what is found in a text, once the server has looked at it.
func (c *editorClient) findings(name, text string) []finding {
	c.t.Helper()
	c.show(name, text)
	return c.published(name, func([]finding) bool { return true })
}

// published waits for diagnostics of the text as it is now.
func (c *editorClient) published(name string, ok func([]finding) bool) []finding {
	c.t.Helper()
	var found []finding
	c.wait("diagnostics of "+name, func() bool {
		found = c.found[name]
		return c.versions[name] == c.open[name] && ok(found)
	})
	return found
}

// said waits for a message.
func (c *editorClient) said(part string) {
	c.t.Helper()
	c.wait("the message "+part, func() bool { return strings.Contains(strings.Join(c.messages, "\n"), part) })
}

// wait waits until something holds.
func (c *editorClient) wait(what string, holds func() bool) {
	c.t.Helper()
	late := time.AfterFunc(20*time.Second, c.changed.Broadcast)
	defer late.Stop()
	end := time.Now().Add(20 * time.Second)
	c.mu.Lock()
	defer c.mu.Unlock()
	for !holds() {
		if time.Now().After(end) {
			c.t.Fatalf("no %s\nmessages: %q\nfindings: %+v", what, c.messages, c.found)
		}
		c.changed.Wait()
	}
}
