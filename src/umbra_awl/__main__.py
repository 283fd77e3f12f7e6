"""`python -m umbra_awl` is the same as the `umbra-awl` command."""

from umbra_awl.shell.main import main

main()
