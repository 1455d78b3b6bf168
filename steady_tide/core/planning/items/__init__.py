"""Every item of the ledger, defined once."""
