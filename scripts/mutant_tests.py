"""Which test files are asked of a fault beside those that run through its line, by its module."""

from __future__ import annotations

WORKED = (
    "tests/core/test_worked_values.py",
    "tests/core/test_worked_loads.py",
    "tests/core/test_worked_doubt.py",
    "tests/core/test_worked_arrays.py",
    "tests/core/test_values.py",
)
"""Values worked by hand, for constants of all modules; and that records are not written to."""
LAWS = (
    "tests/physics",
    "tests/core/test_ensemble.py",
    "tests/core/test_ledger.py",
    "tests/core/test_sources.py",
    "tests/core/test_controllers.py",
)
KERNEL_TESTS = (
    "tests/core/test_kernel_parts.py",
    "tests/core/test_kernel_sources.py",
    "tests/physics/test_plain_box.py",
    "tests/core/test_kernel.py",
    "tests/core/test_emptying_banks.py",
)
SOURCES = ("tests/core/test_worked_sources.py", "tests/core/test_sources.py")
TRACKED = (
    "tests/core/test_particle_filter.py",
    "tests/core/test_measurement_update.py",
    "tests/core/test_tracker.py",
    "tests/usecases/test_tracking.py",
)
LAID = ("tests/core/test_ensemble_laying.py",)
ENSEMBLE_TESTS = ("tests/core/test_ensemble_parts.py", "tests/core/test_ensemble.py")
JUDGED = (
    "tests/core/test_judgement.py",
    "tests/core/test_judgement_sentences.py",
    "tests/core/test_judgement_edges.py",
    "tests/core/test_judgement_branches.py",
    "tests/core/test_judgement_figures.py",
    "tests/core/test_judgement_of_places.py",
    "tests/core/test_judgement_overlooked.py",
    "tests/usecases/test_remedies.py",
)
TESTS: dict[str, tuple[str, ...]] = {
    "core/kernel/arithmetic": KERNEL_TESTS,
    "core/kernel/bank_step": KERNEL_TESTS,
    "core/kernel/source_step": KERNEL_TESTS,
    "core/kernel/bus": KERNEL_TESTS,
    "core/kernel/loop": KERNEL_TESTS,
    "core/kernel/ensemble": (
        *ENSEMBLE_TESTS,
        "tests/core/test_controllers.py",
        "tests/core/test_tracker.py",
    ),
    "core/battery/bank": (
        "tests/core/test_bank_tables.py",
        "tests/core/test_bank.py",
        "tests/core/test_kernel.py",
        "tests/physics",
    ),
    "core/loads/demand": (
        "tests/core/test_worked_demand.py",
        "tests/core/test_loads.py",
        "tests/core/test_patterns.py",
        "tests/core/test_day_kinds.py",
        "tests/usecases/test_use_report.py",
        "tests/core/test_ledger.py",
    ),
    "core/sources/alternator": SOURCES,
    "core/sources/dcdc": SOURCES,
    "core/sources/relay": SOURCES,
    "core/sources/generator": (*SOURCES, "tests/core/test_generator.py"),
    "core/sources/solar": ("tests/core/test_solar.py", "tests/core/test_sources.py"),
    "core/sources/panel": (
        "tests/core/test_worked_light.py",
        "tests/core/test_solar.py",
        "tests/core/test_sources.py",
        "tests/core/test_judgement_of_places.py",
        "tests/plan/test_case.py",
        "tests/plan/test_document.py",
    ),
    "core/sources/mains": SOURCES,
    "core/simulation/ledger": (
        "tests/core/test_worked_books.py",
        "tests/core/test_ledger.py",
        "tests/physics/test_laws.py",
        "tests/usecases/test_sums.py",
    ),
    "core/estimation/measurement_update": TRACKED,
    "core/estimation/particle_filter": TRACKED,
    "core/judgement/bank/battery": JUDGED,
    "core/judgement/sources/charging": JUDGED,
    "core/judgement/sources/panels": JUDGED,
    "core/judgement/use": JUDGED,
    "core/judgement/sources/vehicle": JUDGED,
    "core/judgement/sources/generator": ("tests/core/test_generator.py", *JUDGED),
    "core/judgement/place": JUDGED,
    "core/judgement/circuits/wiring": (
        "tests/core/construction",
        "tests/usecases/test_build.py",
        "tests/core/test_judgement_overlooked.py",
    ),
}
