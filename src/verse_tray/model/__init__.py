"""Frozen records that every layer shares: spans, changes, findings, errors. Nothing here imports another layer."""
