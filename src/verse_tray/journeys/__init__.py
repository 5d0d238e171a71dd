"""From what the author wrote to what readers get, stage by stage."""
