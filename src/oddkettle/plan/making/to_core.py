"""From the document to what the core knows of the building."""

from __future__ import annotations

from oddkettle.core.construction.design import Mount, OnSale, OwnBuild, Place, Shell
from oddkettle.core.construction.parts.lines import Known
from oddkettle.plan.making.document import Build


def own_build_from(build: Build) -> OwnBuild:
    """What the owner says of parts, enclosure and faces."""
    return OwnBuild(
        waste=build.waste_percent / 100,
        known=tuple(Known(**dict(part)) for part in build.parts),
        shell=Shell(**dict(build.enclosure)),
        placed=tuple(Place(**dict(place)) for place in build.placed),
        mounted=tuple(Mount(**dict(item)) for item in build.items),
        compared=OnSale()
        if build.compared is None
        else OnSale(
            build.compared.name,
            build.compared.capacity_wh,
            build.compared.euro,
            build.compared.kg,
        ),
    )
