-- Neovim 0.7: source this file, or paste it into init.lua. Newer ones have vim.lsp.start; see docs/editors.md.
local group = vim.api.nvim_create_augroup('archetyp', {})
local clients = {}
vim.api.nvim_create_autocmd('FileType', {
  group = group,
  pattern = { 'css', 'scss', 'less', 'html', 'vue', 'javascriptreact', 'typescriptreact', 'json', 'svg' },
  callback = function(event)
    local config = vim.fn.findfile('archetyp.yaml', vim.fn.expand('<afile>:p:h') .. ';')
    if config == '' then return end
    local root = vim.fn.fnamemodify(config, ':p:h')
    clients[root] = clients[root] or vim.lsp.start_client({ name = 'archetyp', cmd = { vim.env.ARCHETYP or 'archetyp', 'editor' }, root_dir = root })
    vim.lsp.buf_attach_client(event.buf, clients[root])
    vim.bo[event.buf].omnifunc = 'v:lua.vim.lsp.omnifunc' -- <C-x><C-o> offers values
    local map = function(keys, action) vim.keymap.set('n', keys, action, { buffer = event.buf }) end
    map('K', vim.lsp.buf.hover)
    map('gd', vim.lsp.buf.definition)
    map('gr', vim.lsp.buf.references)
    map('<leader>r', vim.lsp.buf.rename)
    map('<leader>a', vim.lsp.buf.code_action)
  end,
})
-- The file of a picture is made when its completion is accepted.
vim.api.nvim_create_autocmd('CompleteDone', {
  group = group,
  callback = function()
    local item = vim.v.completed_item
    local lsp = vim.tbl_get(item, 'user_data', 'nvim', 'lsp', 'completion_item')
    if lsp and lsp.command then vim.lsp.buf.execute_command(lsp.command) end
  end,
})
