package editor

import "encoding/json"

// The types of the Language Server Protocol 3.17 that are used here, with the names it has for them.
// https://microsoft.github.io/language-server-protocol/specifications/lsp/3.17/specification/

type position struct {
	Line      int `json:"line"`
	Character int `json:"character"` // code units of the encoding agreed on
}

type lspRange struct {
	Start position `json:"start"`
	End   position `json:"end"`
}

type location struct {
	URI   string   `json:"uri"`
	Range lspRange `json:"range"`
}

type textDocument struct {
	URI     string `json:"uri"`
	Version *int   `json:"version,omitempty"`
}

type textDocumentItem struct {
	URI        string `json:"uri"`
	LanguageID string `json:"languageId"`
	Version    int    `json:"version"`
	Text       string `json:"text"`
}

type documentPosition struct {
	TextDocument textDocument `json:"textDocument"`
	Position     position     `json:"position"`
}

type documentParams struct {
	TextDocument textDocument `json:"textDocument"`
}

type contentChange struct {
	Range *lspRange `json:"range"` // nil for the whole text
	Text  string    `json:"text"`
}

type textEdit struct {
	Range   lspRange `json:"range"`
	NewText string   `json:"newText"`
}

type documentEdit struct {
	TextDocument versioned  `json:"textDocument"`
	Edits        []textEdit `json:"edits"`
}

// versioned names a document with its version; null where it is not open.
type versioned struct {
	URI     string `json:"uri"`
	Version *int   `json:"version"`
}

type workspaceEdit struct {
	Changes         map[string][]textEdit `json:"changes,omitempty"`
	DocumentChanges []documentEdit        `json:"documentChanges,omitempty"`
}

type markupContent struct {
	Kind  string `json:"kind"` // markdown or plaintext
	Value string `json:"value"`
}

type command struct {
	Title     string `json:"title"`
	Command   string `json:"command"`
	Arguments []any  `json:"arguments,omitempty"`
}

type completionList struct {
	IsIncomplete bool             `json:"isIncomplete"`
	Items        []completionItem `json:"items"`
}

type completionItem struct {
	Label         string         `json:"label"`
	LabelDetails  *labelDetails  `json:"labelDetails,omitempty"`
	Kind          int            `json:"kind,omitempty"`
	Tags          []int          `json:"tags,omitempty"`
	Detail        string         `json:"detail,omitempty"`
	Documentation *markupContent `json:"documentation,omitempty"`
	SortText      string         `json:"sortText,omitempty"`
	FilterText    string         `json:"filterText,omitempty"`
	Preselect     bool           `json:"preselect,omitempty"`
	TextEdit      *textEdit      `json:"textEdit,omitempty"`
	Command       *command       `json:"command,omitempty"`
	Data          *itemData      `json:"data,omitempty"`
}

type labelDetails struct {
	Description string `json:"description,omitempty"`
}

// itemData is what an item is resolved by.
type itemData struct {
	URI   string `json:"uri"`
	Token string `json:"token,omitempty"`
}

// Kinds of completion items.
const (
	kindText     = 1
	kindField    = 5
	kindClass    = 7
	kindProperty = 10
	kindValue    = 12
	kindColor    = 16
	kindFile     = 17
	kindConstant = 21
)

type hover struct {
	Contents markupContent `json:"contents"`
	Range    *lspRange     `json:"range,omitempty"`
}

type diagnostic struct {
	Range    lspRange `json:"range"`
	Severity int      `json:"severity"`
	Code     string   `json:"code,omitempty"`
	Source   string   `json:"source"`
	Message  string   `json:"message"`
	Tags     []int    `json:"tags,omitempty"`
	Data     *mend    `json:"data,omitempty"`
}

// mend is what a diagnostic carries for the actions that mend it.
type mend struct {
	Replace string `json:"replace"`
	Title   string `json:"title"`
}

// Severities of diagnostics.
const (
	severityError   = 1
	severityWarning = 2
	severityInfo    = 3
	severityHint    = 4
)

type publishDiagnostics struct {
	URI         string       `json:"uri"`
	Version     *int         `json:"version,omitempty"`
	Diagnostics []diagnostic `json:"diagnostics"`
}

type codeAction struct {
	Title       string         `json:"title"`
	Kind        string         `json:"kind,omitempty"`
	Diagnostics []diagnostic   `json:"diagnostics,omitempty"`
	IsPreferred bool           `json:"isPreferred,omitempty"`
	Edit        *workspaceEdit `json:"edit,omitempty"`
	Command     *command       `json:"command,omitempty"`
}

type lspColor struct {
	Red   float64 `json:"red"` // 0–1, sRGB
	Green float64 `json:"green"`
	Blue  float64 `json:"blue"`
	Alpha float64 `json:"alpha"`
}

type colorInformation struct {
	Range lspRange `json:"range"`
	Color lspColor `json:"color"`
}

type colorPresentation struct {
	Label    string    `json:"label"`
	TextEdit *textEdit `json:"textEdit,omitempty"`
}

type documentSymbol struct {
	Name           string           `json:"name"`
	Detail         string           `json:"detail,omitempty"`
	Kind           int              `json:"kind"`
	Range          lspRange         `json:"range"`
	SelectionRange lspRange         `json:"selectionRange"`
	Children       []documentSymbol `json:"children,omitempty"`
}

type symbolInformation struct {
	Name          string   `json:"name"`
	Kind          int      `json:"kind"`
	Location      location `json:"location"`
	ContainerName string   `json:"containerName,omitempty"`
}

type codeLens struct {
	Range   lspRange  `json:"range"`
	Command *command  `json:"command,omitempty"`
	Data    *lensData `json:"data,omitempty"`
}

// lensData is what a lens is resolved by: an element of the last sync.
type lensData struct {
	URI    string `json:"uri"`
	Source string `json:"source"`
	Index  int    `json:"index"`
	Usage  bool   `json:"usage"`
}

type messageParams struct {
	Type    int    `json:"type"`
	Message string `json:"message"`
}

// Types of messages.
const (
	messageError   = 1
	messageWarning = 2
	messageInfo    = 3
	messageLog     = 4
)

type initializeParams struct {
	ProcessID    *int   `json:"processId"`
	RootURI      string `json:"rootUri"`
	RootPath     string `json:"rootPath"`
	Capabilities struct {
		General struct {
			PositionEncodings []string `json:"positionEncodings"`
			Markdown          struct {
				Parser string `json:"parser"`
			} `json:"markdown"`
		} `json:"general"`
		TextDocument struct {
			Completion struct {
				CompletionItem struct {
					LabelDetailsSupport bool `json:"labelDetailsSupport"`
					ResolveSupport      struct {
						Properties []string `json:"properties"`
					} `json:"resolveSupport"`
				} `json:"completionItem"`
			} `json:"completion"`
			DocumentSymbol struct {
				Hierarchical bool `json:"hierarchicalDocumentSymbolSupport"`
			} `json:"documentSymbol"`
			CodeAction struct {
				Literals *json.RawMessage `json:"codeActionLiteralSupport"`
			} `json:"codeAction"`
		} `json:"textDocument"`
		Window struct {
			ShowDocument *struct {
				Support bool `json:"support"`
			} `json:"showDocument"`
		} `json:"window"`
		Workspace struct {
			WorkspaceEdit struct {
				DocumentChanges bool `json:"documentChanges"`
			} `json:"workspaceEdit"`
			DidChangeWatchedFiles struct {
				DynamicRegistration bool `json:"dynamicRegistration"`
			} `json:"didChangeWatchedFiles"`
		} `json:"workspace"`
	} `json:"capabilities"`
	InitializationOptions struct {
		Pictures *bool `json:"pictures"` // whether the client shows pictures in Markdown
	} `json:"initializationOptions"`
	WorkspaceFolders []struct {
		URI string `json:"uri"`
	} `json:"workspaceFolders"`
}
