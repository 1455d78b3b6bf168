"""What the edit needs to know: corrections, tables of colours, the first assembly."""
