package editor

import (
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"archetyp/demo"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/sourcegraph/jsonrpc2"
)

// ends joins the two ends of a pipe.
type ends struct {
	io.Reader
	io.WriteCloser
}

// connected starts a server in a copy of the demo, and gives the client's side.
func connected(t *testing.T, heard func(method string)) (dir string, conn *jsonrpc2.Conn, status func() int) {
	t.Helper()
	dir = t.TempDir()
	files, err := demo.FS()
	if err == nil {
		err = os.CopyFS(dir, files)
	}
	if err != nil {
		t.Fatal(err)
	}
	ws, _, err := workspace.Open(dir, workspace.Writing, workspace.Options{})
	if err != nil {
		t.Fatal(err)
	}
	if _, err := job.Run(t.Context(), ws, job.Options{}); err != nil {
		t.Fatal(err)
	}
	ws.Close()
	toServer, fromClient := io.Pipe()
	toClient, fromServer := io.Pipe()
	ended := make(chan int, 1)
	var log strings.Builder
	go func() {
		status, err := Serve(context.Background(), toServer, fromServer, &log)
		if err != nil || log.Len() > 0 {
			t.Errorf("%v\n%s", err, log.String())
		}
		fromServer.Close()
		ended <- status
	}()
	conn = jsonrpc2.NewConn(context.Background(), jsonrpc2.NewBufferedStream(ends{toClient, fromClient}, jsonrpc2.VSCodeObjectCodec{}),
		jsonrpc2.HandlerWithError(func(_ context.Context, _ *jsonrpc2.Conn, r *jsonrpc2.Request) (any, error) {
			heard(r.Method)
			return nil, nil
		}))
	return dir, conn, func() int {
		select {
		case s := <-ended:
			return s
		case <-time.After(20 * time.Second):
			t.Fatal("the server does not end")
			return -1
		}
	}
}

// TestRequestsSideBySide asks while texts, tokens, drawings and the focus change: every request is answered, in whatever
// order.
func TestRequestsSideBySide(t *testing.T) {
	dir, conn, status := connected(t, func(string) {})
	call := func(method string, params any) error { return conn.Call(t.Context(), method, params, nil) }
	if err := call("initialize", map[string]any{"rootUri": uriOf(dir), "capabilities": map[string]any{}}); err != nil {
		t.Fatal(err)
	}
	tell := func(method string, params any) { _ = conn.Notify(t.Context(), method, params) }
	tell("initialized", map[string]any{})
	uri := uriOf(filepath.Join(dir, "a.css"))
	tell("textDocument/didOpen", map[string]any{"textDocument": textDocumentItem{uri, "css", 1, ".x { color: red; padding: 13px; background: #10243a }\n"}})
	tokens := filepath.Join(dir, "tokens/tern-and-tide.tokens.json")
	data, err := os.ReadFile(tokens)
	if err != nil {
		t.Fatal(err)
	}
	tell("textDocument/didOpen", map[string]any{"textDocument": textDocumentItem{uriOf(tokens), "json", 1, string(data)}})
	at := func(n int) map[string]any {
		return map[string]any{"textDocument": map[string]any{"uri": uri}, "position": position{0, n}}
	}
	here := lspRange{position{0, 0}, position{0, 40}}
	var all sync.WaitGroup
	for i := range 40 {
		all.Go(func() {
			for _, method := range []string{"textDocument/completion", "textDocument/hover", "textDocument/definition"} {
				if err := call(method, at(12+i%30)); err != nil {
					t.Errorf("%s: %v", method, err)
				}
			}
			for method, params := range map[string]any{
				"textDocument/codeAction": map[string]any{"textDocument": map[string]any{"uri": uri}, "range": here, "context": map[string]any{}},
				"textDocument/codeLens":   map[string]any{"textDocument": map[string]any{"uri": uri}}, "textDocument/documentColor": map[string]any{"textDocument": map[string]any{"uri": uri}},
			} {
				if err := call(method, params); err != nil {
					t.Errorf("%s: %v", method, err)
				}
			}
		})
	}
	for i := range 40 {
		tell("textDocument/didChange", map[string]any{"textDocument": map[string]any{"uri": uri, "version": i + 2},
			"contentChanges": []contentChange{{&lspRange{position{0, 5}, position{0, 5}}, " "}}})
		if i%10 == 0 {
			tell("textDocument/didChange", map[string]any{"textDocument": map[string]any{"uri": uriOf(tokens), "version": i + 2},
				"contentChanges": []contentChange{{nil, strings.Replace(string(data), "0.835294", fmt.Sprintf("0.83%d", i), 1)}}})
			ws, _, err := workspace.Find(dir)
			if err != nil {
				t.Fatal(err)
			}
			if err := job.SetFocus(t.Context(), ws, job.Focus{Source: "design/booking.svg", Selector: []string{"#pay", "#adults", "#trip-card", "#title"}[i/10]}); err != nil {
				t.Error(err)
			}
			ws.Close()
		}
	}
	all.Wait()
	if err := call("shutdown", nil); err != nil {
		t.Error(err)
	}
	tell("exit", nil)
	if s := status(); s != 0 {
		t.Errorf("status %d", s)
	}
}
