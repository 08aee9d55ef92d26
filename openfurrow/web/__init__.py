"""The web server: accounts, jobs, drafts, revisions and files over HTTP, and the built screens."""
