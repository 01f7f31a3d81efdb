//go:build !unix

package workspace

const (
	nonblock = 0
	noFollow = 0
)
