// Package serve serves files on this machine's own address: the style guide with the outputs beside it, and the site of
// the demo.
package serve

import (
	"context"
	"errors"
	"io/fs"
	"net"
	"net/http"
	"path"
	"strconv"
	"strings"
	"syscall"
	"time"

	"archetyp/core/hint"
)

// Folder serves the folder site of a workspace, with the fonts beside it, until the context ends. It listens on this
// machine alone. It calls started with the address.
func Folder(ctx context.Context, files fs.FS, address string, started func(at string)) error {
	return listen(ctx, handler(files), address, false, started)
}

// listen answers on one of this machine's own addresses, or for others on any, until the context ends, which ends open
// requests too.
func listen(ctx context.Context, h http.Handler, address string, others bool, started func(at string)) error {
	host, _, err := net.SplitHostPort(address)
	if err != nil || !others && !isHere(host) {
		return hint.New(address+" is not this machine's own address", "For example: 127.0.0.1:8085")
	}
	l, err := net.Listen("tcp", address)
	if err != nil && !errors.Is(err, syscall.EADDRINUSE) {
		return hint.New("it cannot listen at "+address+": "+err.Error(), "Give an address of this machine, and a port above 1023.")
	}
	if err != nil {
		return hint.New(address+" is taken: something listens there already", "Choose another port, such as "+nextPort(address)+".")
	}
	s := &http.Server{Handler: h, ReadHeaderTimeout: 5 * time.Second, BaseContext: func(net.Listener) context.Context { return ctx }}
	started("http://" + l.Addr().String() + "/")
	done := make(chan error, 1)
	go func() { done <- s.Serve(l) }()
	select {
	case err = <-done:
	case <-ctx.Done():
		ctx, stop := context.WithTimeout(context.WithoutCancel(ctx), time.Second)
		defer stop()
		err = s.Shutdown(ctx)
	}
	if errors.Is(err, http.ErrServerClosed) || errors.Is(err, context.DeadlineExceeded) {
		return nil
	}
	return err
}

// nextPort is the address with the port after its own.
func nextPort(address string) string {
	host, port, _ := net.SplitHostPort(address)
	n, err := strconv.Atoi(port)
	if err != nil || n >= 1<<16-1 {
		n = 8085
	}
	return net.JoinHostPort(host, strconv.Itoa(n+1))
}

// handler gives the files below site, and fonts as /fonts.
func handler(files fs.FS) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method != http.MethodGet && r.Method != http.MethodHead {
			http.Error(w, "only reading is possible", http.StatusMethodNotAllowed)
			return
		}
		name := strings.TrimPrefix(path.Clean("/"+r.URL.Path), "/")
		if !strings.HasPrefix(name, "fonts/") {
			name = path.Join("site", name)
		}
		if info, err := fs.Stat(files, name); err == nil && info.IsDir() {
			name = path.Join(name, "index.html")
		}
		w.Header().Set("Cache-Control", "no-cache")
		http.ServeFileFS(w, r, files, name)
	})
}
