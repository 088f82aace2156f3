"""The Play along panel: pads, knobs and takes."""
