"""Playing along: pads and knobs, what they do, and which messages of a control surface move them."""
