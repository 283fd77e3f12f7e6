"""What a simulated hotspot can have wrong with it, and the lines its log then has."""

FAULT_LINES: dict[str, tuple[str, str]] = {
    "port-busy": ("modem", "port /dev/serial0 busy, held by process 512 (gpsd)"),
    "wrong-modem": ("modem", "no reply from board, type '{modem}'"),
    "firmware-old": ("modem", "firmware 1.4 too old, needs 1.6"),
    "frequency-refused": ("modem", "frequency {sends} Hz refused: reserved segment"),
    "no-mode": ("host", "no mode is enabled, nothing to do"),
    "no-network": ("net", "wifi '{wifi}' not found"),
    "clock-wrong": ("host", "clock not set, 1970-01-01"),
    "not-resolved": ("dmr", "cannot resolve {master}"),
    "login-password": ("dmr", "login to {master} refused: wrong password"),
    "login-id": ("dmr", "login refused: unknown ID {login}"),
    "login-account": ("dmr", "login refused: no account for {call}"),
    "login-twice": ("dmr", "session replaced by another login with ID {login}"),
}
NO_MODEM = frozenset({"port-busy", "wrong-modem", "firmware-old", "frequency-refused", "no-mode"})
"""With one of these the modem does not work: nothing is sent or heard."""
NO_LOGIN = frozenset({"not-resolved", "login-password", "login-id", "login-account", "login-twice", "clock-wrong"})
CURED_BY = {
    "login-twice": "station.login",
    "login-id": "station.login",
    "login-account": "station.call",
    "not-resolved": "dmr.master",
    "clock-wrong": "host.zone",
}
"""The setting whose change puts a fault right; a wrong password is put right by another one."""
