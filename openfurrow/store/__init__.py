"""What is kept: accounts, jobs, immutable revisions and drafts, in PostgreSQL."""
