"""The pages of the manual, in Markdown; `candor.words.manual_words` reads them."""
