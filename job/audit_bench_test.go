package job

import (
	"testing"
)

// BenchmarkAudit audits 200 drawings, and reads them alone in the same run.
func BenchmarkAudit(b *testing.B) {
	dir := menus(b, 200)
	b.Run("reading", func(b *testing.B) {
		for b.Loop() {
			ws := open(b, dir)
			s, err := Read(b.Context(), ws)
			if err == nil {
				_, err = s.Docs()
			}
			if err != nil {
				b.Fatal(err)
			}
			ws.Close()
		}
	})
	b.Run("audit", func(b *testing.B) {
		for b.Loop() {
			ws := open(b, dir)
			s, err := Read(b.Context(), ws)
			if err == nil {
				_, err = Audit(s, ws, true)
			}
			if err != nil {
				b.Fatal(err)
			}
			ws.Close()
		}
	})
}
