"""The list of access points around, which some radios keep beside their memories: chosen from the directory, sent as a file."""
