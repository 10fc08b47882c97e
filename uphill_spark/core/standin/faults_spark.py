"""Faults of trigger, phase and ignition, as what the unit sees of the crank, and what comes of its sparks."""

from __future__ import annotations

import math
from dataclasses import replace

from ..circuit.netlist import SINGLE_COIL
from ..stages.ignition.charge import STAGE_DROP, dwell, hot
from ..stages.trigger.reluctance import FALLS_OVER, no_start_speed
from .case import TURNS_AT, Case, Made, registry

FAULTS, _a = registry()
MORE_GAP = 1e-3  # m
NEVER_SEEN = 1e9
BALLAST_OHM = 1.5
COIL_V = 12.0


def _wheel(c: Case) -> float:
    """Degrees of the crank from tooth to tooth."""
    c.needs(c.w.trigger is not None, "no trigger wheel of it is told")
    t = c.b.sensors.trigger
    return 0.0 if t is None else 360.0 / t.teeth


def _coil_sensor(c: Case) -> bool:
    t = c.b.sensors.trigger
    return t is not None and t.sensor == "variable_reluctance"


def _knows_stroke(c: Case) -> None:
    c.needs(
        c.b.ignition.timed_by_unit and c.b.ignition.kind in ("coil_per_plug", "timed_distributor"),
        "its coils fire at every top of number one: they do not know the stroke",
    )


@_a
def gap_wide(c: Case) -> Made:
    """Volts fall with the gap: no tooth is seen at cranking speed."""
    _wheel(c)
    t = c.b.sensors.trigger
    seen = NEVER_SEEN
    if t is not None and t.sensor == "variable_reluctance":
        seen = no_start_speed(t) * math.exp(MORE_GAP / FALLS_OVER)
    return c.off({"gap": "wide"}, seen_from=max(seen, 1.5 * TURNS_AT))


@_a
def polarity(c: Case) -> Made:
    """The other flank of each tooth: late by half a tooth, drifting, lost when it spins."""
    pitch = _wheel(c)
    c.needs(_coil_sensor(c), "its crank sensor is no coil: its wires cannot be swapped without losing the signal")
    return c.off(angle=-pitch / 2, drift=-1.5, seen_to=4500 / 60)


@_a
def one_tooth_off(c: Case) -> Made:
    """All sparks late by one tooth."""
    return c.off(angle=-_wheel(c))


@_a
def exhaust_stroke(c: Case) -> Made:
    """Sparks a turn off."""
    _wheel(c)
    _knows_stroke(c)
    return c.off({"stroke_look": "exhaust"}, fires=0.0, wrong=1.0)


@_a
def wheel_pattern(c: Case) -> Made:
    """The gap that it waits for never comes."""
    _wheel(c)
    return c.off({"wheel_count": "other", "speed_shown": "jumps", "teeth": _teeth(c) - 1}, seen_from=NEVER_SEEN)


def _teeth(c: Case) -> float:
    return float(c.w.trigger.teeth_per_turn) if c.w.trigger is not None else 0.0


@_a
def noise(c: Case) -> Made:
    """Sparks are read as teeth once it is loaded."""
    _wheel(c)
    return c.off({"scope": "spikes", "load": "misfires"}, spikes=False)


@_a
def sensor_volts(c: Case) -> Made:
    """No signal to speak of."""
    _wheel(c)
    c.needs(not _coil_sensor(c), "its crank sensor is a coil, which has no supply")
    return c.off({"hand_turn": "weak"}, seen_from=NEVER_SEEN)


@_a
def wheel_reversed(c: Case) -> Made:
    """The other face: off by twice the angle of the gap from its own middle."""
    pitch = _wheel(c)
    return c.off({"wheel_face": "back"}, angle=-1.5 * pitch)


@_a
def runout(c: Case) -> Made:
    """Lost once a turn at cranking speed."""
    _wheel(c)
    return c.off({"gap_four": "uneven", "speed_shown": "jumps"}, seen_from=1.2 * TURNS_AT)


@_a
def phase_in_gap(c: Case) -> Made:
    """Which turn it is comes out by chance."""
    _knows_stroke(c)
    c.needs(c.b.sensors.trigger is not None and c.b.sensors.trigger.phase is not None, "it has no phase signal")
    return c.off({"phase_signals": "gap"}, fires=0.0, wrong=1.0)


@_a
def letters_reversed(c: Case) -> Made:
    """Each coil at another's cylinders: only one in the middle stays."""
    c.needs(c.b.ignition.kind in ("coil_per_plug", "wasted_spark"), "one coil fires all of it")
    order, n = c.b.engine.firing_order, c.cylinders
    pairs = n // 2 if c.b.ignition.kind == "wasted_spark" else n
    groups = [[order[k], *([order[k + pairs]] if pairs < n else [])] for k in range(pairs)]
    kept = {cylinder for k, group in enumerate(groups) if k == pairs - 1 - k for cylinder in group}
    lit = tuple(1.0 if k + 1 in kept else 0.0 for k in range(n))
    return c.off({"coil_pull": "other"}, lit=lit, wrong=1 - sum(lit) / n)


@_a
def edge_inverted(c: Case) -> Made:
    """The spark comes as the charge should begin, the coil is charged standing still."""
    c.needs(c.w.ignition.driven, "its unit drives no coil")
    return c.off({"coil_amps": "full", "coils_warm": "hot"}, early_s=dwell(c.b, COIL_V) or 4e-3)


@_a
def no_igniter(c: Case) -> Made:
    """A signal cannot charge a bare coil."""
    c.needs(c.w.ignition.driven, "its unit drives no coil")
    return c.off({"coil_part": "bare"}, fires=0.0)


@_a
def ballast_left(c: Case) -> Made:
    """Less current, less spark."""
    coil = c.b.ignition.coil
    ohms = hot(coil)
    full = min(coil.current.si, (COIL_V - STAGE_DROP) / ohms)
    amps = min((COIL_V - STAGE_DROP) / (ohms + BALLAST_OHM), full)
    made = c.off()
    energy = (amps / full) ** 2
    ails = replace(made.ails, energy=energy, energy_crank=min(energy * 0.8, 1.0))
    return Made(ails, {}, made.volts | {"coil_plus": made.volts["coil_plus"] - BALLAST_OHM * amps / 2})


def _charged(c: Case, share: float) -> float:
    """Energy of a coil charged for a share of what it wants (share of a whole spark)."""
    coil = c.b.ignition.coil
    whole = dwell(c.b, COIL_V)
    tau = coil.inductance.si / hot(coil)
    if whole is None:
        return share**2
    return float(((1 - math.exp(-share * whole / tau)) / (1 - math.exp(-whole / tau))) ** 2)


@_a
def dwell_short(c: Case) -> Made:
    """Half the dwell: enough for a thin charge, not for a full one."""
    c.needs(c.w.ignition.driven, "its unit drives no coil")
    return c.off({"dwell_check": "short"}, energy=_charged(c, 0.5), energy_crank=_charged(c, 0.5))


@_a
def dwell_long(c: Case) -> Made:
    """Twice the dwell: the heat takes it out after minutes."""
    c.needs(c.w.ignition.driven, "its unit drives no coil")
    return c.off({"dwell_check": "long", "hot": "dies"})


@_a
def rotor_phase(c: Case) -> Made:
    """The gap to the post grows with the advance."""
    c.needs(
        (c.b.ignition.kind in SINGLE_COIL and c.b.ignition.distributor is not None) or c.b.ignition.kind == "timed_distributor",
        "it has no rotor",
    )
    return c.off({"rotor_look": "bare", "load": "misfires"})


@_a
def double_advance(c: Case) -> Made:
    """Ten degrees more at 3,000 rpm."""
    c.needs(c.b.ignition.kind == "timed_distributor", "no distributor with weights is left on it")
    return c.off(drift=10 / 3)


@_a
def leads_crossed(c: Case) -> Made:
    """Two cylinders lit in each other's turn."""
    c.needs(c.b.ignition.kind != "coil_per_plug", "each plug has its coil: there are no leads")
    return c.off({"lead_order": "crossed"}, lit=c.one(0.0, many=2), wrong=2 / c.cylinders)


@_a
def unsuppressed(c: Case) -> Made:
    """Sparks reach the unit through the air."""
    c.needs(c.b.ignition.kind != "coil_per_plug", "each plug has its coil: there are no leads")
    return c.off({"lead_set": "better"}, spikes=True)


@_a
def fouled_plugs(c: Case) -> Made:
    """The spark creeps down the wet plug while it is cold."""
    return c.off({"plug_look": "fouled"}, energy_crank=0.1)


@_a
def hot_igniter(c: Case) -> Made:
    """Dies of its own heat."""
    c.needs(c.b.ignition.igniter is not None or c.b.ignition.coil.kind == "dumb", "it has no igniter of its own")
    return c.off({"igniter_warm": "hot", "hot": "dies"})
