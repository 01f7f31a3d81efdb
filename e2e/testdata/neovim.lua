-- What a test asks of Neovim, beside the set-up of docs/editors.
vim.o.completeopt = 'menuone,noselect'
vim.o.swapfile = false
vim.o.hidden = true

-- choose answers the next list that asks for a choice.
function choose(title)
  vim.ui.select = function(items, options, done)
    for i, item in ipairs(items) do
      if options.format_item(item):find(title, 1, true) then return done(item, i) end
    end
    error('nothing is called ' .. title)
  end
end

-- floats are the texts of the windows that float over the others.
function floats()
  local out = {}
  for _, win in ipairs(vim.api.nvim_list_wins()) do
    if vim.api.nvim_win_get_config(win).relative ~= '' then
      vim.list_extend(out, vim.api.nvim_buf_get_lines(vim.api.nvim_win_get_buf(win), 0, -1, false))
    end
  end
  return table.concat(out, '\n')
end

-- found are the diagnostics of the buffer.
function found()
  local out = {}
  for _, d in ipairs(vim.diagnostic.get(0)) do table.insert(out, d.message) end
  return table.concat(out, '\n')
end

-- lenses are what stands at the ends of lines.
function lenses()
  local out = {}
  for _, l in ipairs(vim.lsp.codelens.get(0)) do
    if l.command then table.insert(out, l.command.title) end
  end
  return table.concat(out, '\n')
end

-- offered are the words of the completion list.
function offered()
  local out = {}
  for _, it in ipairs(vim.fn.complete_info({ 'items' }).items) do table.insert(out, it.word) end
  return table.concat(out, '\n')
end
