"""Many songs times many versions: the plan, the run, the journal and the report.

``plan.py`` is pure: it names every file and conflict. ``run.py`` works it off in processes (``worker_pool.py``),
noting each file in ``journal.py``; ``report.py`` writes the result.
"""
