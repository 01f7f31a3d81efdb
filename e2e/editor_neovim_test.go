package e2e

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

// neovim is a running Neovim without a screen.
type neovim struct {
	t      *testing.T
	path   string
	socket string
}

// startNeovim opens a file of a workspace in Neovim, with the language server.
func startNeovim(t *testing.T, dir, file string) *neovim {
	t.Helper()
	path := need(t, "nvim")
	setUp, err := filepath.Abs("../docs/editors/neovim-0.7.lua")
	if err != nil {
		t.Fatal(err)
	}
	n := &neovim{t, path, filepath.Join(t.TempDir(), "nvim")}
	cmd := exec.Command(path, "--headless", "--clean", "--listen", n.socket, "-c", "luafile "+setUp, "-c", "luafile "+testdata(t, "neovim.lua"), file)
	cmd.Dir = dir
	cmd.Env = append(os.Environ(), "ARCHETYP="+program, "XDG_STATE_HOME="+t.TempDir(), "XDG_DATA_HOME="+t.TempDir())
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		_ = exec.Command(path, "--server", n.socket, "--remote-send", `<C-\><C-n>:qa!<CR>`).Run()
		done := make(chan error, 1)
		go func() { done <- cmd.Wait() }()
		select {
		case <-done:
		case <-time.After(10 * time.Second):
			_ = cmd.Process.Kill()
		}
	})
	for range 100 {
		if _, err := os.Stat(n.socket); err == nil {
			break
		}
		time.Sleep(50 * time.Millisecond)
	}
	n.send(":edit<CR>") // so that the file type is found anew
	n.until("luaeval('#vim.lsp.buf_get_clients(0)')", "1")
	return n
}

// send types keys.
func (n *neovim) send(keys string) {
	n.t.Helper()
	if out, err := exec.Command(n.path, "--server", n.socket, "--remote-send", keys).CombinedOutput(); err != nil {
		n.t.Fatalf("%s: %v\n%s", keys, err, out)
	}
}

// get is the value of an expression.
func (n *neovim) get(expression string) string {
	n.t.Helper()
	out, err := exec.Command(n.path, "--server", n.socket, "--remote-expr", expression).CombinedOutput()
	if err != nil {
		n.t.Fatalf("%s: %v\n%s", expression, err, out)
	}
	return strings.TrimRight(string(out), "\n")
}

// until waits until an expression holds a text, and gives its value.
func (n *neovim) until(expression, part string) (got string) {
	n.t.Helper()
	for range 100 {
		if got = n.get(expression); strings.Contains(got, part) {
			return got
		}
		time.Sleep(50 * time.Millisecond)
	}
	n.t.Fatalf("%s never has %q: %q\n%s", expression, part, got, n.get("execute('messages')"))
	return got
}

// text is the text of the buffer.
func (n *neovim) text() string {
	n.t.Helper()
	return n.get(`join(getline(1, '$'), "\n")`)
}

// TestInNeovim types and looks in Neovim, as a person does.
func TestInNeovim(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "focus", "booking", "#pay")
	write(t, dir, "site/css/new.css", ".pay {\n}\n\n.badge { color: #10243a; background: var(--color-sea-610) }\n")
	n := startNeovim(t, dir, "site/css/new.css")

	// Completion: the element's value comes first.
	n.until("execute('messages')", "Focused: pay (design/booking.svg)")
	n.send(`ggoborder-radius: <C-x><C-o>`)
	if got := n.until("luaeval('offered()')", "--radius"); strings.Fields(got)[0] != "var(--radius-l)" {
		t.Errorf("offered: %s", got)
	}
	n.send(`<C-n><C-y>;<Esc>`)
	if got := n.text(); !strings.Contains(got, "border-radius: var(--radius-l);") {
		t.Errorf("completed: %s", got)
	}

	// Diagnostics, and a code action that mends one.
	n.until("luaeval('found()')", "did you mean --color-sea-600?")
	n.until("luaeval('found()')", "#10243a is --color-text-default")
	n.send(`/#10243a<CR>:lua choose('Write var(--color-text-default)')<CR>:lua vim.lsp.buf.code_action()<CR>`)
	n.until("getline('.')", "color: var(--color-text-default);")

	// Hover.
	n.send(`/text-default<CR>:lua vim.lsp.buf.hover()<CR>`)
	if got := n.until("luaeval('floats()')", "color.text.default"); !strings.Contains(got, "scheme.dark") {
		t.Errorf("hover: %s", got)
	}

	// Code lens on a component.
	n.send(`:lua vim.lsp.codelens.refresh()<CR>`)
	n.until("luaeval('lenses()')", "design: ")

	// Rename, saving all: what follows is brought in step.
	n.send(`:wa<CR>`)
	must(t, dir, "sync")
	n.send(`gg/text-default<CR>:lua vim.lsp.buf.rename('--color-text-plain')<CR>`)
	n.until("getline('.')", "color: var(--color-text-plain);")
	n.send(`:wa<CR>`)
	n.until("execute('messages')", "everything is in step")
	if r := run(t, dir, "sync", "--check"); r.status != 0 {
		t.Errorf("after the renaming:\n%s%s", r.out, r.err)
	}
	if !strings.Contains(read(t, dir, "dist/tokens.css"), "--color-text-plain:") {
		t.Error("the output does not have the new name")
	}

	// Definition: the token's line in its file.
	n.send(`:%s/sea-610/sea-700/<CR>/sea-700<CR>:lua vim.lsp.buf.definition()<CR>`)
	n.until("expand('%')", "tokens.json")
	if got := n.get("getline('.')"); !strings.Contains(got, `"700"`) {
		t.Errorf("definition: %s", got)
	}
}
