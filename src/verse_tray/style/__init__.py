"""CSS text to declarations and rules with positions, and matching against our trees. No policy lives here."""
