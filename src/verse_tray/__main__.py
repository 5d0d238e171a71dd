"""``python -m verse_tray``."""

from verse_tray.cli.app import main

if __name__ == "__main__":
    main()
