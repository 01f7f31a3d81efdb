// Package editor is the language server: it offers the design's values to whatever editor speaks the Language Server
// Protocol. It keeps the texts that are open, reads the workspace around them, and asks job and core for every answer;
// nothing is computed here but places in texts. Messages go in and come out; files are only written by commands that a
// person chose.
package editor

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"runtime"
	"runtime/debug"
	"slices"
	"sync"
	"time"

	"archetyp/job"

	"github.com/sourcegraph/jsonrpc2"
)

// Server answers one client.
type Server struct {
	log io.Writer // what goes wrong inside; never nil

	conn *jsonrpc2.Conn
	mu   sync.Mutex // of what follows

	begun, shut bool // initialize, shutdown
	client      client
	docs        map[string]*document // by URI; replaced as a whole
	spaces      map[string]*space    // by the folder of the workspace
	running     map[jsonrpc2.ID]context.CancelFunc
	exit        chan int
	once        sync.Once
	work        sync.WaitGroup
	ctx         context.Context // ends with the server
	lives       lives
	idleSince   *time.Timer // collects garbage when nobody has typed for a while
}

// client is what the client can do.
type client struct {
	encoding     encoding
	pictures     bool // it shows pictures in Markdown
	resolves     bool // it asks for an item's documentation later
	labelDetails bool
	showDocument bool
	changes      bool // it takes edits of documents with their versions
	watches      bool // it can be asked to watch files
	nested       bool // symbols in symbols
}

// errNotBegun and the like are errors of the protocol.
var (
	errNotBegun  = &jsonrpc2.Error{Code: -32002, Message: "the server waits for initialize"}
	errShut      = &jsonrpc2.Error{Code: jsonrpc2.CodeInvalidRequest, Message: "the server was shut down"}
	errCancelled = &jsonrpc2.Error{Code: -32800, Message: "the request was cancelled"}
)

// Every keystroke in a long text leaves garbage behind, and whoever types should not wait while it is collected: that is
// done in the pauses. Until then the memory grows by so much per cent of what is in use, and to no more than a bound.
const (
	collectAt   = 1000
	collectMost = 300 << 20 // bytes
	pause       = time.Second
)

// Serve answers a client until it says exit, or its end of the pipe is closed. The status is that of the process: 1 for
// an exit without a shutdown before it.
func Serve(ctx context.Context, in io.Reader, out io.Writer, log io.Writer) (status int, err error) {
	ctx, end := context.WithCancel(ctx)
	defer end()
	defer debug.SetGCPercent(debug.SetGCPercent(collectAt))
	defer debug.SetMemoryLimit(debug.SetMemoryLimit(collectMost))
	s := &Server{log: log, docs: map[string]*document{}, spaces: map[string]*space{}, running: map[jsonrpc2.ID]context.CancelFunc{},
		exit: make(chan int, 1), ctx: ctx, client: client{encoding: utf16Units}}
	s.idleSince = time.AfterFunc(pause, runtime.GC)
	defer s.idleSince.Stop()
	broken, begin := make(chan error, 1), make(chan struct{})
	st := newStream(in, out, closer(func() error { return nil }))
	s.conn = jsonrpc2.NewConn(ctx, watched{st, broken, begin}, handler{s}, jsonrpc2.SetLogger(discard{}))
	close(begin)
	select {
	case status = <-s.exit:
	case err = <-broken:
		if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, io.ErrClosedPipe) {
			err = nil // the client is gone
		}
	case <-ctx.Done():
	}
	end()
	s.work.Wait()
	return status, err
}

type closer func() error

func (c closer) Close() error { return c() }

type discard struct{}

func (discard) Printf(string, ...any) {}

// watched is a stream that waits with reading until the connection is there, and reports the error with which it ended.
type watched struct {
	*stream
	broken chan error
	begin  chan struct{}
}

// ReadObject reads the next message.
func (w watched) ReadObject(v any) error {
	<-w.begin
	err := w.stream.ReadObject(v)
	if err != nil {
		w.broken <- err
	}
	return err
}

// call is a request as it is handled: the server as it was when it came.
type call struct {
	*Server
	client client
	docs   map[string]*document
}

type method func(ctx context.Context, c *call, params json.RawMessage) (any, error)

// with reads the parameters of a method.
func with[P any](f func(ctx context.Context, c *call, p *P) (any, error)) method {
	return func(ctx context.Context, c *call, params json.RawMessage) (any, error) {
		p := new(P)
		if len(params) > 0 {
			if err := json.Unmarshal(params, p); err != nil {
				return nil, &jsonrpc2.Error{Code: jsonrpc2.CodeInvalidParams, Message: err.Error()}
			}
		}
		return f(ctx, c, p)
	}
}

// requests are answered side by side, each with the texts as they were when it came.
var requests = map[string]method{
	"textDocument/completion":        with(complete),
	"completionItem/resolve":         with(resolveItem),
	"textDocument/hover":             with(hoverAt),
	"textDocument/codeAction":        with(actions),
	"textDocument/documentHighlight": with(highlights),
	"textDocument/documentColor":     with(documentColors),
	"textDocument/colorPresentation": with(colorPresentations),
	"textDocument/definition":        with(definition),
	"textDocument/references":        with(references),
	"textDocument/prepareRename":     with(prepareRename),
	"textDocument/rename":            with(rename),
	"textDocument/documentSymbol":    with(symbols),
	"textDocument/codeLens":          with(lenses),
	"codeLens/resolve":               with(resolveLens),
	"workspace/executeCommand":       with(execute),
}

// notifications are handled in the order they come.
var notifications = map[string]method{
	"initialized":                      with(initialized),
	"textDocument/didOpen":             with(didOpen),
	"textDocument/didChange":           with(didChange),
	"textDocument/didClose":            with(didClose),
	"textDocument/didSave":             with(didSave),
	"workspace/didChangeWatchedFiles":  with(filesChanged),
	"workspace/didChangeConfiguration": nil,
	"$/setTrace":                       nil,
}

// handler is called for one message after another.
type handler struct{ *Server }

// Handle handles a message: requests go on by themselves.
func (s handler) Handle(ctx context.Context, conn *jsonrpc2.Conn, r *jsonrpc2.Request) {
	if r.Notif {
		s.notified(ctx, r)
		return
	}
	var params json.RawMessage
	if r.Params != nil {
		params = *r.Params
	}
	reply := func(result any, err error) {
		if err != nil {
			var e *jsonrpc2.Error
			if !errors.As(err, &e) {
				e = &jsonrpc2.Error{Code: -32803, Message: err.Error()} // RequestFailed
			}
			_ = conn.ReplyWithError(ctx, r.ID, e)
			return
		}
		_ = conn.Reply(ctx, r.ID, result)
	}
	s.mu.Lock()
	begun, shut := s.begun, s.shut
	s.mu.Unlock()
	switch {
	case r.Method == "initialize" && !begun:
		reply(s.safely(ctx, r.Method, with(initialize), params))
		return
	case r.Method == "initialize":
		reply(nil, &jsonrpc2.Error{Code: jsonrpc2.CodeInvalidRequest, Message: "the server was initialized before"})
		return
	case !begun:
		reply(nil, errNotBegun)
		return
	case r.Method == "shutdown":
		s.mu.Lock()
		s.shut = true
		s.mu.Unlock()
		s.idle(farewell)
		reply(nil, nil)
		return
	case shut:
		reply(nil, errShut)
		return
	}
	m, ok := requests[r.Method]
	if !ok {
		reply(nil, &jsonrpc2.Error{Code: jsonrpc2.CodeMethodNotFound, Message: "there is no method " + r.Method})
		return
	}
	request, cancel := context.WithCancel(ctx)
	s.mu.Lock()
	s.running[r.ID] = cancel
	s.mu.Unlock()
	c := s.call()
	s.work.Go(func() {
		result, err := c.safely(request, r.Method, m, params)
		if request.Err() != nil {
			err = errCancelled
		}
		cancel()
		reply(result, err)
		s.mu.Lock()
		delete(s.running, r.ID)
		s.mu.Unlock()
	})
}

// farewell is how long a shutdown waits for requests that are still being answered.
const farewell = 2 * time.Second

// idle waits until no request is being answered, but not for longer than most.
func (s *Server) idle(most time.Duration) {
	for end := time.Now().Add(most); time.Now().Before(end); time.Sleep(time.Millisecond) {
		s.mu.Lock()
		n := len(s.running)
		s.mu.Unlock()
		if n == 0 {
			return
		}
	}
}

// notified handles what wants no answer.
func (s handler) notified(ctx context.Context, r *jsonrpc2.Request) {
	switch r.Method {
	case "exit":
		s.mu.Lock()
		status := 1
		if s.shut {
			status = 0
		}
		s.mu.Unlock()
		s.once.Do(func() { s.exit <- status })
		return
	case "$/cancelRequest":
		var p struct {
			ID jsonrpc2.ID `json:"id"`
		}
		if r.Params != nil && json.Unmarshal(*r.Params, &p) == nil {
			s.mu.Lock()
			if cancel := s.running[p.ID]; cancel != nil {
				cancel()
			}
			s.mu.Unlock()
		}
		return
	}
	s.mu.Lock()
	ready := s.begun && !s.shut
	s.mu.Unlock()
	if m := notifications[r.Method]; m != nil && ready && r.Params != nil {
		if _, err := s.call().safely(ctx, r.Method, m, *r.Params); err != nil {
			s.logf("%s: %v", r.Method, err)
		}
	}
}

// call is the server as it is now.
func (s *Server) call() *call {
	s.mu.Lock()
	defer s.mu.Unlock()
	return &call{s, s.client, s.docs}
}

// safely calls a method; a panic is the error of this one request.
func (s handler) safely(ctx context.Context, name string, m method, params json.RawMessage) (any, error) {
	return s.call().safely(ctx, name, m, params)
}

func (c *call) safely(ctx context.Context, name string, m method, params json.RawMessage) (result any, err error) {
	defer func() {
		if r := recover(); r != nil {
			c.logf("%s: %v\n%s", name, r, debug.Stack())
			err = &jsonrpc2.Error{Code: jsonrpc2.CodeInternalError, Message: fmt.Sprintf("%s failed inside: %v", name, r)}
		}
	}()
	return m(ctx, c, params)
}

func (s *Server) logf(format string, args ...any) { fmt.Fprintf(s.log, format+"\n", args...) }

// message shows a message to the person.
func (s *Server) message(kind int, msg string) {
	_ = s.conn.Notify(s.ctx, "window/showMessage", messageParams{kind, msg})
}

// initialize agrees on what each side can do.
func initialize(_ context.Context, c *call, p *initializeParams) (any, error) {
	caps := &p.Capabilities
	cl := client{encoding: utf16Units}
	for _, e := range caps.General.PositionEncodings {
		if e := encoding(e); e == utf8Units || e == utf16Units || e == utf32Units {
			cl.encoding = e
			break
		}
	}
	cl.pictures = caps.General.Markdown.Parser == "marked"
	if on := p.InitializationOptions.Pictures; on != nil {
		cl.pictures = *on
	}
	item := caps.TextDocument.Completion.CompletionItem
	cl.resolves = slices.Contains(item.ResolveSupport.Properties, "documentation")
	cl.labelDetails = item.LabelDetailsSupport
	cl.showDocument = caps.Window.ShowDocument != nil && caps.Window.ShowDocument.Support
	cl.changes = caps.Workspace.WorkspaceEdit.DocumentChanges
	cl.watches = caps.Workspace.DidChangeWatchedFiles.DynamicRegistration
	cl.nested = caps.TextDocument.DocumentSymbol.Hierarchical
	c.mu.Lock()
	c.begun, c.Server.client = true, cl
	c.mu.Unlock()
	for _, root := range roots(p) {
		c.work.Go(func() { c.spaceOf(root + "/.") }) // read while the client is busy itself
	}
	return map[string]any{
		"serverInfo": map[string]string{"name": "archetyp", "version": job.Program},
		"capabilities": map[string]any{
			"positionEncoding": cl.encoding,
			"textDocumentSync": map[string]any{"openClose": true, "change": 2, "save": map[string]bool{"includeText": false}},
			"completionProvider": map[string]any{"triggerCharacters": []string{":", " ", "(", "-", "\"", "'", "#", "{", "/", "."},
				"resolveProvider": true},
			"hoverProvider":             true,
			"documentHighlightProvider": true,
			"codeActionProvider":        map[string]any{"codeActionKinds": []string{"quickfix", "source.fixAll", "refactor"}},
			"colorProvider":             true,
			"definitionProvider":        true,
			"referencesProvider":        true,
			"renameProvider":            map[string]bool{"prepareProvider": true},
			"documentSymbolProvider":    true,
			"codeLensProvider":          map[string]bool{"resolveProvider": true},
			"executeCommandProvider":    map[string]any{"commands": commandNames()},
		},
	}, nil
}

// roots are the folders that a client opens.
func roots(p *initializeParams) (out []string) {
	for _, f := range p.WorkspaceFolders {
		if file := pathOf(f.URI); file != "" {
			out = append(out, file)
		}
	}
	if len(out) == 0 && pathOf(p.RootURI) != "" {
		out = append(out, pathOf(p.RootURI))
	}
	if len(out) == 0 && p.RootPath != "" {
		out = append(out, p.RootPath)
	}
	return out
}

// initialized asks the client to watch files, where it can: what the file system says is watched here as well.
func initialized(_ context.Context, c *call, _ *struct{}) (any, error) {
	if c.client.watches {
		c.work.Go(func() {
			_ = c.conn.Call(c.ctx, "client/registerCapability", map[string]any{"registrations": []any{map[string]any{
				"id": "files", "method": "workspace/didChangeWatchedFiles", "registerOptions": map[string]any{"watchers": []any{
					map[string]string{"globPattern": "**/*.{json,yaml,svg,ora,html,css,scss,md}"}}}}}}, nil)
		})
	}
	return nil, nil
}
