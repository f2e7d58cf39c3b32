"""The rules and arithmetic of the job. Knows nothing of web, database, files or clock."""
