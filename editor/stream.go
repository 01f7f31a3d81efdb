package editor

import (
	"bufio"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"sync"

	"github.com/sourcegraph/jsonrpc2"
)

// Bounds of a message.
const (
	maxMessage = 32 << 20 // bytes; larger ones are passed over
	maxHeader  = 4 << 10  // bytes of a line
)

// stream reads and writes messages with the headers of the base protocol. What is too large or no JSON is answered with
// an error, and the next message is read.
// https://microsoft.github.io/language-server-protocol/specifications/lsp/3.17/specification/#baseProtocol
type stream struct {
	in  *bufio.Reader
	out io.Writer
	to  io.Closer
	mu  sync.Mutex // of out
}

func newStream(in io.Reader, out io.Writer, to io.Closer) *stream {
	return &stream{in: bufio.NewReaderSize(in, 64<<10), out: out, to: to}
}

// ReadObject reads the next message.
func (s *stream) ReadObject(v any) error {
	for {
		n, err := s.header()
		if err != nil {
			return err
		}
		if n > maxMessage {
			if _, err := io.CopyN(io.Discard, s.in, n); err != nil {
				return err
			}
			s.refuse(jsonrpc2.CodeInvalidRequest, fmt.Sprintf("a message of %d MB is too large; %d MB is the most", n>>20, maxMessage>>20))
			continue
		}
		data := make([]byte, n)
		if _, err := io.ReadFull(s.in, data); err != nil {
			return err
		}
		if !json.Valid(data) {
			s.refuse(jsonrpc2.CodeParseError, "the message is no JSON")
			continue
		}
		if err := json.Unmarshal(data, v); err != nil {
			s.refuse(jsonrpc2.CodeInvalidRequest, "the message is neither a request nor a response: "+err.Error())
			continue
		}
		return nil
	}
}

// header reads the headers of a message, and gives the length of what follows.
func (s *stream) header() (int64, error) {
	length := int64(-1)
	for {
		line, err := s.in.ReadSlice('\n')
		if errors.Is(err, bufio.ErrBufferFull) || len(line) > maxHeader {
			return 0, errors.New("this is no message of the Language Server Protocol: a line of its header has no end")
		}
		if err != nil {
			return 0, err
		}
		text := strings.TrimRight(string(line), "\r\n")
		if text == "" {
			if length < 0 {
				continue // between messages
			}
			return length, nil
		}
		name, value, ok := strings.Cut(text, ":")
		if !ok {
			return 0, fmt.Errorf("this is no header of the Language Server Protocol: %.60q", text)
		}
		if strings.EqualFold(strings.TrimSpace(name), "Content-Length") {
			length, err = strconv.ParseInt(strings.TrimSpace(value), 10, 64)
			if err != nil || length < 0 {
				return 0, fmt.Errorf("Content-Length is no number of bytes: %.60q", value)
			}
		}
	}
}

// refuse answers a message whose sender cannot be known.
func (s *stream) refuse(code int64, msg string) {
	_ = s.WriteObject(map[string]any{"jsonrpc": "2.0", "id": nil, "error": jsonrpc2.Error{Code: code, Message: msg}})
}

// WriteObject writes a message.
func (s *stream) WriteObject(v any) error {
	data, err := json.Marshal(v)
	if err != nil {
		return err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	if _, err := fmt.Fprintf(s.out, "Content-Length: %d\r\n\r\n", len(data)); err != nil {
		return err
	}
	_, err = s.out.Write(data)
	return err
}

// Close ends the stream.
func (s *stream) Close() error { return s.to.Close() }
