"""From a driver's words to sized, ranked changes."""
