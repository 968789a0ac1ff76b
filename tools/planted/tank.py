"""Faults of tank and ride: laws × 0.85, signs, swaps."""

from tools.planted.fault import Fault, scaled

TESTS = (
    "tests.reference.test_savitsky", "tests.reference.test_lifting", "tests.reference.test_drive_and_turning",
    "tests.reference.test_fluids_and_wind", "tests.reference.test_displacement", "tests.reference.test_hydrostatics",
    "tests.reference.test_ride_by_hand", "tests.core.tank", "tests.core.ride.test_balance",
    "tests.core.ride.test_feet_and_paddle", "tests.core.ride.test_ride", "tests.core.ride.test_reaching",
    "tests.core.ride.test_first_levers", "tests.core.ride.test_turning_levers", "tests.core.ride.test_true_figures",
    "tests.core.ride.test_floating_to_planing", "tests.core.ride.test_trends", "tests.reference.test_bodies",
    "tests.reference.test_check_values", "tests.reference.test_coverage",
)  # fmt: skip
"""Tests of tank and ride, the quick ones first."""
BEYOND = ("tests.core.evaluation", "tests.core.brief", "tests.core.rider_says", "tests.ui.ride")
"""Tests that what these let pass meets with `--suite`."""

_BELOW_THE_CORE = (
    *scaled("tank/planing/savitsky.py", "moving_lift standing_lift with_deadrise pressure_centre bottom_speed"),
    *scaled("tank/planing/states.py", "least_trim _lift"),
    *scaled("tank/planing/edge.py", "edge_trim steepened"),
    *scaled("tank/planing/bottom.py", "lifting_beam"),
    *scaled("tank/laws/friction.py", "ittc57 band"),
    *scaled("tank/laws/wings.py", "plate_slope image_factor mirrored holding_drag"),
    *scaled("tank/laws/wind.py", "at_height"),
    *scaled("tank/laws/entry.py", "ways_down touch against_wedge"),
    *scaled("tank/lifting/fins.py", "FinLaw.drag_of FinLaw.most_of FinLaw.draws_air SetFin.attack"),
    *scaled("tank/lifting/foils.py", "foil_drag lift_off_speed roll_damping"),
    *scaled("tank/lifting/cavitation.py", "suction_peak cavitation_speed"),
    *scaled("tank/rail/pivot.py", "Tail.moment Tail.moment_of_rail _walls"),
    *scaled("tank/rail/rail.py", "RailLine.radius"),
    *scaled("tank/floating/balance.py", "righting_arm"),
    *scaled("ride/run_up.py", "kite_pull steered pumping"),
    *scaled("ride/attitudes.py", "tail_clearance nose_touch lean_before_touch"),
    *scaled("ride/foiling.py", "dragging mast_for"),
    *scaled("tank/lifting/pumping.py", "heaving_power strokes endurance"),
    *scaled("ride/paddling.py", "glide_loss start_time yaw_per_stroke yaw_hold nose_recovery"),
    *scaled("ride/balance.py", "strap_reach"),
    *scaled("ride/model.py", "RideModel.leans RideModel.drag_area"),
    *scaled("ride/equipped.py", "Equipped.pull_height"),
    Fault("tank/planing/states.py", "Planer.at", "load * np.tan(slopes) + rubbed", "load * np.tan(slopes) - rubbed"),
    Fault("tank/planing/states.py", "Planer.at", "(fast - FAST) * (1 - rests)", "(fast - FAST) * rests"),
    Fault("tank/planing/states.py", "Planer.at", "savitsky.standing_lift(moving, wet, cv) * still",
          "savitsky.standing_lift(moving, wet, cv)"),
    Fault("tank/planing/bottom.py", "_plan", "deep, run = 1 - along, along**2", "deep, run = along, (1 - along) ** 2"),
    Fault("tank/planing/bottom.py", "running_strip", "2 * walls.sum(axis=1)", "walls.sum(axis=1)"),
    Fault("tank/lifting/fins.py", "fins_holding", "sin(f.cant * f.side + heel)", "sin(f.cant * f.side - heel)"),
    Fault("tank/lifting/fins.py", "fin_of", "toe -= FLAT_INSIDE", "toe += FLAT_INSIDE"),
    Fault("tank/lifting/fins.py", "fins_holding", "yaw = (force - at_rest) / gain", "yaw = (force + at_rest) / gain"),
    Fault("tank/sails/sails.py", "trimmed_gear", "lift * ls - drag * c", "lift * ls + drag * c"),
    Fault("tank/sails/sails.py", "blowing", "(gear.swung**2 if swung", "(gear.swung if swung"),
    Fault("tank/laws/entry.py", "closed_by_air", "np.minimum.accumulate(heights[:, ::-1], axis=1)[:, ::-1]",
          "np.minimum.accumulate(heights, axis=1)"),
    Fault("tank/rail/pivot.py", "Tail.moment_of_rail", "np.minimum(self.x - self.foot, 0.0)",
          "np.maximum(self.x - self.foot, 0.0)"),
    Fault("tank/rail/pivot.py", "tail", "np.sin(pressed.heel) ** 2", "np.cos(pressed.heel) ** 2"),
    Fault("tank/displacement/hull.py", "resistance", "0.5 * base,", "0.0 * base,"),
    Fault("tank/displacement/hull.py", "resistance", "rubbing = q * form.wetted", "rubbing = 0.85 * q * form.wetted"),
    Fault("tank/displacement/hull.py", "resistance", "v * form.length / viscosity", "v * form.draught / viscosity"),
    Fault("ride/run_up.py", "dived", "way / (across * wind)", "way / wind"),
    Fault("ride/run_up.py", "steered", "2 * model.table.kite_steered", "model.table.kite_steered"),
    Fault("ride/run_up.py", "_rises_through", "winds[1] ** 2 - winds[0] ** 2", "winds[0] ** 2 - winds[1] ** 2"),
    Fault("ride/foiling.py", "mast_for", "nose_down / GRAVITY - (carried", "nose_down / GRAVITY + (carried"),
    Fault("ride/model.py", "_band", "rubbing**2 + sum", "sum"),
    Fault("ride/topics/turning.py", "landing", "touch(under, edge, x, bend, cushion, told), most",
          "touch(under, edge, x, -bend, cushion, told), most"),
)  # fmt: skip
FAULTS = tuple(fault._replace(file=f"core/{fault.file}") for fault in _BELOW_THE_CORE)
