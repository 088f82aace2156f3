"""Live rendering without a device."""
