"""Sites: the pages that an author pastes into, their regions, slots and holders."""
