package site

import (
	"context"
	"errors"
	"net"
	"net/netip"
	"net/url"
	"sync"
	"syscall"
	"time"
)

// errPrivate is the error of an address that must not be dialled.
var errPrivate = errors.New("a public site leads to a private address, which is not followed")

// guard keeps a public site from reaching private addresses. It judges the addresses that are dialled, after names are
// resolved, so that a name that comes to mean another address does not help.
type guard struct {
	host string // of the site, with its port
	mu   sync.Mutex
	kind kind // of the site's own address
}

type kind uint8

const (
	unknown kind = iota
	public
	private
)

// hostPort is the host of an address with its port.
func hostPort(u *url.URL) string {
	port := u.Port()
	if port == "" {
		port = map[string]string{"http": "80", "https": "443"}[u.Scheme]
	}
	return net.JoinHostPort(u.Hostname(), port)
}

// dial connects to a host, unless that would lead from a public site to a private address.
func (g *guard) dial(ctx context.Context, network, host string) (net.Conn, error) {
	own := host == g.host
	if !own {
		g.learn(ctx)
	}
	d := net.Dialer{Timeout: 10 * time.Second, Control: func(_, address string, _ syscall.RawConn) error { return g.allow(own, address) }}
	return d.DialContext(ctx, network, host)
}

// learn finds out what the site's own address is, where it was not dialled yet. A site that cannot be found is public.
func (g *guard) learn(ctx context.Context) {
	g.mu.Lock()
	defer g.mu.Unlock()
	if g.kind != unknown {
		return
	}
	name, _, _ := net.SplitHostPort(g.host)
	list, err := net.DefaultResolver.LookupNetIP(ctx, "ip", name)
	g.kind = public
	if err == nil && len(list) > 0 {
		g.kind = private
		for _, a := range list {
			if !isPrivate(a) {
				g.kind = public
			}
		}
	}
}

// allow judges an address before it is dialled. The first of the site itself says whether the site is private.
func (g *guard) allow(own bool, address string) error {
	ap, err := netip.ParseAddrPort(address)
	if err != nil {
		return err
	}
	g.mu.Lock()
	defer g.mu.Unlock()
	is := isPrivate(ap.Addr())
	if own && g.kind == unknown {
		g.kind = public
		if is {
			g.kind = private
		}
	}
	if is && g.kind != private {
		return errPrivate
	}
	return nil
}

// isPrivate reports whether the site is known to have a private address.
func (g *guard) isPrivate() bool {
	g.mu.Lock()
	defer g.mu.Unlock()
	return g.kind == private
}

// isPrivate reports whether an address is of this machine or of a network that the world does not see.
func isPrivate(a netip.Addr) bool {
	a = a.Unmap()
	if a.IsLoopback() || a.IsPrivate() || a.IsLinkLocalUnicast() || a.IsUnspecified() || a.IsMulticast() || a.IsInterfaceLocalMulticast() || a.IsLinkLocalMulticast() {
		return true
	}
	for _, p := range reserved {
		if p.Contains(a) {
			return true
		}
	}
	return false
}

// reserved are networks that lead nowhere public: shared address space, benchmarks, documentation, translation.
var reserved = []netip.Prefix{netip.MustParsePrefix("100.64.0.0/10"), netip.MustParsePrefix("192.0.0.0/24"), netip.MustParsePrefix("198.18.0.0/15"),
	netip.MustParsePrefix("192.0.2.0/24"), netip.MustParsePrefix("198.51.100.0/24"), netip.MustParsePrefix("203.0.113.0/24"), netip.MustParsePrefix("240.0.0.0/4"),
	netip.MustParsePrefix("64:ff9b::/96"), netip.MustParsePrefix("2001:db8::/32"), netip.MustParsePrefix("0.0.0.0/8")}
