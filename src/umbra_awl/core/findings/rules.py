"""Every rule there is, gathered from the modules that hold them, and the page of the handbook made from them."""

from types import ModuleType

from umbra_awl.core.findings import (
    guarded,
    on_call,
    on_chosen_people,
    on_directory,
    on_dmr,
    on_dstar,
    on_fusion,
    on_habits,
    on_hotspot,
    on_identity,
    on_pair,
    on_people,
    on_plan,
    on_radio,
    on_route,
    on_service,
    on_settings,
)
from umbra_awl.core.findings.model import SEVERITY_ORDER, SEVERITY_WORDS, Rule

TOPICS: dict[str, tuple[ModuleType, ...]] = {
    "Who transmits": (on_people, on_identity),
    "Access points and services": (on_service, on_pair, on_directory, on_dmr),
    "Hotspots": (on_hotspot, on_settings),
    "Channels": (on_route, on_call),
    "D-STAR": (on_dstar,),
    "System Fusion": (on_fusion,),
    "Lists and radios": (on_plan, on_radio, on_chosen_people, on_habits),
    "Checks themselves": (guarded,),
}


def rules_of(module: ModuleType) -> tuple[Rule, ...]:
    """The rules that a module defines, gravest first."""
    own = {rule.name: rule for rule in vars(module).values() if isinstance(rule, Rule)}
    return tuple(sorted(own.values(), key=lambda rule: (SEVERITY_ORDER[rule.severity], rule.name)))


def all_rules() -> dict[str, Rule]:
    """Every rule by its name."""
    return {rule.name: rule for modules in TOPICS.values() for module in modules for rule in rules_of(module)}


def page() -> str:
    """The handbook's page on findings, in Markdown."""
    lines = [
        "# Findings",
        "",
        "Made from the rules themselves by `python scripts/rules.py`. **Stop**: it cannot or must not be. **Look**: it",
        "will not work as meant. **Note**: worth knowing. A finding can be put aside with a reason, which stays in the",
        "plan; those marked † cannot.",
    ]
    told: set[str] = set()
    for topic, modules in TOPICS.items():
        lines += ["", f"## {topic}", "", "| | rule | why |", "|---|---|---|"]
        for rule in (rule for module in modules for rule in rules_of(module)):
            if rule.name not in told:
                told.add(rule.name)
                mark = " †" if rule.safety else ""
                lines.append(
                    f"| {SEVERITY_WORDS[rule.severity]} | **{rule.title}**{mark}<br>`{rule.name}` | {rule.why} |"
                )
    return "\n".join(lines) + "\n"
