"""The last step of the path: the echo is keyed on a simulated hotspot, or asked for from the operator and read from the log."""

from umbra_awl.core.agenda.next_steps import Where
from umbra_awl.core.hotspot.echo import EchoOver, echo_over, echo_routes
from umbra_awl.core.hotspot.seek.talk import Over, is_loopback
from umbra_awl.desk.hotspots.spot import Spot

_HEARD = "Heard, and no echo: the hotspot is not logged in, or the radio calls another number than the network's echo."
_DEAF = "The hotspot did not hear the radio: is it up, its mode on, its frequency the same? See “Must match”."


def key_echo(spot: Spot) -> None:
    """Key the chosen radio's echo channel through the hotspot in hand, or say what to key, or what is missing for it."""
    found = _over(spot)
    if found is None:
        return
    name = found.channel.name
    if not is_loopback(spot.address):
        spot.bench.say(
            f"Key “{name}”, speak, let go and wait for your own voice. Then Ask it (F7): its log shows the echo."
        )
        spot.bench.where_wanted.emit(Where("hotspots", "find", "log"))
        return
    spot.orders.key_up(found.told, lambda over: _tell(spot, name, over))


def _over(spot: Spot) -> EchoOver | None:
    """The over to key; says what is missing where there is none."""
    bench, access = spot.bench, spot.access
    if access is None:
        return None
    held, fit = spot.runner.held, bench.worked.results.fits.get(bench.radio_key)
    memory = held.memory if held is not None else fit.memory if fit is not None else None
    found = echo_over(bench.index, access, memory) if memory is not None else None
    if found is not None:
        return found
    if memory is None:
        bench.say("No radio yet whose channel could be keyed. Add one at Radios.", "stop")
        bench.where_wanted.emit(Where("radios", "memory", "add radio"))
    elif echo_routes(bench.index, access):
        bench.say(
            f"The chosen radio has no channel that sends to the echo through {access.site}. Choose another radio.",
            "stop",
        )
    else:
        bench.say(f"No route leads to an echo through {access.site} yet. Punch it here.", "stop")
        bench.where_wanted.emit(Where("routes", "sheet", ""))
    return None


def _tell(spot: Spot, name: str, over: Over) -> None:
    """Say what came of it, where the hotspot's state stands."""
    if over.echo:
        spot.said = f"“{name}” was keyed for 3 s: the echo came back. On a simulated hotspot that proves the settings."
    else:
        spot.fault = f"“{name}” was keyed for 3 s. {_HEARD if over.heard else _DEAF}"
