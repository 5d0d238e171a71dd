"""Editors as data: profiles, how they are loaded and checked, and the stand-ins that ship."""
