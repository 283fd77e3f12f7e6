"""Names that stay: what a radio's names say is kept in the plan the first time they leave it, in a radio, a file or on paper."""

from umbra_awl.core.routes.kept import keep_codes
from umbra_awl.desk.held.workbench import Workbench


def keep_names(bench: Workbench, radio_key: str, *, by_hand: bool = False) -> None:
    """Keep what a radio's names say now, so that nothing added later renames what is out there.

    Where that was not asked for, undo takes it back together with the edit before it.
    """
    radio, fit = bench.index.radios.get(radio_key), bench.worked.results.fits.get(radio_key)
    profile = bench.profiles.get(radio.profile) if radio is not None else None
    if radio is None or profile is None or fit is None or not bench.worked.fresh:
        return
    routes = [bench.index.routes[key] for key in fit.names]
    edit = keep_codes(bench.index, radio, routes, profile.display.rules)
    if edit is not None:
        bench.do(edit._replace(follows=not by_hand))
