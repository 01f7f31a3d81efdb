//go:build unix

package workspace

import (
	"os/exec"
	"syscall"
)

// nonblock keeps the opening of a FIFO from waiting for its other end; noFollow refuses a link as the last part.
const (
	nonblock = syscall.O_NONBLOCK
	noFollow = syscall.O_NOFOLLOW
)

// ownGroup has a command and all it starts stopped together.
func ownGroup(c *exec.Cmd) {
	c.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	c.Cancel = func() error { return syscall.Kill(-c.Process.Pid, syscall.SIGKILL) }
}
