"""From a case to a run, or to many: forcing, kernel inputs, series, ledgers, metrics."""
