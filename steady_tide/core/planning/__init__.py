"""From a brief and a kit to a plan: candidates, costs, exact search, reasons."""
