"""Playing along: pads, knobs and control surfaces, and what is recorded of them."""
