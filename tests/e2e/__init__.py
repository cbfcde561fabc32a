"""The real interface in headless Chromium: a package, so that browser and installation end with its last test."""
