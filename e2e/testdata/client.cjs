// A client of the language server on the protocol's own packages: what it prints is one JSON object, which a test reads.
const path = require('path')
const { createHash } = require('crypto')
const { spawn } = require('child_process')
const fs = require('fs')
const from = require('module').createRequire(path.join(process.env.ARCHETYP_NODE, 'here.js'))
const rpc = from('vscode-jsonrpc/node')
const lsp = from('vscode-languageserver-protocol')
const { TextDocument } = from('vscode-languageserver-textdocument')

const [program, dir] = process.argv.slice(2)
const uri = name => 'file://' + path.join(dir, name)

async function connect(capabilities) {
  const server = spawn(program, ['editor', '--stdio'], { cwd: dir })
  let log = ''
  server.stderr.on('data', d => { log += d })
  const connection = rpc.createMessageConnection(new rpc.StreamMessageReader(server.stdout), new rpc.StreamMessageWriter(server.stdin))
  const registered = []
  connection.onRequest(lsp.RegistrationRequest.type, p => { registered.push(...p.registrations) })
  connection.onRequest(lsp.ShowDocumentRequest.type, () => ({ success: true }))
  const messages = []
  connection.onNotification(lsp.ShowMessageNotification.type, m => { messages.push(m.message) })
  connection.listen()
  const result = await connection.sendRequest(lsp.InitializeRequest.type, { processId: process.pid, rootUri: uri(''), capabilities, workspaceFolders: null })
  await connection.sendNotification(lsp.InitializedNotification.type, {})
  return {
    connection, registered, messages, result,
    ask: (type, params) => connection.sendRequest(type, params),
    open: (name, languageId, text, version = 1) => connection.sendNotification(lsp.DidOpenTextDocumentNotification.type, { textDocument: { uri: uri(name), languageId, version, text } }),
    async end() {
      await connection.sendRequest(lsp.ShutdownRequest.type)
      const status = new Promise(done => server.on('exit', done))
      await connection.sendNotification(lsp.ExitNotification.type)
      return { status: await status, log }
    },
  }
}

// The colours of a sheet and of a token file, and how another one is written there.
async function colours() {
  const c = await connect({})
  await c.open('a.css', 'css', '.x { color: #10243a; background: var(--color-sea-600); border-color: rgb(11 110 143 / 50%); fill: red }')
  const name = 'tokens/tern-and-tide.tokens.json'
  const tokens = fs.readFileSync(path.join(dir, name), 'utf8')
  await c.open(name, 'json', tokens)
  const sheet = await c.ask(lsp.DocumentColorRequest.type, { textDocument: { uri: uri('a.css') } })
  const file = await c.ask(lsp.DocumentColorRequest.type, { textDocument: { uri: uri(name) } })
  const written = []
  for (const color of [{ red: 11 / 255, green: 110 / 255, blue: 143 / 255, alpha: 1 }, { red: 1, green: 0.5, blue: 0, alpha: 0.5 }])
    written.push((await c.ask(lsp.ColorPresentationRequest.type, { textDocument: { uri: uri('a.css') }, color, range: sheet[0].range })).map(p => p.label))
  const [token] = await c.ask(lsp.ColorPresentationRequest.type, { textDocument: { uri: uri(name) }, color: { red: 1, green: 0, blue: 0, alpha: 1 }, range: file[0].range })
  const document = TextDocument.create(uri(name), 'json', 1, tokens)
  const edited = TextDocument.applyEdits(document, [token.textEdit])
  return { sheet: sheet.map(x => x.color), tokens: file.length, written, token: token.textEdit.newText, valid: !!JSON.parse(edited), ...await c.end() }
}

// One word behind letters of one, two and three units, in each encoding.
async function encodings() {
  const out = {}
  const text = '/* ä€𝄞 */ .x { color: var(--color-sea-600) }'
  const units = { 'utf-8': s => Buffer.byteLength(s), 'utf-16': s => s.length, 'utf-32': s => [...s].length }
  for (const offered of [['utf-8', 'utf-16'], ['utf-16'], ['utf-32', 'utf-8'], undefined]) {
    const c = await connect({ general: { positionEncodings: offered } })
    const chosen = c.result.capabilities.positionEncoding
    await c.open('a.css', 'css', text)
    const before = text.slice(0, text.indexOf('sea'))
    const hover = await c.ask(lsp.HoverRequest.type, { textDocument: { uri: uri('a.css') }, position: { line: 0, character: units[chosen](before) } })
    const start = units[chosen](text.slice(0, text.indexOf('--color')))
    out[String(offered)] = { chosen, right: !!hover && hover.range.start.character === start && hover.contents.value.includes('color.sea.600') }
    await c.end()
  }
  return out
}

// A change on disk that only the client reports, and which files the server asked it to watch.
async function watched() {
  const c = await connect({ workspace: { didChangeWatchedFiles: { dynamicRegistration: true } } })
  await c.open('a.css', 'css', '.x { color: var(--color-tide) }')
  const name = 'tokens/tern-and-tide.tokens.json'
  const file = path.join(dir, name)
  const tokens = fs.readFileSync(file, 'utf8')
  fs.writeFileSync(file, tokens.replace('"ink": {', '"tide": {"$type": "color", "$value": "{color.sea.600}"},\n    "ink": {'))
  await c.connection.sendNotification(lsp.DidChangeWatchedFilesNotification.type, { changes: [{ uri: uri(name), type: 2 }] })
  let hover = null
  for (let i = 0; i < 100 && !hover; i++) {
    hover = await c.ask(lsp.HoverRequest.type, { textDocument: { uri: uri('a.css') }, position: { line: 0, character: 20 } })
    await new Promise(r => setTimeout(r, 20))
  }
  fs.writeFileSync(file, tokens)
  return { hover: !!hover, methods: c.registered.map(r => r.method), ...await c.end() }
}

// Random edits, of which both sides must keep the same text.
async function edits(count) {
  const c = await connect({})
  let seed = 7
  const random = n => { seed = (seed * 1103515245 + 12345) % 2147483648; return Math.floor(seed / 65536) % n }
  const pieces = ['a', '.x{color:red}', '\n', '\r\n', '\r', '𝄞', 'é', '€', '{', '}', ' ', '/* */', 'var(--color-sea-600)', '\t', '"', '👩‍👧']
  let document = TextDocument.create(uri('a.css'), 'css', 1, 'body {\r\n  color: red;\n}\r')
  await c.open('a.css', 'css', document.getText())
  let drifted = 0
  for (let i = 1; i <= count; i++) {
    const length = document.getText().length
    const whole = n => n - (/[\uDC00-\uDFFF]/.test(document.getText()[n] || '') ? 1 : 0) // no editor stops within a character
    const at = random(length + 1)
    const a = whole(at), b = whole(Math.min(length, at + random(length > 4000 ? 400 : 12)))
    const text = Array.from({ length: random(5) }, () => pieces[random(pieces.length)]).join('')
    const range = { start: document.positionAt(a), end: document.positionAt(b) }
    const contentChanges = [{ range, text }]
    document = TextDocument.update(document, contentChanges, i + 1)
    await c.connection.sendNotification(lsp.DidChangeTextDocumentNotification.type, { textDocument: { uri: uri('a.css'), version: i + 1 }, contentChanges })
    if (i % 50 === 0) {
      const digest = await c.ask(lsp.ExecuteCommandRequest.type, { command: 'archetyp.digest', arguments: [uri('a.css')] })
      if (digest !== createHash('sha256').update(document.getText()).digest('hex')) drifted++
    }
  }
  return { edits: count, drifted, length: document.getText().length, ...await c.end() }
}

// An answer that is not waited for, and one that nobody can give.
async function cancelled() {
  const c = await connect({})
  await c.open('a.css', 'css', '.x { color: red }')
  const source = new rpc.CancellationTokenSource()
  const answer = c.connection.sendRequest(lsp.ReferencesRequest.type, { textDocument: { uri: uri('a.css') }, position: { line: 0, character: 6 }, context: { includeDeclaration: true } }, source.token)
  source.cancel()
  const end = await answer.then(() => 0, e => e.code)
  const unknown = await c.connection.sendRequest('textDocument/nothing', {}).then(() => 0, e => e.code)
  const bad = await c.connection.sendRequest('textDocument/hover', 7).then(() => 0, e => e.code)
  return { end, unknown, bad, ...await c.end() }
}

const parts = { colours, encodings, edits: () => edits(Number(process.argv[4] || 10000)), cancelled }
Promise.all(Object.entries(parts).map(async ([name, part]) => [name, await part()]))
  .then(async list => console.log(JSON.stringify({ ...Object.fromEntries(list), watched: await watched() }, null, 1))) // it changes a file
  .catch(e => { console.error(e); process.exit(1) })
