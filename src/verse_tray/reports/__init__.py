"""Journeys and findings as text, JSON and SARIF."""
