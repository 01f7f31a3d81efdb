package serve

import (
	"context"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/hex"
	"encoding/json"
	"errors"
	"io"
	"net"
	"net/http"
	"net/url"
	"strings"

	"archetyp/core/hint"
)

// admits reports whether a request is answered; if not, it says why. Without a secret only this machine is, by one of its
// own names, since another site may give it a name of its own. With one, who asks gives it in the link once, and the
// browser keeps it.
func (g *Guide) admits(w http.ResponseWriter, r *http.Request) bool {
	origin := r.Header.Get("Origin")
	refuse := func(msg string) bool {
		http.Error(w, msg, http.StatusForbidden)
		return false
	}
	switch {
	case g.secret == "" && !isHere(r.Host):
		return refuse("this guide is served to this machine alone; ask for it as localhost")
	case origin != "" && !isOwnOrigin(origin) && !sameOrigin(origin, r):
		return refuse("this guide is served to its own pages and those of this machine alone")
	case g.secret != "" && !g.knows(w, r):
		return refuse("this guide is for those who were given its whole link, with the secret in it")
	}
	if origin != "" {
		w.Header().Set("Access-Control-Allow-Origin", origin)
	}
	return true
}

// secretName is what the secret is called in links, and kept as.
const secretName = "secret"

// knows reports whether a request has the secret. One that has it in its link keeps it for the next.
func (g *Guide) knows(w http.ResponseWriter, r *http.Request) bool {
	if given := r.URL.Query().Get(secretName); g.isSecret(given) {
		http.SetCookie(w, &http.Cookie{Name: secretName, Value: sealed(g.secret), Path: "/", HttpOnly: true, SameSite: http.SameSiteStrictMode})
		return true
	}
	kept, err := r.Cookie(secretName)
	return err == nil && subtle.ConstantTimeCompare([]byte(kept.Value), []byte(sealed(g.secret))) == 1
}

func (g *Guide) isSecret(word string) bool {
	return subtle.ConstantTimeCompare([]byte(sealed(word)), []byte(sealed(g.secret))) == 1
}

// sealed is a word as a browser keeps it.
func sealed(word string) string {
	sum := sha256.Sum256([]byte("guide " + word))
	return hex.EncodeToString(sum[:])
}

// sameOrigin reports whether a request comes from a page of the very server it asks.
func sameOrigin(origin string, r *http.Request) bool {
	u, err := url.Parse(origin)
	return err == nil && u.Scheme == "http" && strings.EqualFold(u.Host, r.Host)
}

// mostRequested is the length of a request for a change, in bytes.
const mostRequested = 64 << 10

// change answers a request for a change. It has to come from a page of this server, in a form that no form of another
// site can send.
func (g *Guide) change(w http.ResponseWriter, r *http.Request, name string) {
	name, ok := strings.CutPrefix(name, "-/edit/")
	if !ok || !sameOrigin(r.Header.Get("Origin"), r) || r.Header.Get("Content-Type") != "application/json" {
		http.Error(w, "changes come from the guide's own pages alone", http.StatusForbidden)
		return
	}
	body, err := io.ReadAll(http.MaxBytesReader(w, r.Body, mostRequested))
	var answer any
	if err == nil {
		answer, err = g.edit(context.WithoutCancel(r.Context()), name, body) // what is begun is finished
	}
	status := http.StatusOK
	if err != nil {
		said := map[string]string{"error": err.Error()}
		var h *hint.Error
		if errors.As(err, &h) {
			said["hint"] = h.Hint
		}
		answer, status = said, http.StatusUnprocessableEntity
	}
	data, err := json.Marshal(answer)
	if err != nil {
		http.Error(w, "the answer cannot be written", http.StatusInternalServerError)
		return
	}
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	_, _ = w.Write(data)
}

// IsOwn reports whether an address, with or without a port, is one of this machine's own, which no other reaches.
func IsOwn(address string) bool {
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		host = address
	}
	return isHere(host)
}
