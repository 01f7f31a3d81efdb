package read_test

import (
	"errors"
	"testing"

	"archetyp/core/markup"
	"archetyp/core/read"
)

func TestFilesAreReadByWhatTheyBeginWith(t *testing.T) {
	d, err := read.Document("quay.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="20" height="10"/>`), read.Options{})
	if err != nil || d.Format != "svg" || d.Name != "quay.svg" || d.Screens[0].Box.W != 20 {
		t.Errorf("%+v %v", d, err)
	}
	for name, data := range map[string]string{"empty": "", "text": "quay", "a package": "PK\x03\x04rest", "a picture": "\x89PNG\r\n\x1a\n"} {
		_, err := read.Document(name, []byte(data), read.Options{})
		var me *markup.Error
		if err == nil || !errors.As(err, &me) {
			t.Errorf("%s: %v", name, err)
		}
	}
}
