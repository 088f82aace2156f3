"""Many songs times many versions: the plan, the run, the journal and the report."""
