"""``python -m verse_tray``."""

from verse_tray.start import main

if __name__ == "__main__":
    main()
