"""The Time panel and its pages."""
