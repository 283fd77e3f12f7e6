"""A stand-in for directory and registry services on loopback, with generated access points and people, some of them wrong."""
