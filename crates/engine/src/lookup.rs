//! What is known of a name or a position.
