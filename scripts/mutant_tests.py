"""Which test files are asked of a fault beside those that run through its line, by its module."""

from __future__ import annotations

WORKED = (
    "tests/core/test_constants.py",
    "tests/core/loads/test_loads_by_hand.py",
    "tests/core/estimation/test_particle_filter_by_hand.py",
    "tests/core/sources/test_arrays_by_hand.py",
    "tests/core/values/test_values.py",
)
"""Values worked by hand, for constants of all modules; and that records are not written to."""
LAWS = (
    "tests/physics",
    "tests/core/simulation/test_ensemble.py",
    "tests/core/simulation/test_ledger.py",
    "tests/core/sources/test_sources.py",
    "tests/core/sources/test_controllers.py",
)
KERNEL_TESTS = (
    "tests/core/kernel/test_step_parts.py",
    "tests/core/kernel/test_source_step.py",
    "tests/physics/test_plain_box.py",
    "tests/core/kernel/test_kernel.py",
    "tests/core/kernel/test_emptying_banks.py",
)
SOURCES = ("tests/core/sources/test_sources_by_hand.py", "tests/core/sources/test_sources.py")
TRACKED = (
    "tests/core/estimation/test_particle_filter.py",
    "tests/core/estimation/test_measurement_update.py",
    "tests/core/estimation/test_tracker.py",
    "tests/usecases/field/test_track_report.py",
)
LAID = ("tests/core/kernel/test_ensemble_tables.py",)
ENSEMBLE_TESTS = (
    "tests/core/kernel/test_ensemble_parts.py",
    "tests/core/simulation/test_ensemble.py",
)
JUDGED = (
    "tests/core/judgement/test_judgement.py",
    "tests/core/judgement/test_sentences.py",
    "tests/core/judgement/test_thresholds.py",
    "tests/core/judgement/test_branches.py",
    "tests/core/judgement/test_figures.py",
    "tests/core/judgement/test_places.py",
    "tests/core/judgement/test_overlooked.py",
    "tests/usecases/simulate/test_remedies.py",
)
TESTS: dict[str, tuple[str, ...]] = {
    "core/kernel/arithmetic": KERNEL_TESTS,
    "core/kernel/bank_step": KERNEL_TESTS,
    "core/kernel/source_step": KERNEL_TESTS,
    "core/kernel/bus": KERNEL_TESTS,
    "core/kernel/loop": KERNEL_TESTS,
    "core/kernel/ensemble": (
        *ENSEMBLE_TESTS,
        "tests/core/sources/test_controllers.py",
        "tests/core/estimation/test_tracker.py",
    ),
    "core/battery/bank": (
        "tests/core/battery/test_bank_tables.py",
        "tests/core/battery/test_bank.py",
        "tests/core/kernel/test_kernel.py",
        "tests/physics",
    ),
    "core/loads/demand": (
        "tests/core/loads/test_demand.py",
        "tests/core/loads/test_loads.py",
        "tests/core/loads/test_patterns.py",
        "tests/core/loads/test_day_kinds.py",
        "tests/usecases/simulate/test_use_report.py",
        "tests/core/simulation/test_ledger.py",
    ),
    "core/sources/alternator": SOURCES,
    "core/sources/dcdc": SOURCES,
    "core/sources/relay": SOURCES,
    "core/sources/generator": (*SOURCES, "tests/core/sources/test_generator.py"),
    "core/sources/solar": (
        "tests/core/sources/test_solar.py",
        "tests/core/sources/test_sources.py",
    ),
    "core/sources/panel": (
        "tests/core/sources/test_panel_light.py",
        "tests/core/sources/test_solar.py",
        "tests/core/sources/test_sources.py",
        "tests/core/judgement/test_places.py",
        "tests/plan/test_case.py",
        "tests/plan/test_document.py",
    ),
    "core/sources/mains": SOURCES,
    "core/simulation/ledger": (
        "tests/core/simulation/test_ledger_lines.py",
        "tests/core/simulation/test_ledger.py",
        "tests/physics/test_laws.py",
        "tests/usecases/explain/test_sums.py",
    ),
    "core/estimation/measurement_update": TRACKED,
    "core/estimation/particle_filter": TRACKED,
    "core/judgement/bank/battery": JUDGED,
    "core/judgement/sources/charging": JUDGED,
    "core/judgement/sources/panels": JUDGED,
    "core/judgement/use": JUDGED,
    "core/judgement/sources/vehicle": JUDGED,
    "core/judgement/sources/generator": ("tests/core/sources/test_generator.py", *JUDGED),
    "core/judgement/place": JUDGED,
    "core/judgement/circuits/wiring": (
        "tests/core/construction",
        "tests/usecases/build/test_build.py",
        "tests/core/judgement/test_overlooked.py",
    ),
}
