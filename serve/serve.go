// Package serve serves files on this machine's own address, for the demo's site.
package serve

import (
	"context"
	"errors"
	"io/fs"
	"net"
	"net/http"
	"path"
	"strings"
	"time"

	"archetyp/core/hint"
)

// Folder serves the folder site of a workspace, with the fonts beside it, until the context ends. It listens on this
// machine alone. started is told the address.
func Folder(ctx context.Context, files fs.FS, address string, started func(at string)) error {
	host, _, err := net.SplitHostPort(address)
	if ip := net.ParseIP(host); err != nil || host != "localhost" && (ip == nil || !ip.IsLoopback()) {
		return hint.New(address+" is not this machine's own address", "For example: 127.0.0.1:8085")
	}
	l, err := net.Listen("tcp", address)
	if err != nil {
		return hint.New(address+" is taken: something listens there already", "Choose another with --address 127.0.0.1:8086.")
	}
	s := &http.Server{Handler: handler(files), ReadHeaderTimeout: 5 * time.Second}
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
