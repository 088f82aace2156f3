"""``python -m latespin`` is the command line."""

from latespin.cli.main import main

if __name__ == "__main__":  # worker processes import this module as well
    main()
