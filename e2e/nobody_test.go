package e2e

import (
	"os"
	"os/exec"
	"path/filepath"
	"syscall"
	"testing"
)

// nobody is a user without rights.
const nobody = 65534

// openFor lets everybody work in a folder and below, and reach it.
func openFor(dir string) error {
	for d := dir; d != filepath.Dir(d); d = filepath.Dir(d) {
		if info, err := os.Stat(d); err == nil && info.Mode().Perm()&0o5 != 0o5 && os.Getuid() == 0 {
			if err := os.Chmod(d, info.Mode().Perm()|0o755); err != nil {
				return err
			}
		}
	}
	return filepath.Walk(dir, func(p string, info os.FileInfo, err error) error {
		if err != nil {
			return err
		}
		return os.Chmod(p, info.Mode().Perm()|0o666|dirBits(info))
	})
}

func dirBits(info os.FileInfo) os.FileMode {
	if info.IsDir() {
		return 0o777
	}
	return 0
}

// asNobody runs the program as a user whom the file system can refuse something.
func asNobody(t testing.TB, dir string, args ...string) result {
	t.Helper()
	for d := program; d != filepath.Dir(d); d = filepath.Dir(d) { // the program is in a folder of ours
		if info, err := os.Stat(d); err == nil && info.Mode().Perm()&0o5 != 0o5 {
			_ = os.Chmod(d, info.Mode().Perm()|0o755)
		}
	}
	cmd := exec.Command(program, args...)
	cmd.Dir = dir
	if os.Getuid() == 0 {
		cmd.SysProcAttr = &syscall.SysProcAttr{Credential: &syscall.Credential{Uid: nobody, Gid: nobody}}
	}
	return finish(t, cmd)
}
