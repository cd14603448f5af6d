"""What keeps a builder's things whole beyond one page: damaged rows, the bin, the account as a file."""
