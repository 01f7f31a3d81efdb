//go:build unix

package workspace

import "syscall"

// nonblock keeps the opening of a FIFO from waiting for its other end; noFollow refuses a link as the last part.
const (
	nonblock = syscall.O_NONBLOCK
	noFollow = syscall.O_NOFOLLOW
)
