"""The pages of the manual, in Markdown; `candor.words.manual` reads them."""
